import { request } from 'node:http';
import { readdirSync } from 'node:fs';
import { endLives, newLives, oneKill } from './kills.ts';
import { saved, storedVisit } from './studio.ts';
import { expect, test, type Page } from './watched.ts';

const HEIGHT = 'Height to bottom bracket';

const height = (page: Page) => page.getByLabel(HEIGHT, { exact: true });

test('two tabs on one session: both are told, the other follows, no edit is lost', async ({ context }) => {
  const one = await context.newPage();
  await one.goto('/sessions/idris-1/bike');
  await height(one).waitFor();
  const two = await context.newPage();
  await two.goto('/sessions/idris-1/bike');
  await expect(one.getByText('also open in another tab')).toBeVisible();
  await expect(two.getByText('also open in another tab')).toBeVisible();
  for (const page of [one, two]) await page.getByRole('button', { name: /^Stem and bar/ }).click();
  // Edits from both at once, each to its own value: every one of them is there afterwards.
  await Promise.all([
    (async () => {
      for (const mm of [741, 742, 743, 744, 745]) {
        await height(one).fill(String(mm));
        await height(one).press('Enter');
      }
    })(),
    (async () => {
      for (const mm of [31, 32, 33, 34, 35]) {
        await two.getByLabel('Spacers', { exact: true }).fill(String(mm));
        await two.getByLabel('Spacers', { exact: true }).press('Enter');
      }
    })(),
  ]);
  for (const page of [one, two]) {
    await expect(height(page)).toHaveValue('745');
    await expect(page.getByLabel('Spacers', { exact: true })).toHaveValue('35');
  }
  await two.close();
  await expect(one.getByText('also open in another tab')).toBeHidden({ timeout: 20_000 });
});

test('the browser is killed in the middle of whatever is done: nothing that was kept is missing, and it starts', async ({
  baseURL,
}) => {
  // The short form of `npm run kills`.
  const KILLS = 6;
  const lives = newLives();
  try {
    for (let k = 0; k < KILLS; k += 1) await oneKill(lives, baseURL!, 100 + k);
    expect(lives.troubles).toEqual([]);
    expect(lives.edits).toBeGreaterThan(KILLS);
  } finally {
    endLives(lives);
  }
});

test('what is typed and not left is there after a reload; what can’t be is kept with its message', async ({
  page,
}) => {
  await page.goto('/sessions/pilar-1/bike');
  const height = page.getByLabel(HEIGHT, { exact: true });
  await height.fill('688');
  await page.getByRole('button', { name: /^Stem and bar/ }).click();
  const bar = page.getByLabel('Bar', { exact: true });
  await bar.fill('Drop 42');
  // The field was never left.
  await expect.poll(() => storedVisit(page, 'pilar-1')).toContain('Drop 42');
  await saved(page);
  await height.fill('68x');
  await page.reload();
  await expect(bar).toHaveValue('Drop 42');
  await expect(height).toHaveValue('68x');
  await height.press('Escape');
  await expect(height).toHaveValue('688');
  // Undo takes the typing back as one step, after the reload too.
  await bar.blur();
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(bar).not.toHaveValue('Drop 42');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(height).not.toHaveValue('688');
});

test('a write that the device refuses is never “Saved”: the value stays, and is stored once there is room', async ({
  page,
}) => {
  await page.goto('/sessions/pilar-1/bike');
  const height = page.getByLabel(HEIGHT, { exact: true });
  await height.waitFor();
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    (window as unknown as { room: () => void }).room = () => (IDBObjectStore.prototype.put = put);
    IDBObjectStore.prototype.put = function (value: unknown, key?: IDBValidKey) {
      if (this.name === 'sessions') throw new DOMException('', 'QuotaExceededError');
      return put.call(this, value, key);
    };
  });
  await height.fill('691');
  await height.press('Enter');
  await expect(page.getByText(/Could not save: this device has no room left/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'What is big' })).toBeVisible();
  await expect(height).toHaveValue('691');
  await page.evaluate(() => (window as unknown as { room: () => void }).room());
  await page.getByRole('button', { name: 'Try again' }).click();
  await saved(page);
  await page.reload();
  await expect(height).toHaveValue('691');
});

test('the server gives no path and no stack away, whatever is asked of it', async ({ baseURL }) => {
  const { port } = new URL(baseURL!);
  const ask = (
    method: string,
    path: string,
    headers = {},
  ): Promise<{ status: number; headers: object; text: string }> =>
    new Promise((resolve, reject) => {
      const sent = request({ host: '127.0.0.1', port, method, path, headers }, (answer) => {
        let text = '';
        answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, text }));
      });
      sent.on('error', reject);
      sent.end();
    });
  for (const [method, path, headers, status] of [
    ['GET', '/%', {}, 400],
    ['GET', '/assets/%', {}, 400],
    ['GET', '/demo/%E0%A4%A', {}, 400],
    ['TRACE', '/', {}, 405],
    ['GET', '/', { host: 'a b' }, 400],
  ] as const) {
    const answer = await ask(method, path, headers);
    expect(answer.status, `${method} ${path}`).toBe(status);
    expect(answer.text).not.toMatch(/\/work|node_modules|\bat .*\.m?js|Error:/);
    expect(answer.text.length).toBeLessThan(100);
  }
  const worker = readdirSync('build/client/assets').find((name) => /^clip\.worker.*\.js$/.test(name))!;
  const { headers } = await ask('GET', `/assets/${worker}`);
  expect((headers as Record<string, string>)['content-security-policy']).toContain("connect-src 'self'");
});
