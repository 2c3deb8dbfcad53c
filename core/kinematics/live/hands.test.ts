import { describe, expect, it } from 'vitest';
import { nextComfortable } from '../../../sim/human.ts';
import { FILMED_MM_PER_PX } from '../../../sim/filmed.ts';
import { seenLive, type Doing } from '../../../sim/live.ts';
import { seededRandom } from '../../../sim/random.ts';
import { watchHands, type HandsRest } from './hands.ts';

/** A rider watched for some minutes, eight pictures a second. */
function watched(
  doings: readonly Doing[],
  { seconds = 240, facing = 'right' }: { seconds?: number; facing?: 'left' | 'right' } = {},
): HandsRest {
  const rider = nextComfortable(seededRandom(17));
  const random = seededRandom(4);
  const watch = watchHands({ mmPerPx: FILMED_MM_PER_PX, facing });
  for (let i = 0; i < 8 * seconds; i += 1)
    watch.see(i / 8, seenLive({ rider, doings, facing, noisePx: 0.3 }, i / 8, random));
  return watch.rest();
}

const back = (fromS: number, forS: number, behindMm = 12): Doing => ({
  kind: 'hand-back',
  fromS,
  forS,
  behindMm,
});

describe('where the hands rest', () => {
  it.each(['right', 'left'] as const)('behind the hoods is counted and timed, facing %s', (facing) => {
    const rest = watched([back(40, 20), back(100, 8, 15), back(150, 30, 11)], { facing });
    expect(rest.timesBehind).toBe(3);
    expect(rest.behindS).toBeGreaterThan(52);
    expect(rest.behindS).toBeLessThan(62);
    expect(rest.overS).toBeGreaterThan(235);
  });
  it('on the hoods all the time is none, and neither is shifting them for a moment or by little', () => {
    expect(watched([])).toMatchObject({ timesBehind: 0, behindS: 0 });
    expect(watched([back(40, 1), back(100, 20, 3)]).timesBehind).toBe(0);
  });
  it('is told of the last five minutes alone, and of no time at all at first', () => {
    expect(watched([back(20, 20)], { seconds: 360 }).timesBehind).toBe(0);
    expect(watched([], { seconds: 5 })).toEqual({ timesBehind: 0, behindS: 0, overS: 0 });
  });
});
