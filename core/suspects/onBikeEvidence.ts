import { ON_BIKE, type OnBike, type OnBikeKey } from './onBike.ts';
import type { SuspectKey } from './suspectRules.ts';

/** What a finding says of the suspects: a test on the bike counts like a plain measurement. */
const SAYS: Partial<Record<`${OnBikeKey}.${string}`, Partial<Record<SuspectKey, number>>>> = {
  'handsOff.falls': { saddleForward: 1, reachLong: 0.6, barLow: 0.6 },
  'handsOff.wobbles': { saddleForward: 0.4 },
  'handsOff.holds': { saddleForward: -0.8, saddleBack: 0.1 },
  'oneHand.yes': { reachLong: 0.5, barLow: 0.5, saddleForward: 0.3 },
  'handsRest.behind': { reachLong: 0.8 },
  'handsRest.hoods': { reachLong: -0.4 },
  'sitsUp.yes': { reachLong: 0.5, barLow: 0.5 },
  'reachTest.there': { reachLong: -0.8, reachShort: -0.8, barLow: -0.5 },
  'reachTest.shrugs': { reachShort: 1 },
  'reachTest.falls': { reachLong: 0.8, barLow: 0.8 },
  'arms.locked': { elbowsLocked: 1, reachShort: 0.4, barLow: 0.4 },
  'arms.soft': { elbowsLocked: -0.6 },
  'back.round': { barLow: 0.8 },
  'back.long': { barLow: -0.4 },
  'slides.yes': { saddleHigh: 0.6, noseDown: 0.8, reachLong: 0.5 },
  'slides.no': { noseDown: -0.3 },
  'sits.side': { legLength: 0.8, pelvis: 0.5, saddleHigh: 0.3 },
  'sits.back': { saddleNarrow: 0.8, saddleForward: 0.5, noseUp: 0.5 },
  'float.both': { cleatRotation: -0.8 },
  'float.in': { cleatRotation: 1 },
  'float.out': { cleatRotation: 1 },
  'heelRises.yes': { saddleForward: 0.4, hamstrings: 0.5 },
  'heel.strikes': { cleatRotation: 1, stanceNarrow: 0.4 },
  'levers.no': { leverReach: 1, handsHabit: 0.1 },
  'levers.yes': { leverReach: -0.8 },
};

/** What the tests on the bike say for or against a suspect. */
export function onBikeEvidence(key: SuspectKey, found: OnBike): { weight: number; text: string }[] {
  return ON_BIKE.flatMap((test) => {
    const answer = found[test.key];
    const weight = answer === undefined ? undefined : SAYS[`${test.key}.${answer}`]?.[key];
    if (!weight) return [];
    const words = test.options.find(([k]) => k === answer)?.[1] ?? answer;
    return [{ weight, text: `${test.name.replace(/[?:].*$/, '').toLowerCase()}: ${words}` }];
  });
}
