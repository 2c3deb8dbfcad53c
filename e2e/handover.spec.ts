import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { laidOut, saved, storedDrafts, storedVisit, turnTo } from './studio.ts';
import { expect, test, type Download, type Page } from './watched.ts';
import ICAL from 'ical.js';
import { readC3d } from '../core/formats/c3d.ts';

async function caught(page: Page, press: () => Promise<void>): Promise<{ path: string; name: string }> {
  const waiting = page.waitForEvent('download');
  await press();
  const file: Download = await waiting;
  const path = join(mkdtempSync(join(tmpdir(), 'hand-over-')), file.suggestedFilename());
  await file.saveAs(path);
  return { path, name: file.suggestedFilename() };
}

const savedPaper = async (page: Page): Promise<string> => {
  await page.getByTestId('preview-pages').waitFor({ timeout: 90_000 });
  const save = page.getByRole('button', { name: 'Save as PDF' });
  await expect(save).toBeEnabled();
  return (await caught(page, () => save.click())).path;
};

const textOf = (pdf: string): string =>
  execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' });
const info = (pdf: string): Record<string, string> =>
  Object.fromEntries(
    execFileSync('pdfinfo', [pdf], { encoding: 'utf8' })
      .split('\n')
      .map((l) => l.split(/:\s+/) as [string, string]),
  );

