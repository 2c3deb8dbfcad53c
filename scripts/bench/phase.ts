import type { Browser, Page } from '@playwright/test';

export interface PhaseFigures {
  /** Pictures a second that each film showed while both played in crank phase at full speed; the slower of the two. */
  fps: number;
  longestGapMs: number;
  /** The same two pictures drawn over and over on an otherwise empty page: what this machine draws at most. */
  bareFps: number;
}

const SECONDS = 4;

/** Counts the pictures put on each canvas; those beside the films are smaller. */
const COUNTER = `
  globalThis.__drawn = new Map();
  const put = CanvasRenderingContext2D.prototype.putImageData;
  CanvasRenderingContext2D.prototype.putImageData = function (picture, ...rest) {
    if (this.canvas.width >= 500) {
      const times = globalThis.__drawn.get(this.canvas) ?? [];
      times.push(performance.now());
      globalThis.__drawn.set(this.canvas, times);
    }
    return put.call(this, picture, ...rest);
  };
`;

async function bare(page: Page): Promise<number> {
  await page.setContent(
    '<canvas width="1280" height="720"></canvas><canvas width="1280" height="720"></canvas>',
  );
  return page.evaluate(async (seconds) => {
    const contexts = [...document.querySelectorAll('canvas')].map((c) => {
      c.style.width = '600px';
      return c.getContext('2d', { alpha: false })!;
    });
    const picture = new ImageData(1280, 720);
    let frames = 0;
    const begin = performance.now();
    while (performance.now() - begin < 1000 * seconds) {
      await new Promise(requestAnimationFrame);
      for (const c of contexts) c.putImageData(picture, 0, 0);
      frames += 1;
    }
    return (1000 * frames) / (performance.now() - begin);
  }, SECONDS);
}

/** Both films of Maren's first visit, 720p at 60 frames/s, played side by side. */
export async function phasePlayback(browser: Browser, baseURL: string): Promise<PhaseFigures> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL });
  const empty = await context.newPage();
  const bareFps = await bare(empty);
  await empty.close();
  const page = await context.newPage();
  await page.addInitScript(COUNTER);
  await page.goto('/sessions/maren-1/trial?view=compare');
  await page.getByTestId('phase-after').filter({ hasText: /\d/ }).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(2500);
  await page.getByLabel('Playing speed').click();
  await page.getByRole('option', { name: '× 1' }).last().click();
  await page.getByRole('button', { name: 'Play (Space)' }).click();
  await page.waitForTimeout(800);
  const figures = await page.evaluate(async (seconds) => {
    const drawn = (globalThis as unknown as { __drawn: Map<unknown, number[]> }).__drawn;
    drawn.clear();
    await new Promise((done) => setTimeout(done, 1000 * seconds));
    const films = [...drawn.values()].map((times) => ({
      fps: (1000 * (times.length - 1)) / (times[times.length - 1] - times[0]),
      gap: Math.max(...times.slice(1).map((t, i) => t - times[i])),
    }));
    return {
      films: films.length,
      fps: Math.min(...films.map((f) => f.fps)),
      longestGapMs: Math.max(...films.map((f) => f.gap)),
    };
  }, SECONDS);
  if (figures.films !== 2) throw new Error(`${figures.films} films were drawn in place of two`);
  await context.close();
  return { fps: figures.fps, longestGapMs: figures.longestGapMs, bareFps };
}
