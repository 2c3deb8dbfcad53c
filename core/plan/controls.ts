import { clampPoint, hoodPoint, type HeadTube } from '../bike/cockpit.ts';
import type { BikeSetup, FootSetup } from '../bike/setup.ts';
import { WASHER_MM } from '../bike/stance.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import type { Effects, LegSide } from '../model/effects.ts';
import { putValue, valueAt } from '../bike/path.ts';

export type Stage = 'feet' | 'saddle' | 'cockpit';
export type { Effects, LegSide };

/** Something a fitter can move, and how: its place in the set-up, the handbook's step, and what one visit allows. */
export interface Control {
  stage: Stage;
  name: string;
  at: string;
  unit: 'mm' | '°' | '';
  /** In steps of (handbook: targets, steps and limits). */
  step: number;
  /** What it can be moved by on any bike: slots, rails, parts that are made. */
  least: number;
  most: number;
  /** What moving it down and up is called. */
  words: readonly [down: string, up: string];
  /** Price of touching it: free adjustment before part before new shoe. */
  price: number;
  side?: LegSide;
}

const foot = (side: LegSide) =>
  ({
    [`cleatBack.${side}`]: {
      stage: 'feet',
      name: `Cleat fore-aft, ${side}`,
      at: `feet.${side}.cleatBehindMm`,
      unit: 'mm',
      step: 2,
      least: -12,
      // Slots give 14 mm at the most; a mid-foot plate the rest.
      most: 40,
      words: ['forward', 'back'],
      price: 1,
      side,
    },
    [`cleatOut.${side}`]: {
      stage: 'feet',
      name: `Cleat across, ${side}`,
      at: `feet.${side}.cleatOutwardMm`,
      unit: 'mm',
      step: 1,
      least: -6,
      most: 6,
      words: ['in: foot out', 'out: foot in'],
      price: 1,
      side,
    },
    [`heelOut.${side}`]: {
      stage: 'feet',
      name: `Cleat rotation, ${side}`,
      at: `feet.${side}.heelOutDeg`,
      unit: '°',
      step: 1,
      least: -12,
      most: 12,
      words: ['heel in', 'heel out'],
      price: 1,
      side,
    },
    [`washers.${side}`]: {
      stage: 'feet',
      name: `Pedal washer, ${side}`,
      at: `feet.${side}.washers`,
      unit: '',
      step: 1,
      least: -1,
      most: 1,
      words: ['off', 'on'],
      price: 1.5,
      side,
    },
    [`wedge.${side}`]: {
      stage: 'feet',
      name: `Wedge, ${side}`,
      at: `feet.${side}.wedgeDeg`,
      unit: '°',
      step: 1.5,
      least: -4.5,
      most: 4.5,
      words: ['less', 'inside raised'],
      price: 2,
      side,
    },
    [`shim.${side}`]: {
      stage: 'feet',
      name: `Shim, ${side}`,
      at: `feet.${side}.shimMm`,
      unit: 'mm',
      step: 1,
      least: -6,
      most: 6,
      words: ['thinner', 'thicker'],
      price: 2,
      side,
    },
  }) as unknown as Record<FootKey, Control>;

type FootKey = `${'cleatBack' | 'cleatOut' | 'heelOut' | 'washers' | 'wedge' | 'shim'}.${LegSide}`;

const WHOLE = {
  pedalAxle: control('feet', 'Pedal axle', 'pedals.axleLengthMm', 'mm', 1, -10, 20, 'shorter', 'longer', 3),
  pedalStack: control('feet', 'Pedal stack', 'pedals.stackMm', 'mm', 1, -10, 10, 'thinner', 'thicker', 3),
  saddleUp: control('saddle', 'Saddle height', 'saddle.heightMm', 'mm', 3, -60, 60, 'down', 'up', 1),
  saddleBack: control('saddle', 'Setback', 'saddle.setback80Mm', 'mm', 5, -40, 40, 'forward', 'back', 1),
  saddleTilt: control('saddle', 'Saddle tilt', 'saddle.tiltDeg', '°', 1, -8, 8, 'nose down', 'nose up', 1),
  saddleWidth: control('saddle', 'Saddle width', 'saddle.widthMm', 'mm', 1, -50, 50, 'narrower', 'wider', 3),
  crank: control('saddle', 'Crank length', 'crank.lengthMm', 'mm', 2.5, -25, 15, 'shorter', 'longer', 4),
  stemLength: control('cockpit', 'Stem length', 'stem.lengthMm', 'mm', 10, -70, 60, 'shorter', 'longer', 1.5),
  stemAngle: control('cockpit', 'Stem angle', 'stem.angleDeg', '°', 1, -30, 60, 'down', 'up', 2),
  stemFlip: control('cockpit', 'Stem', 'stem.flipped', '', 1, -1, 1, 'turned back', 'turned over', 1.3),
  spacers: control('cockpit', 'Spacers', 'stem.spacersMm', 'mm', 5, -60, 40, 'fewer', 'more', 1),
  barReach: control('cockpit', 'Bar reach', 'bar.reachMm', 'mm', 5, -40, 40, 'shorter', 'longer', 4),
  barWidth: control('cockpit', 'Bar width', 'bar.widthMm', 'mm', 20, -200, 200, 'narrower', 'wider', 4),
  barRotation: control('cockpit', 'Bar rotation', 'bar.rotationDeg', '°', 1, -20, 20, 'down', 'up', 1),
  hoods: control(
    'cockpit',
    'Hoods along the bar',
    'levers.fromEndMm',
    'mm',
    5,
    -30,
    30,
    'lower',
    'higher',
    1.5,
  ),
  leverReach: control('cockpit', 'Lever reach', 'levers.reachMm', 'mm', 2, -30, 20, 'nearer', 'further', 1),
  padRise: control('cockpit', 'Pads’ height', 'extensions.padRiseMm', 'mm', 5, -60, 80, 'lower', 'higher', 1),
  padAhead: control('cockpit', 'Pads ahead', 'extensions.padAheadMm', 'mm', 5, -60, 60, 'back', 'forward', 1),
} satisfies Record<string, Control>;

function control(
  stage: Stage,
  name: string,
  at: string,
  unit: Control['unit'],
  step: number,
  least: number,
  most: number,
  down: string,
  up: string,
  price: number,
): Control {
  return { stage, name, at, unit, step, least, most, words: [down, up], price };
}

export type ControlKey = FootKey | keyof typeof WHOLE;

/** Everything that can be moved, in working order: feet, saddle, cockpit. */
export const CONTROLS: Record<ControlKey, Control> = {
  ...foot('left'),
  ...foot('right'),
  ...WHOLE,
};
export const CONTROL_KEYS = Object.keys(CONTROLS) as ControlKey[];

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
