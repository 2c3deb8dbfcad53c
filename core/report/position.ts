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

/**
 * Everything that rebuilds a position on a bike, in the order in which it is set: feet last on the list of the mechanic, first on the
 * fitter's, so saddle and hands stand together. Tolerances are ours: a tape laid twice along a seat tube differs by 2 mm, a plumb
 * line from a saddle by 3, a bubble on a saddle by half a degree.
 */
export function coordinatesOf(bike: BikeSetup, r: ResolvedBike): Coordinate[] {
  const out: Coordinate[] = [];
  const row = (
    group: Coordinate['group'],
    key: string,
    name: string,
    unit: Coordinate['unit'],
    value: number | null,
    how: string,
    tolerance: number | null,
    from: Coordinate['from'] = 'measured',
  ): void => {
    out.push({ key, group, name, value, unit, how, tolerance, from: value === null ? 'open' : from });
  };
  const figured = (
    f: { mm: number; from: 'typed' | 'computed' } | null,
  ): [number | null, Coordinate['from']] =>
    f ? [f.mm, f.from === 'typed' ? 'measured' : 'computed'] : [null, 'open'];
  const { saddle, stem, bar, levers, crank, pedals, feet, extensions } = bike;
  const [height, heightFrom] = figured(r.heightMm);
  const [spindle, spindleFrom] = figured(r.heightToSpindleMm);
  const [nose, noseFrom] = figured(r.setbackNoseMm);
  const [at80, at80From] = figured(r.setback80Mm);
  row(
    'Saddle',
    'height',
    'Height to bottom bracket',
    'mm',
    height,
    'Tape from the middle of the crank axle along the seat tube to the saddle’s top, over the place where it is 80 mm wide.',
    2,
    heightFrom,
  );
  row(
    'Saddle',
    'spindle',
    'Height to pedal spindle',
    'mm',
    spindle,
    'The same line, crank in line with the seat tube, to the middle of the pedal’s axle.',
    2,
    spindleFrom,
  );
  row(
    'Saddle',
    'setback80',
    'Setback where 80 mm wide',
    'mm',
    at80,
    'Bike level; plumb line where the saddle is 80 mm wide, level distance to the crank axle; behind is plus.',
    3,
    at80From,
  );
  row(
    'Saddle',
    'setbackNose',
    'Setback at the nose',
    'mm',
    nose,
    'Bike level; plumb line from the nose, level distance to the crank axle; behind is plus.',
    3,
    noseFrom,
  );
  row(
    'Saddle',
    'tilt',
    'Tilt',
    '°',
    saddle.tiltDeg,
    'Level on the supportive part, the front half left out; nose up is plus.',
    0.5,
  );
  row(
    'Saddle',
    'width',
    'Width',
    'mm',
    saddle.widthMm,
    `At its widest${saddle.model ? `: ${saddle.model}` : ''}.`,
    null,
  );
  row(
    'Hands',
    'fromNose',
    'Saddle’s nose to hood',
    'mm',
    r.reachFromNoseMm === null ? null : Math.round(r.reachFromNoseMm),
    'Level distance from the saddle’s nose to where the web of the thumb rests.',
    4,
    'computed',
  );
  row(
    'Hands',
    'fromSit',
    'Sit point to hood',
    'mm',
    r.reachFromSitMm === null ? null : Math.round(r.reachFromSitMm),
    'Level distance from where the saddle is 80 mm wide to where the web of the thumb rests.',
    4,
    'computed',
  );
  row(
    'Hands',
    'hoodDrop',
    'Hood below saddle',
    'mm',
    r.hoodDropMm === null ? null : Math.round(r.hoodDropMm),
    'Level from the saddle’s top, upright down to the hood; higher is minus.',
    3,
    'computed',
  );
  row(
    'Hands',
    'barDrop',
    'Bar below saddle',
    'mm',
    r.barDropMm === null ? null : Math.round(r.barDropMm),
    'Level from the saddle’s top, upright down to the bar’s top beside the stem; higher is minus.',
    3,
    'computed',
  );
  row(
    'Hands',
    'stem',
    'Stem',
    'mm',
    stem.lengthMm,
    `Middle of the steerer to middle of the bar${stem.angleDeg === null ? '' : `; ${String(stem.angleDeg).replace('-', '−')}° as printed, ${stem.flipped ? 'turned over' : 'the right way up'}`}.`,
    null,
  );
  row(
    'Hands',
    'spacers',
    'Spacers under the stem',
    'mm',
    stem.spacersMm,
    'Without the headset’s top cap.',
    null,
  );
  row(
    'Hands',
    'barWidth',
    'Bar width',
    'mm',
    bar.widthMm,
    `Middle to middle at the hoods${bar.model ? `: ${bar.model}` : ''}.`,
    3,
  );
  row(
    'Hands',
    'barRotation',
    'Bar rotation',
    '°',
    bar.rotationDeg,
    'Of the drops’ lower part; rolled up is plus.',
    1,
  );
  row(
    'Hands',
    'levers',
    'Lever clamp from bar end',
    'mm',
    levers.fromEndMm,
    'Along the bar, both sides alike.',
    2,
  );
  row('Hands', 'leverReach', 'Lever reach', 'mm', levers.reachMm, 'Bar to lever where two fingers pull.', 3);
  if (extensions) {
    row(
      'Hands',
      'padRise',
      'Pads above clamp',
      'mm',
      extensions.padRiseMm,
      'Top of the pads over the middle of the bar.',
      2,
    );
    row(
      'Hands',
      'padAhead',
      'Pads ahead of clamp',
      'mm',
      extensions.padAheadMm,
      'Middle of the pads before the middle of the bar.',
      3,
    );
    row('Hands', 'padSpacing', 'Between the pads', 'mm', extensions.padSpacingMm, 'Middle to middle.', 3);
    row(
      'Hands',
      'extensionLength',
      'Pads to the ends',
      'mm',
      extensions.lengthMm,
      'Middle of the pads to the extension’s end.',
      3,
    );
  }
  row('Crank and pedals', 'crank', 'Crank length', 'mm', crank.lengthMm, 'Stamped on the arm.', null);
  row(
    'Crank and pedals',
    'q',
    'Q factor',
    'mm',
    crank.qFactorMm,
    'Across the arms’ outer faces at the pedals.',
    1,
  );
  row(
    'Crank and pedals',
    'axle',
    'Pedal axle',
    'mm',
    pedals.axleLengthMm,
    `Crank’s face to the cleat’s middle${pedals.model ? `: ${pedals.model}` : ''}.`,
    1,
  );
  row(
    'Crank and pedals',
    'pedalStack',
    'Pedal stack',
    'mm',
    pedals.stackMm,
    'Axle’s middle to the cleat’s face.',
    1,
  );
  for (const side of ['left', 'right'] as const) {
    const f = feet[side];
    row(
      'Feet',
      `cleat.${side}`,
      `Cleat behind first head, ${side}`,
      'mm',
      f.cleatBehindMm,
      'Spindle’s mark behind the first metatarsal head’s, on the shoe; ahead is minus.',
      1,
    );
    row(
      'Feet',
      `across.${side}`,
      `Cleat outward, ${side}`,
      'mm',
      f.cleatOutwardMm,
      'From the shoe’s middle towards the little toe; inward is minus.',
      1,
    );
    row(
      'Feet',
      `heel.${side}`,
      `Heel rests out, ${side}`,
      '°',
      f.heelOutDeg,
      'Turn of the cleat by which the heel rests further out; in is minus.',
      1,
    );
    row(
      'Feet',
      `stance.${side}`,
      `Stance, ${side}`,
      'mm',
      r.stanceMm[side],
      'Bike’s middle to the foot’s middle.',
      1,
      'computed',
    );
    if (f.shimMm) row('Feet', `shim.${side}`, `Shim, ${side}`, 'mm', f.shimMm, 'Under the cleat.', null);
    if (f.wedgeDeg)
      row('Feet', `wedge.${side}`, `Wedge, ${side}`, '°', f.wedgeDeg, 'Inside raised is plus.', null);
    if (f.washers)
      row(
        'Feet',
        `washers.${side}`,
        `Pedal washer, ${side}`,
        '',
        f.washers,
        'One only: the thread must engage.',
        null,
      );
  }
  return out;
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
