import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { memo, useCallback, useDeferredValue, useEffect, useState } from 'react';
import type { Reading } from '../../../../core/kinematics/read.ts';
import type { ControlKey } from '../../../../core/plan/controls/controlTable.ts';
import { both, tidy, type Moves } from '../../../../core/plan/controls/controls.ts';
import type { Variant } from '../../../../core/plan/terms/planning.ts';
import type { VisitCase } from '../../../../core/visit/visitCase.ts';
import { useStudio } from '../../../session/useStudio';
import { READ_MS, useAtMostEvery } from '../../../ui/useAtMostEvery';
import { Choice } from '../../../ui/fields/Choice';
import { OutlineDrawing } from '../../../ui/drawings/OutlineDrawing';
import { BuildFinder } from '../BuildFinder';
import { ForecastTable } from '../ForecastTable';
import { Variants } from '../Variants';
import { BenchControls } from './BenchControls';
import { BenchCurve } from './BenchCurve';
import { BenchEffects } from './BenchEffects';
import { Pedals, usePedalling } from './Pedals';
import { useTried } from './tried';

/** Moves while they are dragged, which the page alone knows of, and when they have come to rest. */
function useMoves(settled: Moves, onTrying: (moves: Moves | null) => void) {
  const [dragged, setDragged] = useState<Moves | null>(null);
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
  return { moves: dragged ?? settled, onMove, onSettle, put };
}

/** Where trying begins: the bike as it was filmed, or with all that is prescribed. */
const Starts = memo(function Starts({
  asFilmed,
  prescribed,
  onPut,
}: {
  asFilmed: boolean;
  prescribed: boolean;
  onPut: (moves: Moves | null) => void;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1 }}>
      <Button variant={asFilmed ? 'contained' : 'outlined'} onClick={() => onPut({})}>
        As filmed
      </Button>
      <Button variant={prescribed ? 'contained' : 'outlined'} onClick={() => onPut(null)}>
        The prescription
      </Button>
    </Box>
  );
});

/** Any change tried on the rider's own model before a bolt is turned: outlines, curves and every measure follow at once. */
export function Bench({
  visitCase,
  reading,
  prescribed,
  stored,
  variants,
  onTrying,
  onVariants,
}: {
  visitCase: VisitCase;
  reading: Reading;
  /** What the prescription moves. */
  prescribed: Moves;
  stored: Moves | null;
  variants: readonly Variant[];
  onTrying: (moves: Moves | null) => void;
  onVariants: (list: Variant[]) => void;
}) {
  const { jointConvention } = useStudio();
  const { case: c } = visitCase;
  // Where both legs were filmed either may be looked at; the nearer film's is shown first.
  const [leg, setLeg] = useState(c.sides[0].model.side);
  const side = c.sides.find((s) => s.model.side === leg) ?? c.sides[0];
  const { model: near, measures } = side;
  const settled = stored ?? prescribed;
  const { moves, onMove, onSettle, put } = useMoves(settled, onTrying);
  const [cursor, setCursor] = useState(90);
  const [playing, setPlaying] = useState(false);
  const { tried, start } = useTried(c, side, moves);
  // The hand's own row and the outline go with every frame; figures and words follow as fast as they can be read.
  const followed = useDeferredValue(useAtMostEvery(READ_MS, tried));
  usePedalling(playing, reading.cadenceRpm, setCursor);
  const { partner } = tried;
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.key !== 'c' || e.ctrlKey || e.metaKey || e.target instanceof HTMLInputElement || !partner) return;
      put(both(settled, partner));
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [partner, put, settled]);
  const onCursor = useCallback((deg: number) => setCursor(((deg % 360) + 360) % 360), []);
  const gridIndex = Math.round(cursor / 2.5) % 144;
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
        <Starts asFilmed={tried.nothing} prescribed={!stored} onPut={put} />
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
                measured={start.turn.outlines[gridIndex]}
                predicted={tried.nothing ? null : (tried.turn?.outlines[gridIndex] ?? null)}
                points={c.resolved.points}
                crankMm={near.leg.crankMm}
                sitShiftMm={tried.sitMm}
                trouble={tried.refusal}
              />
            )}
            <Pedals playing={playing} onPlaying={setPlaying} cursor={cursor} onCursor={setCursor} />
            <BenchEffects visitCase={c} model={near} tried={followed} settled={settled} onPut={put} />
          </Box>
          <Box sx={{ minWidth: 0 }}>
            <ForecastTable measures={measures} predicted={followed.measures} convention={jointConvention} />
          </Box>
        </Box>
        <Box sx={{ mt: 2 }}>
          <BenchCurve
            angles={(visitCase.readings[near.side] ?? reading).angles}
            measures={measures}
            start={start?.turn ?? null}
            turn={followed.nothing ? null : followed.turn}
            gridIndex={gridIndex}
            onCursor={onCursor}
          />
        </Box>
        <BuildFinder visitCase={visitCase} moves={settled} onTake={put} />
        <Variants
          visitCase={visitCase}
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
