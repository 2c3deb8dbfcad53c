import { complaintName, openComplaints, type Complaint, type RegionKey } from '../../intake/intake.ts';
import type { LegSide } from '../../model/effects.ts';
import type { Hint, SettingKey } from '../terms/belief.ts';
import type { PlanCase } from '../terms/plan.ts';

/**
 * How many times likelier a complaint makes too little and too much (own scale after the handbook's table of symptoms: a leading
 * suspect three times, one of several half as often again): height low / high, setback forward / back, reach short / long, bar low /
 * high.
 */
const COMPLAINTS: Partial<
  Record<SettingKey, Partial<Record<RegionKey, readonly [under: number, over: number]>>>
> = {
  height: {
    kneeFront: [3, 0.7],
    kneeBehind: [0.5, 3],
    kneeInside: [1, 1.3],
    kneeOutside: [0.8, 2],
    hipFront: [1.6, 0.8],
    forefoot: [1.2, 1.2],
    footOutside: [1, 1.2],
    calf: [1.2, 1.4],
    softTissue: [0.8, 1.7],
    sitBones: [1, 1.1],
    buttock: [0.8, 2],
    lowBack: [0.9, 1.5],
    crooked: [0.9, 1.5],
  },
  setback: {
    kneeFront: [2, 0.7],
    kneeBehind: [0.7, 2.5],
    buttock: [0.8, 1.6],
    hands: [1.5, 0.9],
    wrist: [1.4, 0.9],
    cramped: [1.6, 0.7],
    forefoot: [1.2, 1],
  },
  reach: {
    hands: [1.2, 1.8],
    wrist: [1.1, 1.4],
    neck: [0.9, 2.2],
    betweenShoulders: [0.9, 2.2],
    lowBack: [0.9, 1.8],
    softTissue: [0.9, 1.5],
    cramped: [3, 0.5],
  },
  bar: {
    hands: [1.8, 0.9],
    wrist: [1.5, 0.9],
    neck: [2, 0.9],
    betweenShoulders: [1.8, 0.9],
    lowBack: [2, 0.8],
    softTissue: [1.7, 0.9],
    hipFront: [1.8, 0.9],
  },
};

/** What the tests on the bike say of a setting. */
const TESTS: Partial<
  Record<SettingKey, Partial<Record<string, readonly [under: number, over: number, text: string]>>>
> = {
  height: {
    'slides.yes': [0.9, 1.4, 'slides forward'],
    'sits.side': [0.9, 1.3, 'sits off one side'],
    'sits.back': [1, 1.1, 'sits off the back'],
  },
  setback: {
    'handsOff.falls': [3, 0.5, 'falls forward hands off'],
    'handsOff.wobbles': [1.4, 0.8, 'wobbles hands off'],
    'handsOff.holds': [0.25, 1.1, 'holds itself hands off'],
    'heelRises.yes': [1.4, 0.9, 'heel rises early'],
    'sits.back': [1.5, 0.7, 'sits off the back'],
  },
  reach: {
    'handsRest.behind': [0.6, 2.5, 'hands rest behind the hoods'],
    'reachTest.there': [0.4, 0.4, 'the hood is where the reach test puts it'],
    'reachTest.shrugs': [3.5, 0.5, 'shoulders shrug in the reach test'],
    'reachTest.falls': [0.5, 3.5, 'falls on to the hands in the reach test'],
    'sitsUp.yes': [0.8, 1.5, 'sits up between efforts'],
    'oneHand.yes': [0.9, 1.4, 'the other arm loads when one hand is off'],
    'arms.locked': [1.3, 1.3, 'arms locked or shrugged'],
    'slides.yes': [0.9, 1.3, 'slides forward'],
  },
  bar: {
    'reachTest.there': [0.5, 0.5, 'the hood is where the reach test puts it'],
    'reachTest.falls': [1.6, 0.7, 'falls on to the hands in the reach test'],
    'back.round': [3, 0.5, 'the back rounds and the head comes up'],
    'back.long': [0.7, 1, 'back long, head low'],
    'sitsUp.yes': [1.5, 0.8, 'sits up between efforts'],
    'oneHand.yes': [1.4, 0.9, 'the other arm loads when one hand is off'],
  },
};

