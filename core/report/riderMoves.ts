import type { BikeSetup } from '../bike/setup.ts';
import { CONTROLS, type ControlKey } from '../plan/controls/controlTable.ts';
import { movesBetween } from '../visit/progress.ts';

type Words = readonly [less: string, more: string];

/** What a moved control is to a rider: what is stated with the amount, down and up. */
const RIDER_WORDS: Partial<Record<ControlKey, { what: string; words: Words }>> = {
  saddleUp: { what: 'saddle', words: ['lower', 'higher'] },
  saddleBack: { what: 'saddle', words: ['further forward', 'further back'] },
  saddleTilt: { what: 'nose of the saddle', words: ['lower', 'higher'] },
  saddleWidth: { what: 'saddle', words: ['narrower', 'wider'] },
  crank: { what: 'cranks', words: ['shorter', 'longer'] },
  stemLength: { what: 'stem', words: ['shorter', 'longer'] },
  spacers: { what: 'handlebar', words: ['lower, by spacers', 'higher, by spacers'] },
  barWidth: { what: 'handlebar', words: ['narrower', 'wider'] },
  barReach: { what: 'handlebar', words: ['shorter ahead', 'longer ahead'] },
  barRotation: { what: 'handlebar', words: ['turned down', 'turned up'] },
  hoods: { what: 'brake hoods', words: ['lower along the bar', 'higher along the bar'] },
  leverReach: { what: 'brake levers', words: ['nearer', 'further away'] },
  padRise: { what: 'arm pads', words: ['lower', 'higher'] },
  padAhead: { what: 'arm pads', words: ['nearer', 'further ahead'] },
};

/** The same for what holds a foot. */
const OF_A_FOOT: readonly (readonly [RegExp, string, Words])[] = [
  [/^cleatBack/, 'cleat', ['further forward', 'further back']],
  [
    /^cleatOut/,
    'cleat',
    ['further in, so that the foot stands further out', 'further out, so that the foot stands closer in'],
  ],
  [/^heelOut/, 'cleat turned, the heel', ['further in', 'further out']],
];

/**
 * What was moved between two set-ups as a rider says it: “saddle 18 mm higher”, “left cleat 4 mm further back”. What was exchanged
 * is named. Nothing is reported twice: a height to the spindle moves with the height.
 * @param length a length as the studio shows it, of mm
 */
export function movesInRiderWords(
  asFound: BikeSetup,
  leaves: BikeSetup,
  length: (mm: number) => string,
): string[] {
  const moved = Object.entries(movesBetween(asFound, leaves)) as [ControlKey, number][];
  // To the half millimetre: a rider measures no finer.
  const amount = (key: ControlKey, by: number): string =>
    CONTROLS[key].unit === 'mm' ? length(Math.round(2 * Math.abs(by)) / 2) : `${Math.abs(by)}°`;
  const out = moved.flatMap(([key, by]): string[] => {
    const { side, unit, name, words } = CONTROLS[key];
    if (key === 'stemFlip') return [by > 0 ? 'stem turned over' : 'stem turned the other way'];
    const ofFoot = OF_A_FOOT.find(([of]) => of.test(key));
    const known = RIDER_WORDS[key] ?? (ofFoot && { what: `${side} ${ofFoot[1]}`, words: ofFoot[2] });
    if (known) return [`${known.what} ${amount(key, by)} ${known.words[by < 0 ? 0 : 1]}`];
    const how = words[by < 0 ? 0 : 1];
    return [`${name.toLowerCase()}: ${unit === '' ? how : `${amount(key, by)} ${how}`}`];
  });
  for (const [what, was, is] of [
    ['saddle', asFound.saddle.model, leaves.saddle.model],
    ['handlebar', asFound.bar.model, leaves.bar.model],
    ['pedals', asFound.pedals.model, leaves.pedals.model],
    ['insole on the left', asFound.feet.left.insole, leaves.feet.left.insole],
    ['insole on the right', asFound.feet.right.insole, leaves.feet.right.insole],
  ] as const)
    if (is && is !== was) out.push(`another ${what}: ${is}`);
  return out;
}
