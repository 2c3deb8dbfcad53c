import { expect, test } from './watched.ts';
import { shortFilm } from './shortFilm.ts';
import { atStage, laidOut, saved, storedVisit, typeDay, turnTo } from './studio.ts';

test('what is moved on the bike is logged, judged, put back and handed over; the next visit starts from it', async ({
  page,
}) => {
  await page.goto('/sessions/pilar-1/bike');
  const height = page.getByLabel('Height to bottom bracket', { exact: true });
  const found = Number(await height.inputValue());
  await page.getByRole('button', { name: 'as it is now' }).click();
  await expect(page.getByText('Nothing: the bike stands as it came in.')).toBeVisible();
  await height.fill(String(found - 3));
  await height.press('Enter');
  await height.fill(String(found - 6));
  await height.press('Enter');
  const list = page.getByRole('list', { name: 'What was moved' });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await expect(list).toContainText(`${found} mm → ${found - 6} mm`);
  await list.getByRole('button', { name: 'better' }).click();
  await page.getByRole('button', { name: /^Stem and bar/ }).click();
  await page.getByLabel('Spacers', { exact: true }).fill('5');
  await page.getByLabel('Spacers', { exact: true }).press('Enter');
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await list.getByRole('button', { name: 'Undo this change' }).first().click();
  await expect(list).toContainText('undone');
  // Undo takes the putting back back.
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(list).not.toContainText('undone');
  await expect(page.getByLabel('Spacers', { exact: true })).toHaveValue('5');

  await page.getByRole('button', { name: 'handed over' }).click();
  await page.getByRole('button', { name: 'Hand over as it is now' }).click();
  const side = page.getByRole('complementary', { name: 'What follows' });
  await expect(side).toContainText('From as found to handed over');
  await expect(side).toContainText('Spacers');
  await page.getByRole('button', { name: 'as found' }).click();
  await expect(height).toHaveValue(String(found));
  await saved(page);
  await page.getByRole('link', { name: 'Pilar Quist' }).click();
  await page.getByRole('button', { name: 'New visit with this bike' }).click();
  await page.getByRole('link', { name: /^3 Bike/ }).click();
  await expect(height).toHaveValue(String(found - 6));
});

test('a rider has several bikes, each with its visits', async ({ page }) => {
  await page.goto('/riders/juno');
  await page.getByRole('button', { name: 'Another bike' }).click();
  const bikes = page.getByRole('region', { name: 'Bikes' });
  await expect(bikes.getByLabel('Bike', { exact: true })).toHaveCount(2);
  const fresh = bikes.getByLabel('Bike', { exact: true }).nth(0);
  await fresh.fill('Winter bike');
  await fresh.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'First visit with this bike' }).click();
  await page.getByRole('link', { name: /^3 Bike/ }).click();
  await page.getByLabel('Which bike').fill('Winter bike, fixed');
  await page.getByLabel('Which bike').press('Enter');
  await saved(page);
  await page.getByRole('link', { name: 'Juno Achterberg' }).click();
  await expect(page.getByRole('region', { name: 'Visits' })).toContainText('Winter bike, fixed');
  await expect(bikes).toContainText('1 visit');
});

test('a plan is kept, its first step done on the bike, and a follow-up agreed that leads the list', async ({
  page,
}) => {
  await atStage(page, 'tracked', 'plan');
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(page.getByTestId('kept-plan')).toContainText('saddle height');
  const raise = page.getByRole('listitem', { name: /^Raise the saddle/ });
  const step = Number(/\((\d+) mm up\)/.exec(await raise.innerText())![1]);
  expect(step).toBeLessThanOrEqual(10);
  await raise.getByRole('button', { name: 'Done on the bike' }).click();
  await expect(raise).toContainText('on the bike');
  await expect(raise.getByRole('button', { name: 'Done on the bike' })).toHaveCount(0);
  await page.getByRole('button', { name: 'In 2 weeks' }).click();
  await expect(page.getByText('in 2 weeks', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Choose the day.')).toBeVisible();
  await typeDay(page, 'Another day', '02', 'Jan', '2020');
  await page.getByLabel('What for').fill('Ask about the shoes');
  await page.getByLabel('What for').press('Enter');
  await expect(page.getByText('overdue')).toBeVisible();
  await saved(page);
  await page.goto('/sessions/maren-1/bike');
  const log = page.getByRole('list', { name: 'What was moved' });
  const [from, to] = /(\d[\d.]*) mm → (\d[\d.]*) mm/
    .exec(await log.innerText())!
    .slice(1)
    .map(Number);
  expect(to - from).toBeCloseTo(step, 6);

  await turnTo(page, '/');
  await page.getByRole('button', { name: 'next follow-up' }).click();
  const first = page.getByRole('listitem').first();
  await expect(first).toContainText('Maren Toft');
  await expect(first).toContainText('overdue');
  await turnTo(page, '/riders/maren');
  await page.getByLabel(/Ask about the shoes/).check();
  // Nothing says “Saving…” before the edit is under way: the stored visit itself is asked.
  await expect
    .poll(async () => {
      const { followUps } = JSON.parse(await storedVisit(page, 'maren-1')) as {
        followUps: { why: string; doneIso: string | null }[];
      };
      return followUps.find((f) => f.why.startsWith('Ask about the shoes'))?.doneIso ?? null;
    })
    .not.toBeNull();
  await turnTo(page, '/');
  await expect(page.getByRole('listitem').filter({ hasText: 'Maren' })).toContainText('in 2 weeks');

  // A complaint that is gone is open no longer.
  await turnTo(page, '/sessions/idris-1/intake');
  await page.getByLabel('Resolved').check();
  await saved(page);
  await turnTo(page, '/');
  await expect(page.getByRole('listitem').filter({ hasText: 'Idris' })).toContainText('nothing open');
});

test('an added film goes and changed marks come back by undo, with the tracks that were made of them', async ({
  page,
}) => {
  await page.goto('/sessions/idris-1/film');
  await page.getByTestId('frame-readout').waitFor();
  await page.getByTestId('film-file').setInputFiles(await shortFilm('maren', 1));
  await expect(page.getByRole('link', { name: /^6 Mark/ })).toContainText('0 of 8');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(page.getByRole('link', { name: /^6 Mark/ })).toContainText('8 of 8');
  await page.getByTestId('frame-readout').waitFor();

  await page.getByRole('link', { name: /^6 Mark/ }).click();
  await page.getByTestId('point-knee').click();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('link', { name: /^7 Track/ })).toContainText('open');
  // The notice takes back what it tells of, and nothing that came after it.
  await page.keyboard.press('ArrowUp');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByText('Something else was changed since').waitFor();
  await expect(page.getByRole('link', { name: /^7 Track/ })).toContainText('open');
  await expect(async () => {
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('link', { name: /^7 Track/ })).toContainText('whole clip', { timeout: 2000 });
  }).toPass();
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await page.getByTestId('advice').waitFor();
  // After a reload nothing can be undone any more, and only what is in use is kept.
  await saved(page);
  await page.goto('/');
  await expect
    .poll(() =>
      page.evaluate(async () => {
        const db = await new Promise<IDBDatabase>((resolve) => {
          const opening = indexedDB.open('deep-angle');
          opening.onsuccess = () => resolve(opening.result);
        });
        const all = db.transaction('clips').objectStore('clips').getAllKeys();
        const keys = await new Promise<IDBValidKey[]>((resolve) => {
          all.onsuccess = () => resolve(all.result);
        });
        db.close();
        return keys.length;
      }),
    )
    .toBe(1);
});

