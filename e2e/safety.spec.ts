import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test, type BrowserContext, type Page } from '@playwright/test';
import { chromiumLaunch } from './chromium.ts';

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

/** Kills every process that was started with a profile; how many there were. */
function killAll(profile: string): number {
  let killed = 0;
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile)) continue;
      process.kill(Number(pid), 'SIGKILL');
      killed += 1;
    } catch {
      // It ended by itself meanwhile.
    }
  }
  return killed;
}

test('the browser is killed in the middle of 200 edits: at most the last second is missing', async ({
  baseURL,
}) => {
  const profile = mkdtempSync(join(tmpdir(), 'deep-angle-kill-'));
  const open = (): Promise<BrowserContext> =>
    chromium.launchPersistentContext(profile, { ...chromiumLaunch, baseURL });
  try {
    const before = await open();
    const page = await before.newPage();
    await page.goto('/sessions/pilar-1/bike');
    await height(page).waitFor();
    const done: { mm: number; at: number }[] = [];
    let killedAt = Infinity;
    const typing = (async () => {
      for (let k = 0; k < 200 && killedAt === Infinity; k += 1) {
        const mm = 500 + k;
        await height(page).fill(String(mm));
        await height(page).press('Enter');
        done.push({ mm, at: performance.now() });
      }
    })().catch((error: unknown) => {
      // The typing ends with the browser; ending before is a failure of its own.
      if (killedAt === Infinity) throw error;
    });
    await expect.poll(() => done.length, { timeout: 120_000, intervals: [20] }).toBeGreaterThanOrEqual(100);
    killedAt = performance.now();
    // Like a pulled plug: every process of this profile, without any closing down.
    expect(killAll(profile)).toBeGreaterThan(0);
    await typing;
    await before.close().catch(() => undefined);

    const after = await open();
    const again = await after.newPage();
    await again.goto('/sessions/pilar-1/bike');
    await height(again).waitFor();
    const kept = Number(await height(again).inputValue());
    const secondBefore = done.filter((d) => d.at < killedAt - 1000).at(-1)?.mm ?? 0;
    expect(kept).toBeGreaterThanOrEqual(secondBefore);
    // The rest of the record is whole: the drawing and the film's figures stand.
    await expect(again.getByTestId('computed-Saddle to hood')).toContainText('mm');
    await again.goto('/sessions/pilar-1/plan');
    await again.getByTestId('advice').waitFor();
    await after.close();
  } finally {
    rmSync(profile, { recursive: true, force: true });
  }
});
