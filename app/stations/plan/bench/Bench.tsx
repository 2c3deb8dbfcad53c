import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { both, cannot, effectsOf, tidy, type Moves } from '../../../../core/plan/controls/controls.ts';
import type { ControlKey } from '../../../../core/plan/controls/controlTable.ts';
import { asItIs, forecastOf, laidOut } from '../../../../core/model/forecast.ts';
import { UNRELIABLE_FROM_DEG } from '../../../../core/model/legModel.ts';
import { bodyOf } from '../../../../core/plan/terms/plan.ts';
import { compensation, knockOns, pitchAtBottomDeg } from '../../../../core/plan/couplings.ts';
import { GRID_DEG } from '../../../../core/kinematics/curves.ts';
import type { Reading } from '../../../../core/kinematics/read.ts';
import { degrees, quoted } from '../../../ui/words/angleText';
import { BenchControls } from './BenchControls';
import { quotedBand } from '../../../../core/protocol/convention.ts';
import { Choice } from '../../../ui/Choice';
import { ForecastTable } from '../ForecastTable';
import { BuildFinder } from '../BuildFinder';
import { movesText } from '../../../ui/words/moveText';
import { OutlineDrawing } from '../../../ui/drawings/OutlineDrawing';
import { StrokeChart } from '../../../charts/StrokeChart';
import type { VisitCase } from '../../../../core/visit/visitCase.ts';
import { useStudio } from '../../../session/useStudio';
import { Variants } from '../Variants';
import type { Variant } from '../../../../core/plan/terms/planning.ts';

const CURVES = [
  ['kneeFlexionDeg', 'Knee'],
  ['hipAngleDeg', 'Hip'],
  ['ankleAngleDeg', 'Ankle'],
  ['footPitchDeg', 'Foot pitch'],
] as const;
type CurveKey = (typeof CURVES)[number][0];
const FROM_TURN = {
  kneeFlexionDeg: 'kneeDeg',
  hipAngleDeg: 'hipDeg',
  ankleAngleDeg: 'ankleDeg',
  footPitchDeg: 'pitchDeg',
} as const;