test('a full device is said at once; what is big is listed, moved out, and comes back from its file', async ({
  page,
}) => {
  // A disk can't be filled from here, so the database itself refuses films, in the browser's own words.
  await page.addInitScript(() => {
    const put = Reflect.get(IDBObjectStore.prototype, 'put') as IDBObjectStore['put'];
    IDBObjectStore.prototype.put = function full(value: unknown, key?: IDBValidKey) {
      if (value instanceof Blob && sessionStorage.getItem('full'))
        throw new DOMException('Quota exceeded.', 'QuotaExceededError');
      return put.call(this, value, key);
    };
  });
  await page.goto('/sessions/idris-1/film');
  await page.getByTestId('frame-readout').waitFor();
  await page.evaluate(() => sessionStorage.setItem('full', 'yes'));
  await page.getByTestId('film-file').setInputFiles(await shortFilm('maren', 1));
  await expect(page.getByRole('alert')).toContainText('This device has no room left for it');
  await expect(page.getByRole('banner')).toContainText('Could not save');
  await page.getByRole('link', { name: 'What is big' }).click();
  const room = page.getByRole('region', { name: 'Room on this device' });
  await expect(room).toContainText('Idris Bellweather');
  await page.evaluate(() => sessionStorage.removeItem('full'));

  // A film of one's own, moved out: first the file, then off the device.
  await turnTo(page, '/sessions/idris-1/film');
  await page.getByTestId('frame-readout').waitFor();
  await page.getByTestId('film-file').setInputFiles(await shortFilm('pilar', 1));
  await expect(page.getByRole('region', { name: 'Takes' }).getByText('pilar.webm')).toBeVisible();
  await saved(page);
  await turnTo(page, '/backup');
  await page.getByRole('button', { name: 'Move out pilar.webm of Idris Bellweather' }).click();
  const off = page.getByRole('button', { name: 'Remove from this device' });
  await expect(off).toBeDisabled();
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the file' }).click();
  expect((await coming).suggestedFilename()).toBe('pilar.webm');
  await off.click();
  await expect(room).not.toContainText('pilar.webm');
  await turnTo(page, '/sessions/idris-1/film');
  await expect(page.getByText('The film of this take is not on this device.')).toBeVisible();
  await page.getByTestId('film-back').setInputFiles(await shortFilm('maren', 1));
  await expect(page.getByText('it is another film')).toBeVisible();
  await page.getByTestId('film-back').setInputFiles(await shortFilm('pilar', 1));
  await page.getByTestId('frame-readout').waitFor();
});

test('the list keeps up with records that came some other way', async ({ page }) => {
  await page.goto('/');
  await laidOut(page);
  await page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const opening = indexedDB.open('deep-angle');
      opening.onsuccess = () => resolve(opening.result);
    });
    const write = db.transaction('riders', 'readwrite');
    const riders = write.objectStore('riders');
    const read = riders.get('maren');
    read.onsuccess = () => {
      riders.put({ ...(read.result as object), id: 'wanda', name: 'Wanda Oke' }, 'wanda');
      riders.put({ version: 99, id: 'later' }, 'later');
    };
    await new Promise((resolve) => {
      write.oncomplete = resolve;
    });
    db.close();
  });
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Wanda Oke' })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('1 stored record was written by a newer version');
});
