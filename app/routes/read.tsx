import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { Link, useFetcher, useSearchParams } from 'react-router';
import { judgeReading, type MeasureReading } from '../../core/prescribe/measures.ts';
import { MEASURE_NAMES, PROTOCOLS } from '../../core/prescribe/protocols.ts';
import { protocolOf } from '../components/useCase';
import { openTake, type FitSession } from '../../core/records/types.ts';
import { ANGLE_KEYS, ANGLE_NAMES, type AngleKey } from '../../core/stroke/angles.ts';
import type { Reading } from '../../core/stroke/read.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { ANGLE_HINTS, conventionWord, degrees, quoted, type Convention } from '../components/angleText';
import { BandGauge } from '../components/BandGauge';
import { ExportMenu } from '../components/ExportMenu';
import { Figure } from '../components/Figure';
import { ReadingGate } from '../components/ReadingGate';
import { RiderOverlay } from '../components/RiderOverlay.client';
import { StrokeChart } from '../components/StrokeChart';
import { StrokeClock } from '../components/StrokeClock';
import { Workbench } from '../components/Workbench';
import { useClip } from '../components/useClip';
import { useEdit } from '../components/useEdit';
import { useStudio } from '../components/useStudio';
import { useTurnCursor } from '../components/useTurnCursor';
import { bandQuoted, bandText } from '../components/bandText';
import { useSession } from './session';

export default function Read() {
  const { session } = useSession();
  return (
    <ReadingGate session={session}>
      {(reading, tracks) => <Reading_ session={session} reading={reading} tracks={tracks} />}
    </ReadingGate>
  );
}

