import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { readFile } from '../../jobs/files';
import { inDegrees, judgeReading, type MeasureReading } from '../../../core/protocol/measures.ts';
import { partnerOf } from '../../../core/visit/pairs.ts';
import { openTake, type FitSession, type Take } from '../../../core/records/types.ts';
import { ANGLE_NAMES, type AnyAngleKey } from '../../../core/kinematics/angles.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { ANGLE_HINTS, conventionWord, degrees, quoted, type Convention } from '../../ui/words/angleText';
import { quotedBand } from '../../../core/protocol/convention.ts';
import { CompareWith } from './CompareWith';
import { BodyFigures } from './BodyFigures';
import { ChartTools } from '../../charts/ChartTools';
import { ExportMenu } from './ExportMenu';
import { Figure } from '../../ui/Figure';
import {
  CadenceNote,
  EstimatedNote,
  LossNote,
  NotSeenNote,
  ProvisionalNote,
  TurnFigures,
} from './readingNotes';
import { byUrgency, workFindings } from '../../../core/protocol/findings.ts';
import { Breakdown, Findings, StandsOut } from './Findings';
import { Glance } from './Glance';
import { useComparedTables } from './ComparedTables';
import { Multiples } from './Multiples';
import { OnceMore } from '../../ui/OnceMore';
import { PerStroke } from './PerStroke';
import { RiderOverlay } from '../../ui/film/RiderOverlay.client';
import { Sides } from './Sides';
import { StrokeChart } from '../../charts/StrokeChart';
import { StrokeClock } from './StrokeClock';
import { takeText } from '../../ui/words/takeWords';
import { protocolOf } from '../../../core/visit/visitCase.ts';
import { useClip } from '../../ui/film/useClip';
import { useSend } from '../../session/useSend';
import { useStudio } from '../../session/useStudio';
import { useFrontal, useTakeReadings } from '../../jobs/useTakeResults';
import { useTurnCursor } from './useTurnCursor';
import { readable, ValueTable } from './ValueTable';
import { Workbench } from '../../ui/film/Workbench';

