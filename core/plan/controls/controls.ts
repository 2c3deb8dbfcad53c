import { clampPoint, hoodPoint, type HeadTube } from '../../bike/cockpit.ts';
import type { BikeSetup, FootSetup } from '../../bike/setup.ts';
import { WASHER_MM } from '../../bike/stance.ts';
import { RAD_PER_DEG } from '../../math/angles.ts';
import type { PlanePoint } from '../../math/vec.ts';
import type { Effects, LegSide } from '../../model/effects.ts';
import { putValue, valueAt } from '../../bike/path.ts';
import { CONTROLS, type ControlKey } from './controlTable.ts';

/** By how much each control is moved from where it stands; what is not there stays. */
export type Moves = Partial<Record<ControlKey, number>>;

/** Moves without those that move nothing. */
export const tidy = (moves: Moves): Moves =>
  Object.fromEntries(Object.entries(moves).filter(([, by]) => Math.abs(by) > 1e-9));

/** Some of the moves. */
export const pick = (moves: Moves, keys: readonly ControlKey[]): Moves =>
  Object.fromEntries(Object.entries(moves).filter(([key]) => keys.includes(key as ControlKey)));

/** Two sets of moves one after the other. */
export function both(a: Moves, b: Moves): Moves {
  const out: Moves = { ...a };
  for (const [key, by] of Object.entries(b) as [ControlKey, number][]) out[key] = (out[key] ?? 0) + by;
  return tidy(out);
}

/** Where a control stands on this bike as a number, or null where it was not measured. A flipped stem is 1. */
export function standsAt(bike: BikeSetup, key: ControlKey): number | null {
  const v = valueAt(bike, CONTROLS[key].at);
  return typeof v === 'number' ? v : typeof v === 'boolean' ? Number(v) : null;
}

/** Closer than any tape, so that many small steps add up to what one large one makes. */
const hundredth = (v: number): number => Math.round(100 * v) / 100;

/** A saddle that goes up along the seat tube goes back as well: by so much the plumb line then reads more. */
const backByHeight = (bike: BikeSetup, upMm: number): number =>
  upMm * Math.cos(bike.frame.seatAngleDeg * RAD_PER_DEG);

/**
 * By how much a control was moved from one set-up to another; null where it was not measured. What the height brings to the setback
 * was no move of the saddle on its rails.
 */
export function movedBy(from: BikeSetup, to: BikeSetup, key: ControlKey): number | null {
  const [a, b] = [standsAt(from, key), standsAt(to, key)];
  if (a === null || b === null) return null;
  if (key !== 'saddleBack') return b - a;
  return hundredth(b - a - backByHeight(from, movedBy(from, to, 'saddleUp') ?? 0));
}

/** The bike after moves. What was not measured stays open: a move of it is known only as a move. */
export function applyMoves(bike: BikeSetup, moves: Moves): BikeSetup {
  let out = bike;
  for (const [key, by] of Object.entries(moves) as [ControlKey, number][]) {
    const from = standsAt(out, key);
    if (from === null) continue;
    const to = Math.round(1000 * (from + by)) / 1000;
    out = putValue(out, CONTROLS[key].at, key === 'stemFlip' ? to > 0.5 : to) ?? out;
  }
  // What was measured another way moves along, so that the two ways go on agreeing.
  const s = out.saddle;
  const up = moves.saddleUp ?? 0;
  const carried = backByHeight(bike, up);
  const back = (moves.saddleBack ?? 0) + carried;
  const crank = moves.crank ?? 0;
  return {
    ...out,
    saddle: {
      ...s,
      heightToSpindleMm: s.heightToSpindleMm === null ? null : s.heightToSpindleMm + up + crank,
      setback80Mm: s.setback80Mm === null ? null : hundredth(s.setback80Mm + carried),
      setbackNoseMm: s.setbackNoseMm === null ? null : hundredth(s.setbackNoseMm + back),
      postShowingMm: s.postShowingMm === null ? null : s.postShowingMm + up,
    },
  };
}

/** A front that stands in where the frame was not measured: only its angles count for a move. */
const USUAL: HeadTube = { stackMm: 580, reachMm: 385, headAngleDeg: 72.5 };
/** The sit bones rest about this far behind the middle of the rails' clamp: what a turn about the clamp lowers. */
const SIT_BEHIND_CLAMP_MM = 45;
/** A lever moved up round a bar's bend goes up and a little back (mean tangent of the bend at the hoods, 60°). */
const HOOD_TANGENT: PlanePoint = { x: -0.5, y: 0.87 };

