import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync, readFileSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import { chromiumLaunch } from '../../e2e/chromium.ts';
import {
  beforeFilming,
  markAll,
  setScale,
  takeDemoFilm,
  track,
  truthOf,
  type Truth,
} from '../../e2e/studio.ts';
import { bareDecodeScript } from './bareDecode.ts';
import { measureBigClips, type BigClips } from './bigClips.ts';
import { measureLive, type LiveFigures } from './live.ts';
import { manyRiders, type ManyRiders } from './manyRiders.ts';
import { measureRounds, type Rounds } from './rounds.ts';
import { measureJumps, measureTyping, type Jumps, type Typing } from './typing.ts';
import { phasePlayback, type PhaseFigures } from './phase.ts';

const PORT = 4183;
/** So long a camera reads a rider. */
const LIVE_S = 60;

export interface BrowserFigures {
  many: ManyRiders;
  /** Null where there is no ffmpeg to make the films. */
  big: BigClips | null;
  /** Riders on the page, and the framework's page with nothing on it, by turns in new browsers, ms. */
  readyMs: { riders: number; empty: number }[];
  typing: Typing;
  jumps: Jumps;
  rounds: Rounds;
  live: LiveFigures;
  clips: {
    clip: string;
    decodeFps: number;
    trackFps: number;
    ratio: number;
    trackerMs: number;
    filmS: number;
    /** Looking at it as a whole: from the file to names, wheels and verdict. */
    surveyMs: number;
    decodeMs: number;
  }[];
  dragFps: { what: string; fps: number; worstGapMs: number }[];
  phase: PhaseFigures;
}

async function serve(): Promise<ChildProcess> {
  const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await once(server.stdout!, 'data');
  return server;
}

/**
 * From a new browser's first request to the riders on the page, beside the framework's page with nothing on it. The page itself says
 * when its heading has been painted: who asks from outside asks ever less often, and takes half a second's steps.
 */
async function readiness(browser: Browser): Promise<BrowserFigures['readyMs']> {
  const to = async (path: string, heading: string): Promise<number> => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.addInitScript((heading) => {
      const seen = new MutationObserver(() => {
        const stands = [...document.querySelectorAll('h1, h2')].some((e) => e.textContent.includes(heading));
        if (!stands) return;
        seen.disconnect();
        requestAnimationFrame(() => setTimeout(() => performance.mark('painted')));
      });
      seen.observe(document, { childList: true, subtree: true });
    }, heading);
    await page.goto(`http://localhost:${PORT}${path}`, { waitUntil: 'commit' });
    await page.waitForFunction(() => performance.getEntriesByName('painted').length > 0);
    const ms = await page.evaluate(() => performance.getEntriesByName('painted')[0].startTime);
    await context.close();
    return ms;
  };
  const times: BrowserFigures['readyMs'] = [];
  for (let k = 0; k < 25; k += 1)
    times.push({
      riders: await to('/', 'Maren Toft'),
      empty: await to('/no/such/page', 'There is nothing at this address'),
    });
  return times.slice(1);
}

