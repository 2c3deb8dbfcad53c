import type { LegSide } from '../../model/effects.ts';
import { normalCdf } from '../../math/normal.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import type { PlanCase } from '../terms/plan.ts';

/** From here on a difference of the knees at their straightest is worth a look, degrees (handbook: targets, left against right). */
const WORTH_A_LOOK_DEG = 3;

/**
 * Whether the films show one leg straighter than the other at the bottom, and how surely: both sides wear their own stickers.
 * @returns null unless both sides were filmed and it is likelier than not
 */
export function legsDiffer(
  c: Pick<PlanCase, 'sides'>,
): { byDeg: number; p: number; straighter: LegSide } | null {
  const of = (side: LegSide): MeasureReading | undefined =>
    c.sides.find((s) => s.model.side === side)?.measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const [l, r] = [of('left'), of('right')];
  if (!l || !r) return null;
  const byDeg = l.value - r.value;
  const sd = Math.hypot(l.uncertainty, r.uncertainty) / 1.96;
  const p = normalCdf((Math.abs(byDeg) - WORTH_A_LOOK_DEG) / sd);
  return p >= 0.5 ? { byDeg, p, straighter: byDeg < 0 ? 'left' : 'right' } : null;
}
