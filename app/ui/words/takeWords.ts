import type { Take, TakeEffort, TakePosition, TakeView } from '../../../core/records/types.ts';

export const VIEWS: readonly (readonly [TakeView, string])[] = [
  ['drive', 'drive side'],
  ['nonDrive', 'non-drive side'],
  ['front', 'front'],
  ['rear', 'rear'],
];
export const POSITIONS: readonly (readonly [TakePosition, string])[] = [
  ['tops', 'tops'],
  ['hoods', 'hoods'],
  ['drops', 'drops'],
  ['extensions', 'extensions'],
  ['grips', 'grips'],
];
export const EFFORTS: readonly (readonly [TakeEffort, string])[] = [
  ['easy', 'easy'],
  ['working', 'working'],
  ['hard', 'hard'],
];

const word = <K extends string>(list: readonly (readonly [K, string])[], key: K | null): string =>
  list.find(([k]) => k === key)?.[1] ?? '';

/** “drive side, hoods, easy, 95 W”. */
export const takeText = (t: Take): string =>
  [
    word(VIEWS, t.view),
    word(POSITIONS, t.position),
    word(EFFORTS, t.effort),
    t.effortW === null ? '' : `${t.effortW} W`,
    t.cadenceRpm === null ? '' : `${t.cadenceRpm} rpm`,
  ]
    .filter(Boolean)
    .join(', ');