/** The tracking worker as it is built, first only decoding, then tracking, on the same clip: five times by turns, the median. */
async function clipSpeed(page: Page, truth: Truth): Promise<BrowserFigures['clips'][number]> {
  const worker = readdirSync('build/client/assets').find((f) => /^track\.worker-.*\.js$/.test(f))!;
  const bare = await bareDecodeScript();
  const marks = Object.fromEntries(
    Object.entries(truth.jointsPx).map(([k, v]) => [k, { x: v[0][0], y: v[0][1] }]),
  );
  return page.evaluate(
    async ({ url, bare, clip, points }) => {
      interface Answer {
        frames: number;
        ms: number;
        trackerMs: number;
      }
      interface Api {
        decode: (b: Blob) => Promise<Answer>;
        track: (b: Blob, f: number, m: object, p: unknown) => Promise<Answer>;
        survey: (b: Blob, ask: object, tell: unknown, look: unknown) => Promise<unknown>;
        lookAt: (held: unknown, view: string, known: object) => Promise<unknown>;
      }
      interface Held {
        frames: { y: Uint8Array }[];
      }
      const comlink = (
        window as unknown as {
          Comlink: {
            wrap: (w: Worker) => Api;
            proxy: <F>(f: F) => unknown;
            transfer: <T>(value: T, buffers: ArrayBufferLike[]) => T;
          };
        }
      ).Comlink;
      const api = comlink.wrap(new Worker(url, { type: 'module' }));
      const finder = comlink.wrap(new Worker(url, { type: 'module' }));
      const bareUrl = URL.createObjectURL(new Blob([bare], { type: 'text/javascript' }));
      const decoder = comlink.wrap(new Worker(bareUrl, { type: 'module' }));
      const blob = await (await fetch(`/demo/${clip}`)).blob();
      const rounds: Omit<BrowserFigures['clips'][number], 'clip'>[] = [];
      for (let k = 0; k < 5; k += 1) {
        const d = await decoder.decode(blob);
        const decodeFps = (1000 * d.frames) / d.ms;
        const t = await api.track(
          blob,
          0,
          points,
          comlink.proxy(() => undefined),
        );
        const trackFps = (1000 * t.frames) / t.ms;
        const t0 = performance.now();
        const known = { mmPerPx: null, facing: null };
        const seen = await api.survey(
          blob,
          { view: 'drive', range: null },
          comlink.proxy(() => undefined),
          comlink.proxy((held: Held) => {
            const buffers = held.frames.map((f) => f.y.buffer);
            return finder.lookAt(comlink.transfer(held, buffers), 'drive', known);
          }),
        );
        if (!seen) throw new Error('The film was not looked at.');
        rounds.push({
          decodeFps,
          trackFps,
          ratio: trackFps / decodeFps,
          trackerMs: t.trackerMs / t.frames,
          filmS: t.frames / 60,
          surveyMs: performance.now() - t0,
          decodeMs: d.ms,
        });
      }
      rounds.sort((a, b) => a.ratio - b.ratio);
      return { clip, ...rounds[2] };
    },
    { url: `/assets/${worker}`, bare, clip: truth.clip, points: marks },
  );
}

/** Frames that Chromium itself says it drew while something is dragged. */
async function drawnWhile(
  browser: Browser,
  page: Page,
  what: string,
  drag: () => Promise<void>,
): Promise<BrowserFigures['dragFps'][number]> {
  await browser.startTracing(page, {
    categories: [
      'devtools.timeline',
      'disabled-by-default-devtools.timeline.frame',
      'devtools.timeline.frame',
    ],
  });
  await drag();
  const trace = JSON.parse((await browser.stopTracing()).toString()) as {
    traceEvents: { name: string; ts: number }[];
  };
  const draws = trace.traceEvents
    .filter((e) => e.name === 'DrawFrame')
    .map((e) => e.ts / 1000)
    .sort((a, b) => a - b);
  const gaps = draws.slice(1).map((t, i) => t - draws[i]);
  // The first and last tenth are the hand's approach and leaving, when nothing needs drawing.
  const moving = gaps.slice(Math.floor(0.1 * gaps.length), Math.ceil(0.9 * gaps.length));
  return {
    what,
    fps: 1000 / (moving.reduce((s, g) => s + g, 0) / moving.length),
    worstGapMs: Math.max(...moving),
  };
}

/** Between −1 and 1 at an even pace, two turns in three seconds: at a slow turning point there would be nothing to draw. */
const zigzag = (s: number): number => 1 - Math.abs(((s / 0.75 + 1) % 4) - 2);