/** Who complains of nothing is less often off: a leg may bear much unnoticed, hands and neck soon tell. */
const QUIET: Record<SettingKey, number> = { height: 0.8, setback: 0.5, reach: 0.4, bar: 0.4 };

const STEP_WORDS: Record<SettingKey, readonly [less: string, more: string]> = {
  height: ['down', 'up'],
  setback: ['forward', 'back'],
  reach: ['nearer', 'further'],
  bar: ['down', 'up'],
};

/** From which likelihood on a complaint is one that a fault explains. */
const EXPLAINS = 1.4;

const times = (v: number): string => (v >= 2.5 ? 'much ' : '');

/** Whether a complaint may speak for a side: its own, or one that has no side. */
const concerns = (q: Complaint, side: LegSide | null): boolean =>
  side === null || q.side === 'both' || q.side === 'middle' || q.side === side;

/** The open complaints that a fault in that direction would explain. */
export const explained = (
  c: PlanCase,
  key: SettingKey,
  way: 'under' | 'over',
  side: LegSide | null = null,
): Complaint[] =>
  openComplaints(c.intake.complaints).filter(
    (q) => concerns(q, side) && (COMPLAINTS[key]?.[q.region]?.[way === 'under' ? 0 : 1] ?? 1) >= EXPLAINS,
  );

/** How much of a complaint another fault explains already, by its id: so much of it no longer speaks here. */
export type Explained = ReadonlyMap<string, number>;

/** Everything that makes one direction likelier without a figure: complaints with their side, tests, the rider's word after a step. */
export function hintsFor(
  c: PlanCase,
  key: SettingKey,
  side: LegSide | null,
  elsewhere: Explained = new Map(),
): Hint[] {
  const open = openComplaints(c.intake.complaints).filter((q) => q.severity > 0);
  const out: Hint[] = [];
  const quiet = QUIET[key];
  if (open.length === 0) out.push({ under: quiet, over: quiet, text: 'nothing hurts' });
  for (const q of open) {
    const odds = COMPLAINTS[key]?.[q.region];
    if (!odds || !concerns(q, side)) continue;
    // A complaint without a side, or of one side where both are weighed together, counts for both legs.
    const open = 1 - (elsewhere.get(q.id) ?? 0);
    if (open < 0.1) continue;
    out.push({
      under: odds[0] ** open,
      over: odds[1] ** open,
      text: `${complaintName(q)}${odds[0] > 1 || odds[1] > 1 ? `: ${times(Math.max(...odds))}likelier` : ''}`,
    });
  }
  for (const [test, answer] of Object.entries(c.onBike ?? {})) {
    const found = TESTS[key]?.[`${test}.${answer}`];
    if (found) out.push({ under: found[0], over: found[1], text: found[2] });
  }
  if (key === 'height') out.push(...footHints(c, side));
  out.push(...wordHints(c, key));
  return out;
}

/** A foot that points far down may hide a saddle that is too high: judged with the knee, and by how surely it points. */
function footHints(c: PlanCase, side: LegSide | null): Hint[] {
  const pitch = c.sides
    .filter((s) => side === null || s.model.side === side)
    .flatMap((s) => s.measures.filter((m) => m.key === 'footPitch180Deg'));
  const p = Math.max(0, ...pitch.map((m) => m.pOut.high));
  return p >= 0.3 ? [{ under: 1, over: 1 + 1.5 * p, text: 'toes point far down at the bottom' }] : [];
}

/** What the rider said after riding a step of this setting: a step that helped speaks for going on, one that did not for going back. */
function wordHints(c: PlanCase, key: SettingKey): Hint[] {
  return c.ridden.flatMap(({ setting, way, word }): Hint[] => {
    if (setting !== key) return [];
    // A step that takes away from “too much” is a step down.
    const toLess = way < 0;
    // No difference takes a little from the direction that was tried, and gives nothing to the other.
    const [on, back] = word === 'better' ? [2, 0.5] : word === 'worse' ? [0.3, 1.6] : [0.7, 1];
    return [
      {
        under: toLess ? back : on,
        over: toLess ? on : back,
        text: `${word === 'same' ? 'no difference' : word} after a step ${STEP_WORDS[key][toLess ? 0 : 1]}`,
      },
    ];
  });
}
