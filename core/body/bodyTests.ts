/** What one test found. Sided tests fill left and right, the others `both`; a choice is stored by its key. */
export interface TestResult {
  left: number | string | null;
  right: number | string | null;
  both: number | string | null;
  /** Why it was left out; null when it was not. */
  skipped: string | null;
}

export const NOT_TESTED: TestResult = { left: null, right: null, both: null, skipped: null };

/** Whether a test was done, or left out on purpose. */
export const isAnswered = (r: TestResult | undefined): boolean =>
  r !== undefined && (r.skipped !== null || r.left !== null || r.right !== null || r.both !== null);

export type TestGroup =
  'Lengths' | 'Feet' | 'Leg length' | 'Hips and hamstrings' | 'Control' | 'Back and shoulders';

export type TestUnit = 'mm' | 'kg' | '°' | 's' | 'of 10';

export interface BodyTest {
  key: string;
  name: string;
  group: TestGroup;
  sides: 'two' | 'one';
  /** Three lines at the most: what the fitter does. */
  howTo: readonly string[];
  /** A number with its unit and what no body can have… */
  number?: { unit: TestUnit; min: number; max: number };
  /** …or one of a few findings. */
  choices?: readonly (readonly [key: string, words: string])[];
}

const mm = (min: number, max: number): BodyTest['number'] => ({ unit: 'mm', min, max });
const deg = (min: number, max: number): BodyTest['number'] => ({ unit: '°', min, max });

