import { applyMoves, both, effectsOf, type Moves } from '../../core/plan/controls/controls.ts';
import type { BikeSetup } from '../../core/bike/setup.ts';
import { ridden, type Habit } from '../../sim/answer.ts';
import { CAST, type CastMember } from '../../sim/cast.ts';
import { satAnew } from '../../sim/human.ts';
import { seededRandom } from '../../sim/random.ts';
import { DOSSIERS } from './dossiers.ts';

/** What Maren's foot and back really take of a change: known to the simulation alone, and to the test of what the films teach. */
export const MAREN_HABIT: Habit = { kappa: 0.2, rho: 0.62 };

/** What stood moved on Maren's bike when she was filmed again, and when she came back after six weeks: each from the film before. */
export const MAREN_MOVES: Record<'second' | 'third', Moves> = {
  second: { saddleTilt: 2, saddleUp: 9, saddleBack: 10 },
  third: { saddleTilt: 0.5, saddleUp: 9, stemLength: -20 },
};

const asFound = DOSSIERS.maren.asFound;

/** Maren's bike at each film. */
export const MAREN_BIKE: Record<'first' | 'second' | 'third', BikeSetup> = {
  first: asFound,
  second: applyMoves(asFound, MAREN_MOVES.second),
  third: applyMoves(asFound, both(MAREN_MOVES.second, MAREN_MOVES.third)),
};

/** Maren on the bike with everything moved that was moved up to then, by the simulation's own model. */
function again(id: string, moves: Moves, seconds: number, seed: number): CastMember {
  const first = CAST.find((m) => m.id === 'maren')!;
  const fx = effectsOf(asFound, moves);
  const rider = ridden(
    first.scene.rider,
    { sitMm: fx.sitMm, handMm: fx.handMm, crankMm: 0, cleatBackMm: 0, stackMm: 0 },
    MAREN_HABIT,
  );
  if (!rider) throw new Error('Maren cannot reach on the moved bike.');
  const { bike } = first.scene;
  const { saddleTop } = bike;
  return {
    ...first,
    id,
    seconds,
    scene: {
      ...first.scene,
      rider: satAnew(rider, seededRandom(seed)),
      bike: { ...bike, saddleTop: { x: saddleTop.x + fx.sitMm.x, y: saddleTop.y + fx.sitMm.y } },
    },
  };
}

/** The films of Maren's second round, with the camera where it stood, and of her visit after six weeks, when it stood anew. */
export const MAREN_AGAIN: readonly CastMember[] = (() => {
  const second = again('maren-second', MAREN_MOVES.second, 6, 21);
  const third = again('maren-third', both(MAREN_MOVES.second, MAREN_MOVES.third), 6, 35);
  const { scene, film } = third;
  return [
    { ...second, film: { ...second.film, seed: 2 } },
    {
      ...third,
      film: { ...film, seed: 3 },
      scene: {
        ...scene,
        camera: { ...scene.camera, distanceMm: 4700, mmPerPx: 2.6, yawDeg: -0.8, rollDeg: -0.2 },
        look: { ...scene.look, jersey: [146, 120, 84] },
        rider: { ...scene.rider, cadenceRpm: 86, startThetaDeg: 118 },
      },
    },
  ];
})();