/** Any change tried on the rider's own model before a bolt is turned: outlines, curves and every measure follow at once. */
export function Bench({
  ground,
  reading,
  prescribed,
  stored,
  variants,
  onTrying,
  onVariants,
}: {
  ground: VisitCase;
  reading: Reading;
  /** What the prescription moves. */
  prescribed: Moves;
  stored: Moves | null;
  variants: readonly Variant[];
  onTrying: (moves: Moves | null) => void;
  onVariants: (list: Variant[]) => void;
}) {
  const { jointConvention, lengthUnit } = useStudio();
  const { case: c } = ground;
  // Where both legs were filmed either may be looked at; the nearer film's is shown first.
  const [leg, setLeg] = useState(c.sides[0].model.side);
  const shownSide = c.sides.find((s) => s.model.side === leg) ?? c.sides[0];
  const { model: near, measures } = shownSide;
  const settled = stored ?? prescribed;
  // While something is dragged the page alone knows of it.
  const [dragged, setDragged] = useState<Moves | null>(null);
  const moves = dragged ?? settled;
  const [cursor, setCursor] = useState(90);
  const [playing, setPlaying] = useState(false);
  const [askedCurve, setAskedCurve] = useState<CurveKey>('kneeFlexionDeg');
  const prepared = laidOut(near);
  const start = asItIs(prepared);
  const forecast = useMemo(
    () =>
      forecastOf(prepared, {
        measured: measures,
        fx: effectsOf(c.bike, moves),
        habits: c.habits,
        body: bodyOf(c),
        withTurn: true,
      }),
    [prepared, measures, c, moves],
  );
  const partner = compensation(moves, pitchAtBottomDeg(c.sides));
  const onMove = useCallback(
    (key: ControlKey, by: number) => setDragged((d) => tidy({ ...(d ?? settled), [key]: by })),
    [settled],
  );
  const put = useCallback(
    (next: Moves | null) => {
      setDragged(null);
      onTrying(next);
    },
    [onTrying],
  );
  const onSettle = useCallback(
    (key: ControlKey, by: number) => put(tidy({ ...settled, [key]: by })),
    [put, settled],
  );
  usePedalling(playing, reading.cadenceRpm, setCursor);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.key !== 'c' || e.ctrlKey || e.metaKey || e.target instanceof HTMLInputElement || !partner) return;
      put(both(settled, partner));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [partner, put, settled]);

  const refusal =
    cannot(c.bike, moves) ??
    (forecast.ok
      ? null
      : forecast.what === 'leg'
        ? `the leg can’t reach, ${forecast.missMm.toFixed(0)} mm too short at ${forecast.thetaDeg?.toFixed(0)}° of the crank`
        : `the arms can’t reach the bar, ${forecast.missMm.toFixed(0)} mm short`);
  const turn = forecast.ok && refusal === null ? forecast.turn : null;
  const i = Math.round(cursor / 2.5) % 144;
  const { angles } = ground.readings[near.side] ?? reading;
  const told = CURVES.filter(([key]) => angles[key]);
  const shownCurve = angles[askedCurve] ? askedCurve : (told[0]?.[0] ?? askedCurve);
  const curve = angles[shownCurve];
  const flip = (v: number): number => quoted(shownCurve, v, jointConvention);
  const predictedCurve =
    turn && start?.turn && curve
      ? curve.meanOnGrid.map((v, k) =>
          flip(v + turn[FROM_TURN[shownCurve]][k] - start.turn![FROM_TURN[shownCurve]][k]),
        )
      : null;
  const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const nothing = Object.keys(moves).length === 0;
  // What stands still while something is dragged is not worked out anew.
  const drawn = useMemo(
    () => ({
      measured: curve?.meanOnGrid.map((v) => quoted(shownCurve, v, jointConvention)) ?? [],
      spread: curve?.sdOnGrid,
      target:
        shownCurve === 'kneeFlexionDeg' && knee
          ? { band: quotedBand('knee', knee.band, jointConvention), text: 'target, straightest' }
          : null,
    }),
    [curve, shownCurve, jointConvention, knee],
  );
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '300px minmax(0, 1fr)', lg: '340px minmax(0, 1fr)' },
        gap: 3,
        p: { xs: 2, md: 2.5 },
      }}
    >
      <Box sx={{ order: { xs: 2, sm: 1 } }}>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1 }}>
          <Button variant={nothing ? 'contained' : 'outlined'} onClick={() => put({})}>
            As filmed
          </Button>
          <Button variant={!stored ? 'contained' : 'outlined'} onClick={() => put(null)}>
            The prescription
          </Button>
        </Box>
        {c.sides.length > 1 && (
          <Choice
            label="Leg shown"
            options={[
              ['left', 'left'],
              ['right', 'right'],
            ]}
            value={near.side}
            onChange={(v) => v && setLeg(v)}
          />
        )}
        <BenchControls
          bike={c.bike}
          parts={c.parts ?? []}
          moves={moves}
          onMove={onMove}
          onSettle={onSettle}
        />
      </Box>
      <Box sx={{ minWidth: 0, order: { xs: 1, sm: 2 } }}>
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 2.5 }}>
          <Box sx={{ minWidth: 0 }}>
            {start?.turn && (
              <OutlineDrawing
                measured={start.turn.outlines[i]}
                predicted={nothing ? null : (turn?.outlines[i] ?? null)}
                points={c.resolved.points}
                crankMm={near.leg.crankMm}
                sitShiftMm={effectsOf(c.bike, moves).sitMm}
                trouble={refusal}
              />
            )}
            <Pedals playing={playing} onPlaying={setPlaying} cursor={cursor} onCursor={setCursor} />
            <Typography variant="body2" color="textSecondary">
              filled: as filmed · dashed: predicted · {movesText(moves, lengthUnit)}
            </Typography>
            <Box component="ul" aria-label="Couplings" sx={{ m: 0, mt: 1, pl: 2.5 }}>
              {knockOns(c, moves).map((k) => (
                <li key={k}>{k}</li>
              ))}
            </Box>
            {partner && (
              <Button variant="outlined" sx={{ mt: 1 }} onClick={() => put(both(settled, partner))}>
                Compensate: {movesText(partner, lengthUnit)} (C)
              </Button>
            )}
            {forecast.ok && forecast.rounds && (
              <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
                The back is at its limit (it rounds on the hinge): lower or further, it rounds and the head
                lifts.
              </Alert>
            )}
            {near.residualDeg === null ? (
              <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
                A joint of this leg was not seen: its place is taken from usual proportions, and the model
                can’t be checked against the knee.
              </Alert>
            ) : near.residualDeg > UNRELIABLE_FROM_DEG ? (
              <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
                The rebuilt leg misses the measured knee by {degrees(near.residualDeg)}: what is predicted
                here is unreliable. Check the marks of hip, knee and ankle.
              </Alert>
            ) : (
              <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
                Model: thigh {near.leg.thighMm.toFixed(0)}, shank {near.leg.shankMm.toFixed(0)}, trunk{' '}
                {near.trunkMm.toFixed(0)}, arm {(near.upperArmMm + near.forearmMm).toFixed(0)} mm; it rebuilds
                the measured knee to {degrees(near.residualDeg, 2)}. Foot takes{' '}
                {Math.round(100 * c.habits.kappa.mean)} % of a leg change (±{' '}
                {Math.round(196 * c.habits.kappa.sd)}), back {Math.round(100 * c.habits.rho.mean)} % of a bar
                change (± {Math.round(196 * c.habits.rho.sd)}), until a second film tells this rider’s own.
              </Typography>
            )}
          </Box>
          <Box sx={{ minWidth: 0 }}>
            <ForecastTable
              measures={measures}
              predicted={forecast.ok && refusal === null ? forecast.measures : null}
              convention={jointConvention}
            />
          </Box>
        </Box>
        <Box sx={{ mt: 2 }}>
          <Choice
            label="Curve"
            hideLabel
            options={CURVES}
            value={shownCurve}
            onChange={(v) => v && setAskedCurve(v)}
          />
          <StrokeChart
            label={CURVES.find(([key]) => key === shownCurve)![1]}
            unit="°"
            height={240}
            {...drawn}
            predicted={nothing ? null : predictedCurve}
            cursorDeg={GRID_DEG[i]}
            onCursor={(deg) => setCursor(((deg % 360) + 360) % 360)}
          />
        </Box>
        <BuildFinder ground={ground} moves={settled} onTake={put} />
        <Variants
          ground={ground}
          moves={settled}
          list={variants}
          convention={jointConvention}
          onChange={onVariants}
          onTake={put}
        />
      </Box>
    </Box>
  );
}