/** Every word of a page stands inside its margins, and no two lines lie over one another. */
function expectNothingClipped(pdf: string): void {
  const xml = execFileSync('pdftotext', ['-bbox', pdf, '-'], { encoding: 'utf8' });
  for (const page of xml.split('<page ').slice(1)) {
    const [width, height] = /width="([\d.]+)" height="([\d.]+)"/.exec(page)!.slice(1).map(Number);
    const words = [
      ...page.matchAll(/xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">([^<]*)</g),
    ].map((m) => ({ x0: +m[1], y0: +m[2], x1: +m[3], y1: +m[4], text: m[5] }));
    expect(words.length).toBeGreaterThan(10);
    const outside = words.filter((w) => w.x0 < 20 || w.x1 > width - 20 || w.y0 < 10 || w.y1 > height - 10);
    expect(outside.map((w) => w.text)).toEqual([]);
    const overlaid = words.flatMap((a, i) =>
      words
        .slice(i + 1)
        .filter((b) => {
          const across = Math.min(a.x1, b.x1) - Math.max(a.x0, b.x0);
          const up = Math.min(a.y1, b.y1) - Math.max(a.y0, b.y0);
          // A word's box holds the line's leading: half over half is one word written on another.
          return across > 1.5 && up > 0.55 * Math.min(a.y1 - a.y0, b.y1 - b.y0);
        })
        .map((b) => `${a.text} on ${b.text}`),
    );
    expect(overlaid).toEqual([]);
  }
}

test('the rider’s report: words edited, a part left out, pictures from the film, as a PDF that opens', async ({
  page,
}) => {
  await page.goto('/sessions/maren-1/handover');
  await expect(page.getByTestId('handover-state')).toHaveText('Handed over as it is now');
  const figures = page.getByRole('region', { name: 'Figures in the report' });
  await expect(
    figures.getByRole('img', { name: /^Knee at its straightest, (before: 48°|after: 46°)$/ }),
  ).toHaveCount(2, { timeout: 60_000 });
  const words = page.getByLabel('What to expect: the words');
  await words.fill('Ride to the sluice and back, no further, for a week.\n\n- quietly\n- with a bell');
  await words.blur();
  await page.getByRole('region', { name: 'What to do at home' }).getByLabel('in the report').uncheck();
  await saved(page);
  const pdf = await savedPaper(page);
  await expect(async () => {
    const again = await savedPaper(page);
    expect(textOf(again)).toContain('Ride to the sluice');
    writeFileSync(pdf, readFileSync(again));
  }).toPass({ timeout: 60_000 });
  const text = textOf(pdf).replace(/\s+/g, ' ');
  expect(text).toContain('Maren Toft');
  expect(text).toContain('How far your knee is bent at the bottom of the stroke: 48° before, 46° now');
  expect(text).toContain('saddle 18 mm higher');
  expect(text).toContain('quietly');
  expect(text).not.toContain('What to do at home');
  expect(text).toContain('Orla Fenwright');
  const pages = Number(info(pdf).Pages);
  expect(pages).toBeGreaterThanOrEqual(2);
  expect(pages).toBeLessThanOrEqual(6);
  expectNothingClipped(pdf);
  // Four pictures out of her own film.
  const pictures = execFileSync('pdfimages', ['-list', pdf], { encoding: 'utf8' })
    .split('\n')
    .filter((l) => / jpeg /.test(l));
  expect(pictures).toHaveLength(4);
  expect(pictures.every((l) => / 1000 /.test(l))).toBe(true);
  await page
    .getByRole('region', { name: 'What to expect' })
    .getByRole('button', { name: 'Reset to the proposed text' })
    .click();
  await expect(words).toHaveValue(/strange for two or three rides/);
});

test('two parts of the report written one right after the other, or left as drafts by a page that went: both are kept', async ({
  page,
}) => {
  const words = (name: string) => page.getByRole('region', { name }).getByRole('textbox');
  await page.goto('/sessions/maren-1/handover');
  await words('What to do at home').fill('Stretch after rides.');
  await words('When we meet again').fill('In spring.');
  // Gone in the middle of typing: both stand as drafts, and are handed over at once when the page is drawn again.
  await expect.poll(() => storedDrafts(page)).toContain('In spring.');
  await page.goto('/sessions/maren-1/handover');
  await expect(words('What to do at home')).toHaveValue('Stretch after rides.');
  await expect(words('When we meet again')).toHaveValue('In spring.');
  await expect
    .poll(() => storedVisit(page, 'maren-1'))
    .toMatch(/Stretch after rides.*In spring|In spring.*Stretch after rides/);
  await page.reload();
  await expect(words('What to do at home')).toHaveValue('Stretch after rides.');
  await expect(words('When we meet again')).toHaveValue('In spring.');
});

test('the transfer sheet fits one page on either paper, the work order ticks', async ({ page }) => {
  await page.goto('/sessions/maren-1/handover?view=transfer');
  await expect(page.getByTestId('coordinate-height')).toContainText('664 mm');
  for (const [paper, size] of [
    ['A4', '595.28 x 841.89'],
    ['Letter', '612 x 792'],
  ] as const) {
    await page.getByRole('button', { name: paper, exact: true }).click();
    await expect(async () => {
      const pdf = await savedPaper(page);
      expect(info(pdf)['Page size']).toContain(size);
      expect(info(pdf).Pages).toBe('1');
      const text = textOf(pdf);
      for (const words of ['664 mm', 'Height to pedal spindle', '836.5 mm', 'Stance, right', 'setback at 80'])
        expect(text).toContain(words);
      expectNothingClipped(pdf);
    }).toPass({ timeout: 60_000 });
  }
  await page.getByRole('tab', { name: 'Parts and work' }).click();
  await expect(page.getByTestId('parts-total')).toHaveText('€38.00');
  await page.getByLabel(/^Stem and spacers/).uncheck();
  await saved(page);
  await expect(async () => {
    const text = textOf(await savedPaper(page));
    expect(text).toContain('Stem 100 mm, −6°: Fennel 100');
    expect(text).toContain('torque per maker');
  }).toPass({ timeout: 60_000 });
  await saved(page);
  await page.reload();
  await expect(page.getByLabel(/^Stem and spacers/)).not.toBeChecked();
});

test('the position on a smaller and on a larger frame: reached, or missed and said', async ({ page }) => {
  await page.goto('/sessions/maren-1/handover?view=other');
  await page.getByRole('button', { name: 'Enter a frame' }).click();
  const put = async (label: string, value: number): Promise<void> => {
    const field = page.getByLabel(label, { exact: true });
    await field.fill(String(value));
    await field.press('Enter');
  };
  for (const [label, value] of [
    ['Stack', 560],
    ['Reach', 375],
    ['Head angle', 71],
    ['Seat tube angle', 73.5],
    ['Seat tube', 470],
    ['Post may show', 220],
  ] as const)
    await put(label, value);
  await expect(page.getByTestId('transfer-Saddle height')).toHaveText('664 mm');
  await expect(page.getByTestId('transfer-Post showing')).toHaveText(/1\d\d mm/);
  const builds = page.getByRole('table', { name: 'Cockpit builds for it' });
  await expect(builds.getByRole('row')).toHaveCount(7);
  // A shorter crank is carried into the saddle.
  await put('Crank length', 165);
  await expect(page.getByTestId('transfer-Saddle height')).toHaveText('672 mm');
  await expect(page.getByText(/crank 165 mm in place of 172.5 mm: saddle \+7.5 mm/)).toBeVisible();
  // A far larger one: the post is all the way in, the hands too far.
  for (const [label, value] of [
    ['Stack', 700],
    ['Reach', 470],
    ['Seat tube', 640],
  ] as const)
    await put(label, value);
  await expect(page.getByTestId('misses')).toContainText('too high: the post is all the way in');
  await expect(page.getByTestId('misses')).toContainText('the hoods stand');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Stack', { exact: true })).toHaveValue('700');
});

test('follow-ups as a calendar; the visit as files that come back', async ({ page }) => {
  await page.goto('/sessions/maren-2/handover?view=dates');
  await expect(page.getByRole('table', { name: 'Complaints then and now' })).toContainText('gone');
  await expect(page.getByRole('table', { name: 'Figures then and now' })).toContainText('within noise');
  await page.getByRole('button', { name: 'A week after the event' }).click();
  await saved(page);
  const calendar = await caught(page, () =>
    page.getByRole('button', { name: 'Calendar file (ICS)' }).click(),
  );
  const events = new ICAL.Component(
    ICAL.parse(readFileSync(calendar.path, 'utf8')) as never,
  ).getAllSubcomponents('vevent');
  expect(events.map((e) => new ICAL.Event(e).startDate.toString()).sort()).toEqual([
    '2027-03-22',
    '2027-05-24',
    '2027-11-22',
  ]);

  await page.getByRole('tab', { name: 'Files' }).click();
  const c3d = await caught(page, () => page.getByRole('button', { name: 'Markers (C3D)' }).click());
  const read = readC3d(new Uint8Array(readFileSync(c3d.path)));
  if (!read.ok) throw new Error(read.message);
  expect(read.markers.frames).toBe(360);
  expect(read.markers.rateHz).toBeCloseTo(60, 1);
  expect(read.markers.labels).toContain('knee');
  expect(read.markers.events.length).toBeGreaterThan(5);
  await page.getByTestId('markers-file').setInputFiles(c3d.path);
  await expect(page.getByRole('alert')).toContainText('Tracks imported from');
  const log = await caught(page, () => page.getByRole('button', { name: 'Plan and log (JSON)' }).click());
  await page.getByRole('link', { name: /^10 Trial/ }).click();
  await page.getByRole('button', { name: 'Undo this change', exact: true }).click();
  await expect(page.getByTestId('stands-bar.widthMm')).toContainText('420 mm420 mm400 mm');
  await page.getByRole('link', { name: /^11 Hand over/ }).click();
  await page.getByRole('tab', { name: 'Files' }).click();
  await page.getByTestId('plan-file').setInputFiles(log.path);
  await expect(page.getByRole('alert')).toContainText('1 plans and 1 changes imported');
  await page.getByRole('link', { name: /^10 Trial/ }).click();
  await expect(page.getByRole('list', { name: 'What was moved' })).not.toContainText('undone');
  await page.getByRole('link', { name: /^11 Hand over/ }).click();
  await page.getByRole('tab', { name: 'Files' }).click();
  await page
    .getByTestId('plan-file')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(page.getByRole('alert')).toContainText('other.json: This file holds no plan and log');
  const zip = await caught(page, () => page.getByRole('button', { name: 'Visit as zip' }).click());
  await turnTo(page, '/backup');
  await page.getByTestId('backup-file').setInputFiles(zip.path);
  await expect(page.getByTestId('backup-seen')).toContainText('1 rider and 1 visit can be restored.');
  // Put over what is here it takes the place of this one visit: the rider's other one stays.
  await page.getByRole('button', { name: 'replace what is here' }).click();
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('1 rider, 1 visit');
  await turnTo(page, '/sessions/maren-1/plan');
  await page.getByTestId('advice').waitFor();
});

test('export everything, wipe the device, bring it back: the same to the byte', async ({
  page,
  browser,
  baseURL,
}) => {
  // Every record of this browser as JSON, films by their size.
  const whole = (p: Page): Promise<Record<string, Record<string, string>>> =>
    p.evaluate(async () => {
      const db = await new Promise<IDBDatabase>((resolve) => {
        const opening = indexedDB.open('deep-angle');
        opening.onsuccess = () => resolve(opening.result);
      });
      const out: Record<string, Record<string, string>> = {};
      for (const name of ['riders', 'bikes', 'sessions', 'clips', 'tracks']) {
        const store = db.transaction(name).objectStore(name);
        const all = <T>(request: IDBRequest<T>): Promise<T> =>
          new Promise((resolve) => (request.onsuccess = () => resolve(request.result)));
        const [keys, values] = [await all(store.getAllKeys()), await all(store.getAll())];
        out[name] = Object.fromEntries(
          keys.map((key, i) => {
            const v = values[i] as unknown;
            if (v instanceof Blob) return [String(key), `film of ${v.size} bytes`];
            // Tracks go out with three decimals of a pixel.
            return [
              String(key),
              JSON.stringify(v, (_, x: unknown) =>
                ArrayBuffer.isView(x)
                  ? Array.from(x as unknown as number[], (n) =>
                      Number.isFinite(n) ? Math.round(100 * n) / 100 : null,
                    )
                  : x,
              ),
            ];
          }),
        );
      }
      db.close();
      return out;
    });
  // Two visits are opened, so that films and tracks are here too.
  for (const at of ['/sessions/maren-1/read', '/sessions/idris-1/read']) {
    await page.goto(at);
    await page.getByTestId('knee-min').waitFor({ timeout: 60_000 });
    await page.getByTestId('frame-readout').waitFor({ timeout: 60_000 });
  }
  await page.goto('/backup');
  const zip = await caught(page, () => page.getByRole('button', { name: 'Save everything' }).click());
  const before = await whole(page);
  expect(Object.keys(before.clips).length).toBeGreaterThanOrEqual(2);

  const fresh = await (await browser.newContext({ baseURL })).newPage();
  await fresh.goto('/');
  await laidOut(fresh);
  await fresh.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const opening = indexedDB.open('deep-angle');
        opening.onsuccess = () => {
          const db = opening.result;
          const names = ['riders', 'bikes', 'sessions', 'clips', 'tracks'].filter((n) =>
            db.objectStoreNames.contains(n),
          );
          const wipe = db.transaction(names, 'readwrite');
          for (const name of names) wipe.objectStore(name).clear();
          wipe.oncomplete = () => {
            db.close();
            resolve();
          };
        };
      }),
  );
  await fresh.goto('/backup');
  await fresh.getByTestId('backup-file').setInputFiles(zip.path);
  await fresh.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(fresh.getByRole('alert')).toContainText('4 riders, 5 visits', { timeout: 60_000 });
  const after = await whole(fresh);
  for (const name of ['riders', 'bikes', 'sessions']) expect(after[name], name).toEqual(before[name]);
  for (const [key, film] of Object.entries(before.clips)) expect(after.clips[key], key).toBe(film);
  for (const [key, tracks] of Object.entries(before.tracks)) expect(after.tracks[key], key).toBe(tracks);
});
