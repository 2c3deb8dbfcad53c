import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import type { FrontalColumn } from '../../../core/formats/angles.ts';
import { readFile } from '../../jobs/files';
import type { FrontalReading, Obliquity } from '../../../core/kinematics/frontalReading.ts';
import { legsCompared } from '../../../core/protocol/asymmetry.ts';
import { inMm, judgeReading } from '../../../core/protocol/measures.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { ChartTools } from '../../charts/ChartTools';
import { Figure } from '../../ui/Figure';
import { byUrgency, workFindings } from '../../../core/protocol/findings.ts';
import { Breakdown, Findings } from './Findings';
import { FrontalExport } from './FrontalExport';
import { FrontalOverlay } from '../../ui/film/FrontalOverlay.client';
import { KneeTrace } from './KneeTrace';
import { ComparedTables, useComparedTables, type ComparedTable } from './ComparedTables';
import { Multiples } from './Multiples';
import { CadenceNote, LossNote, ProvisionalNote, TurnFigures } from './readingNotes';
import { SideTable } from './Sides';
import { StrokeChart } from '../../charts/StrokeChart';
import { protocolOf } from '../../../core/visit/visitCase.ts';
import { useClip } from '../../ui/film/useClip';
import { useStudio } from '../../session/useStudio';
import { useReading } from '../../jobs/useTakeResults';
import { useTurnCursor } from './useTurnCursor';
import { Workbench } from '../../ui/film/Workbench';
import { drawnOf } from './frontalCurves';

/** The reading of a film from the front or the rear: knee paths, pelvis and shoulders, stance, left against right. */
export function ReadFrontal({
  session,
  take,
  reading,
  tracks,
}: {
  session: FitSession;
  take: Take;
  reading: FrontalReading;
  tracks: Tracks;
}) {
  const clip = useClip(take, take.markedFrame);
  const { jointConvention } = useStudio();
  const [search, setSearch] = useSearchParams();
  const drawn = useMemo(() => drawnOf(reading), [reading]);
  const shown = drawn.find((d) => d.key === search.get('curve')) ?? drawn[0];
  const { cursorDeg, goToTheta } = useTurnCursor(clip, reading);
  const side = useReading(session);
  const sideReading = side.status === 'read' && side.result.ok ? side.result : null;
  const measures = useMemo(
    () => judgeReading(sideReading, protocolOf(session), reading),
    [session, sideReading, reading],
  );
  const findings = useMemo(
    () =>
      byUrgency(
        workFindings(
          sideReading,
          measures.filter((q) => q.key === 'kneePathWidthMm'),
        ),
      ),
    [sideReading, measures],
  );
  const added = useComparedTables((file) => readFile('frontal', file));
  const chart = useMemo(
    () => ({
      name: shown.curves[0].name,
      measured: shown.curves[0].curve.meanOnGrid,
      spread: shown.curves[0].curve.sdOnGrid,
      sure: shown.curves[0].curve.ciOnGrid,
      compared: [
        ...shown.curves.slice(1).map((c) => ({ name: c.name, values: c.curve.meanOnGrid })),
        ...added.tables.flatMap((t) =>
          shown.columns.flatMap((c) => {
            const values = t.curves[c];
            return values ? [{ name: `${t.name}, ${c.replaceAll('_', ' ')}`, values }] : [];
          }),
        ),
      ],
    }),
    [shown, added.tables],
  );
  const small = useMemo(
    () =>
      drawn.map((d) => ({ key: d.key, name: d.name, unit: d.unit, values: d.curves[0].curve.meanOnGrid })),
    [drawn],
  );
  const { left, right } = reading.legs;
  const stance = reading.stanceMm;
  return (
    <Workbench
      clip={clip}
      label={`The film from the ${reading.view} with the points drawn on the rider`}
      sideWidth={520}
      top={
        <Box sx={{ display: 'flex', gap: 4, px: 1.5, pb: 1, flexWrap: 'wrap' }}>
          {(
            [
              ['Knee path, left', left],
              ['Knee path, right', right],
            ] as const
          ).map(([name, leg]) => (
            <Figure
              key={name}
              name={name}
              value={leg.pathWidthMm.value.toFixed(0)}
              plusMinus={`± ${leg.pathWidthMm.uncertainty.absoluteMm.toFixed(0)} mm`}
              testId={`path-${name.endsWith('left') ? 'left' : 'right'}`}
            />
          ))}
          <Figure
            name="Stance"
            value={stance.value.toFixed(0)}
            plusMinus={`± ${stance.uncertainty.absoluteMm.toFixed(0)} mm`}
            testId="stance"
          />
          <TurnFigures reading={reading} />
        </Box>
      }
      overlay={(size) => <FrontalOverlay size={size} tracks={tracks} frame={clip.shown} />}
    >
      <ProvisionalNote reading={reading} />
      <CadenceNote typed={take.cadenceRpm} read={reading.cadenceRpm} />
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Knee paths, seen from behind
        </Typography>
        <FrontalExport session={session} reading={reading} tracks={tracks} />
      </Box>
      <ChartTools name={`${session.id}-knee-paths`}>
        <KneeTrace reading={reading} cursorDeg={cursorDeg} />
      </ChartTools>
      <Multiples
        curves={small}
        selected={shown.key}
        cursorDeg={cursorDeg}
        onSelect={(key) => setSearch({ curve: key }, { replace: true, preventScrollReset: true })}
      />
      <Typography variant="body2" color="textSecondary">
        {shown.name}: {shown.hint}.{shown.curves.length === 2 && ' Full line: right. Dashed: left.'}
      </Typography>
      <ChartTools name={`${session.id}-${shown.key}`}>
        <StrokeChart
          label={shown.name}
          unit={shown.unit === 'mm' ? ' mm' : '°'}
          {...chart}
          cursorDeg={cursorDeg}
          onCursor={goToTheta}
        />
      </ChartTools>
      <ComparedTables
        compared={added}
        what="a table of curves"
        firstDash={shown.curves.length - 1}
        full={added.tables.length > 0}
      >
        {(table) => <FromTable table={table} columns={shown.columns} />}
      </ComparedTables>
      <Typography variant="h2" sx={{ mt: 2 }}>
        Left against right
      </Typography>
      <SideTable rows={legsCompared(reading)} convention={jointConvention} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, mt: 2 }}>
        <Level reading={reading} />
        <Breakdown unit="mm" {...inMm(right.pathWidthMm)} />
      </Box>
      <Findings
        session={session}
        reading={sideReading}
        frontal={reading}
        findings={findings}
        convention={jointConvention}
        onSee={clip.goTo}
      />
      <LossNote reading={reading} />
    </Workbench>
  );
}

