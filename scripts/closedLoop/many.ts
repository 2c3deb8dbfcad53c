import { comfortable } from '../../sim/human.ts';
import { seededRandom } from '../../sim/random.ts';
import {
  closedLoop,
  film,
  planFor,
  statedOf,
  stickers,
  untouched,
  type Outcome,
  type Stated,
} from './loop.ts';
import { MISFITS, randomCase, type Misfit } from './riders.ts';

/** Closed loops of many random riders: half of them on a bike that fits, the misfits in turn. */
export function manyLoops(riders: number, seed: number): Outcome[] {
  const random = seededRandom(seed);
  const kinds: (Misfit | null)[] = MISFITS.flatMap((m) => [null, m]);
  const out: Outcome[] = [];
  for (let i = 0; out.length < riders; i += 1) {
    if (i > 20 * riders + 100) throw new Error('Too few of the random riders can be ridden.');
    const c = randomCase(kinds[out.length % kinds.length], random);
    const outcome = c && closedLoop(c, random);
    if (outcome) out.push(outcome);
  }
  return out;
}

/** What first plans say of many riders, in the loop's own mix, against what is true of them. */
export function statedByMany(riders: number, seed: number): Stated[] {
  const random = seededRandom(seed);
  const kinds: (Misfit | null)[] = MISFITS.flatMap((m) => [null, m]);
  const out: Stated[] = [];
  for (let n = 0; n < riders;) {
    const c = randomCase(kinds[n % kinds.length], random);
    if (!c) continue;
    n += 1;
    out.push(...statedOf(planFor(c, c.bike, film(c.rider, stickers(random), random)), c.rider));
  }
  return out;
}

/** The share of random riders that the loop takes as well fitted, before anything is moved. */
export function acceptance(riders: number, seed: number): number {
  const random = seededRandom(seed);
  return Array.from({ length: riders }, () => comfortable(random)).filter(Boolean).length / riders;
}

/** Untouched bikes filmed again: the share of measures called a real change. */
export function calledReal(riders: number, seed: number, stickerTimes = 1): number {
  const random = seededRandom(seed);
  let [real, all] = [0, 0];
  for (let n = 0; n < riders;) {
    const c = randomCase(null, random);
    if (!c) continue;
    n += 1;
    const u = untouched(c, random, stickerTimes);
    real += u.real;
    all += u.all;
  }
  return real / all;
}

/** Stated probabilities in bins of a tenth against how often they were true. */
export function calibration(
  all: readonly Stated[],
): { from: number; stated: number; true: number; n: number }[] {
  return Array.from({ length: 10 }, (_, i) => {
    const bin = all.filter((s) => s.p >= i / 10 && (s.p < (i + 1) / 10 || i === 9));
    const mean = (f: (s: (typeof bin)[number]) => number): number =>
      bin.length ? bin.reduce((sum, s) => sum + f(s), 0) / bin.length : NaN;
    return { from: i / 10, stated: mean((s) => s.p), true: mean((s) => Number(s.isTrue)), n: bin.length };
  });
}

export interface Sum {
  riders: number;
  now: number;
  tryOnly: number;
  rightNow: number;
  rightNowOrTry: number;
  wrong: number;
  sure: number;
  sureRight: number;
  pushedOut: number;
  mostLines: number;
  touched: number;
  fewest: number;
  leadsWithoutLine: number;
  inFilm: number;
  inTruth: number;
  held: number;
}

/** Everything added up; shares as shares. */
export function summed(list: readonly Outcome[]): Sum {
  const of = (f: (o: Outcome) => number): number => list.reduce((s, o) => s + f(o), 0);
  const n = Math.max(1, list.length);
  return {
    riders: list.length,
    now: of((o) => Number(o.now > 0)) / n,
    tryOnly: of((o) => Number(o.now === 0 && o.tries > 0)) / n,
    rightNow: of((o) => Number(o.rightNow)) / n,
    rightNowOrTry: of((o) => Number(o.rightNowOrTry)) / n,
    wrong: of((o) => Number(o.wrong)) / n,
    sure: of((o) => Number(o.sure)),
    sureRight: of((o) => Number(o.sureRight)),
    pushedOut: of((o) => o.pushedOut),
    mostLines: Math.max(0, ...list.map((o) => o.lines)),
    touched: of((o) => (o.lines ? o.touched : 0)),
    fewest: of((o) => (o.lines ? o.fewest : 0)),
    leadsWithoutLine: of((o) => o.leadsWithoutLine),
    inFilm:
      of((o) => o.inFilm.inside) /
      Math.max(
        1,
        of((o) => o.inFilm.all),
      ),
    inTruth:
      of((o) => o.inTruth.inside) /
      Math.max(
        1,
        of((o) => o.inTruth.all),
      ),
    held:
      of((o) => o.held) /
      Math.max(
        1,
        of((o) => o.predicted),
      ),
  };
}
