/** A measured value of a set-up: its place, its label, and a word on how it is taken. */

/** What is asked of a bike, part by part, in the order a fitter measures. */
export const BIKE_PARTS = [
  {
    title: 'Saddle',
    note: 'any of the usual ways; the others are computed',
    rows: [
      ['saddle.heightMm', 'Height to bottom bracket', 'along the seat tube'],
      ['saddle.heightToSpindleMm', 'Height to spindle', 'crank in line with the seat tube'],
      ['saddle.setback80Mm', 'Setback at 80 mm width', 'plumb line, behind is plus'],
      ['saddle.setbackNoseMm', 'Setback at the nose', 'plumb line, behind is plus'],
      ['saddle.noseTo80Mm', 'Nose to 80 mm width', 'along the saddle'],
      ['saddle.tiltDeg', 'Tilt', 'nose-up is plus'],
      ['saddle.lengthMm', 'Length'],
      ['saddle.widthMm', 'Width'],
      ['saddle.postShowingMm', 'Post showing'],
      ['saddle.postShowingMostMm', 'Post may show', 'to its mark'],
    ],
  },
  {
    title: 'Frame',
    note: 'from its sheet, or measured',
    rows: [
      ['frame.stackMm', 'Stack'],
      ['frame.reachMm', 'Reach'],
      ['frame.headAngleDeg', 'Head angle'],
      ['frame.seatAngleDeg', 'Seat tube angle'],
      ['frame.seatTubeMm', 'Seat tube'],
      ['frame.chainstayMm', 'Chainstay'],
      ['frame.bbDropMm', 'Bottom-bracket drop'],
      ['frame.frontCentreMm', 'Front-centre'],
      ['frame.forkRakeMm', 'Fork rake'],
      ['frame.wheelbaseMm', 'Wheelbase'],
      ['frame.wheelDiameterMm', 'Wheel with tyre', 'outer diameter'],
      ['frame.tyreWidthMm', 'Tyre width'],
    ],
  },
  {
    title: 'Stem and bar',
    note: 'from stem and frame, or by tape',
    rows: [
      ['stem.lengthMm', 'Stem length'],
      ['stem.angleDeg', 'Stem angle', 'minus is down, unflipped'],
      ['stem.spacersMm', 'Spacers', 'under the stem'],
      ['stem.steererAboveMm', 'Steerer above the stem', 'spacers that may go under'],
      ['bar.widthMm', 'Bar width'],
      ['bar.reachMm', 'Clamp to hoods, forward'],
      ['bar.hoodRiseMm', 'Clamp to hoods, up'],
      ['bar.dropMm', 'Bar drop'],
      ['bar.rotationDeg', 'Bar rotation', 'rolled up is plus'],
      ['bar.fromNoseMm', 'Nose to bar, by tape'],
      ['bar.belowSaddleMm', 'Saddle to bar top', 'bar lower is plus'],
      ['levers.fromEndMm', 'Lever clamp from bar end', 'along the bar'],
      ['levers.turnInDeg', 'Levers turned in'],
      ['levers.reachMm', 'Lever reach'],
    ],
  },
  {
    title: 'Crank and pedals',
    note: undefined,
    rows: [
      ['crank.lengthMm', 'Crank length', 'stamped on the arm'],
      ['crank.qFactorMm', 'Q factor'],
      ['pedals.axleLengthMm', 'Pedal axle', 'crank face to cleat’s middle'],
      ['pedals.stackMm', 'Pedal stack'],
      ['pedals.floatDeg', 'Float'],
    ],
  },
] as const;

/** What a plan needs of every bike: where saddle and bar stand, and what the leg's model and the scale rest on. */
export const ESSENTIAL_FIELDS = [
  ['saddle.heightMm', 'Height to bottom bracket', 'saddle, along the seat tube'],
  ['saddle.setback80Mm', 'Setback at 80 mm width', 'plumb line, behind is plus'],
  ['saddle.tiltDeg', 'Saddle tilt', 'nose-up is plus'],
  ['saddle.widthMm', 'Saddle width', 'overall'],
  ['crank.lengthMm', 'Crank length', 'stamped on the arm'],
  ['frame.wheelbaseMm', 'Wheelbase', 'axle to axle'],
  ['frame.seatAngleDeg', 'Seat tube angle'],
  ['stem.lengthMm', 'Stem length'],
  ['bar.fromNoseMm', 'Nose to bar, by tape'],
  ['bar.belowSaddleMm', 'Saddle to bar top', 'bar lower is plus'],
] as const;

const ESSENTIAL: ReadonlySet<string> = new Set(ESSENTIAL_FIELDS.map(([at]) => at));

/** Whether a place of a set-up is among the essentials. */
export const isEssential = (at: string): boolean => ESSENTIAL.has(at);

export const EXTENSION_FIELDS = [
  ['extensions.padRiseMm', 'Pads above clamp'],
  ['extensions.padAheadMm', 'Pads ahead of clamp'],
  ['extensions.padSpacingMm', 'Between the pads'],
  ['extensions.lengthMm', 'Pads to the ends'],
] as const;

export const FOOT_FIELDS = [
  ['cleatBehindMm', 'Cleat behind first head', 'ahead is minus'],
  ['cleatOutwardMm', 'Cleat outward', 'towards the little toe'],
  ['heelOutDeg', 'Heel rests out', 'in is minus'],
  ['shoeSizeEu', 'Shoe size'],
  ['soleStackMm', 'Sole stack'],
] as const;

const OTHERS: Record<string, string> = {
  'saddle.model': 'Saddle',
  'saddle.reliefChannel': 'Relief channel',
  'stem.flipped': 'Stem flipped',
  'stem.onePiece': 'Bar and stem in one piece',
  'bar.model': 'Bar',
  'pedals.model': 'Pedals',
  extensions: 'Extensions',
  name: 'Which bike',
  wedgeDeg: 'Wedge',
  shimMm: 'Shim',
  insole: 'Insole',
  washers: 'Washers',
};

const LABELS = new Map<string, string>([
  ...BIKE_PARTS.flatMap((p) => p.rows.map((r) => [r[0], r[1]] as [string, string])),
  ...EXTENSION_FIELDS.map((r) => [r[0], r[1]] as [string, string]),
  ...FOOT_FIELDS.map((r) => [r[0], r[1]] as [string, string]),
  ...Object.entries(OTHERS),
]);

const PART_NAMES: Record<string, string> = { saddle: 'saddle', levers: 'levers', bar: 'bar' };

/** The name of a set-up's value by its place: “Cleat behind first head, left”; the place itself where it has none. */
export function fieldName(at: string): string {
  const foot = /^feet\.(left|right)\.(\w+)$/.exec(at);
  if (foot) return `${LABELS.get(foot[2]) ?? foot[2]}, ${foot[1]}`;
  const label = LABELS.get(at) ?? at;
  const part = PART_NAMES[at.split('.')[0]];
  // “Height to spindle” alone does not say of what.
  return part && !label.toLowerCase().includes(part) ? `${label} (${part})` : label;
}

/** A value's unit by its place. */
export const fieldUnit = (at: string): 'mm' | '°' | '' =>
  at.endsWith('Mm') ? 'mm' : at.endsWith('Deg') ? '°' : '';