/** The reading of a film from the side: angles through the stroke, the body in millimetres, findings. */
export function ReadSide({
  session,
  reading,
  tracks,
}: {
  session: FitSession;
  reading: Reading;
  tracks: Tracks;
}) {
  const take = openTake(session)!;
  const clip = useClip(take, take.markedFrame);
  const { jointConvention } = useStudio();
  const [search, setSearch] = useSearchParams();
  const glance = (on: boolean): void =>
    setSearch((now) => withGlance(now, on), { replace: !on, preventScrollReset: true });
  const wanted = search.get('angle') as AnyAngleKey | null;
  const glancing = search.has('glance');
  const readings = readable(reading);
  const angle: AnyAngleKey = wanted && readings.includes(wanted) ? wanted : readings[0];
  const { cursorDeg, goToTheta, frameIndex } = useTurnCursor(clip, reading);
  const now = frameIndex >= 0 ? reading.frameAnglesDeg[angle]![frameIndex] : NaN;
  const shown = reading.angles[angle]!;
  const flip = (v: number): number => quoted(angle, v, jointConvention);
  const frontal = useFrontal(session);
  const measures = useMemo(
    () => judgeReading(reading, protocolOf(session), frontal),
    [reading, session, frontal],
  );
  const findings = useMemo(() => byUrgency(workFindings(reading, measures)), [reading, measures]);
  const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const [chosen, setChosen] = useState<string[]>([]);
  const partner = partnerOf(session, take);
  const further = useTakeReadings(session, partner ? [...new Set([...chosen, partner.id])] : chosen);
  const compared = further.filter((b) => chosen.includes(b.take.id));
  const other = further.find((b) => b.take.id === partner?.id) ?? null;
  // What changes with neither cursor nor frame is handed on as it is, so that the chart's ground is not drawn anew.
  const added = useComparedTables((file) => readFile('angles', file));
  const drawn = useDrawn({
    take,
    reading,
    angle,
    knee: knee ?? null,
    compared,
    tables: added.tables,
    convention: jointConvention,
  });
  const curves = useMemo(() => smallCurves(reading, jointConvention), [reading, jointConvention]);
  return (
    <Workbench
      clip={clip}
      label="The film with the angles drawn on the rider"
      sideWidth={520}
      top={
        <Heading
          reading={reading}
          knee={knee ?? null}
          here={{ angle, value: now, cursorDeg }}
          convention={jointConvention}
        />
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
        <Button variant="outlined" onClick={() => glance(true)}>
          Glance
        </Button>
        <Box sx={{ flex: 1 }} />
        <ExportMenu session={session} reading={reading} tracks={tracks} />
      </Box>
      {glancing && (
        <Glance
          measures={measures}
          convention={jointConvention}
          onClose={() => glance(false)}
          chart={<StrokeChart label={ANGLE_NAMES[angle]} unit="°" {...drawn} cursorDeg={cursorDeg} />}
        />
      )}
      <ProvisionalNote reading={reading} />
      <EstimatedNote reading={reading} />
      <StandsOut findings={findings} convention={jointConvention} onSee={clip.goTo} />
      <NotSeenNote reading={reading} />
      <CadenceNote typed={take.cadenceRpm} read={reading.cadenceRpm} />
      <Multiples
        curves={curves}
        selected={angle}
        cursorDeg={cursorDeg}
        onSelect={(key) => setSearch({ angle: key }, { replace: true, preventScrollReset: true })}
      />
      <Typography variant="body2" color="textSecondary">
        {ANGLE_NAMES[angle]}: {ANGLE_HINTS[angle]}{' '}
        {conventionWord(angle, jointConvention) && `(${conventionWord(angle, jointConvention)})`}. Line: mean
        of {reading.usedStrokes} strokes; close shading: where that mean lies (95 %), wide: 95 % of strokes.
      </Typography>
      <ChartTools name={`${session.id}-${angle}`}>
        <StrokeChart
          label={ANGLE_NAMES[angle]}
          unit="°"
          {...drawn}
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
        <Breakdown unit="°" {...inDegrees(shown.min, shown.uncertainty)} />
      </Box>
      <ValueTable reading={reading} convention={jointConvention} />
      <PerStroke reading={reading} angle={angle} convention={jointConvention} />
      <Sides take={take} reading={reading} other={other} convention={jointConvention} />
      <CompareWith
        session={session}
        take={take}
        reading={reading}
        chosen={chosen}
        compared={compared}
        tables={added}
        convention={jointConvention}
        onChoose={setChosen}
      />
      <BodyFigures session={session} take={take} reading={reading} />
      <Findings
        session={session}
        reading={reading}
        frontal={frontal}
        findings={findings}
        convention={jointConvention}
        onSee={clip.goTo}
      />
      <LossNote reading={reading} />
      <Box sx={{ mt: 2 }}>
        <OnceMore session={session} take={take} to="../film" />
      </Box>
    </Workbench>
  );
}

/** Every angle's curve, small, to choose one by. */
const smallCurves = (reading: Reading, convention: Convention) =>
  readable(reading).map((key) => ({
    key,
    name: ANGLE_NAMES[key],
    unit: '°' as const,
    values: reading.angles[key]!.meanOnGrid.map((v) => quoted(key, v, convention)),
  }));

/** One angle over the turn as its chart draws it, with what it is compared with. */
function useDrawn({
  take,
  reading,
  angle,
  knee,
  compared,
  tables,
  convention,
}: {
  take: Take;
  reading: Reading;
  angle: AnyAngleKey;
  knee: MeasureReading | null;
  compared: ReturnType<typeof useTakeReadings>;
  tables: ReturnType<typeof useComparedTables<AnyAngleKey>>['tables'];
  convention: Convention;
}) {
  const shown = reading.angles[angle]!;
  const comparedKey = compared.map((b) => b.take.id).join();
  return useMemo(
    () => ({
      name: takeText(take),
      measured: shown.meanOnGrid.map((v) => quoted(angle, v, convention)),
      spread: shown.sdOnGrid,
      sure: shown.ciOnGrid,
      target:
        knee && angle === 'kneeFlexionDeg'
          ? { band: quotedBand('knee', knee.band, convention), text: 'target, straightest' }
          : null,
      // One that has not this angle keeps its place all the same: dashes are recognised by it.
      compared: [
        ...compared.map((b) => ({
          name: takeText(b.take),
          values: b.reading.angles[angle]?.meanOnGrid ?? [],
        })),
        ...tables.map((t) => ({ name: t.name, values: t.curves[angle] ?? [] })),
      ].map((b) => ({ ...b, values: b.values.map((v) => quoted(angle, v, convention)) })),
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [shown, angle, knee, convention, comparedKey, tables],
  );
}

/** The address with the glance open or closed: the way back closes it. */
function withGlance(search: URLSearchParams, on: boolean): URLSearchParams {
  const next = new URLSearchParams(search);
  if (on) next.set('glance', '');
  else next.delete('glance');
  return next;
}

/** The figures over the film. */
function Heading({
  reading,
  knee,
  here: { angle, value, cursorDeg },
  convention,
}: {
  reading: Reading;
  knee: MeasureReading | null;
  /** The chosen angle on the frame that is shown. */
  here: { angle: AnyAngleKey; value: number; cursorDeg: number | null };
  convention: Convention;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 4, px: 1.5, pb: 1, flexWrap: 'wrap' }}>
      {knee && (
        <Figure
          name={`Knee, straightest (${conventionWord('knee', convention)})`}
          value={degrees(quoted('knee', knee.value, convention), 0)}
          plusMinus={`± ${degrees(knee.uncertainty, 0)}`}
          testId="knee-min"
        />
      )}
      <Figure
        name={`${ANGLE_NAMES[angle]} here`}
        value={degrees(quoted(angle, value, convention), 0)}
        plusMinus={cursorDeg === null ? '' : `crank ${cursorDeg.toFixed(0)}°`}
      />
      <TurnFigures reading={reading} />
    </Box>
  );
}

function ConventionSwitch({ convention }: { convention: Convention }) {
  const { send } = useSend<{ jointConvention: Convention }>('/settings');
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={convention}
      aria-label="How knee and elbow are quoted"
      onChange={(_, v: Convention | null) => v && send({ jointConvention: v })}
    >
      <ToggleButton value="bend">Bend, straight 0°</ToggleButton>
      <ToggleButton value="inside">Inside, straight 180°</ToggleButton>
    </ToggleButtonGroup>
  );
}