function Reading_({ session, reading, tracks }: { session: FitSession; reading: Reading; tracks: Tracks }) {
  const take = openTake(session)!;
  const clip = useClip(take, take.markedFrame);
  const { jointConvention } = useStudio();
  const [search, setSearch] = useSearchParams();
  const asked = search.get('angle') as AngleKey | null;
  const angle: AngleKey = asked && ANGLE_KEYS.includes(asked) ? asked : 'kneeFlexionDeg';
  const { cursorDeg, goToTheta, frameIndex } = useTurnCursor(clip, reading);
  const now = frameIndex >= 0 ? reading.frameAnglesDeg[angle][frameIndex] : NaN;
  const shown = reading.angles[angle];
  const flip = (v: number): number => quoted(angle, v, jointConvention);
  const measures = useMemo(() => judgeReading(reading, protocolOf(session)), [reading, session]);
  const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg')!;
  const ground = useMemo(
    () => ({
      measured: shown.meanOnGrid.map((v) => quoted(angle, v, jointConvention)),
      spread: shown.sdOnGrid,
      target:
        angle === 'kneeFlexionDeg'
          ? { band: bandQuoted('knee', knee.band, jointConvention), text: 'target, straightest' }
          : null,
    }),
    [shown, angle, knee, jointConvention],
  );
  return (
    <Workbench
      clip={clip}
      label="The film with the angles drawn on the rider"
      sideWidth={520}
      top={
        <Box sx={{ display: 'flex', gap: 4, px: 1.5, pb: 1, flexWrap: 'wrap' }}>
          <Figure
            name={`Knee, straightest (${conventionWord('knee', jointConvention)})`}
            value={degrees(quoted('knee', knee.value, jointConvention), 0)}
            plusMinus={`± ${degrees(knee.uncertainty, 0)}`}
            testId="knee-min"
          />
          <Figure
            name={`${ANGLE_NAMES[angle]} here`}
            value={degrees(flip(now), 0)}
            plusMinus={cursorDeg === null ? '' : `crank ${cursorDeg.toFixed(0)}°`}
          />
          <Figure name="Cadence" value={reading.cadenceRpm.toFixed(1)} plusMinus="rpm" testId="cadence" />
          <Figure
            name="Strokes"
            value={String(reading.usedStrokes)}
            plusMinus={reading.provisional ? 'provisional' : `of ${reading.strokes.length}`}
            testId="strokes"
          />
        </Box>
      }
      overlay={(size) => (
        <RiderOverlay
          size={size}
          tracks={tracks}
          frame={clip.shown}
          map={reading.map}
          convention={jointConvention}
        />
      )}
    >
      <Box sx={{ display: 'flex', gap: 1, mb: 1.5, flexWrap: 'wrap' }}>
        <ConventionSwitch convention={jointConvention} />
        <Box sx={{ flex: 1 }} />
        <ExportMenu session={session} reading={reading} tracks={tracks} />
      </Box>
      {reading.provisional && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }}>
          Fewer than five whole strokes: every figure here is provisional.
        </Alert>
      )}
      <ToggleButtonGroup
        exclusive
        size="small"
        value={angle}
        aria-label="Angle shown"
        onChange={(_, v: AngleKey | null) =>
          v && setSearch({ angle: v }, { replace: true, preventScrollReset: true })
        }
        sx={{ flexWrap: 'wrap', mb: 1, '& .MuiToggleButton-root': { px: 1.25 } }}
      >
        {ANGLE_KEYS.map((key) => (
          <ToggleButton key={key} value={key}>
            {ANGLE_NAMES[key]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant="body2" color="textSecondary">
        {ANGLE_NAMES[angle]}: {ANGLE_HINTS[angle]}{' '}
        {conventionWord(angle, jointConvention) && `(${conventionWord(angle, jointConvention)})`}. Line: mean
        of {reading.usedStrokes} strokes; shading: 95 % of strokes.
      </Typography>
      <StrokeChart
        label={ANGLE_NAMES[angle]}
        unit="°"
        {...ground}
        cursorDeg={cursorDeg}
        onCursor={goToTheta}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '220px 1fr', gap: 2, alignItems: 'center', mt: 1 }}>
        <StrokeClock
          label={ANGLE_NAMES[angle]}
          values={shown.meanOnGrid.map(flip)}
          spread={shown.sdOnGrid}
          cursorDeg={cursorDeg}
          onCursor={goToTheta}
          mirrored={reading.map.facing === 'left'}
        />
        <UncertaintyNote reading={reading} angle={angle} />
      </Box>
      <ValueTable reading={reading} convention={jointConvention} />
      <Measures session={session} measures={measures} convention={jointConvention} />
      <LossNote reading={reading} />
      <Button variant="contained" component={Link} to="../plan" relative="path" sx={{ mt: 2 }}>
        On to the plan
      </Button>
    </Workbench>
  );
}

function ConventionSwitch({ convention }: { convention: Convention }) {
  const fetcher = useFetcher();
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={convention}
      aria-label="How knee and elbow are quoted"
      onChange={(_, v: Convention | null) =>
        v &&
        void fetcher.submit(
          { jointConvention: v },
          { method: 'post', action: '/settings', encType: 'application/json' },
        )
      }
    >
      <ToggleButton value="bend">Bend, straight 0°</ToggleButton>
      <ToggleButton value="inside">Inside, straight 180°</ToggleButton>
    </ToggleButtonGroup>
  );
}

/** What stands behind the ± of the angle shown. */
function UncertaintyNote({ reading, angle }: { reading: Reading; angle: AngleKey }) {
  const u = reading.angles[angle].uncertainty;
  const parts: [string, number][] = [
    ['stickers on the bone', u.stickerDeg],
    ['finding them in the film', u.localisationDeg],
    ['level of the camera', u.levelDeg],
    ['stroke to stroke', u.strokesDeg],
  ];
  return (
    <Box>
      <Typography variant="h3">± {degrees(u.absoluteDeg)}, 95 %</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
        For a change with the stickers left on: ±{'\u00a0'}
        {degrees(u.changeDeg)}.
      </Typography>
      {parts.map(([name, sd]) => (
        <Typography key={name} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>{name}</span>
          <span>{degrees(1.96 * sd, 2)}</span>
        </Typography>
      ))}
    </Box>
  );
}

const COLUMNS = ['0', '90', '180', '270'] as const;

