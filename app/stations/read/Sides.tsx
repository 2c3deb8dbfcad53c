import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { sidesCompared, type SideDifference } from '../../../core/protocol/asymmetry.ts';
import type { Take } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { quoted, type Convention } from '../../ui/words/angleText';
import { takeText } from '../../ui/words/takeWords';
import type { TakeReading } from '../../jobs/useTakeResults';

const VERDICTS: Record<SideDifference['verdict'], string> = {
  alike: 'equal',
  'within-noise': 'within noise',
  'worth-a-look': 'worth a look',
};

/** Figures of the left and the right, what lies between them, and whether that is worth a look. */
export function SideTable({ rows, convention }: { rows: readonly SideDifference[]; convention: Convention }) {
  const n = (v: number, unit: string): string =>
    `${v.toFixed(unit === 'mm' ? 0 : 1).replace('-', '−')}${unit === 'mm' ? '' : '°'}`;
  return (
    <Table size="small" aria-label="Left against right" sx={{ '& td, & th': { px: 0.75 } }}>
      <TableHead>
        <TableRow>
          <TableCell>Figure</TableCell>
          <TableCell align="right">left</TableCell>
          <TableCell align="right">right</TableCell>
          <TableCell align="right">by</TableCell>
          <TableCell align="right">±</TableCell>
          <TableCell align="right">unseen under</TableCell>
          <TableCell>worth a look from</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((r) => (
          <TableRow key={r.key} data-testid={`sides-${r.key}`}>
            <TableCell>
              {r.name}
              {r.unit === 'mm' && ', mm'}
            </TableCell>
            <TableCell align="right">
              {r.key.startsWith('pelvis') ? '' : n(quoted(r.key, r.left, convention), r.unit)}
            </TableCell>
            <TableCell align="right">
              {r.key.startsWith('pelvis') ? '' : n(quoted(r.key, r.right, convention), r.unit)}
            </TableCell>
            <TableCell align="right">
              {n(quoted(r.key, r.left, convention) === r.left ? r.by : -r.by, r.unit)}
            </TableCell>
            <TableCell align="right">{n(r.uncertainty, r.unit)}</TableCell>
            <TableCell align="right">{n(r.missedUnder, r.unit)}</TableCell>
            <TableCell>
              {n(r.from, r.unit)}:{' '}
              {r.verdict === 'worth-a-look' ? <strong>{VERDICTS[r.verdict]}</strong> : VERDICTS[r.verdict]}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** The two sides of a visit compared, where both were filmed. */
export function Sides({
  take,
  reading,
  other,
  convention,
}: {
  take: Take;
  reading: Reading;
  other: TakeReading | null;
  convention: Convention;
}) {
  if (!other) return null;
  const [left, right] = take.view === 'nonDrive' ? [reading, other.reading] : [other.reading, reading];
  return (
    <Box component="section" aria-label="Left against right" sx={{ mt: 2 }}>
      <Typography variant="h2">Left against right</Typography>
      <Typography variant="body2" color="textSecondary">
        Paired with “{takeText(other.take)}”. Each side wears its own stickers, so where they sit counts
        fully: a true difference under the figure in “unseen under” may be there and not show.
      </Typography>
      <SideTable rows={sidesCompared(left, right)} convention={convention} />
    </Box>
  );
}
