import type { BikeSetup } from '../bike/setup.ts';
import { CONTROL_KEYS, CONTROLS, type ControlKey } from '../plan/controls/controlTable.ts';
import { effectsOf, pick } from '../plan/controls/controls.ts';
import { movesBetween } from '../visit/progress.ts';

/**
 * Why a control was moved, as a rider would be told: down and up, or in the same words either way; null where moving it that way needs
 * none.
 */
const WHY: readonly [RegExp, down: string | null, up?: string | null][] = [
  [/^saddleTilt/, 'so that the nose presses less', 'so that you no longer slide forward on to your hands'],
  [
    /^saddleUp/,
    'so that your leg no longer has to reach for the pedal',
    'so that your knee can straighten further with every turn',
  ],
  [
    /^saddleBack/,
    'so that hip and knee come further over the pedals',
    'so that your weight rests over the saddle and your knee over the pedal',
  ],
  [/^saddleWidth/, 'so that the saddle carries your sit bones and nothing else'],
  [/^barWidth/, 'so that your arms hang as wide as your shoulders'],
  [/^leverReach/, 'so that two fingers reach the brakes', null],
  [/^cleatBack/, 'so that your foot rests as it wants to', 'so that the ball of your foot is spared'],
  [/^(cleatOut|heelOut|wedge|shim|washers|pedalAxle)/, 'so that your foot rests as it wants to'],
  [/^crank/, 'so that hip and knee have more room at the top', null],
  [/^pad/, 'so that your arms rest without strain'],
];
/** What has no words of its own at the bar only brings the hands elsewhere: that is reported once for all of it. */
const AT_THE_BAR = CONTROL_KEYS.filter(
  (k) => CONTROLS[k].stage === 'cockpit' && !WHY.some(([of]) => of.test(k)),
);

/** The reasons for what moved between two set-ups, each once. What a raised saddle brings to its setback was no move of its own. */
export function reasonsFor(asFound: BikeSetup, leaves: BikeSetup): string[] {
  const moves = movesBetween(asFound, leaves);
  const own = (Object.entries(moves) as [ControlKey, number][]).flatMap(([key, by]) => {
    if (Math.abs(by) < FELT) return [];
    const [, down = null, up = down] = WHY.find(([of]) => of.test(key)) ?? [];
    return [by < 0 ? down : up];
  });
  const hand = effectsOf(asFound, pick(moves, AT_THE_BAR)).handMm;
  const bar =
    Math.hypot(hand.x, hand.y) < FELT
      ? null
      : hand.x <= 0 && hand.y >= 0
        ? 'so that you reach the bar without leaning on it'
        : hand.x >= 0 && hand.y <= 0
          ? 'so that your back can be longer and lower'
          : 'so that your hands rest where your arms want them';
  return [...new Set([...own, bar].filter((w) => w !== null))];
}
/** Less than this, mm or degrees, a rider does not feel and need not be given a reason for. */
const FELT = 0.5;
