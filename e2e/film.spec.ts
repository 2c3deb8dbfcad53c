import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, test, type Page } from './watched.ts';
import { saved, newSession } from './studio.ts';

const fixture = (name: string): string => fileURLToPath(new URL(`./files/${name}`, import.meta.url));

const BAD: [file: string, title: RegExp, advice: RegExp][] = [
  ['hevc.mp4', /coded in HEVC/, /H\.264/],
  ['picture.png', /a picture, not a film/, /Choose the video/],
  ['letter.mp4', /a text file with a video’s name/, /H\.264/],
  ['cut-short.mp4', /cut short: its end is missing/, /Copy it from the camera again/],
  ['no-index.mp4', /cut short: its index is missing/, /Copy it from the camera again/],
  ['zero.webm', /zero frames/, /Film again/],
  ['sound.mp4', /sound only/, /Choose the video/],
];

test('a film damaged in its middle is taken in, its damage said, and its whole part read', async ({
  page,
}) => {
  await newSession(page, 'Test rider');
  const whole = readFileSync('public/demo/juno.mp4');
  const damaged = Buffer.from(whole);
  const at = Math.floor(0.6 * whole.length);
  damaged.fill(0xa5, at, at + 30_000);
  await page
    .getByTestId('film-file')
    .setInputFiles({ name: 'damaged.mp4', mimeType: 'video/mp4', buffer: damaged });
  const damage = page.getByTestId('film-damage');
  await expect(damage).toContainText(/Frames? \d+.* can’t be decoded/, { timeout: 60_000 });
  await damage.getByRole('button', { name: /^Use frames 0 to \d+/ }).click();
  await expect(damage).toContainText('The part that is read is whole');
  await expect(page.getByText(/^Read from frame 0 to \d+ of/)).toBeVisible();
  await saved(page);
  // Known after a reload, without being looked through again.
  await page.reload();
  await expect(damage).toContainText('The part that is read is whole');
});

test('files that are no clip are told what they are, and nothing is stored', async ({ page }) => {
  await newSession(page, 'Test rider');
  for (const [file, title, advice] of BAD) {
    await page.getByTestId('film-file').setInputFiles(fixture(file));
    const alert = page.getByRole('alert').filter({ hasText: file });
    await expect(alert, file).toContainText(title);
    await expect(alert, file).toContainText(advice);
  }
  const stored = await page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const open = indexedDB.open('deep-angle');
        open.onerror = () => reject(new Error('no database'));
        open.onsuccess = () => {
          const db = open.result;
          if (!db.objectStoreNames.contains('clips')) return resolve(0);
          const count = db.transaction('clips').objectStore('clips').count();
          count.onsuccess = () => resolve(count.result);
        };
      }),
  );
  expect(stored).toBe(0);
  await expect(page.getByRole('heading', { name: 'Add a film' })).toBeVisible();
});

/** The frame's number, written into the fixture as eight black or white columns, read off the canvas. */
function shownNumber(page: Page, columnsDown = false): Promise<number> {
  return page
    .locator('main canvas')
    .first()
    .evaluate((element, down) => {
      const canvas = element as HTMLCanvasElement;
      const context = canvas.getContext('2d')!;
      let n = 0;
      for (let bit = 0; bit < 8; bit += 1) {
        const along = 40 * bit + 20;
        // The fixture says “a quarter turn to the left”: its left column stands at the bottom.
        const [x, y] = down ? [canvas.width / 2, canvas.height - along] : [along, canvas.height / 2];
        if (context.getImageData(x, y, 1, 1).data[0] > 128) n += 2 ** bit;
      }
      return n;
    }, columnsDown);
}

test('every frame is reached by its own stamp: uneven times, frames stored out of order', async ({
  page,
}) => {
  await newSession(page, 'Test rider');
  // Dropped on the page this time.
  const bytes = readFileSync(fixture('uneven.mp4')).toString('base64');
  const transfer = await page.evaluateHandle((b64) => {
    const data = new DataTransfer();
    data.items.add(
      new File([Uint8Array.from(atob(b64), (c) => c.charCodeAt(0))], 'uneven.mp4', { type: 'video/mp4' }),
    );
    return data;
  }, bytes);
  await page.getByRole('heading', { name: 'Add a film' }).dispatchEvent('drop', { dataTransfer: transfer });
  const readout = page.getByTestId('frame-readout');
  await readout.waitFor();
  await expect(page.getByText(/uneven: each frame/)).toBeVisible();
  await expect.poll(() => shownNumber(page)).toBe(0);
  const stampOf = async (): Promise<number> => Number(/([\d.]+) s/.exec(await readout.innerText())![1]);
  const start = 0.45 * Math.sin(0);
  for (let n = 1; n <= 12; n += 1) {
    await page.keyboard.press('.');
    await expect(readout).toContainText(`frame ${n} of 89`);
    expect(await shownNumber(page)).toBe(n);
    expect(Math.abs((await stampOf()) - (n + 0.45 * Math.sin(n) - start) / 30)).toBeLessThan(0.0002);
  }
  await page.keyboard.press('End');
  await expect(readout).toContainText('frame 89 of 89');
  expect(await shownNumber(page)).toBe(89);
  for (let n = 88; n >= 78; n -= 1) {
    await page.keyboard.press(',');
    await expect(readout).toContainText(`frame ${n} of 89`);
    expect(await shownNumber(page)).toBe(n);
  }
  await page.keyboard.press('Home');
  await expect(readout).toContainText('frame 0 of 89');
  await page.keyboard.press('Space');
  await expect.poll(() => shownNumber(page)).toBeGreaterThan(3);
});

test('rotation written in the file is applied', async ({ page }) => {
  await newSession(page, 'Test rider');
  await page.getByTestId('film-file').setInputFiles(fixture('turned.mp4'));
  await page.getByTestId('frame-readout').waitFor();
  await expect(page.getByText('180 × 320 px')).toBeVisible();
  await page.keyboard.press('>');
  await expect(page.getByTestId('frame-readout')).toContainText('frame 10 of 39');
  expect(await shownNumber(page, true)).toBe(10);
});

test('a very long name, a lost address and a missing film are borne', async ({ page }) => {
  await newSession(page, 'Wilhelmina-Konstanze of the Long Towpath '.repeat(2).trim());
  await expect(page.getByRole('link', { name: /^4 Film/ })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
  expect(wide).toBe(false);
  await page.goto('/sessions/nobody/film');
  await expect(page.getByRole('alert')).toContainText('not on this device');
  await page.goto('/nowhere');
  await expect(page.getByRole('alert')).toContainText('nothing at this address');
  await page.getByRole('link', { name: 'All riders' }).click();
  await expect(page.getByRole('heading', { name: 'Maren Toft' })).toBeVisible();
});
