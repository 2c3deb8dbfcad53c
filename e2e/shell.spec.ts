import { readFileSync } from 'node:fs';
import { shellLaunch } from './chromium.ts';
import { expect, test } from './watched.ts';
import { openSession, laidOut } from './studio.ts';

test('over plain http from another device every page says what the browser gives no page there', async ({
  baseURL,
  launch,
}) => {
  const { port } = new URL(baseURL!);
  const browser = await launch({
    ...shellLaunch,
    args: [...shellLaunch.args, '--host-resolver-rules=MAP studio.test 127.0.0.1'],
  });
  const context = await browser.newContext({ baseURL: `http://studio.test:${port}` });
  const page = await context.newPage();
  const warning = page.getByText('Opened over plain http from another device');
  for (const path of ['/', '/backup', '/sessions/pilar-1/intake', '/sessions/pilar-1/read']) {
    await page.goto(path);
    await expect(warning).toBeVisible();
  }
  await page.goto('/sessions/idris-1/film');
  await page.getByTestId('film-file').setInputFiles({
    name: 'ride.webm',
    mimeType: 'video/webm',
    buffer: readFileSync('public/demo/idris.webm'),
  });
  // A VP9 film is not told to be converted to VP9.
  const alert = page.getByRole('alert').filter({ hasText: 'ride.webm' });
  await expect(alert).toContainText('This browser gives the page no film');
  await expect(alert).not.toContainText('VP9');
  // What needs no film goes on: a backup is made, and edits are kept.
  await page.goto('/backup');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save everything' }).click(),
  ]);
  expect(saved.suggestedFilename()).toContain('.zip');
});

test('a newer version on the server is told to an old page; a part of the old one that is gone loses nothing typed', async ({
  page,
}) => {
  await page.goto('/sessions/pilar-1/intake');
  const hours = page.getByLabel('Riding', { exact: true });
  await hours.waitFor();
  await page.route('**/version', (route) => route.fulfill({ body: 'another', contentType: 'text/plain' }));
  await page.route(/\/assets\/body-.*\.js/, (route) => route.abort());
  await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
  await expect(page.getByRole('button', { name: 'New version: reload' })).toBeVisible();
  // Typed and not left, then a page whose file went with the old version.
  await hours.fill('7');
  await page.evaluate(() => ((window as { stays?: boolean }).stays = true));
  await page.getByRole('link', { name: /^2 Body/ }).click();
  await page.waitForFunction(() => !(window as { stays?: boolean }).stays, null, { timeout: 30_000 });
  await page.unroute(/\/assets\/body-.*\.js/);
  await page.goto('/sessions/pilar-1/intake');
  await expect(hours).toHaveValue('7');
});

test('a page older than what is stored opens nothing and changes nothing', async ({ page }) => {
  await openSession(page, 'Pilar Quist');
  await laidOut(page);
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const open = indexedDB.open('deep-angle');
        open.onsuccess = () => {
          const store = open.result.transaction('settings', 'readwrite').objectStore('settings');
          store.put({ session: 999 }, 'record-versions').onsuccess = () => {
            open.result.close();
            done();
          };
        };
      }),
  );
  for (const path of ['/', '/sessions/pilar-1/bike', '/backup']) {
    await page.goto(path);
    await expect(page.getByText('A newer version of Deep Angle has worked on this device')).toBeVisible();
  }
});

test('no rider’s name goes into titles or addresses, or is offered by the browser again', async ({
  page,
}) => {
  await openSession(page, 'Maren Toft');
  await page.getByRole('link', { name: /^2 Body/ }).click();
  expect(await page.title()).not.toMatch(/maren|toft/i);
  await page.getByRole('link', { name: 'Maren Toft' }).click();
  await expect(page.getByRole('heading', { name: 'Maren Toft' })).toBeVisible();
  expect(await page.title()).not.toMatch(/maren|toft/i);
  await page.goto('/');
  await page.getByLabel('Find a rider').fill('Juno');
  await expect(page.getByRole('heading', { name: 'Maren Toft' })).toHaveCount(0);
  expect(page.url()).not.toMatch(/juno/i);
  // It is still looked for on the way back.
  await page.getByRole('heading', { name: 'Juno Achterberg' }).click();
  await page.waitForURL(/sessions|riders\/juno/);
  await page.goBack();
  await expect(page.getByLabel('Find a rider')).toHaveValue('Juno');
  await page.getByRole('button', { name: 'New rider…' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveAttribute('autocomplete', 'off');
});

test('a rider who went into the trash in another tab is worked on in none', async ({ context }) => {
  const [work, list] = [await context.newPage(), await context.newPage()];
  await work.goto('/sessions/idris-1/intake');
  await work.getByLabel('Riding', { exact: true }).waitFor();
  await list.goto('/riders/idris');
  await list.getByRole('button', { name: 'Delete this rider…' }).click();
  await list
    .getByRole('dialog')
    .getByRole('button', { name: /trash|Delete/ })
    .click();
  await expect(work.getByText('This rider is in the trash')).toBeVisible();
  await expect(work.getByRole('link', { name: 'Go to the trash' })).toBeVisible();
});
