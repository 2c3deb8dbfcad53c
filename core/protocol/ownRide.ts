import type { MeasureReading } from './measures.ts';
import type { MeasureKey } from './protocols.ts';

/** A rider's own ride-to-ride SD by measure, in its unit. */
export type OwnRide = Partial<Record<MeasureKey, number>>;

/** How many rides the usual figure counts for beside the rider's own (own choice: a pair or two move it, and do not overrule it). */
const USUAL_COUNTS = 3;

/**
 * How much this rider differs from ride to ride, from takes of one set-up before anything was moved: the usual spread and the rider's own
 * differences weighed together.
 * @param pairs measures of two takes of the same set-up, off the bike and on again
 */
export function ownRide(
  pairs: readonly (readonly [readonly MeasureReading[], readonly MeasureReading[]])[],
): OwnRide {
  const out: OwnRide = {};
  const keys = new Set(pairs.flatMap(([a]) => a.map((m) => m.key)));
  for (const key of keys) {
    const found = pairs.flatMap(([a, b]) => {
      const [p, q] = [a.find((m) => m.key === key), b.find((m) => m.key === key)];
      return p && q ? [{ usual: p.parts.ride, by: p.value - q.value }] : [];
    });
    if (found.length === 0) continue;
    const usual = found[0].usual;
    const sum = found.reduce((s, f) => s + f.by ** 2 / 2, 0);
    out[key] = Math.sqrt((USUAL_COUNTS * usual ** 2 + sum) / (USUAL_COUNTS + found.length));
  }
  return out;
}

/** The 95 % of a change where the rider's own ride-to-ride SD is known: it takes the place of the usual one. */
export function changeBy(m: Pick<MeasureReading, 'key' | 'change' | 'parts'>, own: OwnRide): number {
  const sd = own[m.key];
  if (sd === undefined) return m.change;
  const rest = Math.max(0, (m.change / 1.96) ** 2 - 2 * m.parts.ride ** 2);
  return 1.96 * Math.sqrt(rest + 2 * sd ** 2);
}
