import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { parseAnglesCsv, writeAnglesCsv } from '../../../core/formats/angles.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import { ANGLE_NAMES, type AnyAngleKey } from '../../../core/kinematics/angles.ts';
import { compareReadings } from '../../../core/kinematics/compare.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { degrees, hasConvention, type Convention } from '../../ui/words/angleText';
import { ComparedTables, type Compared, type ComparedTable } from './ComparedTables';
import { Dash } from '../../charts/StrokeChart';
import { takeText } from '../../ui/words/takeWords';
import type { TakeReading } from '../../jobs/useTakeResults';

/** As many as are still distinguished in one chart, beside the take that is read. */
const MOST_COMPARED = 3;

const OF = { min: 'least', max: 'most', mean: 'mean' } as const;
type Of = keyof typeof OF;

/** A difference of two flexions in the studio's convention: what bends more is less open, and the least bend is the widest angle. */
function differenceQuoted(
  key: AnyAngleKey,
  of: Of,
  byDeg: number,
  convention: Convention,
): { of: Of; byDeg: number } {
  if (convention === 'bend' || !hasConvention(key)) return { of, byDeg };
  return { of: of === 'min' ? 'max' : of === 'max' ? 'min' : 'mean', byDeg: byDeg === 0 ? 0 : -byDeg };
}

const signedDegrees = (v: number): string => `${v > 0 ? '+' : ''}${degrees(v)}`;

/** Other takes compared with the one that is read: their curves in the chart, their differences in a table. */
export function CompareWith({
  session,
  take,
  reading,
  chosen,
  compared,
  tables,
  convention,
  onChoose,
}: {
  session: FitSession;
  take: Take;
  reading: Reading;
  chosen: readonly string[];
  compared: readonly TakeReading[];
  tables: Compared<AnyAngleKey>;
  convention: Convention;
  onChoose: (takeIds: string[]) => void;
}) {
  const others = session.takes.filter(
    (t) => t.id !== take.id && !isFrontal(t.view) && t.tracking.state !== 'none',
  );
  const full = compared.length + tables.tables.length >= MOST_COMPARED;
  return (
    <Box component="section" aria-label="Compare with other takes and tables" sx={{ mt: 2 }}>
      <Typography variant="h2">Compare with</Typography>
      {others.map((t) => (
        <FormControlLabel
          key={t.id}
          sx={{ display: 'flex' }}
          control={
            <Checkbox
              size="small"
              checked={chosen.includes(t.id)}
              disabled={!chosen.includes(t.id) && full}
              onChange={(e) =>
                onChoose(e.target.checked ? [...chosen, t.id] : chosen.filter((id) => id !== t.id))
              }
            />
          }
          label={
            <>
              <Dash index={compared.findIndex((b) => b.take.id === t.id)} /> {takeText(t)} ({t.clipName})
            </>
          }
        />
      ))}
      {compared.map((b) => (
        <Differences key={b.take.id} take={take} reading={reading} other={b} convention={convention} />
      ))}
      <ComparedTables compared={tables} what="a table of angles" firstDash={compared.length} full={full}>
        {(table) => <FromTable reading={reading} table={table} convention={convention} />}
      </ComparedTables>
    </Box>
  );
}

function Differences({
  take,
  reading,
  other,
  convention,
}: {
  take: Take;
  reading: Reading;
  other: TakeReading;
  convention: Convention;
}) {
  // The two sides wear different stickers; takes of one side in one visit keep theirs.
  const sameSide = take.view === other.take.view;
  const [anew, setAnew] = useState(false);
  const [all, setAll] = useState(false);
  const rows = compareReadings(reading, other.reading, sameSide && !anew);
  const shown = all ? rows : rows.filter((r) => r.real);
  return (
    <Box sx={{ mt: 1 }} data-testid="differences">
      <Typography variant="h3">
        {sameSide ? takeText(other.take) : 'Left against right'}, minus the take read
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {sameSide && !anew
          ? 'Stickers left on: where they sit cancels.'
          : 'Other stickers: where they sit counts fully.'}{' '}
        {rows.filter((r) => r.real).length} of {rows.length} figures differ by more than the noise.
      </Typography>
      {sameSide && (
        <FormControlLabel
          control={<Checkbox size="small" checked={anew} onChange={(e) => setAnew(e.target.checked)} />}
          label="Stickers reapplied in between"
        />
      )}
      <Table size="small" aria-label="Differences" sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Angle</TableCell>
            <TableCell align="right">by</TableCell>
            <TableCell align="right">±</TableCell>
            <TableCell>is it</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {shown.map((r) => {
            const { of, byDeg } = differenceQuoted(r.key, r.of, r.byDeg, convention);
            return (
              <TableRow key={`${r.key}${r.of}`}>
                <TableCell>
                  {ANGLE_NAMES[r.key]}, {OF[of]}
                </TableCell>
                <TableCell align="right">{signedDegrees(byDeg)}</TableCell>
                <TableCell align="right">{degrees(r.uncertaintyDeg)}</TableCell>
                <TableCell>{r.real ? <strong>real</strong> : 'within noise'}</TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
      <Button size="small" onClick={() => setAll(!all)}>
        {all ? 'Only what is real' : 'All figures'}
      </Button>
    </Box>
  );
}

/** How a table's angles differ from what is read here. It does not say how sure it is: so neither can the difference. */
function FromTable({
  reading,
  table,
  convention,
}: {
  reading: Reading;
  table: ComparedTable<AnyAngleKey>;
  convention: Convention;
}) {
  // A table has the smoothed angles of single frames: it is held against the reading's own table, not against its curves.
  const own = useMemo(() => parseAnglesCsv(writeAnglesCsv(reading)), [reading]);
  if (!own.ok) return null;
  const keys = (Object.keys(table.ends) as AnyAngleKey[]).filter((key) => own.ends[key]);
  const by = (key: AnyAngleKey, of: 'min' | 'max'): string => {
    // The end that is called so in this convention, of either.
    const end = differenceQuoted(key, of, 0, convention).of as 'min' | 'max';
    const difference = table.ends[key]![end] - own.ends[key]![end];
    return signedDegrees(differenceQuoted(key, end, difference, convention).byDeg);
  };
  return (
    <>
      <Typography variant="body2" color="textSecondary">
        {table.strokes} {table.strokes === 1 ? 'stroke' : 'strokes'}, minus the take read. A table does not
        say how sure it is: no interval.
      </Typography>
      <Table size="small" aria-label={`${table.name}, differences`} sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Angle</TableCell>
            <TableCell align="right">least by</TableCell>
            <TableCell align="right">most by</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {keys.map((key) => (
            <TableRow key={key}>
              <TableCell>{ANGLE_NAMES[key]}</TableCell>
              <TableCell align="right">{by(key, 'min')}</TableCell>
              <TableCell align="right">{by(key, 'max')}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
