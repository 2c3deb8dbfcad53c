import type { ResolvedBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';

/** A coordinate that rebuilds the position: what, how much, how it is measured, and how near is near enough. */
export interface Coordinate {
  key: string;
  group: 'Saddle' | 'Hands' | 'Crank and pedals' | 'Feet';
  name: string;
  value: number | null;
  unit: 'mm' | '°' | '';
  /** Typed at the bike, or worked out from what was. */
  from: 'measured' | 'computed' | 'open';
  how: string;
  /** ± in its own unit: what a tape, a plumb line or a spirit level gives when done twice. */
  tolerance: number | null;
}

/** A coordinate as it is reported: what lies over the saddle is called that, and has no sign. */
export function asReported(c: Coordinate): Coordinate {
  const isDrop = c.key === 'hoodDrop' || c.key === 'barDrop';
  if (!isDrop || c.value === null || c.value >= 0) return c;
  return { ...c, name: c.name.replace('below', 'above'), value: -c.value };
}

interface Measured {
  unit: Coordinate['unit'];
  value: number | null;
  how: string;
  tolerance: number | null;
  from?: Coordinate['from'];
}

const row = (
  group: Coordinate['group'],
  key: string,
  name: string,
  { unit, value, how, tolerance, from = 'measured' }: Measured,
): Coordinate => ({ key, group, name, value, unit, how, tolerance, from: value === null ? 'open' : from });

const figured = (
  f: { mm: number; from: 'typed' | 'computed' } | null,
): [number | null, Coordinate['from']] =>
  f ? [f.mm, f.from === 'typed' ? 'measured' : 'computed'] : [null, 'open'];

function saddleRows({ saddle }: BikeSetup, r: ResolvedBike): Coordinate[] {
  const [height, heightFrom] = figured(r.heightMm);
  const [spindle, spindleFrom] = figured(r.heightToSpindleMm);
  const [nose, noseFrom] = figured(r.setbackNoseMm);
  const [at80, at80From] = figured(r.setback80Mm);
  return [
    row('Saddle', 'height', 'Height to bottom bracket', {
      unit: 'mm',
      value: height,
      how: 'Tape from the middle of the crank axle along the seat tube to the saddle’s top, over the place where it is 80 mm wide.',
      tolerance: 2,
      from: heightFrom,
    }),
    row('Saddle', 'spindle', 'Height to pedal spindle', {
      unit: 'mm',
      value: spindle,
      how: 'The same line, crank in line with the seat tube, to the middle of the pedal’s axle.',
      tolerance: 2,
      from: spindleFrom,
    }),
    row('Saddle', 'setback80', 'Setback where 80 mm wide', {
      unit: 'mm',
      value: at80,
      how: 'Bike level; plumb line where the saddle is 80 mm wide, level distance to the crank axle; behind is plus.',
      tolerance: 3,
      from: at80From,
    }),
    row('Saddle', 'setbackNose', 'Setback at the nose', {
      unit: 'mm',
      value: nose,
      how: 'Bike level; plumb line from the nose, level distance to the crank axle; behind is plus.',
      tolerance: 3,
      from: noseFrom,
    }),
    row('Saddle', 'tilt', 'Tilt', {
      unit: '°',
      value: saddle.tiltDeg,
      how: 'Level on the supportive part, the front half left out; nose up is plus.',
      tolerance: 0.5,
    }),
    row('Saddle', 'width', 'Width', {
      unit: 'mm',
      value: saddle.widthMm,
      how: `At its widest${saddle.model ? `: ${saddle.model}` : ''}.`,
      tolerance: null,
    }),
  ];
}

// eslint-disable-next-line max-lines-per-function -- one row after the other, as they stand on the sheet
function handRows({ stem, bar, levers }: BikeSetup, r: ResolvedBike): Coordinate[] {
  return [
    row('Hands', 'fromNose', 'Saddle’s nose to hood', {
      unit: 'mm',
      value: r.reachFromNoseMm === null ? null : Math.round(r.reachFromNoseMm),
      how: 'Level distance from the saddle’s nose to where the web of the thumb rests.',
      tolerance: 4,
      from: 'computed',
    }),
    row('Hands', 'fromSit', 'Sit point to hood', {
      unit: 'mm',
      value: r.reachFromSitMm === null ? null : Math.round(r.reachFromSitMm),
      how: 'Level distance from where the saddle is 80 mm wide to where the web of the thumb rests.',
      tolerance: 4,
      from: 'computed',
    }),
    row('Hands', 'hoodDrop', 'Hood below saddle', {
      unit: 'mm',
      value: r.hoodDropMm === null ? null : Math.round(r.hoodDropMm),
      how: 'Level from the saddle’s top, upright to the hood.',
      tolerance: 3,
      from: 'computed',
    }),
    row('Hands', 'barDrop', 'Bar below saddle', {
      unit: 'mm',
      value: r.barDropMm === null ? null : Math.round(r.barDropMm),
      how: 'Level from the saddle’s top, upright to the bar’s top next to the stem.',
      tolerance: 3,
      from: 'computed',
    }),
    row('Hands', 'stem', 'Stem', {
      unit: 'mm',
      value: stem.lengthMm,
      how: `Middle of the steerer to middle of the bar${stem.angleDeg === null ? '' : `; ${String(stem.angleDeg).replace('-', '−')}° as printed, ${stem.flipped ? 'turned over' : 'the right way up'}`}.`,
      tolerance: null,
    }),
    row('Hands', 'spacers', 'Spacers under the stem', {
      unit: 'mm',
      value: stem.spacersMm,
      how: 'Without the headset’s top cap.',
      tolerance: null,
    }),
    row('Hands', 'barWidth', 'Bar width', {
      unit: 'mm',
      value: bar.widthMm,
      how: `Middle to middle at the hoods${bar.model ? `: ${bar.model}` : ''}.`,
      tolerance: 3,
    }),
    row('Hands', 'barRotation', 'Bar rotation', {
      unit: '°',
      value: bar.rotationDeg,
      how: 'Of the drops’ lower part; rolled up is plus.',
      tolerance: 1,
    }),
    row('Hands', 'levers', 'Lever clamp from bar end', {
      unit: 'mm',
      value: levers.fromEndMm,
      how: 'Along the bar, the same on both sides.',
      tolerance: 2,
    }),
    row('Hands', 'leverReach', 'Lever reach', {
      unit: 'mm',
      value: levers.reachMm,
      how: 'Bar to lever where two fingers pull.',
      tolerance: 3,
    }),
  ];
}

const padRows = (extensions: NonNullable<BikeSetup['extensions']>): Coordinate[] => [
  row('Hands', 'padRise', 'Pads above clamp', {
    unit: 'mm',
    value: extensions.padRiseMm,
    how: 'Top of the pads over the middle of the bar.',
    tolerance: 2,
  }),
  row('Hands', 'padAhead', 'Pads ahead of clamp', {
    unit: 'mm',
    value: extensions.padAheadMm,
    how: 'Middle of the pads before the middle of the bar.',
    tolerance: 3,
  }),
  row('Hands', 'padSpacing', 'Between the pads', {
    unit: 'mm',
    value: extensions.padSpacingMm,
    how: 'Middle to middle.',
    tolerance: 3,
  }),
  row('Hands', 'extensionLength', 'Pads to the ends', {
    unit: 'mm',
    value: extensions.lengthMm,
    how: 'Middle of the pads to the extension’s end.',
    tolerance: 3,
  }),
];

const pedalRows = ({ crank, pedals }: BikeSetup): Coordinate[] => [
  row('Crank and pedals', 'crank', 'Crank length', {
    unit: 'mm',
    value: crank.lengthMm,
    how: 'Stamped on the arm.',
    tolerance: null,
  }),
  row('Crank and pedals', 'q', 'Q factor', {
    unit: 'mm',
    value: crank.qFactorMm,
    how: 'Across the arms’ outer faces at the pedals.',
    tolerance: 1,
  }),
  row('Crank and pedals', 'axle', 'Pedal axle', {
    unit: 'mm',
    value: pedals.axleLengthMm,
    how: `Crank’s face to the cleat’s middle${pedals.model ? `: ${pedals.model}` : ''}.`,
    tolerance: 1,
  }),
  row('Crank and pedals', 'pedalStack', 'Pedal stack', {
    unit: 'mm',
    value: pedals.stackMm,
    how: 'Axle’s middle to the cleat’s face.',
    tolerance: 1,
  }),
];

// eslint-disable-next-line max-lines-per-function -- one row after the other, as they stand on the sheet
function footRows(
  f: BikeSetup['feet']['left'],
  side: 'left' | 'right',
  stanceMm: number | null,
): Coordinate[] {
  const out = [
    row('Feet', `cleat.${side}`, `Cleat behind first head, ${side}`, {
      unit: 'mm',
      value: f.cleatBehindMm,
      how: 'Spindle’s mark behind the first metatarsal head’s, on the shoe; ahead is minus.',
      tolerance: 1,
    }),
    row('Feet', `across.${side}`, `Cleat outward, ${side}`, {
      unit: 'mm',
      value: f.cleatOutwardMm,
      how: 'From the shoe’s middle towards the little toe; inward is minus.',
      tolerance: 1,
    }),
    row('Feet', `heel.${side}`, `Heel rests out, ${side}`, {
      unit: '°',
      value: f.heelOutDeg,
      how: 'Turn of the cleat by which the heel rests further out; in is minus.',
      tolerance: 1,
    }),
    row('Feet', `stance.${side}`, `Stance, ${side}`, {
      unit: 'mm',
      value: stanceMm,
      how: 'Bike’s middle to the foot’s middle.',
      tolerance: 1,
      from: 'computed',
    }),
  ];
  if (f.shimMm)
    out.push(
      row('Feet', `shim.${side}`, `Shim, ${side}`, {
        unit: 'mm',
        value: f.shimMm,
        how: 'Under the cleat.',
        tolerance: null,
      }),
    );
  if (f.wedgeDeg)
    out.push(
      row('Feet', `wedge.${side}`, `Wedge, ${side}`, {
        unit: '°',
        value: f.wedgeDeg,
        how: 'Inside raised is plus.',
        tolerance: null,
      }),
    );
  if (f.washers)
    out.push(
      row('Feet', `washers.${side}`, `Pedal washer, ${side}`, {
        unit: '',
        value: f.washers,
        how: 'One only: the thread must engage.',
        tolerance: null,
      }),
    );
  return out;
}

/**
 * Everything that rebuilds a position on a bike, in the order in which it is set: feet last on the list of the mechanic, first on the
 * fitter's, so saddle and hands stand together. Tolerances are ours: a tape laid twice along a seat tube differs by 2 mm, a plumb
 * line from a saddle by 3, a bubble on a saddle by half a degree.
 */
export function coordinatesOf(bike: BikeSetup, r: ResolvedBike): Coordinate[] {
  return [
    ...saddleRows(bike, r),
    ...handRows(bike, r),
    ...(bike.extensions ? padRows(bike.extensions) : []),
    ...pedalRows(bike),
    ...(['left', 'right'] as const).flatMap((side) => footRows(bike.feet[side], side, r.stanceMm[side])),
  ];
}

const ROUNDING = 0.4;

/** Of two set-ups on record, the coordinates that were moved: by more than rounding, since neither was measured again. */
export function coordinatesApart(
  a: readonly Coordinate[],
  b: readonly Coordinate[],
): { name: string; unit: Coordinate['unit']; from: number; to: number }[] {
  return b.flatMap((to) => {
    const from = a.find((c) => c.key === to.key);
    if (!from || from.value === null || to.value === null) return [];
    return Math.abs(to.value - from.value) > ROUNDING
      ? [{ name: to.name, unit: to.unit, from: from.value, to: to.value }]
      : [];
  });
}
