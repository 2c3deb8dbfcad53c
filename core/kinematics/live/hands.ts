import { quantile } from 'd3';
import { isSeen } from '../../math/vec.ts';
import type { LivePoints } from './liveReader.ts';

/** Where the near hand rested of late when nobody asked. */
export interface HandsRest {
  /** How often, and for how long in all, it rested behind its foremost place. */
  timesBehind: number;
  behindS: number;
  /** Of so long a time in which it was seen on the bar. */
  overS: number;
}

export interface HandsWatch {
  /** Takes the next frame while the rider sits and holds the bar. */
  see: (tS: number, points: LivePoints) => void;
  /** The last minutes. */
  rest: () => HandsRest;
}

/** Looked at so often, and counted over the last so many minutes. */
const LOOK_EVERY_S = 0.2;
const COUNTED_S = 300;
/** A hand so far behind its foremost place rests behind the hoods (10 to 15 mm are usual), mm; nearer than the second it is back. */
const BEHIND_MM = 9;
const BACK_MM = 6;
/** Shifting the grip for a moment is no rest. */
const RESTS_S = 2;
/** The foremost place is where it is, or is passed, for this share of the time. */
const FOREMOST = 0.9;
const LEAST_LOOKS = 50;
/** Further apart than this looks are not of one stretch. */
const GAP_S = 1;

interface Look {
  tS: number;
  /** The wrist, along the riding direction. */
  forwardMm: number;
}

/**
 * Watches where the near hand rests on the bar: on the hoods, or behind them, which a rider does who reaches too far. One who never goes
 * to the foremost place can't be told from one who never leaves it.
 * @param mmPerPx of the bike's plane  @param facing which way the bike points in the picture
 */
export function watchHands({ mmPerPx, facing }: { mmPerPx: number; facing: 'left' | 'right' }): HandsWatch {
  const looks: Look[] = [];
  const ahead = facing === 'right' ? mmPerPx : -mmPerPx;
  return {
    see(tS, { wrist }) {
      if (!wrist || !isSeen(wrist)) return;
      if (looks.length > 0 && tS - looks[looks.length - 1].tS < LOOK_EVERY_S) return;
      looks.push({ tS, forwardMm: ahead * wrist.x });
      while (tS - looks[0].tS > COUNTED_S) looks.shift();
    },
    rest() {
      const none = { timesBehind: 0, behindS: 0, overS: 0 };
      if (looks.length < LEAST_LOOKS) return none;
      const foremost = quantile(looks, FOREMOST, (l) => l.forwardMm)!;
      const rest = { ...none };
      let since: number | null = null;
      looks.forEach(({ tS, forwardMm }, k) => {
        const next = looks[k + 1];
        const goesOn = next !== undefined && next.tS - tS < GAP_S;
        if (goesOn) rest.overS += next.tS - tS;
        const behind = foremost - forwardMm > (since === null ? BEHIND_MM : BACK_MM);
        if (behind) since ??= tS;
        if (since !== null && (!behind || !goesOn)) {
          const forS = tS - since;
          if (forS >= RESTS_S) {
            rest.timesBehind += 1;
            rest.behindS += forS;
          }
          since = null;
        }
      });
      return rest;
    },
  };
}
