import { seededRandom } from '../../sim/random.ts';
import { closedLoop, type Outcome } from './loop.ts';
import { MISFITS, randomCase } from './riders.ts';

/** Closed loops of many random riders, the misfits in turn. */
export function manyLoops(riders: number, seed: number): Outcome[] {
  const random = seededRandom(seed);
  const out: Outcome[] = [];
  for (let i = 0; out.length < riders; i += 1) {
    if (i > 4000 * riders) throw new Error('Too few of the random riders can be ridden.');
    const c = randomCase(MISFITS[out.length % MISFITS.length], random);
    const outcome = c && closedLoop(c, random);
    if (outcome) out.push(outcome);
  }
  return out;
}

export interface Sum {
  riders: number;
  found: number;
  trueIn: [number, number];
  inBand: [number, number];
  notOut: [number, number];
  pushedOut: number;
  touched: number;
  fewest: number;
  held: number;
  foretold: number;
}

/** Everything added up. */
export function summed(list: readonly Outcome[]): Sum {
  const of = (f: (o: Outcome) => number): number => list.reduce((s, o) => s + f(o), 0);
  return {
    riders: list.length,
    found: of((o) => o.found),
    trueIn: [of((o) => o.trueIn[0]), of((o) => o.trueIn[1])],
    inBand: [of((o) => o.inBand[0]), of((o) => o.inBand[1])],
    notOut: [of((o) => o.notOut[0]), of((o) => o.notOut[1])],
    pushedOut: of((o) => o.pushedOut),
    touched: of((o) => o.touched),
    fewest: of((o) => o.fewest),
    held: of((o) => o.held),
    foretold: of((o) => o.foretold),
  };
}
