import { mean } from '../math/statistics.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { finding, pair, single, worse, type BodyRecord } from './bodyTests.ts';

/** One school's starting saddle height, BB centre to saddle top. */
export interface HeightStart {
  school: string;
  formula: string;
  mm: number;
}

/**
 * Saddle heights before any film, by each school (handbook: the job, schools; rules, starting estimates).
 * @param crankMm needed by the school that measures to the spindle; left out while it is unknown
 */
export function saddleHeightStarts(inseamMm: number, crankMm: number | null): HeightStart[] {
  return [
    { school: 'Inseam less 100 mm', formula: 'inseam − 100 mm', mm: inseamMm - 100 },
    { school: 'Inseam share', formula: '0.883 × inseam', mm: 0.883 * inseamMm },
    ...(crankMm === null
      ? []
      : [{ school: 'To the spindle', formula: '1.09 × inseam − crank', mm: 1.09 * inseamMm - crankMm }]),
  ];
}

export const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

const toStep = (v: number, step: number): number => Math.round(v / step) * step;

/** Cranks to think of: 0.20 to 0.216 of the inseam, nearest 2.5 mm. */
export const crankRangeMm = (inseamMm: number): [number, number] => [
  toStep(0.2 * inseamMm, 2.5),
  toStep(0.216 * inseamMm, 2.5),
];

/** How the rider sits: an upright pelvis is wider at the saddle, a low one narrower (handbook: rules). */
export type Posture = 'upright' | 'middle' | 'low';

/** A few millimetres either way for posture: the handbook says “a little”; 5 mm is a third of the step between saddle widths. */
const POSTURE_MM: Record<Posture, number> = { upright: 5, middle: 0, low: -5 };

/** Saddle widths by each school from the sit-bone spacing, mm. */
export function saddleWidths(
  sitBonesMm: number,
  posture: Posture,
): { school: string; fromMm: number; toMm: number }[] {
  const by = sitBonesMm + POSTURE_MM[posture];
  return [
    { school: 'flat, supportive part', fromMm: by + 12, toMm: by + 20 },
    { school: 'overall width', fromMm: by + 35, toMm: by + 45 },
  ];
}

/** Bar widths to think of: shoulder width ± 20 mm. */
export const barWidthMm = (shoulderMm: number): [number, number] => [shoulderMm - 20, shoulderMm + 20];

/** European size (Paris points) with a thumb's breadth of room: (foot + 15 mm) · 3/20. */
export const shoeSizeEu = (footMm: number): number => Math.round(2 * (footMm + 15) * 0.15) / 2;

export interface ShoeAdvice {
  left: number | null;
  right: number | null;
  /** By the larger foot, standing. */
  size: number | null;
  notes: string[];
}

/** Shoe size per foot, standing where measured, with how far the shoe worn is off. */
export function shoeAdvice(body: BodyRecord, bike: BikeSetup): ShoeAdvice {
  const loaded = pair(body, 'footLengthLoaded');
  const unloaded = pair(body, 'footLength');
  const foot = { left: loaded.left ?? unloaded.left, right: loaded.right ?? unloaded.right };
  const size = { left: foot.left && shoeSizeEu(foot.left), right: foot.right && shoeSizeEu(foot.right) };
  const known = [size.left, size.right].filter((v): v is number => v !== null && v > 0);
  const larger = known.length ? Math.max(...known) : null;
  const notes: string[] = [];
  if (foot.left !== null && foot.right !== null && Math.abs(foot.left - foot.right) >= 4)
    notes.push(
      `${foot.left > foot.right ? 'Left' : 'Right'} foot ${Math.round(Math.abs(foot.left - foot.right))} mm longer: fit that one, fill the other shoe, or look for half-size pairs.`,
    );
  for (const side of ['left', 'right'] as const) {
    const grows = loaded[side] !== null && unloaded[side] !== null ? loaded[side] - unloaded[side] : 0;
    if (grows >= 8)
      notes.push(
        `${side === 'left' ? 'Left' : 'Right'} foot ${Math.round(grows)} mm longer under load: the arch falls; support it.`,
      );
    const worn = bike.feet[side].shoeSizeEu;
    const wanted = size[side];
    if (worn === null || !wanted) continue;
    if (worn - wanted >= 1)
      notes.push(
        `${side === 'left' ? 'Left' : 'Right'} shoe ${worn - wanted} sizes too long: it puts the cleat too far forward.`,
      );
    if (worn - wanted <= -1)
      notes.push(`${side === 'left' ? 'Left' : 'Right'} shoe ${wanted - worn} sizes too small.`);
  }
  return { left: size.left || null, right: size.right || null, size: larger, notes };
}

