import type { Browser, Page } from '@playwright/test';

export interface Typing {
  /** From a key to the page drawn with it, in the Bike station's fields, the longest of all, ms. */
  longestKeyMs: number;
  /** Longest piece of script and drawing while what was typed is handed over and the drawing follows, ms; 0 is none over 50. */
  longestTaskMs: number;
}

/** Types millimetres into fields of the bike, key by key, and leaves each. */
export async function measureTyping(browser: Browser, baseURL: string): Promise<Typing> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL });
  await context.addInitScript(() => {
    const seen = { keys: [] as number[], tasks: [] as number[] };
    (window as unknown as { seen: typeof seen }).seen = seen;
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) if (e.name.startsWith('key')) seen.keys.push(e.duration);
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
    new PerformanceObserver((list) => seen.tasks.push(...list.getEntries().map((e) => e.duration))).observe({
      type: 'longtask',
    });
  });
  const page: Page = await context.newPage();
  await page.goto('/sessions/maren-1/bike');
  const height = page.getByLabel('Height to bottom bracket', { exact: true });
  await height.waitFor();
  await page.waitForTimeout(2500);
  await page.evaluate(() => {
    const { seen } = window as unknown as { seen: { keys: number[]; tasks: number[] } };
    seen.keys.length = 0;
    seen.tasks.length = 0;
  });
  for (const mm of ['701', '702', '703', '704', '705']) {
    await height.click();
    await height.press('Control+a');
    for (const key of mm) {
      await page.keyboard.press(key);
      await page.waitForTimeout(120);
    }
    // Rests, and is handed over without being left.
    await page.waitForTimeout(900);
    await height.press('Enter');
    await page.waitForTimeout(300);
  }
  const seen = await page.evaluate(
    () => (window as unknown as { seen: { keys: number[]; tasks: number[] } }).seen,
  );
  await context.close();
  return { longestKeyMs: Math.max(0, ...seen.keys), longestTaskMs: Math.max(0, ...seen.tasks) };
}

export interface Jumps {
  /** From the End key, and from jumps into the middle, to the picture or to the sign that it is on its way, ms. */
  answeredMs: number[];
  /** To the picture itself. */
  pictureMs: number[];
}

/** Presses End, Home and the slider on a demo film, and waits for the frame or for the sign that it is coming. */
export async function measureJumps(browser: Browser, baseURL: string): Promise<Jumps> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL });
  const page = await context.newPage();
  await page.goto('/sessions/juno-1/film');
  await page.getByTestId('frame-readout').waitFor({ timeout: 60_000 });
  await page.waitForTimeout(3000);
  // As text: the runner's own names for inner functions are not known in the page.
  const times = (await page.evaluate(`(async () => {
    const answeredMs = [];
    const pictureMs = [];
    const readout = () => document.querySelector('[data-testid="frame-readout"]').textContent;
    for (let k = 0; k < 10; k += 1) {
      const before = readout();
      const t0 = performance.now();
      window.dispatchEvent(new KeyboardEvent('keydown', { key: k % 2 ? 'Home' : 'End', cancelable: true }));
      let answered = 0;
      await new Promise((done) => {
        const look = () => {
          const there = readout() !== before;
          const sign = document.querySelector('[aria-label="Going to the frame"]') !== null;
          if (!answered && (there || sign)) answered = performance.now() - t0;
          if (there) done();
          else requestAnimationFrame(look);
        };
        look();
      });
      pictureMs.push(performance.now() - t0);
      answeredMs.push(answered);
      await new Promise((next) => setTimeout(next, 400));
    }
    return { answeredMs, pictureMs };
  })()`)) as Jumps;
  await context.close();
  return times;
}
