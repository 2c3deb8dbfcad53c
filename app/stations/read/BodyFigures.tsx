import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { extent, line, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { handsOf } from '../../../core/visit/visitCase.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { SideKey } from '../../../core/kinematics/angles.ts';
import { plainName } from '../../../core/landmarks/landmarks.ts';
import { HiddenTable } from '../../charts/HiddenTable';
import type { Reading } from '../../../core/kinematics/read.ts';

const mm = (v: number): string => v.toFixed(0).replace('-', '−');
const signed = (v: number): string => `${v > 0 ? '+' : ''}${mm(v)}`;

/** Landmarks whose path was seen, and not made up for the model. */
const seenPaths = ({ body, standIns }: Reading): SideKey[] =>
  (Object.keys(body.paths) as SideKey[]).filter((k) => !(standIns as readonly SideKey[]).includes(k));

/** Joints whose path about the crank is drawn. */
const DRAWN: readonly SideKey[] = ['hip', 'knee', 'ankle', 'heel', 'toe'];
const W = 240;
const H = 300;

/** What the side view tells in millimetres: distances, paths, how steadily each point repeats, and the balance. */
export function BodyFigures({
  session,
  take,
  reading,
}: {
  session: FitSession;
  take: Take;
  reading: Reading;
}) {
  const { body } = reading;
  const balance = useMemo(() => handsOf(session, take, reading), [reading, take, session]);
  const rows = (
    [
      ['Knee over spindle, crank forward', body.kneeOverSpindleMm, 'minus = behind'],
      ['Hip travel, vertical', body.hipTravelMm?.vertical, 'peak to peak, a stroke'],
      ['Hip travel, fore-aft', body.hipTravelMm?.foreAft, 'peak to peak, a stroke'],
      ['Heel, lowest', body.heelHeightMm?.least, 'above the bottom bracket'],
      ['Heel, highest', body.heelHeightMm?.most, 'above the bottom bracket'],
      ['Head above the trunk’s line', body.headDropMm, 'minus = it hangs'],
      ['Head’s top above the back', body.headAboveBackMm, 'without a helmet'],
      ['Shoulder above mid-back', body.shoulderAboveMidBackMm, 'between C7 and sacrum'],
      ['Seen height', body.seenHeightMm, 'what the wind sees; no drag'],
      ['Grip ahead of the bottom bracket', body.handAheadMm, ''],
      ['Grip above the elbow', body.handAboveElbowMm, ''],
    ] as const
  ).flatMap(([name, m, hint]) => (m ? [[name, m.value, m.uncertainty.absoluteMm, hint] as const] : []));
  const seat = body.effectiveSeatAngleDeg;
  return (
    <Box component="section" aria-label="The body in millimetres" sx={{ mt: 3 }}>
      <Typography variant="h2">The body in millimetres</Typography>
      <Table size="small" aria-label="Distances" sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Distance</TableCell>
            <TableCell align="right">mm</TableCell>
            <TableCell align="right">±</TableCell>
            <TableCell>from where</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(([name, value, uncertainty, hint]) => (
            <TableRow key={name}>
              <TableCell>{name}</TableCell>
              <TableCell align="right">{mm(value)}</TableCell>
              <TableCell align="right">
                {uncertainty < 2 ? uncertainty.toFixed(1) : mm(uncertainty)}
              </TableCell>
              <TableCell sx={{ color: 'text.secondary' }}>{hint}</TableCell>
            </TableRow>
          ))}
          {seat && (
            <TableRow>
              <TableCell>Seat angle at the hip</TableCell>
              <TableCell align="right">{seat.value.toFixed(1)}°</TableCell>
              <TableCell align="right">{seat.uncertainty.absoluteDeg.toFixed(1)}°</TableCell>
              <TableCell sx={{ color: 'text.secondary' }}>bottom bracket to hip</TableCell>
            </TableRow>
          )}
        </TableBody>
      </Table>
      <Box sx={{ display: 'grid', gridTemplateColumns: `minmax(180px, ${W}px) 1fr`, gap: 2, mt: 2 }}>
        <Paths reading={reading} balance={balance?.centreMm ?? null} />
        <Box>
          {balance && (
            <Box data-testid="balance" sx={{ mb: 2 }}>
              <Typography variant="h3">Weight on the hands</Typography>
              <Typography>
                about <strong>{(100 * balance.handsShare).toFixed(0)} %</strong> of the body’s, between{' '}
                {(100 * balance.handsLow).toFixed(0)} and {(100 * balance.handsHigh).toFixed(0)} %
              </Typography>
              <Typography variant="body2" color="textSecondary">
                Centre of mass {signed(balance.centreMm.x)} mm before the bottom bracket. An indicator, no
                promise: see what the hands-off test says.
                {balance.assumed.length > 0 && ` Assumed: ${balance.assumed.join('; ')}.`}
              </Typography>
            </Box>
          )}
          <Typography variant="h3">Steadiness</Typography>
          <Typography variant="body2" color="textSecondary">
            How far a point strays from stroke to stroke (SD).
          </Typography>
          {seenPaths(reading).map((key) => (
            <Typography key={key} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
              <span>{plainName(key)}</span>
              <span>{body.paths[key]!.steadinessMm.toFixed(1)} mm</span>
            </Typography>
          ))}
        </Box>
      </Box>
    </Box>
  );
}

