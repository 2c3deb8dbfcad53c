import { lengthWithUnit, type LengthUnit } from '../../../core/units/length.ts';
import { MOVED_KEYS, type Moved } from '../../../sim/practice.ts';

/** What can be moved, the ways it goes, and by how much at a press. */
export const HANDLES: Record<keyof Moved, { name: string; less: string; more: string; stepMm: number }> = {
  saddleUpMm: { name: 'Saddle height', less: 'down', more: 'up', stepMm: 3 },
  saddleBackMm: { name: 'Saddle setback', less: 'forward', more: 'back', stepMm: 3 },
  handsUpMm: { name: 'Hood height', less: 'down', more: 'up', stepMm: 5 },
  handsBackMm: { name: 'Reach to the hoods', less: 'longer', more: 'shorter', stepMm: 5 },
};

/** “3 mm up”, “as found”. */
export function handleText(key: keyof Moved, byMm: number, unit: LengthUnit): string {
  if (byMm === 0) return 'as found';
  return `${lengthWithUnit(Math.abs(byMm), unit)} ${byMm < 0 ? HANDLES[key].less : HANDLES[key].more}`;
}

/** “Saddle height 3 mm up”: what differs between two places of the bike. */
export const movedText = (before: Moved, after: Moved, unit: LengthUnit): string =>
  MOVED_KEYS.filter((key) => after[key] !== before[key])
    .map((key) => `${HANDLES[key].name} ${handleText(key, after[key] - before[key], unit)}`)
    .join(', ') || 'Everything back where it was';
