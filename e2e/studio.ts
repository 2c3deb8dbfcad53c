import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { parseTracksCsv } from '../core/formats/tracksCsv.ts';
import type { Tracks } from '../core/tracking/tracks.ts';
import { NOTHING_DONE } from '../core/visit/visits.ts';

/** Ways through the interface that tests, screenshots and the benchmark share. */
export interface Truth {
  clip: string;
  frames: number;
  framesPerS: number;
  facing: 'left' | 'right';
  crankMm: number;
  wheelbaseMm: number;
  rearAxlePx: { x: number; y: number };
  frontAxlePx: { x: number; y: number };
  rimsPx: Record<'rearTop' | 'rearBottom' | 'frontTop' | 'frontBottom', { x: number; y: number }>;
  crankCentrePx: { x: number; y: number };
  cadenceRpm: number;
  thetaDeg: number[];
  jointsPx: Record<string, [number, number][]>;
  jointsMm: Record<string, [number, number][]>;
}

export const truthOf = (rider: string): Truth =>
  JSON.parse(readFileSync(new URL(`../public/demo/${rider}.truth.json`, import.meta.url), 'utf8')) as Truth;

export const LANDMARKS = ['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist'];

/** Clicks on a place of the film, given in its own pixels. */
async function pointOut(page: Page, at: { x: number; y: number }, filmWidthPx = 1280): Promise<void> {
  const stage = page.locator('.konvajs-content').first();
  await stage.waitFor();
  const box = (await stage.boundingBox())!;
  const k = box.width / filmWidthPx;
  await page.mouse.click(box.x + (at.x + 0.5) * k, box.y + (at.y + 0.5) * k);
}

/** Waits until everything given is stored: a reload before that asks first, and may lose it. */
export const saved = (page: Page): Promise<void> =>
  page.getByText('Saved on this device').waitFor({ state: 'attached' });

export async function openSession(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('heading', { name }).click();
}

interface WithRouter {
  __reactRouterDataRouter?: {
    navigate: (to: string, how: { flushSync: boolean }) => Promise<void>;
    state: { initialized: boolean };
  };
}

/** Goes to a page as a link of the application does: without loading all of it anew. It is drawn then. */
export async function turnTo(page: Page, path: string): Promise<void> {
  await page.waitForFunction(
    () => (window as WithRouter).__reactRouterDataRouter?.state.initialized === true,
  );
  await page.evaluate(
    (to) => (window as WithRouter).__reactRouterDataRouter!.navigate(to, { flushSync: true }),
    path,
  );
}

/** Waits until the sample riders of a browser's first visit are stored: their list stands before that. */
export async function laidOut(page: Page): Promise<void> {
  const isSeeded = (): Promise<boolean> =>
    page.evaluate(async () => {
      // Asking for a database that is not there would make one.
      if (!(await indexedDB.databases()).some(({ name }) => name === 'deep-angle')) return false;
      return new Promise<boolean>((resolve) => {
        const open = indexedDB.open('deep-angle');
        open.onsuccess = () => {
          const db = open.result;
          const ask =
            db.objectStoreNames.contains('settings') &&
            db.transaction('settings').objectStore('settings').get('demo-seeded');
          db.close();
          if (ask) ask.onsuccess = () => resolve(ask.result === true);
          else resolve(false);
        };
      });
    });
  await expect.poll(isSeeded).toBe(true);
}

/** How far Maren's first visit has come: nothing filmed; the first film in; its wheels and joints marked; tracked. */
type Stage = 'before' | 'filmed' | 'marked' | 'tracked';

/** Maren's first visit as it was at a stage: intake, body and bike noted, nothing moved or handed over; at a station. */
export async function atStage(page: Page, stage: Stage, station: string): Promise<void> {
  await page.goto('/');
  await laidOut(page);
  await page.evaluate(
    ([untouched, upTo]) =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('deep-angle');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const store = open.result.transaction('sessions', 'readwrite').objectStore('sessions');
          const read = store.get('maren-1');
          read.onsuccess = () => {
            const s = read.result as {
              planning: object;
              handOver: object;
              takes: { id: string; tracking: object }[];
            };
            const [take] = s.takes;
            const untracked = { state: 'none', framesDone: 0, estimated: false, revision: 1 };
            const bare = {
              axles: { rear: null, front: null },
              rims: {},
              markedFrame: 0,
              marks: {},
              tracking: untracked,
            };
            const now =
              upTo === 'filmed'
                ? { ...take, ...bare }
                : upTo === 'marked'
                  ? { ...take, tracking: untracked }
                  : take;
            const write = store.put(
              {
                ...s,
                ...untouched,
                ...(upTo === 'before' ? {} : { takes: [now], takeId: take.id }),
                planning: { ...s.planning, decisions: [], onBike: {} },
                handOver: { ...s.handOver, findings: [], ticked: [] },
              },
              'maren-1',
            );
            write.onsuccess = () => {
              open.result.close();
              resolve();
            };
            write.onerror = () => reject(write.error);
          };
        };
      }),
    [NOTHING_DONE, stage] as const,
  );
  await turnTo(page, `/sessions/maren-1/${station}`);
}

