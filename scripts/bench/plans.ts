import { prescribe } from '../../core/plan/prescribe.ts';
import { readTracks } from '../../core/kinematics/read.ts';
import { median } from '../../core/math/statistics.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { demoCase, riderOf } from '../plans/cases.ts';

function timed(run: () => void): number {
  const all: number[] = [];
  for (let i = 0; i < 24; i += 1) {
    const from = performance.now();
    run();
    if (i >= 3) all.push(performance.now() - from);
  }
  return median(all);
}

/** A prescription from scratch against the reading that it is made from, for each demo rider. */
export function comparePlans(): { rider: string; planMs: number; readMs: number }[] {
  return ['maren', 'idris', 'pilar', 'juno'].map((rider) => {
    const tracks = filmed({ rider: riderOf(rider), noisePx: 0.15 });
    // A copy, as a worker gets it: nothing that is kept between plans counts.
    return {
      rider,
      planMs: timed(() => void prescribe(structuredClone(demoCaseOnce(rider)))),
      readMs: timed(() => void readTracks(tracks, { mmPerPx: FILMED_MM_PER_PX })),
    };
  });
}

const cases = new Map<string, ReturnType<typeof demoCase>>();
function demoCaseOnce(rider: string): ReturnType<typeof demoCase> {
  const c = cases.get(rider) ?? demoCase(rider);
  cases.set(rider, c);
  return c;
}