/** A hand that moves 125 times a second, whether or not the page keeps up: waiting for each answer would set the pace. */
async function sweep(
  page: Page,
  from: { x: number; y: number },
  spanX: number,
  spanY: number,
): Promise<void> {
  const hand = await page.context().newCDPSession(page);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const begin = performance.now();
  const sent: Promise<unknown>[] = [];
  while (performance.now() - begin < 3000) {
    const s = (performance.now() - begin) / 1000;
    const at = { x: from.x + spanX * zigzag(s), y: from.y + spanY * zigzag(0.7 * s) };
    sent.push(
      hand.send('Input.dispatchMouseEvent', { type: 'mouseMoved', button: 'left', buttons: 1, ...at }),
    );
    await new Promise((resolve) => setTimeout(resolve, 8));
  }
  await Promise.all(sent);
  await page.mouse.up();
}

/** What this machine draws at most: one line on an otherwise empty canvas of the film's size that follows the pointer. */
async function bareDrag(browser: Browser): Promise<BrowserFigures['dragFps'][number]> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.setContent('<canvas width="934" height="525"></canvas>');
  await page.evaluate(() => {
    const context = document.querySelector('canvas')!.getContext('2d')!;
    document.addEventListener('pointermove', (e) => {
      context.clearRect(0, 0, 934, 525);
      context.fillRect(e.clientX - 1, 0, 2, 525);
    });
  });
  const drawn = await drawnWhile(browser, page, 'a bare line (the machine’s own limit)', () =>
    sweep(page, { x: 450, y: 260 }, 90, 60),
  );
  await page.close();
  return drawn;
}

async function dragging(browser: Browser, page: Page): Promise<BrowserFigures['dragFps']> {
  const truth = truthOf('maren');
  await beforeFilming(page);
  await takeDemoFilm(page);
  await setScale(page, truth);
  await markAll(page, truth);
  const stage = (await page.locator('.konvajs-content').first().boundingBox())!;
  const k = stage.width / 1280;
  const [kx, ky] = truth.jointsPx.knee[0];
  const landmark = await drawnWhile(browser, page, 'a landmark', () =>
    sweep(page, { x: stage.x + (kx + 0.5) * k, y: stage.y + (ky + 0.5) * k }, 90, 60),
  );
  await page.keyboard.press('Control+z');
  await track(page);
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await page.getByTestId('advice').waitFor();
  // From the middle, nearly to both ends: where the slider stands still at an end there is nothing to draw.
  await page.getByRole('tab', { name: 'What-if bench' }).click();
  await page.getByRole('button', { name: 'As filmed' }).click();
  const thumb = (await page
    .getByRole('group', { name: 'Saddle height' })
    .locator('.MuiSlider-thumb')
    .boundingBox())!;
  const slider = await drawnWhile(browser, page, 'the saddle on the bench', () =>
    sweep(page, { x: thumb.x + thumb.width / 2, y: thumb.y + thumb.height / 2 }, 50, 0),
  );
  return [await bareDrag(browser), landmark, slider];
}

/** Everything measured in the browser, on the application as built. */
export async function measureBrowser(): Promise<BrowserFigures> {
  const server = await serve();
  const browser = await chromium.launch(chromiumLaunch);
  try {
    const readyMs = await readiness(browser);
    const many = await manyRiders(browser, `http://localhost:${PORT}`);
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      bypassCSP: true,
      baseURL: `http://localhost:${PORT}`,
    });
    const page = await context.newPage();
    await page.goto('/');
    await page.addScriptTag({ content: readFileSync('node_modules/comlink/dist/umd/comlink.js', 'utf8') });
    const clips: BrowserFigures['clips'] = [];
    for (const rider of ['maren', 'juno']) clips.push(await clipSpeed(page, truthOf(rider)));
    const dragFps = await dragging(browser, page);
    const phase = await phasePlayback(browser, `http://localhost:${PORT}`);
    const base = `http://localhost:${PORT}`;
    const typing = await measureTyping(browser, base);
    const jumps = await measureJumps(browser, base);
    const rounds = await measureRounds(browser, base);
    const live = await measureLive(base, LIVE_S);
    const big = await measureBigClips(browser, `http://localhost:${PORT}`);
    return { readyMs, many, clips, dragFps, phase, typing, jumps, rounds, live, big };
  } finally {
    await browser.close();
    server.kill();
  }
}