/** How level pelvis and shoulders are, and where the hips sit. */
function Level({ reading }: { reading: FrontalReading }) {
  return (
    <Box>
      <Typography variant="h3">Level</Typography>
      <Line name="Pelvis" of={reading.pelvis} />
      <Line name="Shoulders" of={reading.shoulders} />
      {reading.hipShiftMm ? (
        <Typography variant="body2">
          Hips {reading.hipShiftMm.mean.value.toFixed(0).replace('-', '−')} ±{' '}
          {reading.hipShiftMm.mean.uncertainty.absoluteMm.toFixed(0)} mm to the right, swaying{' '}
          {reading.hipShiftMm.swing.value.toFixed(0)} mm.
        </Typography>
      ) : (
        <Typography variant="body2" color="textSecondary">
          Hips: not marked.
        </Typography>
      )}
      <ScaleNote reading={reading} />
    </Box>
  );
}

/** What a table says of the curve that is shown. */
const FromTable = ({
  table,
  columns,
}: {
  table: ComparedTable<FrontalColumn>;
  columns: readonly FrontalColumn[];
}) => (
  <Typography variant="body2" color="textSecondary">
    {columns
      .filter((c) => table.ends[c])
      .map((c) => {
        const { min, max } = table.ends[c]!;
        return `${c.replaceAll('_', ' ')} from ${min.toFixed(1)} to ${max.toFixed(1)}`.replaceAll('-', '−');
      })
      .join('; ') || 'The table has no such curve.'}
  </Typography>
);

function Line({ name, of }: { name: string; of: Obliquity | null }) {
  if (!of)
    return (
      <Typography variant="body2" color="textSecondary">
        {name}: not marked.
      </Typography>
    );
  const level = Math.abs(of.meanDeg) <= of.absoluteDeg;
  return (
    <Typography variant="body2">
      {name} {level ? 'level' : `${of.meanDeg > 0 ? 'left' : 'right'} higher`}:{' '}
      {Math.abs(of.meanDeg).toFixed(1)} ± {of.absoluteDeg.toFixed(1)}°, rocking {of.swingDeg.toFixed(1)}°.
    </Typography>
  );
}

/** From what the millimetres come, and whether the two lengths agree. */
function ScaleNote({ reading }: { reading: FrontalReading }) {
  const { crankRatio, distanceMm } = reading;
  return (
    <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
      Millimetres by {reading.scaleFrom === 'crank' ? 'the crank’s rise and fall' : 'the width alone'}
      {distanceMm && `; the lens stood about ${(distanceMm / 1000).toFixed(1)} m from the bottom bracket`}
      {crankRatio &&
        !distanceMm &&
        Math.abs(crankRatio - 1) > 0.15 &&
        '; width and crank do not agree: see on Scale'}
      .
    </Typography>
  );
}
