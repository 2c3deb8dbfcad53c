import { CONTROLS, type ControlKey } from './controlTable.ts';
import type { Moves } from './controls.ts';

/** At most so much of a control in one round, until the next film (handbook: targets, steps and limits). */
const ROUND: Partial<Record<string, number>> = {
  saddleUp: 10,
  saddleBack: 10,
  saddleTilt: 2,
  cleatBack: 5,
  heelOut: 3,
  cleatOut: 3,
  spacers: 20,
  stemLength: 20,
  crank: 5,
  shim: 3,
  padRise: 20,
  padAhead: 20,
  barRotation: 5,
  hoods: 10,
  leverReach: 6,
  wedge: 1.5,
  washers: 1,
};

/** Whole parts and turns that have no half. */
const WHOLE: readonly string[] = [
  'stemFlip',
  'washers',
  'wedge',
  'crank',
  'stemLength',
  'saddleWidth',
  'barWidth',
  'stemAngle',
];

/** Whether a control is moved whole or not at all. */
export const isWhole = (key: ControlKey): boolean => WHOLE.includes(kindOf(key));

const kindOf = (key: ControlKey): string => key.replace(/\.(left|right)$/, '');

/** What one round allows of a control; half for who takes half steps. Infinite where the handbook sets no limit. */
function roundLimit(key: ControlKey, half: boolean): number {
  const kind = kindOf(key);
  const most = ROUND[kind] ?? Infinity;
  return half && !WHOLE.includes(kind) ? most / 2 : most;
}

/** The moves the same way, each control by no more than it may. */
export const noFurther = (moves: Moves, most: (key: ControlKey) => number): Moves =>
  Object.fromEntries(
    (Object.entries(moves) as [ControlKey, number][]).map(([key, by]) => [
      key,
      Math.sign(by) * Math.min(Math.abs(by), most(key)),
    ]),
  );

/** This round's share of moves that are wanted in the end. */
export function shareOf(moves: Moves, half: boolean): Moves {
  return noFurther(moves, (key) => roundLimit(key, half));
}

/** What is left of the wanted moves after this round's; nothing where the rest is not worth a step. */
export function restOf(whole: Moves, share: Moves): Moves {
  return Object.fromEntries(
    (Object.entries(whole) as [ControlKey, number][])
      .map(([key, by]) => [key, by - (share[key] ?? 0)] as const)
      .filter(([key, by]) => Math.abs(by) >= Math.max(1, 0.5 * CONTROLS[key].step)),
  );
}

/** Bought in their length, not moved in steps. */
const PARTS: readonly ControlKey[] = [
  'crank',
  'stemLength',
  'stemAngle',
  'barReach',
  'barWidth',
  'saddleWidth',
  'pedalAxle',
];

/** “saddle height in steps of 3 mm”, by the controls that are moved by more than a step. */
export function stepsOf(moves: Moves, halfSteps: boolean): string {
  const words = (Object.entries(moves) as [ControlKey, number][]).map(([key, by]) => {
    const { step, unit, name } = CONTROLS[key];
    const used = halfSteps && unit === 'mm' && step > 1 ? step / 2 : step;
    if (unit === '' || PARTS.includes(key) || Math.abs(by) <= used) return null;
    return `${name.replace(/, (left|right)$/, '').toLowerCase()} in steps of ${used}${unit === '°' ? '°' : ' mm'}`;
  });
  // A pair is reported once.
  return [...new Set(words.filter(Boolean))].join('; ');
}
