import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { bikeFaults } from '../../../core/bike/faults.ts';
import type { ResolvedBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { useInUnits } from '../../ui/useInUnits';
import { useStudio } from '../../session/useStudio';

/** What follows from the numbers: contradictions first, then faults, then the figures that a fitter computes by hand. */
export function BikeFollows({
  title,
  bike,
  resolved,
}: {
  title: string;
  bike: BikeSetup;
  resolved: ResolvedBike;
}) {
  const { lengthUnit } = useStudio();
  const inUnits = useInUnits();
  const faults = inUnits(bikeFaults(bike, resolved));
  const mm = (v: number | null): string => (v === null ? 'open' : lengthWithUnit(Math.round(v), lengthUnit));
  const overlap = (side: 'left' | 'right'): string => {
    const o = resolved.overlap[side];
    if (!o) return 'open';
    return o.closesAtSteerDeg === null
      ? `${mm(Math.round(o.gapMm))} free`
      : `touches from ${o.closesAtSteerDeg}° of steering`;
  };
  const below = (what: string, drop: number | null): [string, string] => [
    `${what} ${drop !== null && drop < 0 ? 'above' : 'below'} saddle`,
    mm(drop === null ? null : Math.abs(drop)),
  ];
  const figures: [string, string][] = [
    ['Saddle to hood', mm(resolved.reachFromSitMm)],
    ['Nose to hood', mm(resolved.reachFromNoseMm)],
    below('Bar', resolved.barDropMm),
    below('Hood', resolved.hoodDropMm),
    [
      'Seat angle at the saddle',
      resolved.seatAngleDeg === null ? 'open' : `${resolved.seatAngleDeg.toFixed(1)}°`,
    ],
    ['Stance, left', mm(resolved.stanceMm.left)],
    ['Stance, right', mm(resolved.stanceMm.right)],
    ['Toe overlap, left', overlap('left')],
    ['Toe overlap, right', overlap('right')],
  ];
  return (
    <>
      {resolved.contradictions.length > 0 && (
        <Box role="alert" sx={{ border: 2, borderColor: 'warning.main', p: 1.5, mb: 2 }}>
          <Typography variant="h2">Can’t both be true</Typography>
          {resolved.contradictions.map((c) => (
            <Box key={c.what} sx={{ mt: 1 }}>
              <Typography sx={{ fontWeight: 560 }}>
                {c.what}: {lengthWithUnit(Math.round(Math.abs(c.missMm)), lengthUnit)} apart
              </Typography>
              <Typography variant="body2">{inUnits(c.slip)}</Typography>
            </Box>
          ))}
        </Box>
      )}
      <Typography variant="h2" gutterBottom>
        {title}
      </Typography>
      {faults.length === 0 ? (
        <Typography color="textSecondary">No faults in what is measured so far.</Typography>
      ) : (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {faults.map((f) => (
            <li key={f.what}>
              <Typography
                component="span"
                sx={{ fontWeight: 560, color: f.weight === 'danger' ? 'error.main' : undefined }}
              >
                {f.weight === 'danger' ? 'Danger: ' : ''}
                {f.what}
              </Typography>
              <Typography variant="body2" color="textSecondary">
                {f.why}
              </Typography>
            </li>
          ))}
        </Box>
      )}
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        Computed
      </Typography>
      <Box
        component="dl"
        sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr auto', rowGap: 0.75, columnGap: 2 }}
      >
        {figures.map(([name, value]) => (
          <Box key={name} sx={{ display: 'contents' }}>
            <Typography component="dt" color="textSecondary">
              {name}
            </Typography>
            <Typography
              component="dd"
              sx={{ m: 0, textAlign: 'right', fontWeight: 560 }}
              data-testid={`computed-${name}`}
            >
              {value}
            </Typography>
          </Box>
        ))}
      </Box>
    </>
  );
}
