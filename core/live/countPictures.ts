import { quantile, sum } from 'd3';
import { median } from '../math/statistics.ts';

/** Light and camera are looked at so often; on those pictures all of it is wanted. */
const CHECK_EVERY = 45;
const STEPS_KEPT = 60;
/** Where every other picture is lost, half of the steps are the camera's own. */
const OWN_STEP = 0.35;
/** A step of so many usual ones has one missing in it, however the stamps stray. */
const MISSED_STEPS = 1.7;
const LONGEST_DROP_S = 2;
/** Judged by so many pictures; with more than this share missing the computer does not keep up. */
const JUDGED = 90;
const BUSY_SHARE = 0.2;

/** Counts pictures by their stamps: what a camera of this rate should have sent and did not come is dropped. */
export function countPictures() {
  let handled = 0;
  let dropped = 0;
  let lastS = NaN;
  let seen = 0;
  /** The last times from one to the next: stamps stray, their middle does not. */
  const steps: number[] = [];
  /** Of the last pictures, how many were missing before each. */
  const missing: number[] = [];
  return {
    count(tS: number, counts: boolean): void {
      const dt = tS - lastS;
      lastS = tS;
      seen += 1;
      if (dt > 0 && dt < 0.5) steps.push(dt);
      if (steps.length > STEPS_KEPT) steps.shift();
      if (!counts) return;
      handled += 1;
      const usual = quantile(steps, OWN_STEP) ?? Infinity;
      // A camera that slept has dropped nothing.
      const missed = dt > MISSED_STEPS * usual && dt < LONGEST_DROP_S ? Math.round(dt / usual) - 1 : 0;
      dropped += missed;
      missing.push(missed);
      if (missing.length > JUDGED) missing.shift();
    },
    rest(): void {
      lastS = NaN;
    },
    /** So many of the last pictures did not come that it is the computer that does not keep up. */
    isBusy: (): boolean => missing.length === JUDGED && sum(missing) > BUSY_SHARE * (JUDGED + sum(missing)),
    checksNow: (): boolean => seen % CHECK_EVERY === 0,
    checksNext: (): boolean => (seen + 1) % CHECK_EVERY === 0,
    now: () => ({ handled, dropped, framesPerS: steps.length > 0 ? 1 / median(steps) : 0 }),
  };
}
