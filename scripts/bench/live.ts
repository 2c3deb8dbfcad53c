import { closeSync, existsSync, mkdirSync, openSync, writeSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { atStage } from '../../e2e/studio.ts';
import { chromiumLaunch } from '../../e2e/chromium.ts';
import { median } from '../../core/math/statistics.ts';
import { CAST } from '../../sim/cast.ts';
import { openFilm, toPlanes } from '../../sim/render/film.ts';

const FOLDER = '/tmp/deep-angle-bench';
const FILM = `${FOLDER}/live.y4m`;
const RATE = 60;
/** Twelve even turns: the film goes round without a jump. */
const SECONDS = 8;

/** Maren pedalling evenly, as a camera’s raw pictures: too large to be kept. */
function liveFilm(): string {
  if (existsSync(FILM)) return FILM;
  mkdirSync(FOLDER, { recursive: true });
  const { scene, film } = CAST[0];
  const rider = { ...scene.rider, cadenceRpm: 90, unevenness: 0, wanderDeg: 0 };
  const camera = openFilm({ ...scene, rider }, { ...film, framesPerS: RATE });
  const { width, height } = toPlanes(camera.shoot(0));
  const file = openSync(FILM, 'w');
  writeSync(file, `YUV4MPEG2 W${width} H${height} F${RATE}:1 Ip A1:1 C420jpeg\n`);
  for (let i = 0; i < SECONDS * RATE; i += 1) {
    const { y, u, v } = toPlanes(camera.shoot(i));
    writeSync(file, 'FRAME\n');
    for (const plane of [y, u, v]) writeSync(file, plane);
  }
  closeSync(file);
  return FILM;
}

export interface LiveFigures {
  seconds: number;
  handled: number;
  dropped: number;
  behindMs: number;
  pageFps: number;
  /** How old the quickest of the camera’s pictures is when it comes, by the machine’s clock: what `behindMs` is beyond. */
  leastMs: number;
  /** Pictures a second, read and closed and nothing else. */
  bareFps: number;
  fps: number;
  /** Heap of the page a while after the start and at the end, MB. */
  heapMb: [number, number];
}

/** What the page still holds on to. */
async function heapMb(page: Page): Promise<number> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('HeapProfiler.collectGarbage');
  const { usedSize } = await cdp.send('Runtime.getHeapUsage');
  await cdp.detach();
  return usedSize / 1e6;
}

/** By how much the page’s clock is ahead of the machine’s steady one, which a camera’s stamps are of, ms: from the quickest of its answers. */
async function pageClockMs(page: Page): Promise<number> {
  const machineMs = (): number => Number(process.hrtime.bigint()) / 1e6;
  let best = { tookMs: Infinity, aheadMs: NaN };
  for (let k = 0; k < 30; k += 1) {
    const from = machineMs();
    const there = await page.evaluate(() => performance.now());
    const to = machineMs();
    if (to - from < best.tookMs) best = { tookMs: to - from, aheadMs: there - (from + to) / 2 };
  }
  return best.aheadMs;
}

/** A camera’s pictures read and closed, so many seconds of them: how many in a second, and how old they were by the page’s clock. */
const bare = (page: Page, seconds: number): Promise<{ fps: number; oldMs: number[] }> =>
  page.evaluate(`(async () => {
    const video = { width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: ${RATE} } };
    const stream = await navigator.mediaDevices.getUserMedia({ video });
    const [track] = stream.getVideoTracks();
    const from = new MediaStreamTrackProcessor({ track }).readable.getReader();
    let [pictures, t0] = [0, 0];
    const oldMs = [];
    for (;;) {
      const { value } = await from.read();
      oldMs.push(performance.now() - value.timestamp / 1000);
      value.close();
      if (t0 === 0) t0 = performance.now();
      else pictures += 1;
      if (performance.now() - t0 > ${1000 * seconds}) break;
    }
    track.stop();
    return { fps: (1000 * pictures) / (performance.now() - t0), oldMs };
  })()`) as Promise<{ fps: number; oldMs: number[] }>;

/** The camera that reads a rider, on the application as built, beside the same camera whose pictures are only read and closed. */
export async function measureLive(baseURL: string, seconds: number): Promise<LiveFigures> {
  const browser = await chromium.launch({
    ...chromiumLaunch,
    args: [
      ...chromiumLaunch.args,
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-video-capture=${liveFilm()}`,
    ],
  });
  try {
    const page = await browser.newPage({ baseURL, viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (f) => f');
    await atStage(page, 'tracked', 'trial?view=live');
    const alone = await bare(page, 10);
    const leastMs = Math.min(...alone.oldMs) - (await pageClockMs(page));
    await page.getByRole('button', { name: 'Turn the camera on' }).click();
    await page.getByTestId('live-kneeFlexionMinDeg').waitFor({ timeout: 60_000 });
    const counts = async (): Promise<number[]> =>
      (await page.getByTestId('live-counts').innerText()).match(/\d+/g)!.slice(0, 2).map(Number);
    await page.evaluate(`(() => {
      window.drawn = { frames: 0, t0: performance.now() };
      const tick = () => { window.drawn.frames += 1; requestAnimationFrame(tick); };
      requestAnimationFrame(tick);
    })()`);
    const began = performance.now();
    const before = await counts();
    const behind: number[] = [];
    let heapFirst = NaN;
    while (performance.now() - began < 1000 * seconds) {
      await page.waitForTimeout(500);
      behind.push(Number(await page.getByTestId('live-counts').getAttribute('data-behind-ms')));
      if (Number.isNaN(heapFirst) && performance.now() - began > 250 * seconds)
        heapFirst = await heapMb(page);
    }
    const tookS = (performance.now() - began) / 1000;
    const after = await counts();
    const pageFps = await page.evaluate(
      '(1000 * window.drawn.frames) / (performance.now() - window.drawn.t0)',
    );
    return {
      seconds: tookS,
      handled: after[0] - before[0],
      dropped: after[1] - before[1],
      behindMs: median(behind),
      pageFps: pageFps as number,
      leastMs,
      bareFps: alone.fps,
      fps: (after[0] - before[0]) / tookS,
      heapMb: [heapFirst, await heapMb(page)],
    };
  } finally {
    await browser.close();
  }
}
