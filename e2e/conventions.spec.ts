import { expect, test, watch, type Page } from './watched.ts';
import { shellLaunch } from './chromium.ts';
import { saved, turnTo } from './studio.ts';

/** What each page shows once its figures stand. */
const PAGES: readonly (readonly [path: string, stands: string])[] = [
  ['/sessions/maren-1/intake', 'complaint'],
  ['/sessions/maren-1/read', 'knee-min'],
  ['/sessions/maren-1/plan', 'advice'],
  ['/sessions/juno-1/plan', 'advice'],
];

const lines = async (page: Page, [path, stands]: (typeof PAGES)[number]): Promise<string[]> => {
  await turnTo(page, path);
  if (stands === 'complaint') await expect(page.getByText(/wanted/).first()).toBeVisible();
  else await page.getByTestId(stands).first().waitFor();
  let before = '';
  // What is worked out in parallel with the page comes by and by.
  await expect(async () => {
    const now = await page.locator('body').innerText();
    const same = now === before;
    before = now;
    expect(same).toBe(true);
  }).toPass({ intervals: [700], timeout: 60_000 });
  return before.split('\n');
};

const JOINT = /\b(knee|elbow)\b(?![^;.]*\bmm\b)/i;
/** “… 46°, 33 to 42° wanted” and “46° (37 to 51), above the band”, for knee and elbow. */
const JUDGED =
  /\b(knee at its straightest|knee at its most bent|elbow(?: bend|, inside))\s*(−?\d+)°( inside)?(?:, (−?\d+) to (−?\d+)° wanted)?/gi;
const number = (text: string): number => Number(text.replace('−', '-'));

test('every page agrees with itself in both conventions: figures, bands and verdicts turn together', async ({
  page,
}) => {
  test.setTimeout(600_000);
  const read = async (button: string): Promise<string[][]> => {
    await turnTo(page, '/sessions/maren-1/read');
    await page.getByRole('button', { name: button }).click();
    await expect(page.getByRole('button', { name: button })).toHaveAttribute('aria-pressed', 'true');
    await saved(page);
    const out: string[][] = [];
    for (const p of PAGES) out.push(await lines(page, p));
    return out;
  };
  await page.goto('/');
  const bend = await read('Bend, straight 0°');
  const inside = await read('Inside, straight 180°');
  let [turned, bands] = [0, 0];
  for (const [k, [path]] of PAGES.entries()) {
    const judged = (list: readonly string[]): RegExpMatchArray[] => [...list.join('\n').matchAll(JUDGED)];
    const [a, b] = [judged(bend[k]), judged(inside[k])];
    expect(b.length, path).toBe(a.length);
    for (const [i, m] of a.entries()) {
      const n = b[i];
      expect(Math.abs(number(m[2]) + number(n[2]) - 180), `${path}: ${m[0]} / ${n[0]}`).toBeLessThanOrEqual(
        1,
      );
      turned += 1;
      if (!m[4] || !n[4]) continue;
      bands += 1;
      expect(number(m[4]) + number(n[5]), `${path}: ${n[0]}`).toBe(180);
      expect(number(m[5]) + number(n[4]), `${path}: ${n[0]}`).toBe(180);
    }
    // A line that says something of knee or elbow in degrees and stays as it is would be in the wrong convention in one of them.
    for (const line of bend[k])
      if (JOINT.test(line) && /\d°/.test(line) && !/±/.test(line))
        expect(inside[k], `${path}: ${line}`).not.toContain(line);
  }
  expect(turned).toBeGreaterThan(6);
  expect(bands).toBeGreaterThan(3);
  // A verdict stands on the other side: what is bent too much has too small an angle inside.
  const verdicts = (list: readonly string[]): string[] =>
    list.flatMap((l, i) =>
      /^(Knee at its straightest|Elbow).*±/.test(l)
        ? [
            list
              .slice(i + 1, i + 6)
              .filter(Boolean)
              .slice(0, 3)
              .join(' '),
          ]
        : [],
    );
  const flip = (s: string): string =>
    s.replace(
      /above|below|upper|lower/g,
      (w) => ({ above: 'below', below: 'above', upper: 'lower', lower: 'upper' })[w]!,
    );
  const words = (s: string): string => s.replace(/[\d.]+/g, 'n').replace(/(at least|at most|n to n)/, 'band');
  const at = PAGES.findIndex(([p]) => p === '/sessions/maren-1/read');
  expect(verdicts(inside[at]).map(words)).toEqual(verdicts(bend[at]).map((v) => words(flip(v))));
  expect(verdicts(bend[at]).join(' ')).toContain('above the band');
});

test('the watch of these tests sees a figure that is none, on the page, in a drawing and on the console', async ({
  browser,
}) => {
  const troubles: string[] = [];
  // A browser of its own: what is shown on purpose is not this test's trouble.
  const own = await browser.browserType().launch(shellLaunch);
  const context = await own.newContext();
  await watch(context, troubles);
  const page = await context.newPage();
  await page.goto('about:blank');
  for (const [html, words] of [
    ['<p>knee NaN°</p>', 'NaN'],
    ['<svg><path d="M0 0L1 -Infinity"></path></svg>', 'Infinity'],
    ['<p>saddle undefined mm</p>', 'undefined'],
  ]) {
    troubles.length = 0;
    await page.evaluate((h) => (document.body.innerHTML = h), html);
    await expect.poll(() => troubles.join()).toContain(words);
  }
  troubles.length = 0;
  await page.evaluate(() => console.log('height', NaN));
  await expect.poll(() => troubles.length).toBe(1);
  troubles.length = 0;
  await page.evaluate(() => (document.body.innerHTML = '<p>bananas, undefinedness</p>'));
  await page.evaluate(() => (window as unknown as { lookOver: () => void }).lookOver());
  // What comes after it arrives alone.
  await page.evaluate(() => console.log('height', NaN));
  await expect.poll(() => troubles).toEqual(['height NaN']);
  await own.close();
});