/** The hood from the set-up, with usual angles for what is open; only differences of it are used. */
function hoodFor(bike: BikeSetup, moves: Moves): PlanePoint {
  const head = {
    stackMm: bike.frame.stackMm ?? USUAL.stackMm,
    reachMm: bike.frame.reachMm ?? USUAL.reachMm,
    headAngleDeg: bike.frame.headAngleDeg ?? USUAL.headAngleDeg,
  };
  const by = (key: ControlKey): number => moves[key] ?? 0;
  const clamp = clampPoint(head, {
    ...bike.stem,
    lengthMm: (bike.stem.lengthMm ?? 90) + by('stemLength'),
    angleDeg: (bike.stem.angleDeg ?? -6) + by('stemAngle'),
    flipped: Number(bike.stem.flipped) + by('stemFlip') > 0.5,
    spacersMm: (bike.stem.spacersMm ?? 15) + by('spacers'),
  });
  const hood = hoodPoint(clamp, {
    reachMm: (bike.bar.reachMm ?? 75) + by('barReach'),
    hoodRiseMm: bike.bar.hoodRiseMm ?? 0,
    rotationDeg: (bike.bar.rotationDeg ?? 0) + by('barRotation'),
  });
  return {
    x: hood.x + HOOD_TANGENT.x * by('hoods') + by('padAhead'),
    y: hood.y + HOOD_TANGENT.y * by('hoods') + by('padRise'),
  };
}

/** By how much a foot comes out from the bike's middle, mm (handbook: rules, stance arithmetic). */
export const stanceByMm = (moves: Moves, side: LegSide): number =>
  (moves.pedalAxle ?? 0) + WASHER_MM * (moves[`washers.${side}`] ?? 0) - (moves[`cleatOut.${side}`] ?? 0);

/** What moves do where the rider touches the bike (handbook: models, what a change does, frame and cockpit; rules, stance arithmetic). */
export function effectsOf(bike: BikeSetup, moves: Moves): Effects {
  const by = (key: ControlKey): number => moves[key] ?? 0;
  const seat = bike.frame.seatAngleDeg * RAD_PER_DEG;
  const tilt = bike.saddle.tiltDeg ?? 0;
  const turned =
    -SIT_BEHIND_CLAMP_MM * (Math.tan((tilt + by('saddleTilt')) * RAD_PER_DEG) - Math.tan(tilt * RAD_PER_DEG));
  const before = hoodFor(bike, {});
  const after = hoodFor(bike, moves);
  const leg = (side: LegSide): Effects['legs']['left'] => ({
    cleatBackMm: by(`cleatBack.${side}`),
    stackMm: by('pedalStack') + by(`shim.${side}`),
    stanceMm: stanceByMm(moves, side),
  });
  return {
    sitMm: {
      x: -by('saddleUp') * Math.cos(seat) - by('saddleBack'),
      y: by('saddleUp') * Math.sin(seat) + turned,
    },
    handMm: { x: after.x - before.x, y: after.y - before.y },
    crankMm: by('crank'),
    legs: { left: leg('left'), right: leg('right') },
    barWidthMm: by('barWidth'),
  };
}

/** Why a setting cannot be had, in words; null where it can. */
export function cannot(bike: BikeSetup, moves: Moves): string | null {
  const to = applyMoves(bike, moves);
  const s = to.saddle;
  if (s.postShowingMm !== null && s.postShowingMostMm !== null && s.postShowingMm > s.postShowingMostMm)
    return `the seatpost would stand ${Math.round(s.postShowingMm - s.postShowingMostMm)} mm past its minimum insertion`;
  if (s.postShowingMm !== null && s.postShowingMm < 10 && (moves.saddleUp ?? 0) < 0)
    return 'the seatpost can go no further down in this frame';
  if (Math.abs(moves.saddleBack ?? 0) > RAIL_RANGE_MM)
    return `the rails give about ${RAIL_RANGE_MM} mm either way: another seatpost would be needed`;
  if (to.stem.spacersMm !== null && to.stem.spacersMm < 0) return 'there are no more spacers to take out';
  if (
    to.stem.spacersMm !== null &&
    to.stem.spacersMm > MOST_SPACERS_MM &&
    to.stem.spacersMm > (bike.stem.spacersMm ?? 0)
  )
    return `more than ${MOST_SPACERS_MM} mm of spacers is past what steerers allow`;
  if (to.stem.lengthMm !== null && (to.stem.lengthMm < 35 || to.stem.lengthMm > 140))
    return `no stem of ${to.stem.lengthMm} mm is made`;
  if (to.crank.lengthMm !== null && (to.crank.lengthMm < 140 || to.crank.lengthMm > 185))
    return `no crank of ${to.crank.lengthMm} mm is made`;
  for (const [side, f] of Object.entries(to.feet) as [LegSide, FootSetup][]) {
    if (f.washers > 1) return `one washer only under the ${side} pedal: the thread must engage`;
    if (f.washers < 0) return `there is no washer under the ${side} pedal to take out`;
    if (f.shimMm < 0) return `there is no shim under the ${side} cleat to take out`;
    if (Math.abs(f.cleatOutwardMm ?? 0) > CLEAT_ACROSS_MM && (moves[`cleatOut.${side}`] ?? 0) !== 0)
      return `the ${side} cleat’s slots give ${CLEAT_ACROSS_MM} mm either way`;
  }
  if ((moves.padRise || moves.padAhead) && !bike.extensions) return 'this bike has no extensions';
  return null;
}

/** Rails let a saddle go this far either way from where it is, as a rule; steerers carry this much under a stem (makers’ usual). */
export const RAIL_RANGE_MM = 25;
const MOST_SPACERS_MM = 50;
const CLEAT_ACROSS_MM = 5;
