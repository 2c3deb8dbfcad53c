import { createServer, type Server } from 'node:http';
import { expect, test } from './watched.ts';
import { saved } from './studio.ts';

test.use({ serviceWorkers: 'allow' });

test('after the first visit everything goes on without a network, and says so', async ({ page, context }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Juno Achterberg' })).toBeVisible();
  // Until something is opened neither a demo film nor all that works without a network is loaded.
  const bytes = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .reduce((sum, e) => sum + (e as PerformanceResourceTiming).transferSize, 0),
  );
  expect(bytes).toBeGreaterThan(100_000);
  expect(bytes).toBeLessThan(600_000);
  expect(await page.evaluate(async () => (await navigator.serviceWorker.getRegistrations()).length)).toBe(0);
  await page.goto('/sessions/juno-1/read');
  await expect(page.getByTestId('knee-min')).toBeVisible({ timeout: 60_000 });
  await page.goto('/');
  await page.getByRole('button', { name: 'Look around first' }).click();
  await expect(page.getByText('Works without a network')).toBeVisible({ timeout: 60_000 });
  await page.goto('/sessions/juno-1/read');
  await expect(page.getByTestId('knee-min')).toBeVisible({ timeout: 60_000 });
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByTestId('knee-min')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('No network: everything here goes on')).toBeVisible();
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await expect(page.getByTestId('advice')).toBeVisible({ timeout: 60_000 });
  // Edits are kept, and stand after a reload without a network.
  await page.goto('/sessions/idris-1/handover?view=dates');
  await page.getByRole('button', { name: 'In 2 weeks' }).click();
  await saved(page);
  await page.reload();
  await expect(page.getByText('A few rides in: a call')).toBeVisible();
  await page.goto('/no/such/page');
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  await context.setOffline(false);
});

/** The application from a door of its own, at which another version of the service worker can be had. */
function anotherDoor(from: string, versionOf: () => string): Promise<Server> {
  const server = createServer((request, response) => {
    void (async () => {
      const answer = await fetch(`${from}${request.url}`);
      const headers = Object.fromEntries(
        [...answer.headers].filter(
          ([name]) => !/^(content-encoding|content-length|transfer-encoding)$/.test(name),
        ),
      );
      response.writeHead(answer.status, headers);
      response.end(
        request.url === '/sw.js'
          ? `${await answer.text()}\n// ${versionOf()}`
          : Buffer.from(await answer.arrayBuffer()),
      );
    })().catch(() => response.destroy());
  });
  return new Promise((resolve) => server.listen(0, () => resolve(server)));
}

test('a newer version is offered and waits to be asked for', async ({ page, baseURL }) => {
  let version = 'one';
  const server = await anotherDoor(baseURL!, () => version);
  const { port } = server.address() as { port: number };
  const door = `http://localhost:${port}`;
  await page.goto(`${door}/sessions/pilar-1/intake`);
  await expect(page.getByLabel('Riding', { exact: true })).toBeVisible();
  await page.goto(`${door}/`);
  await page.getByRole('button', { name: 'Look around first' }).click();
  await expect(page.getByText('Works without a network')).toBeVisible({ timeout: 60_000 });
  const offer = page.getByRole('button', { name: 'New version: reload' });
  await expect(offer).toHaveCount(0);
  version = 'two';
  await page.goto(`${door}/sessions/pilar-1/intake`);
  await page.evaluate(() => navigator.serviceWorker.ready.then((r) => r.update()));
  await expect(offer).toBeVisible({ timeout: 30_000 });
  // Nothing happens by itself: the page works on.
  const hours = page.getByLabel('Riding', { exact: true });
  await hours.fill('4');
  await hours.press('Enter');
  await saved(page);
  await page.evaluate(() => ((window as { stays?: boolean }).stays = true));
  await page.getByRole('link', { name: /^2 Body/ }).click();
  expect(await page.evaluate(() => (window as { stays?: boolean }).stays)).toBe(true);
  // Asked for, it draws the page anew; what was typed is there.
  await offer.click();
  await page.waitForFunction(() => !(window as { stays?: boolean }).stays, null, { timeout: 30_000 });
  await expect(offer).toHaveCount(0);
  await page.getByRole('link', { name: /^1 Intake/ }).click();
  await expect(page.getByLabel('Riding', { exact: true })).toHaveValue('4');
  server.close();
});
