import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { resolveBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { away, type Transfer } from '../../../core/report/transfer.ts';
import { applyMoves } from '../../../core/plan/controls/controls.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { BikeDrawing } from '../../ui/drawings/BikeDrawing';
import { Sheet } from '../../ui/Desk';
import { useStudio } from '../../session/useStudio';
import { buildPrice } from '../../ui/words/buildPrice';
import { useInUnits } from '../../ui/useInUnits';

/** What rebuilds the position on the other bike, how near it comes, and the bike as it would stand. */
export function OtherBikeResult({ t, other }: { t: Transfer; other: BikeSetup }) {
  const { lengthUnit, currency } = useStudio();
  const inUnits = useInUnits();
  const mm = (v: number): string => lengthWithUnit(Math.round(v), lengthUnit);
  const best = t.hands?.builds[0] ?? null;
  // The other bike as it would stand, for the drawing.
  const built = useMemo((): BikeSetup | null => {
    if (!t.saddle) return null;
    const base: BikeSetup = {
      ...other,
      saddle: {
        ...other.saddle,
        heightMm: Math.round(t.saddle.heightMm),
        heightToSpindleMm: null,
        setback80Mm: Math.round(t.saddle.setback80Mm),
        setbackNoseMm: null,
        tiltDeg: t.saddle.tiltDeg,
      },
      stem: {
        ...other.stem,
        lengthMm: other.stem.lengthMm ?? 90,
        angleDeg: other.stem.angleDeg ?? -6,
        spacersMm: other.stem.spacersMm ?? 10,
      },
    };
    return best ? applyMoves(base, best.moves) : base;
  }, [t, other, best]);
  return (
    <Box sx={{ minWidth: 0 }}>
      <Sheet title="On it" note="same place for saddle and hands">
        {t.misses.length > 0 ? (
          <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }} data-testid="misses">
            Can’t be reached:{' '}
            {t.misses.map((m) => (
              <span key={m.what}>{m.words}. </span>
            ))}
          </Alert>
        ) : (
          t.saddle &&
          best && (
            <Alert severity="success" variant="outlined" sx={{ mb: 1.5 }} data-testid="reached">
              Everything is reached to within {mm(Math.max(2, best.missMm))}.
            </Alert>
          )
        )}
        {t.open.length > 0 && (
          <Typography color="textSecondary" sx={{ mb: 1 }}>
            Still open: {t.open.join('; ')}.
          </Typography>
        )}
        {t.saddle && (
          <Box
            component="dl"
            sx={{
              m: 0,
              display: 'grid',
              gridTemplateColumns: '1fr auto',
              rowGap: 0.5,
              columnGap: 2,
              '& dd': { m: 0, textAlign: 'right', fontWeight: 620 },
            }}
          >
            {(
              [
                ['Saddle height', mm(t.saddle.heightMm)],
                ['Setback where 80 mm wide', mm(t.saddle.setback80Mm)],
                ['Tilt', `${t.saddle.tiltDeg}°`.replace('-', '−')],
                ['Post showing', t.saddle.postShowingMm === null ? 'open' : mm(t.saddle.postShowingMm)],
                ['Post', t.saddle.postOffsetMm === 0 ? 'straight' : `${mm(t.saddle.postOffsetMm)} offset`],
                [
                  'Saddle on its rails',
                  Math.abs(t.saddle.railMm) < 0.5
                    ? 'in their middle'
                    : `${mm(Math.abs(t.saddle.railMm))} ${t.saddle.railMm > 0 ? 'back' : 'forward'} of their middle`,
                ],
              ] as const
            ).map(([name, value]) => (
              <Box key={name} sx={{ display: 'contents' }}>
                <Typography component="dt">{name}</Typography>
                <Typography component="dd" data-testid={`transfer-${name}`}>
                  {value}
                </Typography>
              </Box>
            ))}
          </Box>
        )}
        {t.carried.length > 0 && (
          <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
            Carried into the saddle: {t.carried.join('; ')}.
          </Typography>
        )}
        {t.hands && (
          <Table size="small" aria-label="Cockpit builds for it" sx={{ mt: 1.5, '& td, & th': { px: 0.75 } }}>
            <TableHead>
              <TableRow>
                <TableCell>Stem, spacers, bar</TableCell>
                <TableCell align="right">Hoods off by</TableCell>
                <TableCell align="right">Price</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {t.hands.builds.map((f) => (
                <TableRow key={f.words}>
                  <TableCell>{inUnits(f.words)}</TableCell>
                  <TableCell align="right">{away(f.offMm)}</TableCell>
                  <TableCell align="right">{buildPrice(f, currency)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
      </Sheet>
      {built && (
        <Box sx={{ mt: 2 }}>
          <BikeDrawing bike={built} resolved={resolveBike(built)} />
        </Box>
      )}
    </Box>
  );
}