/** The ways of the leg's points about the bottom bracket, to scale, with the body's centre of mass. */
function Paths({ reading, balance }: { reading: Reading; balance: { x: number; y: number } | null }) {
  const { palette } = useTheme();
  const { paths } = reading.body;
  const seen = seenPaths(reading);
  const drawn = DRAWN.filter((key) => seen.includes(key)).map((key) => ({
    key,
    points: paths[key]!.x.meanOnGrid.map((x, i): [number, number] => [x, paths[key]!.y.meanOnGrid[i]]),
  }));
  const all = drawn.flatMap((d) => d.points);
  const [x0, x1] = extent(all, (p) => p[0]) as [number, number];
  const [y0, y1] = extent([...all, ...(balance ? [[balance.x, balance.y]] : [])], (p) => p[1]) as [
    number,
    number,
  ];
  const k = Math.min((W - 70) / (x1 - x0), (H - 40) / (y1 - y0));
  const x = scaleLinear([x0, x0 + (W - 70) / k], [12, W - 58]);
  const y = scaleLinear([y0, y0 + (H - 40) / k], [H - 20, 20]);
  const path = line<[number, number]>(
    (p) => x(p[0]),
    (p) => y(p[1]),
  );
  return (
    <Box sx={{ position: 'relative', '& text': { fontSize: 12, fill: palette.text.secondary } }}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label={`Paths of ${drawn.map((d) => plainName(d.key)).join(', ')} about the bottom bracket, to scale`}
      >
        <path d={`M${x(0) - 8},${y(0)} h16 M${x(0)},${y(0) - 8} v16`} stroke={palette.text.primary} />
        {drawn.map(({ key, points }) => {
          const right = points.reduce((a, b) => (b[0] > a[0] ? b : a));
          return (
            <g key={key}>
              <path
                d={`${path(points) ?? ''}Z`}
                fill="none"
                stroke={key === 'heel' ? palette.primary.main : palette.ink.measured}
                strokeWidth={key === 'heel' ? 2.2 : 1.4}
              />
              <text x={x(right[0]) + 5} y={y(right[1]) + 4}>
                {plainName(key)}
              </text>
            </g>
          );
        })}
        {balance && (
          <g>
            <circle cx={x(balance.x)} cy={y(balance.y)} r={7} fill="none" stroke={palette.text.primary} />
            <path
              d={`M${x(balance.x)},${y(balance.y)} v-7 a7,7 0 0 1 7,7 z M${x(balance.x)},${y(balance.y)} v7 a7,7 0 0 1 -7,-7 z`}
              fill={palette.text.primary}
            />
            <text x={x(balance.x) + 11} y={y(balance.y) + 4}>
              mass
            </text>
          </g>
        )}
      </svg>
      <HiddenTable
        caption="Paths about the bottom bracket, mm"
        columns={['Landmark', 'Width', 'Height']}
        rows={drawn.map(({ key, points }) => {
          const [left = 0, right = 0] = extent(points, (p) => p[0]);
          const [low = 0, high = 0] = extent(points, (p) => p[1]);
          return [plainName(key), (right - left).toFixed(0), (high - low).toFixed(0)];
        })}
      />
    </Box>
  );
}
