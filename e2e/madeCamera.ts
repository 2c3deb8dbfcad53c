import type { Page } from '@playwright/test';
import { insideAngleDeg } from '../core/math/angles.ts';
import { truthOf } from './studio.ts';

/** So many pictures of the camera’s come in a second of the clock at the most. */
const MOST_PER_S = 50;

/** A demo rider’s hip at its most closed, mean over the whole turns of the film: as it was rendered. */
export function hipMostClosedDeg(rider: string): number {
  const { thetaDeg, jointsPx } = truthOf(rider);
  const least = new Map<number, number>();
  const at = (joint: string, i: number) => ({ x: jointsPx[joint][i][0], y: jointsPx[joint][i][1] });
  thetaDeg.forEach((theta, i) => {
    const angle = insideAngleDeg(at('knee', i), at('hip', i), at('shoulder', i));
    const turn = Math.floor(theta / 360);
    least.set(turn, Math.min(least.get(turn) ?? 180, angle));
  });
  const whole = [...least.values()].slice(1, -1);
  return whole.reduce((s, v) => s + v, 0) / whole.length;
}

/** From the first top of the crank to the last one of a film, s: between them it goes round without a jump. */
function wholeTurns(rider: string): [fromS: number, toS: number] {
  const { thetaDeg, framesPerS } = truthOf(rider);
  const tops = thetaDeg.flatMap((t, i) =>
    i > 0 && Math.floor(t / 360) > Math.floor(thetaDeg[i - 1] / 360) ? [i / framesPerS] : [],
  );
  return [tops[0], tops[tops.length - 1]];
}

const rideOf = (rider: string): string =>
  `void window.ride('/demo/${rider}.webm', ${JSON.stringify(wholeTurns(rider))})`;

/**
 * A camera before which a film runs, over and over; another one from when it is asked for. Every other picture of a film of sixty a second:
 * the stamps are those of thirty a second however slow the computer is; where it is fast a minute is over sooner.
 */
const camera = (rider: string): string => `
  navigator.mediaDevices.getUserMedia = async () => {
    const { BlobSource, Input, VideoSampleSink, WEBM } = await import('/mediabunny.mjs');
    const camera = new MediaStreamTrackGenerator({ kind: 'video' });
    const to = camera.writable.getWriter();
    let [current, taken, dueMs, everyMs, dropped] = ['', 0, 0, 1000 / ${MOST_PER_S}, 0];
    // A computer that falls behind is waited for: what is tested is not its speed.
    const pace = () => {
      const counts = document.querySelector('[data-testid="live-counts"]')?.textContent ?? '';
      const now = Number(/(\\d+) dropped/.exec(counts)?.[1] ?? dropped);
      everyMs = now > dropped ? Math.min(150, 1.3 * everyMs) : Math.max(1000 / ${MOST_PER_S}, 0.99 * everyMs);
      dropped = now;
    };
    window.ride = async (url, [fromS, toS]) => {
      current = url;
      const source = new BlobSource(await (await fetch(url)).blob());
      const film = await new Input({ source, formats: [WEBM] }).getPrimaryVideoTrack();
      for (;;) {
        let come = 0;
        for await (const sample of new VideoSampleSink(film).samples(fromS, toS - 0.02)) {
          come += 1;
          if (come % 2 === 0) {
            sample.close();
            continue;
          }
          pace();
          dueMs = Math.max(dueMs + everyMs, performance.now());
          await new Promise((next) => setTimeout(next, dueMs - performance.now()));
          if (current !== url) return sample.close();
          const shown = sample.toVideoFrame();
          sample.close();
          taken += 1;
          const picture = new VideoFrame(shown, { timestamp: Math.round((1e6 * taken) / 30) });
          shown.close();
          to.write(picture).catch(() => undefined);
        }
      }
    };
    ${rideOf(rider)};
    return new MediaStream([camera]);
  };
`;

/** Before the page opens: its camera shows a demo rider, round and round. */
export async function madeCamera(page: Page, rider: string): Promise<void> {
  await page.addInitScript(camera(rider));
  await page.route('/mediabunny.mjs', (route) =>
    route.fulfill({ path: 'node_modules/mediabunny/dist/bundles/mediabunny.mjs' }),
  );
}

/** From now on another one rides before the camera. */
export const ride = (page: Page, rider: string): Promise<unknown> => page.evaluate(rideOf(rider));