/** The same before the camera came out, at the Film station. */
export async function beforeFilming(page: Page): Promise<void> {
  await atStage(page, 'before', 'film');
  await page.getByRole('heading', { name: 'Add a film' }).waitFor();
}

/** A new rider who has agreed to be filmed, at the Film station. */
export async function newSession(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New rider…' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Start the visit' }).click();
  await page.getByRole('button', { name: 'Record the consent' }).click();
  await page.getByRole('button', { name: 'Withdraw' }).waitFor();
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await page.getByRole('heading', { name: 'Add a film' }).waitFor();
}

export async function takeDemoFilm(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Use the demo film' }).click();
  await page.getByTestId('frame-readout').waitFor({ timeout: 30_000 });
}

export async function setScale(page: Page, truth: Truth): Promise<void> {
  await page.getByRole('link', { name: /^5 Scale/ }).click();
  await page.getByText('Point out 1 of 6').waitFor();
  await page.getByTestId('frame-readout').waitFor({ timeout: 30_000 });
  await pointOut(page, truth.rearAxlePx);
  await page.getByText('Point out 2 of 6').waitFor();
  await pointOut(page, truth.frontAxlePx);
  await page.getByTestId('mm-per-px').waitFor();
  for (const [i, key] of (['rearTop', 'rearBottom', 'frontTop', 'frontBottom'] as const).entries()) {
    await page.getByText(`If you can ${i + 3} of 6`).waitFor();
    await pointOut(page, truth.rimsPx[key]);
  }
  await page.getByTestId('squareness').waitFor();
}

/** Marks all joints on one frame, each some pixels beside its sticker: snapping has to find the centre. */
export async function markAll(page: Page, truth: Truth, frame = 0, missPx = 2): Promise<void> {
  await page.getByRole('link', { name: /^6 Mark/ }).click();
  await page.getByText('Point out 1 of 8').waitFor();
  await page.getByTestId('frame-readout').waitFor({ timeout: 30_000 });
  for (let k = 0; k < frame; k += 10) await page.keyboard.press('>');
  await page
    .getByTestId('frame-readout')
    .filter({ hasText: `frame ${frame} of` })
    .waitFor();
  for (const [i, key] of LANDMARKS.entries()) {
    await page.getByText(`Point out ${i + 1} of 8`).waitFor();
    const [x, y] = truth.jointsPx[key][frame];
    await pointOut(page, { x: x + missPx, y: y - missPx });
    await page.getByTestId(`point-${key}`).filter({ hasText: 'px' }).waitFor();
  }
}

export async function track(page: Page): Promise<void> {
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.getByRole('button', { name: /^Track/ }).click();
  await page.getByRole('heading', { name: 'Tracked through the whole film' }).waitFor({ timeout: 200_000 });
}

/** The tracks that Read saves as a table. */
export async function savedTracks(page: Page): Promise<Tracks> {
  await page.getByRole('button', { name: 'Files' }).click();
  const coming = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save tracks (CSV)' }).click();
  const parsed = parseTracksCsv(readFileSync((await (await coming).path())!, 'utf8'));
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.tracks;
}

/** Types a day into a field of days, part by part as a fitter would. */
export async function typeDay(
  page: Page,
  label: string,
  ...parts: [day: string, month: string, year: string]
): Promise<void> {
  await page.getByRole('group', { name: label }).getByRole('spinbutton', { name: 'Day' }).click();
  for (const part of parts) await page.keyboard.type(part);
}

/** Everything in one of the browser's stores at this moment, as text. */
const stored = (page: Page, name: 'sessions' | 'drafts', key: string | null): Promise<string> =>
  page.evaluate(
    ([of, id]) =>
      new Promise<string>((resolve, reject) => {
        const open = indexedDB.open('deep-angle');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const from = open.result.transaction(of!).objectStore(of!);
          const read = id === null ? from.getAll() : from.get(id);
          read.onerror = () => reject(read.error);
          read.onsuccess = () => {
            resolve(JSON.stringify(read.result));
            open.result.close();
          };
        };
      }),
    [name, key] as const,
  );

/** A visit as it is stored at this moment, as text: a test waits for what it typed to be there. */
export const storedVisit = (page: Page, id: string): Promise<string> => stored(page, 'sessions', id);

/** What stands half typed in fields, as it is stored at this moment. */
export const storedDrafts = (page: Page): Promise<string> => stored(page, 'drafts', null);

/** Waits until nothing on the page moves any more: fonts are there, and every animation that ends has ended. */
export async function atRest(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await document.fonts.ready;
    for (let still = 0; still < 3;) {
      const moving = document
        .getAnimations()
        .some((a) => a.playState === 'running' && a.effect?.getComputedTiming().endTime !== Infinity);
      still = moving ? 0 : still + 1;
      await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
    }
  });
}
