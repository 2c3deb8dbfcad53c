import type { SuspectCase, Fault } from '../../suspects/evidence.ts';
import type { Belief } from '../terms/belief.ts';
import { handsBelief } from './hands.ts';
import type { PlanCase } from '../terms/plan.ts';
import { heightSetting, setbackSetting, type Setting } from './settings.ts';

const textOf = (b: Belief): string => b.signs.map((s) => s.text).join('; ');

/** A setting's fault in one direction, of both legs and of each filmed one. */
const faultOf = (s: Setting, way: 'under' | 'over') => {
  const one = (b: Belief): Fault => ({ p: b[way], text: textOf(b) });
  return {
    whole: one(s.whole),
    ...(s.sides.left && { left: one(s.sides.left) }),
    ...(s.sides.right && { right: one(s.sides.right) }),
  };
};

/** How probable each fault of a setting is by film, tape and goniometer alone: the suspects' primary signs. */
export function faultsOf(c: PlanCase): NonNullable<SuspectCase['faults']> {
  const height = heightSetting(c, { bare: true });
  const setback = setbackSetting(c, { bare: true });
  const hands = handsBelief(c, { x: 0, y: 0 }, { bare: true });
  const text = hands?.signs.join('; ') ?? '';
  const front = (p: number | undefined): { whole: Fault } => ({ whole: { p: p ?? 0, text } });
  return {
    saddleLow: faultOf(height, 'under'),
    saddleHigh: faultOf(height, 'over'),
    saddleForward: faultOf(setback, 'under'),
    saddleBack: faultOf(setback, 'over'),
    ...(hands && {
      reachLong: front(hands.reach.over),
      reachShort: front(hands.reach.under),
      barLow: front(hands.bar.under),
    }),
  };
}