/** Every measurement and test off the bike (handbook: rules, body tests), in the order they are done. */
export const BODY_TESTS = [
  {
    key: 'height',
    name: 'Height',
    group: 'Lengths',
    sides: 'one',
    number: mm(1000, 2300),
    howTo: ['Shoes off, heels to the wall.', 'Level book on the head; mark, and measure to the floor.'],
  },
  {
    key: 'mass',
    name: 'Mass',
    group: 'Lengths',
    sides: 'one',
    number: { unit: 'kg', min: 20, max: 250 },
    howTo: ['As the rider dresses to ride.'],
  },
  {
    key: 'inseam',
    name: 'Inseam',
    group: 'Lengths',
    sides: 'one',
    number: mm(500, 1100),
    howTo: [
      'Shoes off, back to the wall, feet a fist apart.',
      'A level book pressed up as hard as a saddle presses.',
      'Measure twice, from the book’s edge to the floor.',
    ],
  },
  {
    key: 'sitBones',
    name: 'Sit-bone spacing',
    group: 'Lengths',
    sides: 'one',
    number: mm(60, 220),
    howTo: [
      'Sit on foil, card or foam, leaning as when riding.',
      'Find the two dents’ deepest points.',
      'Measure between them, or from a photo with a ruler in it.',
    ],
  },
  {
    key: 'shoulderWidth',
    name: 'Shoulder width',
    group: 'Lengths',
    sides: 'one',
    number: mm(250, 600),
    howTo: ['Acromion to acromion, arms hanging.', 'Across the back, with a caliper or a straight tape.'],
  },
  {
    key: 'footLength',
    name: 'Foot length, unloaded',
    group: 'Feet',
    sides: 'two',
    number: mm(180, 340),
    howTo: ['Seated, foot resting flat.', 'Heel to the longest toe.'],
  },
  {
    key: 'footLengthLoaded',
    name: 'Foot length, standing',
    group: 'Feet',
    sides: 'two',
    number: mm(180, 350),
    howTo: ['Full weight on that foot.', 'Heel to the longest toe.'],
  },
  {
    key: 'footWidth',
    name: 'Foot width, standing',
    group: 'Feet',
    sides: 'two',
    number: mm(60, 150),
    howTo: ['Full weight on that foot.', 'Across the widest part, first to fifth head.'],
  },
  {
    key: 'arch',
    name: 'Arch',
    group: 'Feet',
    sides: 'two',
    choices: [
      ['low', 'low'],
      ['medium', 'medium'],
      ['high', 'high'],
    ],
    howTo: [
      'Wet footprint, or look from the inside, standing.',
      'Compare sitting and standing: does it fall?',
    ],
  },
  {
    key: 'forefootTilt',
    name: 'Forefoot tilt',
    group: 'Feet',
    sides: 'two',
    number: deg(-25, 25),
    howTo: [
      'Lying face down, heel held straight.',
      'Angle of the line through the heads; inside raised is plus (varus).',
    ],
  },
  {
    key: 'toeOutWalk',
    name: 'Toe-out, walking',
    group: 'Feet',
    sides: 'two',
    number: deg(-30, 45),
    howTo: ['Ten steps along a line, unaware.', 'Angle of each foot to the line; out is plus.'],
  },
  {
    key: 'toeOutJump',
    name: 'Toe-out, three-jump',
    group: 'Feet',
    sides: 'two',
    number: deg(-30, 45),
    howTo: [
      'Three small jumps on the spot, eyes ahead.',
      'Angle of each foot where it lands the third time.',
    ],
  },
  {
    key: 'malleoliTraction',
    name: 'Malleoli, legs pulled',
    group: 'Leg length',
    sides: 'one',
    number: mm(-40, 40),
    howTo: ['Lying, both legs pulled gently at the ankles.', 'Right further down is plus, left is minus.'],
  },
  {
    key: 'malleoliSitUp',
    name: 'Malleoli, sitting up',
    group: 'Leg length',
    sides: 'one',
    number: mm(-40, 40),
    howTo: [
      'From lying to sitting, legs straight, hands on thighs.',
      'Right further down is plus. Does the difference go?',
    ],
  },
  {
    key: 'tibia',
    name: 'Knee height, knees bent',
    group: 'Leg length',
    sides: 'two',
    number: mm(300, 700),
    howTo: ['Lying, feet flat, knees together.', 'Floor to the top of each knee: the tibia.'],
  },
  {
    key: 'femur',
    name: 'Knee projection, knees bent',
    group: 'Leg length',
    sides: 'two',
    number: mm(350, 800),
    howTo: ['The same position, seen from the side.', 'Pelvis to the front of each knee: the femur.'],
  },
  {
    key: 'straightLegRaise',
    name: 'Straight-leg raise',
    group: 'Hips and hamstrings',
    sides: 'two',
    number: deg(10, 130),
    howTo: [
      'Lying, other leg flat, knee straight.',
      'Raise until the pelvis starts to turn; inclinometer on the shin.',
    ],
  },
  {
    key: 'hipFlexion',
    name: 'Hip flexion',
    group: 'Hips and hamstrings',
    sides: 'two',
    number: deg(60, 160),
    howTo: [
      'Lying, knee drawn towards the chest.',
      'Until the low back flattens on to the table, or it pinches.',
    ],
  },
  {
    key: 'hipInternal',
    name: 'Hip internal rotation',
    group: 'Hips and hamstrings',
    sides: 'two',
    number: deg(-10, 80),
    howTo: ['Seated, knee at 90°, foot swung out.', 'Angle of the shin from upright.'],
  },
  {
    key: 'hipExternal',
    name: 'Hip external rotation',
    group: 'Hips and hamstrings',
    sides: 'two',
    number: deg(-10, 90),
    howTo: ['Seated, knee at 90°, foot swung in.', 'Angle of the shin from upright.'],
  },
  {
    key: 'iliotibial',
    name: 'Iliotibial band',
    group: 'Hips and hamstrings',
    sides: 'two',
    choices: [
      ['free', 'drops in line'],
      ['tight', 'stays up or pulls'],
    ],
    howTo: [
      'Lying on the side, upper leg lifted, drawn back.',
      'Lowered across: does it stay in line and drop?',
    ],
  },
  {
    key: 'dorsiflexion',
    name: 'Ankle dorsiflexion',
    group: 'Hips and hamstrings',
    sides: 'two',
    number: deg(-10, 60),
    howTo: ['Knee to the wall, heel on the floor.', 'Angle of the shin from upright at the furthest.'],
  },
  {
    key: 'pelvis',
    name: 'Pelvis, standing',
    group: 'Control',
    sides: 'one',
    choices: [
      ['level', 'level'],
      ['left-low', 'left lower'],
      ['right-low', 'right lower'],
    ],
    howTo: ['Thumbs on both crests, eyes level with them.'],
  },
  {
    key: 'kneesStanding',
    name: 'Knees, standing',
    group: 'Control',
    sides: 'one',
    choices: [
      ['straight', 'straight'],
      ['bow', 'bow-legged'],
      ['knock', 'knock-kneed'],
    ],
    howTo: ['Feet together: do knees or ankles meet first?'],
  },
  {
    key: 'build',
    name: 'Build',
    group: 'Control',
    sides: 'one',
    choices: [
      ['slight', 'slight'],
      ['medium', 'medium'],
      ['broad', 'broad hips'],
    ],
    howTo: ['Width over the hips against the shoulders.'],
  },
  {
    key: 'oneLegBend',
    name: 'Third of a knee bend, one leg',
    group: 'Control',
    sides: 'two',
    choices: [
      ['steady', 'steady'],
      ['wobbles', 'wobbles'],
      ['drops', 'knee drops in'],
    ],
    howTo: [
      'Barefoot, a third of the way down, three times.',
      'Watch the foot’s support and the knee, not the balance.',
    ],
  },
  {
    key: 'standOpen',
    name: 'One-leg stand, eyes open',
    group: 'Control',
    sides: 'two',
    number: { unit: 'of 10', min: 0, max: 10 },
    howTo: ['Ten seconds; score 0 to 10. Someone stands by.'],
  },
  {
    key: 'standClosed',
    name: 'One-leg stand, eyes closed',
    group: 'Control',
    sides: 'two',
    number: { unit: 'of 10', min: 0, max: 10 },
    howTo: ['Ten seconds; score 0 to 10. Someone stands by.'],
  },
  {
    key: 'hinge',
    name: 'Forward hinge, low back',
    group: 'Back and shoulders',
    sides: 'one',
    choices: [
      ['flat', 'flat'],
      ['round', 'rounds'],
    ],
    howTo: [
      'Feet together, hinge from the hips, knees soft.',
      'Does the low back stay flat to where the bar would be?',
    ],
  },
  {
    key: 'fingertips',
    name: 'Fingertips to floor',
    group: 'Back and shoulders',
    sides: 'one',
    number: mm(-300, 600),
    howTo: ['Knees straight, reach down slowly.', 'Gap to the floor; past it is minus.'],
  },
  {
    key: 'shoulderRange',
    name: 'Arms overhead',
    group: 'Back and shoulders',
    sides: 'two',
    choices: [
      ['free', 'free'],
      ['limited', 'limited'],
      ['painful', 'painful'],
    ],
    howTo: ['Back to the wall, arm raised forward and up.', 'Stop on pain.'],
  },
  {
    key: 'coreHold',
    name: 'Core hold',
    group: 'Back and shoulders',
    sides: 'one',
    number: { unit: 's', min: 0, max: 600 },
    howTo: ['Forearms and toes, body straight.', 'Seconds until the back sags.'],
  },
] as const satisfies readonly BodyTest[];

