import { spawnSync } from 'node:child_process';
import { bareDecodeScript } from './bareDecode.ts';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import type { Browser, Page } from '@playwright/test';
import { newSession, truthOf } from '../../e2e/studio.ts';

const FOLDER = '/tmp/deep-angle-bench';

export interface BigClips {
  /** Ten seconds of 1080p at 60 frames/s: from Track to the reading, against bare decoding; frames the page drew meanwhile. */
  tenS: { decodeS: number; trackAndReadS: number; ratio: number; pageFps: number; worstGapMs: number };
  /** A minute of 1080p at 240 frames/s: the most memory that the page's process held while it was opened and stepped through. */
  large: {
    megabytes: number;
    frames: number;
    openS: number;
    /** The page's own memory, and with the pictures that the browser keeps and drops when memory is short. */
    peakMb: number;
    withCacheMb: number;
    scrubMs: number;
  };
}

const ffmpeg = (...args: string[]): void => {
  const done = spawnSync('ffmpeg', ['-loglevel', 'error', '-y', ...args], { stdio: 'inherit' });
  if (done.status !== 0) throw new Error('ffmpeg could not make a film for the benchmark');
};

/** Films too large to be kept: made from the demo, where ffmpeg is there; null where it is not. */
function bigFilms(): { tenS: string; large: string } | null {
  if (spawnSync('ffmpeg', ['-version']).status !== 0) return null;
  mkdirSync(FOLDER, { recursive: true });
  const tenS = `${FOLDER}/ten-seconds.mp4`;
  const part = `${FOLDER}/part.mp4`;
  const large = `${FOLDER}/large.mp4`;
  if (!existsSync(tenS))
    ffmpeg(
      ...[
        '-stream_loop',
        '1',
        '-i',
        'public/demo/maren.webm',
        '-t',
        '10',
        '-vf',
        'scale=1920:1080:flags=lanczos',
      ],
      ...['-c:v', 'libx264', '-preset', 'fast', '-b:v', '12M', '-g', '60', '-r', '60', tenS],
    );
  if (!existsSync(large)) {
    ffmpeg(
      ...['-f', 'lavfi', '-i', 'testsrc2=s=1920x1080:r=240:d=6', '-vf', 'noise=alls=22:allf=t'],
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-b:v', '70M', '-maxrate', '72M', '-bufsize', '70M'],
      ...['-g', '240', '-pix_fmt', 'yuv420p', part],
    );
    ffmpeg('-stream_loop', '9', '-i', part, '-c', 'copy', large);
  }
  return { tenS, large };
}

async function tenSeconds(page: Page, film: string): Promise<BigClips['tenS']> {
  await page.goto('/');
  await page.addScriptTag({ content: readFileSync('node_modules/comlink/dist/umd/comlink.js', 'utf8') });
  await page.evaluate(() => {
    const input = document.createElement('input');
    input.type = 'file';
    input.id = 'bench-film';
    document.body.append(input);
  });
  await page.locator('#bench-film').setInputFiles(film);
  const assets = readdirSync('build/client/assets');
  const worker = (name: string): string =>
    `/assets/${assets.find((f) => f.startsWith(`${name}.worker-`) && f.endsWith('.js'))!}`;
  const bare = await bareDecodeScript();
  const marks = Object.fromEntries(
    Object.entries(truthOf('maren').jointsPx).map(([k, v]) => [
      k,
      { x: 1.5 * (v[0][0] + 0.5) - 0.5, y: 1.5 * (v[0][1] + 0.5) - 0.5 },
    ]),
  );
  return page.evaluate(
    async ({ trackUrl, readUrl, bare, points }) => {
      interface Api {
        decode: (b: Blob) => Promise<{ ms: number }>;
        track: (b: Blob, f: number, m: object, p: unknown) => Promise<{ tracks: unknown }>;
        readTracks: (t: unknown, o: object) => Promise<{ ok: boolean; detail?: string }>;
      }
      const comlink = (
        window as unknown as { Comlink: { wrap: (w: Worker) => Api; proxy: (f: () => void) => unknown } }
      ).Comlink;
      const tracker = comlink.wrap(new Worker(trackUrl, { type: 'module' }));
      const bareUrl = URL.createObjectURL(new Blob([bare], { type: 'text/javascript' }));
      const decoder = comlink.wrap(new Worker(bareUrl, { type: 'module' }));
      const reader = comlink.wrap(new Worker(readUrl, { type: 'module' }));
      const film = document.querySelector<HTMLInputElement>('#bench-film')!.files![0];
      await decoder.decode(film);
      const rounds: {
        decodeS: number;
        trackAndReadS: number;
        ratio: number;
        pageFps: number;
        worstGapMs: number;
      }[] = [];
      for (let k = 0; k < 7; k += 1) {
        const decoded = await decoder.decode(film);
        let [frames, worst, running] = [0, 0, true];
        let last = performance.now();
        requestAnimationFrame(function tick(t: number): void {
          frames += 1;
          worst = Math.max(worst, t - last);
          last = t;
          if (running) requestAnimationFrame(tick);
        });
        const t0 = performance.now();
        const tracked = await tracker.track(
          film,
          0,
          points,
          comlink.proxy(() => undefined),
        );
        const read = await reader.readTracks(tracked.tracks, { mmPerPx: 1.7, crankMm: 172.5 });
        const ms = performance.now() - t0;
        running = false;
        if (!read.ok) throw new Error(read.detail);
        rounds.push({
          decodeS: decoded.ms / 1000,
          trackAndReadS: ms / 1000,
          ratio: ms / decoded.ms,
          pageFps: (1000 * frames) / ms,
          worstGapMs: worst,
        });
      }
      rounds.sort((a, b) => a.ratio - b.ratio);
      return rounds[rounds.length >> 1];
    },
    { trackUrl: worker('track'), readUrl: worker('read'), bare, points: marks },
  );
}

