import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { nextComfortable } from '../../sim/human.ts';
import { seenLive, type Live } from '../../sim/live.ts';
import { seededRandom } from '../../sim/random.ts';
import type { ImagePoint } from '../math/vec.ts';
import { isFoot, watchBody } from './watchBody.ts';

const random = seededRandom(31);
const riders = [
  ...CAST.map((c) => c.scene.rider),
  ...Array.from({ length: 12 }, () => nextComfortable(random)),
];
const PER_S = 30;
type Points = Record<string, ImagePoint>;

/**
 * When a rider who is watched for some seconds is told to be no body; null: never.
 * @param names what the followed landmarks truly are, where that is something else  @param gone landmarks that are not seen
 */
function wrongAt(
  live: Live,
  {
    names = {},
    without = [],
    gone = () => [],
    seconds = 8,
  }: {
    names?: Record<string, string>;
    without?: readonly string[];
    gone?: (tS: number) => readonly string[];
    seconds?: number;
  },
): number | null {
  const shot = (tS: number): Points => {
    const seen = seenLive(live, tS, random) as Points;
    const keys = Object.keys(seen).filter((key) => !without.includes(key));
    const hidden = gone(tS);
    return Object.fromEntries(
      keys.map((key) => [
        key,
        hidden.includes(key) ? { ...seen[key], x: NaN, y: NaN } : seen[names[key] ?? key],
      ]),
    );
  };
  const watch = watchBody(shot(0), live.facing ?? 'right', 0);
  for (let i = 1; i < seconds * PER_S; i += 1) {
    watch.see(i / PER_S, shot(i / PER_S));
    if (watch.isWrong(i / PER_S)) return i / PER_S;
  }
  return null;
}

const swapped = (a: string, b: string): Record<string, string> => ({ [a]: b, [b]: a });
const ROUND = { ankle: 'toe', toe: 'heel', heel: 'ankle' };
const BACK = { ankle: 'heel', heel: 'toe', toe: 'ankle' };

describe('whether what is followed is a body', () => {
  it.each(['left', 'right'] as const)(
    'every rider is one, facing %s, standing up or with a hand off',
    (facing) => {
      for (const rider of riders) {
        const doings = [
          { kind: 'rise' as const, fromS: 2, forS: 2 },
          { kind: 'hand-off' as const, fromS: 5, forS: 2 },
        ];
        expect(wrongAt({ rider, facing, noisePx: 0.7, doings }, {})).toBeNull();
      }
    },
  );

  it.each([
    ['ankle and heel', swapped('ankle', 'heel')],
    ['ankle and toe', swapped('ankle', 'toe')],
    ['heel and toe', swapped('heel', 'toe')],
    ['all three, one on', ROUND],
    ['all three, one back', BACK],
  ])('a foot whose stickers have each other’s names is none: %s', (_, names) => {
    for (const rider of riders)
      for (const facing of ['left', 'right'] as const)
        expect(wrongAt({ rider, facing, noisePx: 0.3 }, { names })).toBeLessThan(1);
  });

  it('an ankle that is the toe is told by the shank that grows and shrinks, though no other part of the foot is followed', () => {
    for (const rider of riders) {
      const at = wrongAt({ rider, noisePx: 0.3 }, { names: { ankle: 'toe' }, without: ['heel', 'toe'] });
      expect(at).toBeLessThan(3);
    }
  });

  it('an ankle that is never seen is looked for anew; a hand is not', () => {
    const live = { rider: riders[0], noisePx: 0.3 };
    expect(wrongAt(live, { gone: (tS) => (tS > 1 ? ['ankle'] : []) })).toBeCloseTo(7, 0);
    expect(wrongAt(live, { gone: (tS) => (tS > 1 ? ['wrist', 'elbow'] : []) })).toBeNull();
    // Hidden time and again it has not fallen off.
    expect(wrongAt(live, { gone: (tS) => (tS % 3 > 1 ? ['ankle'] : []), seconds: 15 })).toBeNull();
  });

  it('what is not seen speaks neither for nor against a foot', () => {
    const unseen = { x: NaN, y: NaN } as ImagePoint;
    const at = (x: number, y: number): ImagePoint => ({ x, y }) as ImagePoint;
    const foot = { heel: at(0, 0), toe: at(50, 5), ankle: at(14, -20) };
    expect(isFoot(foot, 'right')).toBe(true);
    expect(isFoot(foot, 'left')).toBe(false);
    expect(isFoot({ ...foot, ankle: at(14, 20) }, 'right')).toBe(false);
    expect(isFoot({ ...foot, ankle: unseen }, 'right')).toBe(true);
    expect(isFoot({ ...foot, toe: unseen }, 'left')).toBe(true);
    expect(isFoot({ ankle: foot.ankle, toe: foot.toe }, 'left')).toBe(true);
  });
});