/** Where the crank stands, by hand or turning. */
const Pedals = memo(function Pedals({
  playing,
  onPlaying,
  cursor,
  onCursor,
}: {
  playing: boolean;
  onPlaying: (playing: boolean) => void;
  cursor: number;
  onCursor: (deg: number) => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <IconButton aria-label={playing ? 'Stop pedalling' : 'Pedal'} onClick={() => onPlaying(!playing)}>
        {playing ? <Pause /> : <PlayArrow />}
      </IconButton>
      <Slider
        aria-label="Crank angle"
        size="small"
        value={cursor}
        min={0}
        max={357.5}
        step={2.5}
        onChange={(_, v) => {
          onPlaying(false);
          onCursor(v as number);
        }}
      />
      <Typography sx={{ width: 48, textAlign: 'right' }}>{cursor.toFixed(0)}°</Typography>
    </Box>
  );
});

/** The crank turns at the filmed cadence, a third of its speed so that the eye can follow. */
function usePedalling(on: boolean, cadenceRpm: number, set: (update: (deg: number) => number) => void): void {
  const last = useRef(0);
  useEffect(() => {
    if (!on) return undefined;
    let frame = 0;
    last.current = performance.now();
    const tick = (now: number): void => {
      const by = ((now - last.current) / 1000) * 6 * cadenceRpm * 0.33;
      last.current = now;
      set((deg) => (deg + by) % 360);
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [on, cadenceRpm, set]);
}
