import type { Browser, Page } from '@playwright/test';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { laidOut } from '../../e2e/studio.ts';

export interface ManyRiders {
  riders: number;
  visits: number;
  /** From the page's own bar and heading to the list, each in a new tab, ms. */
  listAfterShellMs: number[];
  /** The same for the one time that the index is made from all records, ms. */
  firstIndexMs: number;
  /** Longest piece of script, layout or drawing while a search is typed, ms; and the longest wait from a key to the next frame. */
  longestTaskMs: number;
  longestFrameMs: number;
}

const RIDERS = 2000;
const VISITS_EACH = 3;

/** Puts made-up riders with their visits straight into the browser's database, as a studio of many years has them. */
async function fill(page: Page): Promise<void> {
  const visit = CATALOGUE.sessions.find((s) => s.riderId === 'pilar')!;
  await page.evaluate(
    async ({ rider, visit: model, riders, each }) => {
      const first = ['Ada', 'Bo', 'Cora', 'Dov', 'Edda', 'Finn', 'Greta', 'Hal', 'Ines', 'Jory'];
      const last = ['Alder', 'Birch', 'Cedar', 'Dogwood', 'Elm', 'Fir', 'Gorse', 'Hazel', 'Ivy', 'Juniper'];
      const db = await new Promise<IDBDatabase>((resolve) => {
        const opening = indexedDB.open('deep-angle');
        opening.onsuccess = () => resolve(opening.result);
      });
      const write = db.transaction(['riders', 'sessions'], 'readwrite');
      for (let k = 0; k < riders; k += 1) {
        const id = `r${k}`;
        const name = `${first[k % 10]} ${last[Math.floor(k / 10) % 10]} ${k}`;
        write.objectStore('riders').put({ ...rider, id, name }, id);
        for (let n = 0; n < each; n += 1) {
          const startedIso = new Date(Date.UTC(2020 + n, k % 12, 1 + (k % 28))).toISOString();
          const due = `2027-${String(1 + (k % 12)).padStart(2, '0')}-10`;
          const followUps = n === 2 && k % 3 === 0 ? [{ id: 'f', due, why: 'Check', doneIso: null }] : [];
          const sessionId = `${id}-${n}`;
          write
            .objectStore('sessions')
            .put(
              { ...model, id: sessionId, riderId: id, startedIso, followUps, takes: [], takeId: null },
              sessionId,
            );
        }
      }
      await new Promise((resolve, reject) => {
        write.oncomplete = resolve;
        write.onerror = reject;
      });
      db.close();
    },
    { rider: CATALOGUE.riders[2], visit, riders: RIDERS, each: VISITS_EACH },
  );
}

/** From the page's own bar to its list, by the page's own clock. */
async function listAfterShell(page: Page): Promise<number> {
  await page.addInitScript(() => {
    const times = ((window as unknown as { times: Record<string, number> }).times = {} as Record<
      string,
      number
    >);
    const look = (): void => {
      const shell = document.querySelector('header');
      if (shell) times.shell ??= performance.now();
      if (document.querySelector('main li')) times.list ??= performance.now();
      if (times.list === undefined) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await page.goto('/');
  await page.locator('main li').first().waitFor({ timeout: 60_000 });
  const { shell, list } = await page.evaluate(
    () => (window as unknown as { times: { shell: number; list: number } }).times,
  );
  return list - shell;
}

/** The riders' list with the riders of many years: how soon it stands, and whether typing in its search ever blocks. */
export async function manyRiders(browser: Browser, baseURL: string): Promise<ManyRiders> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL });
  // The bundler that runs this script wraps named functions in a helper, which the page does not have.
  await context.addInitScript({ content: 'globalThis.__name = (f) => f;' });
  const page = await context.newPage();
  await page.goto('/');
  await laidOut(page);
  await fill(page);
  const firstIndexMs = await listAfterShell(page);
  const listAfterShellMs: number[] = [];
  for (let k = 0; k < 5; k += 1) {
    const again = await context.newPage();
    listAfterShellMs.push(await listAfterShell(again));
    await again.close();
  }
  const search = page.getByLabel('Find a rider');
  await search.focus();
  await page.evaluate(() => {
    const w = window as unknown as { worst: { task: number; frame: number } };
    w.worst = { task: 0, frame: 0 };
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) w.worst.task = Math.max(w.worst.task, e.duration);
    }).observe({ type: 'longtask', buffered: false });
    let before = performance.now();
    const frame = (now: number): void => {
      w.worst.frame = Math.max(w.worst.frame, now - before);
      before = now;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame((now) => {
      before = now;
      requestAnimationFrame(frame);
    });
  });
  for (const word of ['ines hazel', 'cedar 7', 'bo', 'low back', 'nobody']) {
    await search.pressSequentially(word, { delay: 60 });
    await page.waitForTimeout(200);
    for (let k = 0; k < word.length; k += 1) await search.press('Backspace', { delay: 10 });
    await page.waitForTimeout(200);
  }
  const worst = await page.evaluate(
    () => (window as unknown as { worst: { task: number; frame: number } }).worst,
  );
  await context.close();
  return {
    riders: RIDERS,
    visits: RIDERS * VISITS_EACH,
    listAfterShellMs,
    firstIndexMs,
    longestTaskMs: worst.task,
    longestFrameMs: worst.frame,
  };
}
