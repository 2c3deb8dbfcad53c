import type { Landmark } from '../landmarks/landmarks.ts';
import { median, rangeOf } from '../math/statistics.ts';
import { distance, isSeen, sub, type ImagePoint } from '../math/vec.ts';

type Points = Partial<Record<string, ImagePoint>>;

const LEG: readonly Landmark[] = ['hip', 'knee', 'ankle', 'heel', 'toe'];
const LIMBS = [
  ['hip', 'knee'],
  ['knee', 'ankle'],
  ['ankle', 'heel'],
  ['ankle', 'toe'],
  ['heel', 'toe'],
] as const;

/** A limb that is longer or shorter than it was by so much is none: a sticker has been taken for another. */
const LIMB_OFF = 0.35;
const LIMB_OFF_S = 0.6;
/**
 * Between the stickers of the knee and the ankle lies bone: of its length so much is seen to change within a turn at the most, by simulated
 * riders with 1 px of noise 4 %; from the knee to the toe it is 10 % and more.
 */
const SHANK_CHANGES = 0.08;
const SHANK_S = 2;
const LEAST_SHANKS = 30;
/** The pedalling leg is hidden by nothing for so long: what is not seen then was taken for something else, or has fallen off. */
const UNSEEN_S = 6;

/** Whether the foot's stickers stand as a foot's do: the toe ahead of the heel, the ankle above both. True where one is not seen. */
export function isFoot({ ankle, heel, toe }: Points, facing: 'left' | 'right'): boolean {
  if (!heel || !toe || !isSeen(heel) || !isSeen(toe)) return true;
  const ahead = facing === 'right' ? 1 : -1;
  if (ahead * (toe.x - heel.x) < 0) return false;
  if (!ankle || !isSeen(ankle)) return true;
  const [sole, up] = [sub(toe, heel), sub(ankle, heel)];
  // Image y grows downwards: what is above a foot that points to the right turns left from it.
  return ahead * (sole.x * up.y - sole.y * up.x) < 0;
}

export interface BodyWatch {
  /** Takes the next picture's landmarks, px. @returns whether what is seen on it can be a body */
  see: (tS: number, points: Points) => boolean;
  /** Whether the names must be wrong: no body for a while, a shank whose length changes, or a part of the leg that is never seen. */
  isWrong: (tS: number) => boolean;
}

/**
 * Watches whether the landmarks that are followed go on being a body. A sticker that was given another's name is followed as well as any:
 * nothing but the body itself tells.
 * @param marks where they were first, px: limbs keep the lengths they have there
 */
export function watchBody(
  marks: Readonly<Record<string, ImagePoint>>,
  facing: 'left' | 'right',
  firstS: number,
): BodyWatch {
  const limbs = LIMBS.flatMap(([a, b]) =>
    marks[a] && marks[b] ? [{ a, b, lengthPx: distance(marks[a], marks[b]) }] : [],
  );
  const seenS = new Map(LEG.flatMap((key) => (marks[key] ? [[key, firstS] as const] : [])));
  let bodyS = firstS;
  let shanks: { tS: number; px: number }[] = [];
  let stretches = false;
  return {
    see(tS, points) {
      for (const key of seenS.keys()) if (points[key] && isSeen(points[key])) seenS.set(key, tS);
      const whole =
        isFoot(points, facing) &&
        limbs.every(({ a, b, lengthPx }) => {
          const [p, q] = [points[a], points[b]];
          return !p || !q || !(Math.abs(distance(p, q) / lengthPx - 1) > LIMB_OFF);
        });
      if (whole) bodyS = tS;
      const { knee, ankle } = points;
      if (knee && ankle && isSeen(knee) && isSeen(ankle)) {
        shanks = [...shanks.filter((s) => s.tS > tS - SHANK_S), { tS, px: distance(knee, ankle) }];
        const px = shanks.map((s) => s.px);
        stretches = px.length >= LEAST_SHANKS && rangeOf(px) > SHANK_CHANGES * median(px);
      }
      return whole;
    },
    isWrong: (tS) =>
      tS - bodyS > LIMB_OFF_S || stretches || [...seenS.values()].some((s) => tS - s > UNSEEN_S),
  };
}
