import type { LegSide } from '../../model/effects.ts';

export type Stage = 'feet' | 'saddle' | 'cockpit';

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

// eslint-disable-next-line max-lines-per-function -- one row after the other of a foot’s controls
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
  pedalAxle: {
    stage: 'feet',
    name: 'Pedal axle',
    at: 'pedals.axleLengthMm',
    unit: 'mm',
    step: 1,
    least: -10,
    most: 20,
    words: ['shorter', 'longer'],
    price: 3,
  },
  pedalStack: {
    stage: 'feet',
    name: 'Pedal stack',
    at: 'pedals.stackMm',
    unit: 'mm',
    step: 1,
    least: -10,
    most: 10,
    words: ['thinner', 'thicker'],
    price: 3,
  },
  saddleUp: {
    stage: 'saddle',
    name: 'Saddle height',
    at: 'saddle.heightMm',
    unit: 'mm',
    step: 3,
    least: -60,
    most: 60,
    words: ['down', 'up'],
    price: 1,
  },
  saddleBack: {
    stage: 'saddle',
    name: 'Setback',
    at: 'saddle.setback80Mm',
    unit: 'mm',
    step: 5,
    least: -40,
    most: 40,
    words: ['forward', 'back'],
    price: 1,
  },
  saddleTilt: {
    stage: 'saddle',
    name: 'Saddle tilt',
    at: 'saddle.tiltDeg',
    unit: '°',
    step: 1,
    least: -8,
    most: 8,
    words: ['nose down', 'nose up'],
    price: 1,
  },
  saddleWidth: {
    stage: 'saddle',
    name: 'Saddle width',
    at: 'saddle.widthMm',
    unit: 'mm',
    step: 1,
    least: -50,
    most: 50,
    words: ['narrower', 'wider'],
    price: 3,
  },
  crank: {
    stage: 'saddle',
    name: 'Crank length',
    at: 'crank.lengthMm',
    unit: 'mm',
    step: 2.5,
    least: -25,
    most: 15,
    words: ['shorter', 'longer'],
    price: 4,
  },
  stemLength: {
    stage: 'cockpit',
    name: 'Stem length',
    at: 'stem.lengthMm',
    unit: 'mm',
    step: 10,
    least: -70,
    most: 60,
    words: ['shorter', 'longer'],
    price: 1.5,
  },
  stemAngle: {
    stage: 'cockpit',
    name: 'Stem angle',
    at: 'stem.angleDeg',
    unit: '°',
    step: 1,
    least: -30,
    most: 60,
    words: ['down', 'up'],
    price: 2,
  },
  stemFlip: {
    stage: 'cockpit',
    name: 'Stem',
    at: 'stem.flipped',
    unit: '',
    step: 1,
    least: -1,
    most: 1,
    words: ['turned back', 'turned over'],
    price: 1.3,
  },
  spacers: {
    stage: 'cockpit',
    name: 'Spacers',
    at: 'stem.spacersMm',
    unit: 'mm',
    step: 5,
    least: -60,
    most: 40,
    words: ['fewer', 'more'],
    price: 1,
  },
  barReach: {
    stage: 'cockpit',
    name: 'Bar reach',
    at: 'bar.reachMm',
    unit: 'mm',
    step: 5,
    least: -40,
    most: 40,
    words: ['shorter', 'longer'],
    price: 4,
  },
  barWidth: {
    stage: 'cockpit',
    name: 'Bar width',
    at: 'bar.widthMm',
    unit: 'mm',
    step: 20,
    least: -200,
    most: 200,
    words: ['narrower', 'wider'],
    price: 4,
  },
  barRotation: {
    stage: 'cockpit',
    name: 'Bar rotation',
    at: 'bar.rotationDeg',
    unit: '°',
    step: 1,
    least: -20,
    most: 20,
    words: ['down', 'up'],
    price: 1,
  },
  hoods: {
    stage: 'cockpit',
    name: 'Hoods along the bar',
    at: 'levers.fromEndMm',
    unit: 'mm',
    step: 5,
    least: -30,
    most: 30,
    words: ['lower', 'higher'],
    price: 1.5,
  },
  leverReach: {
    stage: 'cockpit',
    name: 'Lever reach',
    at: 'levers.reachMm',
    unit: 'mm',
    step: 2,
    least: -30,
    most: 20,
    words: ['nearer', 'further'],
    price: 1,
  },
  padRise: {
    stage: 'cockpit',
    name: 'Pads’ height',
    at: 'extensions.padRiseMm',
    unit: 'mm',
    step: 5,
    least: -60,
    most: 80,
    words: ['lower', 'higher'],
    price: 1,
  },
  padAhead: {
    stage: 'cockpit',
    name: 'Pads ahead',
    at: 'extensions.padAheadMm',
    unit: 'mm',
    step: 5,
    least: -60,
    most: 60,
    words: ['back', 'forward'],
    price: 1,
  },
} satisfies Record<string, Control>;

export type ControlKey = FootKey | keyof typeof WHOLE;

/** Everything that can be moved, in working order: feet, saddle, cockpit. */
export const CONTROLS: Record<ControlKey, Control> = {
  ...foot('left'),
  ...foot('right'),
  ...WHOLE,
} satisfies Record<string, Control>;
export const CONTROL_KEYS = Object.keys(CONTROLS) as ControlKey[];