/** Where to start the cleat's turn: the foot's own toe-out, the mean of walk and jump. Heel in is minus. */
export function cleatRotationStart(body: BodyRecord): { left: number | null; right: number | null } {
  const walk = pair(body, 'toeOutWalk');
  const jump = pair(body, 'toeOutJump');
  const of = (side: 'left' | 'right'): number | null => {
    const known = [walk[side], jump[side]].filter((v): v is number => v !== null);
    return known.length ? -Math.round(mean(known)) : null;
  };
  return { left: of('left'), right: of('right') };
}

export type LegLengthKind = 'open' | 'none' | 'pelvic-rotation' | 'tibia' | 'femur' | 'true';

export interface LegLength {
  kind: LegLengthKind;
  longer: 'left' | 'right' | null;
  differenceMm: number;
  words: string;
  /** Over about 6 mm of true difference a clinician should see it. */
  refer: boolean;
}

/** A tape on malleoli is not read closer than this. */
const LEG_TAPE_MM = 3;
const REFER_OVER_MM = 6;

/**
 * What the leg-length tests add up to (handbook: rules, body tests): even when pulled → none; evens out sitting up → the pelvis is
 * turned; else knee heights tell tibia, knee projections femur.
 */
// eslint-disable-next-line max-lines-per-function -- one rule after the other, each by itself
export function legLength(body: BodyRecord): LegLength {
  const pulled = single(body, 'malleoliTraction');
  if (pulled === null)
    return {
      kind: 'open',
      longer: null,
      differenceMm: 0,
      words: 'Measure at the malleoli first.',
      refer: false,
    };
  const longer = pulled > 0 ? 'right' : 'left';
  const differenceMm = Math.abs(pulled);
  if (differenceMm < LEG_TAPE_MM)
    return {
      kind: 'none',
      longer: null,
      differenceMm,
      words: 'No difference that a tape can show.',
      refer: false,
    };
  const sitting = single(body, 'malleoliSitUp');
  if (sitting === null)
    return {
      kind: 'open',
      longer,
      differenceMm,
      words: 'Now sitting up: does the difference go?',
      refer: false,
    };
  if (Math.abs(sitting) < LEG_TAPE_MM || Math.sign(sitting) !== Math.sign(pulled))
    return {
      kind: 'pelvic-rotation',
      longer: null,
      differenceMm,
      words: 'It goes when the rider sits up: the pelvis is turned, the legs are equal. No shim.',
      refer: false,
    };
  const refer = differenceMm > REFER_OVER_MM;
  const tail = ' Treated only if it shows on the bike; then by a shim of about half, never all at once.';
  for (const [key, name] of [
    ['tibia', 'tibia'],
    ['femur', 'femur'],
  ] as const) {
    const { left, right } = pair(body, key);
    if (left === null || right === null) continue;
    const d = right - left;
    if (Math.sign(d) === Math.sign(pulled) && Math.abs(d) >= differenceMm / 2)
      return {
        kind: key,
        longer,
        differenceMm,
        words: `A true difference, in the ${name}: ${longer} longer.${tail}`,
        refer,
      };
  }
  return {
    kind: 'true',
    longer,
    differenceMm,
    words: `A true difference, ${longer} longer; knee height and projection do not place it.${tail}`,
    refer,
  };
}

/** Whether body and legs ask for a wider or a narrower stance, with the reasons (handbook: rules, starting estimates). */
export function stanceTendency(body: BodyRecord): {
  tends: 'wider' | 'narrower' | 'as it is';
  reasons: string[];
} {
  const reasons: string[] = [];
  let score = 0;
  const say = (by: number, why: string): void => {
    score += by;
    reasons.push(`${why} (${by > 0 ? 'wider' : 'narrower'})`);
  };
  if (finding(body, 'build') === 'broad') say(1, 'broad hips');
  if (finding(body, 'build') === 'slight') say(-1, 'slight build');
  const height = single(body, 'height');
  if (height !== null && height > 1850) say(1, 'tall');
  if (finding(body, 'kneesStanding') === 'bow') say(1, 'bow legs');
  if (finding(body, 'kneesStanding') === 'knock') say(-1, 'knock knees');
  const turn = worse(body, 'hipInternal', 'least');
  if (turn !== null && turn < 25) say(1, 'tight hips');
  return { tends: score > 0 ? 'wider' : score < 0 ? 'narrower' : 'as it is', reasons };
}
