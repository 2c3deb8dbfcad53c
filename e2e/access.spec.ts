import axe from 'axe-core';
import { atRest, turnTo } from './studio.ts';
import { expect, test, type Page } from './watched.ts';

/** What axe finds wrong on the page, in short. */
async function faults(page: Page, rules: string[] | null = null): Promise<string[]> {
  const violations = await page.evaluate(async (only) => {
    const found = await (window as unknown as { axe: typeof axe }).axe.run({
      // Without listing what is well: several times faster.
      resultTypes: ['violations'],
      ...(only ? { runOnly: { type: 'rule', values: only } } : {}),
    });
    return found.violations.map(({ id, nodes }) => ({ id, html: nodes.map((n) => n.html) }));
  }, rules);
  return violations.flatMap((v) => v.html.slice(0, 3).map((html) => `${v.id}: ${html.slice(0, 160)}`));
}

// There from the page's start on, once for all the pages that are turned to.
test.beforeEach(({ page }) => page.addInitScript({ content: axe.source }));

const STATIONS = ['intake', 'body', 'bike', 'film', 'scale', 'mark', 'track', 'read', 'plan'];

const FILMED = ['film', 'scale', 'mark', 'track', 'read'];

/** Puts the page into the light or the dark, and waits until it is. */
async function inScheme(page: Page, colorScheme: 'light' | 'dark'): Promise<void> {
  const paper = (): Promise<string> => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const before = await paper();
  await page.emulateMedia({ colorScheme });
  await expect.poll(paper).not.toBe(before);
  await atRest(page);
}

/** Looks at the page as it stands, and where it is asked for at its colours in the dark: other ones on the same parts. */
async function expectNoFaults(page: Page, path: string, alsoDark: boolean): Promise<void> {
  await atRest(page);
  expect(await faults(page), path).toEqual([]);
  if (!alsoDark) return;
  await inScheme(page, 'dark');
  expect(await faults(page, ['color-contrast']), `${path}, dark`).toEqual([]);
  await inScheme(page, 'light');
}

test.describe('nothing that axe knows stands in the way', () => {
  test('on the stations', async ({ page }) => {
    const dark = ['film', 'track', 'read', 'plan'];
    await page.goto('/riders/pilar');
    for (const station of STATIONS) {
      await turnTo(page, `/sessions/pilar-1/${station}`);
      await page.getByRole('complementary').or(page.getByTestId('advice')).first().waitFor();
      // What waits for the film is enabled once it is open.
      if (FILMED.includes(station)) await page.getByTestId('frame-readout').waitFor();
      await expectNoFaults(page, station, dark.includes(station));
    }
  });
  test('on Trial and Hand over', async ({ page }) => {
    const waits: readonly (readonly [path: string, testId: string])[] = [
      ['trial', 'nothing-next'],
      ['trial?view=live', 'live-begin'],
      ['trial?view=ladder', 'ladder-answer'],
      ['trial?view=compare', 'kappa'],
      ['trial?view=devices', 'take-mat'],
      ['handover', 'preview-pages'],
      ['handover?view=transfer', 'preview-pages'],
      ['handover?view=work', 'preview-pages'],
      ['handover?view=dates', 'handover-state'],
      ['handover?view=files', 'handover-state'],
    ];
    // One page of each kind shows the colours.
    const dark = ['trial', 'trial?view=ladder', 'handover', 'handover?view=work'];
    await page.goto('/riders/maren');
    for (const [path, testId] of waits) {
      await turnTo(page, `/sessions/maren-1/${path}`);
      await page.getByTestId(testId).waitFor({ timeout: 60_000 });
      await expectNoFaults(page, path, dark.includes(path));
    }
  });
  test('beside the stations', async ({ page }) => {
    await page.goto('/');
    for (const path of [
      '/',
      '/riders/maren',
      '/backup',
      '/parts',
      '/practice',
      '/trash',
      '/settings',
      '/sessions/maren-1/film',
    ]) {
      await turnTo(page, path);
      await page.getByRole('banner').waitFor();
      await expectNoFaults(page, path, false);
    }
  });
});
