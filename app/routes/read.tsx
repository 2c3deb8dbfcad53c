import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { Link, useFetcher, useSearchParams } from 'react-router';
import { judgeReading } from '../../core/prescribe/measures.ts';
import { protocolOf } from '../components/useCase';
import { openTake, type FitSession } from '../../core/records/types.ts';
import { ANGLE_KEYS, ANGLE_NAMES, type AngleKey } from '../../core/stroke/angles.ts';
import type { Reading } from '../../core/stroke/read.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { ANGLE_HINTS, conventionWord, degrees, quoted, type Convention } from '../components/angleText';
import { Beside } from '../components/Beside';
import { ChartTools } from '../components/ChartTools';
import { Findings } from '../components/Findings';
import { Glance } from '../components/Glance';
import { Multiples } from '../components/Multiples';
import { UncertaintyNote } from '../components/UncertaintyNote';
import { ValueTable } from '../components/ValueTable';
import { takeText } from '../components/takeWords';
import { useTakeReadings } from '../components/useTakeReadings';
import { ExportMenu } from '../components/ExportMenu';
import { Figure } from '../components/Figure';
import { ReadingGate } from '../components/ReadingGate';
import { RiderOverlay } from '../components/RiderOverlay.client';
import { StrokeChart } from '../components/StrokeChart';
import { StrokeClock } from '../components/StrokeClock';
import { Workbench } from '../components/Workbench';
import { useClip } from '../components/useClip';
import { useStudio } from '../components/useStudio';
import { useTurnCursor } from '../components/useTurnCursor';
import { bandQuoted } from '../components/bandText';
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
  const [chosen, setChosen] = useState<string[]>([]);
  const beside = useTakeReadings(session, chosen);
  const [glancing, setGlancing] = useState(false);
  const ground = useMemo(
    () => ({
      measured: shown.meanOnGrid.map((v) => quoted(angle, v, jointConvention)),
      spread: shown.sdOnGrid,
      target:
        angle === 'kneeFlexionDeg'
          ? { band: bandQuoted('knee', knee.band, jointConvention), text: 'target, straightest' }
          : null,
      beside: beside.map((b) => ({
        name: takeText(b.take),
        values: b.reading.angles[angle].meanOnGrid.map((v) => quoted(angle, v, jointConvention)),
      })),
    }),
    [shown, angle, knee, jointConvention, beside],
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
        <Button variant="outlined" onClick={() => setGlancing(true)}>
          Glance
        </Button>
        <Box sx={{ flex: 1 }} />
        <ExportMenu session={session} reading={reading} tracks={tracks} />
      </Box>
      {glancing && (
        <Glance
          measures={measures}
          convention={jointConvention}
          onClose={() => setGlancing(false)}
          chart={<StrokeChart label={ANGLE_NAMES[angle]} unit="°" {...ground} cursorDeg={cursorDeg} />}
        />
      )}
      {reading.provisional && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }}>
          Fewer than five whole strokes: every figure here is provisional.
        </Alert>
      )}
      <Multiples
        reading={reading}
        convention={jointConvention}
        selected={angle}
        cursorDeg={cursorDeg}
        onSelect={(key) => setSearch({ angle: key }, { replace: true, preventScrollReset: true })}
      />
      <Typography variant="body2" color="textSecondary">
        {ANGLE_NAMES[angle]}: {ANGLE_HINTS[angle]}{' '}
        {conventionWord(angle, jointConvention) && `(${conventionWord(angle, jointConvention)})`}. Line: mean
        of {reading.usedStrokes} strokes; shading: 95 % of strokes.
      </Typography>
      <ChartTools name={`${session.id}-${angle}`}>
        <StrokeChart
          label={ANGLE_NAMES[angle]}
          unit="°"
          {...ground}
          cursorDeg={cursorDeg}
          onCursor={goToTheta}
        />
      </ChartTools>
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
      <Beside
        session={session}
        take={take}
        reading={reading}
        chosen={chosen}
        beside={beside}
        onChoose={setChosen}
      />
      <Findings
        session={session}
        reading={reading}
        measures={measures}
        convention={jointConvention}
        onSee={clip.goTo}
      />
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