/**
 * Memory of the largest page's process, MB (proportional set size): its own, and with shared memory. Without a graphics chip
 * Chromium keeps the pictures it has shown in shared memory that it may drop at any time, up to 512 MB.
 */
async function rendererMb(browser: Browser): Promise<{ own: number; whole: number }> {
  const cdp = await browser.newBrowserCDPSession();
  const { processInfo } = (await cdp.send('SystemInfo.getProcessInfo')) as {
    processInfo: { type: string; id: number }[];
  };
  await cdp.detach();
  const sizes = processInfo
    .filter((p) => p.type === 'renderer')
    .map((p) => {
      try {
        const text = readFileSync(`/proc/${p.id}/smaps_rollup`, 'utf8');
        const of = (name: string): number =>
          Number(new RegExp(`^${name}:\\s+(\\d+) kB`, 'm').exec(text)?.[1] ?? 0) / 1024;
        return { own: of('Pss_Anon') + of('Pss_File'), whole: of('Pss') };
      } catch {
        return { own: 0, whole: 0 };
      }
    });
  return sizes.reduce((a, b) => (b.whole > a.whole ? b : a), { own: 0, whole: 0 });
}

async function largeClip(browser: Browser, page: Page, film: string): Promise<BigClips['large']> {
  await newSession(page, 'Long Film');
  let peakMb = 0;
  let withCacheMb = 0;
  let watching = true;
  const watch = (async () => {
    while (watching) {
      const now = await rendererMb(browser);
      peakMb = Math.max(peakMb, now.own);
      withCacheMb = Math.max(withCacheMb, now.whole);
      await new Promise((done) => setTimeout(done, 150));
    }
  })();
  const opened = performance.now();
  await page.getByTestId('film-file').setInputFiles(film);
  await page.getByTestId('frame-readout').waitFor({ timeout: 240_000 });
  const openS = (performance.now() - opened) / 1000;
  const slider = page.getByRole('slider', { name: 'Frame' });
  const text = await page.getByTestId('frame-readout').innerText();
  const frames = Number(/of (\d+)/.exec(text)![1]) + 1;
  const t1 = performance.now();
  const jumps = 12;
  for (let k = 1; k <= jumps; k += 1) {
    const frame = Math.round((k / (jumps + 1)) * frames);
    await slider.fill(String(frame));
    await page.getByText(`frame ${frame} of`).waitFor({ timeout: 60_000 });
  }
  const scrubMs = (performance.now() - t1) / jumps;
  // Playing for a while.
  await page.getByRole('button', { name: /^Play/ }).click();
  await page.waitForTimeout(6000);
  watching = false;
  await watch;
  return { megabytes: statSync(film).size / 1e6, frames, openS, peakMb, withCacheMb, scrubMs };
}

/** Both measured on the application as built. */
export async function measureBigClips(browser: Browser, baseURL: string): Promise<BigClips | null> {
  const films = bigFilms();
  if (!films) return null;
  const inNewPage = async <T>(run: (page: Page) => Promise<T>): Promise<T> => {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      bypassCSP: true,
      baseURL,
    });
    const page = await context.newPage();
    // What the scripts' translator calls in functions that go into the page.
    await page.addInitScript('globalThis.__name = (f) => f');
    const got = await run(page);
    await context.close();
    return got;
  };
  const tenS = await inNewPage((page) => tenSeconds(page, films.tenS));
  const large = await inNewPage((page) => largeClip(browser, page, films.large));
  return { tenS, large };
}
