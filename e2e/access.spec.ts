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

test.describe('nothing that axe knows stands in the way', () => {
  test('on the stations', async ({ page }) => {
    await page.goto('/riders/pilar');
    for (const station of STATIONS) {
      await turnTo(page, `/sessions/pilar-1/${station}`);
      await page.getByRole('complementary').or(page.getByTestId('advice')).first().waitFor();
      // What waits for the film is enabled once it is open.
      if (FILMED.includes(station)) await page.getByTestId('frame-readout').waitFor();
      await atRest(page);
      expect(await faults(page), station).toEqual([]);
    }
  });
  for (const colorScheme of ['light', 'dark'] as const)
    test(`on Trial and Hand over, ${colorScheme}`, async ({ page }) => {
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
      await page.emulateMedia({ colorScheme });
      // In the dark other colours stand on the same parts: one page of each kind shows them.
      const dark = ['trial', 'trial?view=ladder', 'handover', 'handover?view=work'];
      await page.goto('/riders/maren');
      for (const [path, testId] of waits.filter(([path]) => colorScheme === 'light' || dark.includes(path))) {
        await turnTo(page, `/sessions/maren-1/${path}`);
        await page.getByTestId(testId).waitFor({ timeout: 60_000 });
        await atRest(page);
        expect(await faults(page, colorScheme === 'dark' ? ['color-contrast'] : null), path).toEqual([]);
      }
    });
  test('in a dark room', async ({ page }) => {
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.goto('/riders/pilar');
    for (const station of ['film', 'track', 'read', 'plan']) {
      await turnTo(page, `/sessions/pilar-1/${station}`);
      await page.getByRole('complementary').or(page.getByTestId('advice')).first().waitFor();
      await atRest(page);
      expect(await faults(page, ['color-contrast']), station).toEqual([]);
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
      await atRest(page);
      expect(await faults(page), path).toEqual([]);
    }
  });
});