export type TestKey = (typeof BODY_TESTS)[number]['key'];

/** What was found off the bike. */
export interface BodyRecord {
  results: Partial<Record<TestKey, TestResult>>;
  /** Adjustments of the bands that the fitter has switched off. */
  adjustmentsOff: string[];
}

export const UNTESTED_BODY: BodyRecord = { results: {}, adjustmentsOff: [] };

/** A one-sided number, or null while it is open. */
export function single(body: BodyRecord, key: TestKey): number | null {
  const v = body.results[key]?.both;
  return typeof v === 'number' ? v : null;
}

/** Left and right as numbers, each null while it is open. */
export function pair(body: BodyRecord, key: TestKey): { left: number | null; right: number | null } {
  const r = body.results[key];
  return {
    left: typeof r?.left === 'number' ? r.left : null,
    right: typeof r?.right === 'number' ? r.right : null,
  };
}

/** The smaller (or larger) of the sides that are known. */
export function worse(body: BodyRecord, key: TestKey, pick: 'least' | 'most'): number | null {
  const { left, right } = pair(body, key);
  const known = [left, right].filter((v): v is number => v !== null);
  if (known.length === 0) return null;
  return pick === 'least' ? Math.min(...known) : Math.max(...known);
}

export const finding = (body: BodyRecord, key: TestKey): string | null => {
  const v = body.results[key]?.both;
  return typeof v === 'string' ? v : null;
};
