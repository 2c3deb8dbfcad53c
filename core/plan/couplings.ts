import { resolveBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { applyMoves, effectsOf, pick, type Moves } from './controls.ts';
import type { PlanCase } from './plan.ts';

/** Whole millimetres without their sign. */
export const mm = (v: number): string => `${Math.abs(Math.round(v))} mm`;

/** Couplings, in words: what a line does to the other two places (handbook: models, what a change does). */
export function knockOns(c: Pick<PlanCase, 'bike'>, moves: Moves): string[] {
  const out: string[] = [];
  const cleat =
    Math.max(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0) ||
    Math.min(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0);
  if (cleat) out.push(`acts like ${mm(cleat / 2)} of saddle ${cleat > 0 ? 'up' : 'down'}`);
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

/** The gap from toe to tyre where it changes: less than a finger is told, whatever it was. */
function toeToTyre(bike: BikeSetup, moves: Moves): string[] {
  const [a, b] = [resolveBike(bike).overlap, resolveBike(applyMoves(bike, moves)).overlap];
  const gap = (o: typeof a): number => Math.min(o.left?.gapMm ?? Infinity, o.right?.gapMm ?? Infinity);
  if (!Number.isFinite(gap(b)) || Math.abs(gap(b) - gap(a)) < 1) return [];
  return [
    `toe to front tyre, at its least: ${Math.round(gap(a))} → ${Math.round(gap(b))} mm${gap(b) <= 0 ? ': they touch when steering slowly, tell the rider' : ''}`,
  ];
}

/** The partner change that takes a move's effect off the leg's length again; null where there is none to take off. */
export function compensation(moves: Moves): Moves | null {
  const cleat = ((moves['cleatBack.left'] ?? 0) + (moves['cleatBack.right'] ?? 0)) / 2;
  const up =
    -0.5 * cleat +
    (moves.pedalStack ?? 0) +
    Math.min(moves['shim.left'] ?? 0, moves['shim.right'] ?? 0) -
    (moves.crank ?? 0);
  const wanted = Math.round(up) - (moves.saddleUp ?? 0);
  return Math.abs(up) >= 1 && wanted !== 0 ? { saddleUp: wanted } : null;
}
