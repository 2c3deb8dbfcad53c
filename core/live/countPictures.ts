import { median } from '../math/statistics.ts';

/** Light and camera are looked at so often; on those pictures all of it is wanted. */
const CHECK_EVERY = 45;
const STEPS_KEPT = 60;
/** A step of so many usual ones has one missing in it, however the stamps stray. */
const MISSED_STEPS = 1.7;
const LONGEST_DROP_S = 2;

/** Counts pictures by their stamps: what a camera of this rate should have sent and did not come is dropped. */
export function countPictures() {
  let handled = 0;
  let dropped = 0;
  let lastS = NaN;
  let seen = 0;
  /** The last times from one to the next: stamps stray, their middle does not. */
  const steps: number[] = [];
  return {
    count(tS: number, counts: boolean): void {
      const dt = tS - lastS;
      lastS = tS;
      seen += 1;
      if (dt > 0 && dt < 0.5) steps.push(dt);
      if (steps.length > STEPS_KEPT) steps.shift();
      if (!counts) return;
      handled += 1;
      const usual = median(steps);
      // A camera that slept has dropped nothing.
      if (dt > MISSED_STEPS * usual && dt < LONGEST_DROP_S) dropped += Math.round(dt / usual) - 1;
    },
    rest(): void {
      lastS = NaN;
    },
    checksNow: (): boolean => seen % CHECK_EVERY === 0,
    checksNext: (): boolean => (seen + 1) % CHECK_EVERY === 0,
    now: () => ({ handled, dropped, framesPerS: steps.length > 0 ? 1 / median(steps) : 0 }),
  };
}
