import AxeBuilder from '@axe-core/playwright';
import { atRest, turnTo } from './studio.ts';
import { expect, test, type Page } from './watched.ts';

/** What axe finds wrong on the page, in short. */
async function faults(page: Page, rules: string[] | null = null): Promise<string[]> {
  // In this page alone (there are no frames of other origins) and without listing what is well: several times faster.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  return violations.flatMap((v) => v.nodes.slice(0, 3).map((n) => `${v.id}: ${n.html.slice(0, 160)}`));
}

const STATIONS = ['intake', 'body', 'bike', 'film', 'scale', 'mark', 'track', 'read', 'plan'];

const FILMED = ['film', 'scale', 'mark', 'track', 'read'];

test.describe('nothing that axe knows stands in the way', () => {
  test('on the stations', async ({ browser, baseURL }) => {
    // axe is put into the page, which the application's own policy forbids.
    const context = await browser.newContext({ bypassCSP: true, baseURL });
    const page = await context.newPage();
    await page.goto('/riders/pilar');
    for (const station of STATIONS) {
      await turnTo(page, `/sessions/pilar-1/${station}`);
      await page.getByRole('complementary').or(page.getByTestId('advice')).first().waitFor();
      // What waits for the film is enabled once it is open.
      if (FILMED.includes(station)) await page.getByTestId('frame-readout').waitFor();
      await atRest(page);
      expect(await faults(page), station).toEqual([]);
    }
    await context.close();
  });
  for (const colorScheme of ['light', 'dark'] as const)
    test(`on Trial and Hand over, ${colorScheme}`, async ({ browser, baseURL }) => {
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
      const context = await browser.newContext({ bypassCSP: true, colorScheme, baseURL });
      const page = await context.newPage();
      // In the dark other colours stand on the same parts: one page of each kind shows them.
      const dark = ['trial', 'trial?view=ladder', 'handover', 'handover?view=work'];
      await page.goto('/riders/maren');
      for (const [path, testId] of waits.filter(([path]) => colorScheme === 'light' || dark.includes(path))) {
        await turnTo(page, `/sessions/maren-1/${path}`);
        await page.getByTestId(testId).waitFor({ timeout: 60_000 });
        await atRest(page);
        expect(await faults(page, colorScheme === 'dark' ? ['color-contrast'] : null), path).toEqual([]);
      }
      await context.close();
    });
  test('in a dark room', async ({ browser, baseURL }) => {
    const context = await browser.newContext({ bypassCSP: true, colorScheme: 'dark', baseURL });
    const page = await context.newPage();
    await page.goto('/riders/pilar');
    for (const station of ['film', 'track', 'read', 'plan']) {
      await turnTo(page, `/sessions/pilar-1/${station}`);
      await page.getByRole('complementary').or(page.getByTestId('advice')).first().waitFor();
      await atRest(page);
      expect(await faults(page, ['color-contrast']), station).toEqual([]);
    }
    await context.close();
  });
  test('beside the stations', async ({ browser, baseURL }) => {
    const context = await browser.newContext({ bypassCSP: true, baseURL });
    const page = await context.newPage();
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
    await context.close();
  });
});
