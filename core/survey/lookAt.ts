import type { View } from '../landmarks/landmarks.ts';
import type { Known } from '../landmarks/layout.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import { nameFilm, type HeldFilm, type NamedFilm } from './nameFilm.ts';
import { findWheels, type FoundWheels } from './wheels.ts';

/** Pictures are held for about a turn of the crank, from so far into the film on, and no more of them a second. */
const HELD_S = 1.15;
const HELD_FROM = 0.3;
export const HELD_PER_S = 62;
/** Of larger pictures fewer are held. */
export const HELD_BYTES = 180_000_000;
/** Pictures on which the wheels are looked for. */
const WHEEL_PICTURES = 3;

/** Which pictures of a film are held for its names and wheels. @returns asked with each picture's time, in their order */
export function holding(fromS: number, toS: number): (tS: number) => boolean {
  const spanS = toS - fromS;
  const firstS = fromS + Math.max(0, Math.min(HELD_FROM * spanS, spanS - HELD_S));
  let lastS = -Infinity;
  return (tS) => {
    const holds = tS >= firstS - 1e-6 && tS <= firstS + HELD_S && tS - lastS > 1 / HELD_PER_S - 1e-3;
    if (holds) lastS = tS;
    return holds;
  };
}

/** The stickers of a film with their names, and its wheels. */
export function lookAt(
  film: HeldFilm,
  view: View,
  known: Known,
): { named: NamedFilm | null; wheels: FoundWheels | null } {
  if (film.frames.length === 0) return { named: null, wheels: null };
  const named = nameFilm(film, view, known);
  return { named, wheels: wheelsOn(film, named, known.facing) };
}

/** A film's wheels: by the pedal's circle where a foot was seen to turn, else anywhere. @param facing which way the bike points, where it is known */
export function wheelsOn(
  film: HeldFilm,
  named: NamedFilm | null,
  facing: Known['facing'],
): FoundWheels | null {
  const pictures = Array.from(
    { length: WHEEL_PICTURES },
    (_, k): PlanarFrame => film.frames[Math.floor((k / WHEEL_PICTURES) * film.frames.length)],
  );
  const hint = named?.pedalPx
    ? { mmPerPx: named.mmPerPx, facing: named.facing, pedalPx: named.pedalPx }
    : null;
  return (
    (hint && findWheels(pictures, hint)) ?? findWheels(pictures, null, named?.facing ?? facing ?? 'right')
  );
}