function ValueTable({ reading, convention }: { reading: Reading; convention: Convention }) {
  return (
    <Box sx={{ overflowX: 'auto', mt: 2 }}>
      <Table
        size="small"
        aria-label="Angles at the crank’s positions, degrees"
        sx={{ '& td, & th': { px: 0.75 } }}
      >
        <TableHead>
          <TableRow>
            <TableCell>Degrees</TableCell>
            {['Top', 'Forward', 'Bottom', 'Back', 'Least', 'Most', '±'].map((h) => (
              <TableCell key={h} align="right">
                {h}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {ANGLE_KEYS.map((key) => {
            const a = reading.angles[key];
            const q = (v: number): number => quoted(key, v, convention);
            const ends = [q(a.min), q(a.max)].sort((x, y) => x - y);
            return (
              <TableRow key={key}>
                <TableCell>
                  {ANGLE_NAMES[key]}{' '}
                  {conventionWord(key, convention) && <small>{conventionWord(key, convention)}</small>}
                </TableCell>
                {[...COLUMNS.map((c) => q(a.at[c])), ...ends].map((v, i) => (
                  <TableCell key={i} align="right">
                    {degrees(v)}
                  </TableCell>
                ))}
                <TableCell align="right">{degrees(a.uncertainty.absoluteDeg)}</TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </Box>
  );
}

function Measures({
  session,
  measures,
  convention,
}: {
  session: FitSession;
  measures: MeasureReading[];
  convention: Convention;
}) {
  const { edit } = useEdit();
  const protocol = protocolOf(session);
  return (
    <Box sx={{ mt: 3 }}>
      <Typography variant="h2">Against the bands</Typography>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={protocol.id}
        aria-label="Protocol"
        onChange={(_, v: string | null) => v && void edit({ kind: 'protocol', protocolId: v })}
        sx={{ flexWrap: 'wrap', my: 1 }}
      >
        {PROTOCOLS.map((p) => (
          <ToggleButton key={p.id} value={p.id}>
            {p.name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        {protocol.reason}
      </Typography>
      {protocol.movedBy.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Bands moved for this rider: {protocol.movedBy.join('; ')}.
        </Typography>
      )}
      <Table size="small" aria-label="Measures against the protocol’s bands">
        <TableBody>
          {measures.map((m) => (
            <TableRow key={m.key} data-testid={`measure-${m.key}`}>
              <TableCell>{MEASURE_NAMES[m.key]}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                <strong>
                  {quoted(m.key, m.value, convention)
                    .toFixed(m.unit === 'mm' ? 0 : 1)
                    .replace('-', '−')}
                  {m.unit === 'mm' ? ' mm' : '°'}
                </strong>{' '}
                ± {m.uncertainty.toFixed(m.unit === 'mm' ? 0 : 1)}
                <Typography variant="body2" color="textSecondary">
                  {bandText(bandQuoted(m.key, m.band, convention), m.unit)}
                </Typography>
              </TableCell>
              <TableCell>
                <BandGauge value={m.value} uncertainty={m.uncertainty} band={m.band} verdict={m.verdict} />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function LossNote({ reading }: { reading: Reading }) {
  const rows = Object.entries(reading.landmarks).filter(([, n]) => n.bridgedFrames + n.lostFrames > 0);
  const faults = reading.strokes.filter((s) => s.fault);
  if (rows.length === 0 && faults.length === 0) return null;
  const WHY = { gap: 'a gap', backward: 'backward motion', cadence: 'a cadence off by over 15 %' };
  return (
    <Alert severity="info" variant="outlined" sx={{ mt: 2 }}>
      {rows.map(([key, n]) => (
        <div key={key}>
          {key}: {n.bridgedFrames} frames bridged over short gaps
          {n.lostFrames > 0 && `, ${n.lostFrames} left open`}.
        </div>
      ))}
      {faults.length > 0 && (
        <div>
          Left out: {faults.length} {faults.length === 1 ? 'turn' : 'turns'} with{' '}
          {[...new Set(faults.map((f) => WHY[f.fault!]))].join(', ')}.
        </div>
      )}
    </Alert>
  );
}
