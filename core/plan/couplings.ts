import { resolveBike } from '../bike/resolve.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { applyMoves, effectsOf, pick, type Moves } from './controls/controls.ts';
import type { PlanCase } from './terms/plan.ts';

/** Whole millimetres without their sign. */
const mm = (v: number): string => `${Math.abs(Math.round(v))} mm`;

/** The leg at the bottom leans forward by so much from the vertical: hip behind, ankle ahead (the handbook's leg). */
const LEG_LEANS = 0.137;
const USUAL_PITCH_DEG = 15;

/** How the near foot is held at the bottom, or as most hold it. */
export const pitchAtBottomDeg = (sides: PlanCase['sides'] | undefined): number =>
  sides?.[0]?.measures.find((m) => m.key === 'footPitch180Deg')?.value ?? USUAL_PITCH_DEG;

/**
 * What a cleat moved back asks of the leg at the bottom, as millimetres of saddle height: the ankle goes forward and down along the sole
 * (handbook: models, what a change does): 10 mm act like 3 at 10° of toe-down, like 5 at 20°.
 */
export function cleatAsHeightMm(backMm: number, pitchDeg: number): number {
  const pitch = pitchDeg * RAD_PER_DEG;
  return backMm * (LEG_LEANS * Math.cos(pitch) + Math.sin(pitch));
}

/** Couplings, in words: what a line does to the other two places (handbook: models, what a change does). */
export function knockOns(c: Pick<PlanCase, 'bike'> & { sides?: PlanCase['sides'] }, moves: Moves): string[] {
  const out: string[] = [];
  const cleat =
    Math.max(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0) ||
    Math.min(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0);
  if (cleat) {
    const like = cleatAsHeightMm(cleat, pitchAtBottomDeg(c.sides));
    out.push(`acts like ${mm(like)} of saddle ${cleat > 0 ? 'up' : 'down'}`);
  }
  const stack = (moves.pedalStack ?? 0) || (moves['shim.left'] ?? 0) || (moves['shim.right'] ?? 0);
  if (stack) out.push(`acts like a saddle ${mm(stack)} ${stack > 0 ? 'lower' : 'higher'} for that leg`);
  if (moves.crank)
    out.push(
      `the pedal is ${mm(moves.crank)} ${moves.crank < 0 ? 'higher' : 'lower'} at the bottom: saddle ${moves.crank < 0 ? 'up' : 'down'} ${mm(moves.crank)} keeps the bottom, and the top ${moves.crank < 0 ? 'gains' : 'loses'} twice as much room`,
    );
  if (cleat || moves.crank) out.push(...toeToTyre(c.bike, moves));
  const fx = effectsOf(c.bike, moves);
  const sit = pick(moves, ['saddleUp', 'saddleBack', 'saddleTilt']);
  if (Object.keys(sit).length) {
    if (Math.abs(fx.sitMm.x) >= 2)
      out.push(
        `the rider sits ${mm(fx.sitMm.x)} further ${fx.sitMm.x < 0 ? 'back: reach grows' : 'forward: reach shrinks'} by as much`,
      );
    if (Math.abs(fx.sitMm.y) >= 2)
      out.push(
        `${mm(fx.sitMm.y)} ${fx.sitMm.y > 0 ? 'higher: drop to the bar grows' : 'lower: drop to the bar shrinks'}`,
      );
  }
  if (Math.hypot(fx.handMm.x, fx.handMm.y) >= 2)
    out.push(
      `the hands come ${mm(fx.handMm.x)} ${fx.handMm.x < 0 ? 'nearer' : 'further'} and ${mm(fx.handMm.y)} ${fx.handMm.y < 0 ? 'lower' : 'higher'}`,
    );
  return out;
}

/** The gap from toe to tyre where it changes: less than a finger is reported, whatever it was. */
function toeToTyre(bike: BikeSetup, moves: Moves): string[] {
  const [a, b] = [resolveBike(bike).overlap, resolveBike(applyMoves(bike, moves)).overlap];
  const gap = (o: typeof a): number => Math.min(o.left?.gapMm ?? Infinity, o.right?.gapMm ?? Infinity);
  if (!Number.isFinite(gap(b)) || Math.abs(gap(b) - gap(a)) < 1) return [];
  return [
    `toe to front tyre, at its least: ${Math.round(gap(a))} → ${Math.round(gap(b))} mm${gap(b) <= 0 ? ': they touch when steering slowly, tell the rider' : ''}`,
  ];
}

/** The partner change that takes a move's effect off the leg's length again; null where there is none to take off. */
export function compensation(moves: Moves, pitchDeg = USUAL_PITCH_DEG): Moves | null {
  const cleat = ((moves['cleatBack.left'] ?? 0) + (moves['cleatBack.right'] ?? 0)) / 2;
  const up =
    -cleatAsHeightMm(cleat, pitchDeg) +
    (moves.pedalStack ?? 0) +
    Math.min(moves['shim.left'] ?? 0, moves['shim.right'] ?? 0) -
    (moves.crank ?? 0);
  const wanted = Math.round(up) - (moves.saddleUp ?? 0);
  return Math.abs(up) >= 1 && wanted !== 0 ? { saddleUp: wanted } : null;
}
