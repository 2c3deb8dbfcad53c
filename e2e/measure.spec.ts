import { expect, test, type Page } from './watched.ts';
import { shortFilm } from './shortFilm.ts';
import { truthOf } from './studio.ts';

/** Counts what is pressed, from here on. */
async function countClicks(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const w = window as unknown as { clicks: number };
    w.clicks = Number(sessionStorage.getItem('clicks') ?? 0);
    // Those that arrive: one that the driver takes back, since the page moved under it, is none.
    window.addEventListener('click', (e) => {
      if (!e.isTrusted) return;
      w.clicks += 1;
      sessionStorage.setItem('clicks', `${w.clicks}`);
    });
  });
  return () => page.evaluate(() => (window as unknown as { clicks: number }).clicks);
}

test('a new rider’s film: dropped, looked at by itself, measured with one press; the next take with one click', async ({
  page,
}) => {
  const truth = truthOf('pilar');
  const clicks = await countClicks(page);
  await page.goto('/');
  await page.getByRole('button', { name: 'New rider…' }).click();
  await page.getByLabel('Name').fill('Anselm Rook');
  await page.getByRole('button', { name: 'Start the visit' }).click();
  await page.waitForURL(/sessions/);
  await page.getByRole('link', { name: /^4 Film/ }).click();
  // Consent is given where it is asked for.
  await page.getByRole('button', { name: 'Record the consent' }).click();
  await page.getByTestId('film-file').setInputFiles(await shortFilm('pilar'));
  await expect(page.getByTestId('film-verdict')).toContainText('Good film', { timeout: 90_000 });
  // Every frame has been seen then: the film is not decoded once more.
  await expect(page.getByLabel('Frames looked through')).toHaveCount(0);
  const panel = page.getByRole('region', { name: 'Measure' });
  await expect(panel).toContainText('8 of 8 joints named, both wheels found');
  await expect(panel).toContainText('this is the drive side');
  await expect(panel).toContainText('Waits for the wheelbase');
  // Typed, not clicked: the lengths of the bike.
  await page.getByLabel('Wheelbase, axle to axle').focus();
  await page.keyboard.type(`${truth.wheelbaseMm}`);
  await page.keyboard.press('Tab');
  await page.getByLabel('Crank length').focus();
  await page.keyboard.type(`${truth.crankMm}`);
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.waitForURL(/read$/, { timeout: 90_000 });
  await expect(page.getByTestId('strokes')).toContainText('5');
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await expect(page.getByTestId('advice').or(page.getByRole('complementary')).first()).toBeVisible();
  expect(await clicks()).toBeLessThanOrEqual(6);

  // Scale, marks and tracks stand on their stations, as if they had been pointed out; one step takes them back.
  await page.getByRole('link', { name: /^5 Scale/ }).click();
  await expect(page.getByTestId('mm-per-px')).toBeVisible();
  const scale = parseFloat(await page.getByTestId('mm-per-px').innerText());
  const trueScale =
    truth.wheelbaseMm /
    Math.hypot(truth.frontAxlePx.x - truth.rearAxlePx.x, truth.frontAxlePx.y - truth.rearAxlePx.y);
  expect(Math.abs(scale / trueScale - 1)).toBeLessThan(0.003);

  // The camera stood still: nothing is asked for the next take.
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await page.getByTestId('film-file').setInputFiles(await shortFilm('pilar'));
  await expect(panel).toContainText('the camera stands as it stood', { timeout: 90_000 });
  const before = await clicks();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.waitForURL(/read$/, { timeout: 90_000 });
  await expect(page.getByTestId('strokes')).toContainText('5');
  expect((await clicks()) - before).toBe(1);
});

test('a film that faces left is the other side; what is dragged and what is asked is taken; the tyre gives the scale', async ({
  page,
}) => {
  const truth = truthOf('idris');
  await page.goto('/');
  await page.getByRole('button', { name: 'New rider…' }).click();
  await page.getByLabel('Name').fill('Una Whitlock');
  await page.getByRole('button', { name: 'Start the visit' }).click();
  await page.waitForURL(/sessions/);
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await page.getByRole('button', { name: 'Record the consent' }).click();
  await page.getByTestId('film-file').setInputFiles(await shortFilm('idris'));
  const panel = page.getByRole('region', { name: 'Measure' });
  await expect(panel).toContainText('this is the non-drive side', { timeout: 90_000 });
  const measure = page.getByRole('button', { name: 'Measure', exact: true });
  // Closer by key, and the whole picture again.
  const stage = page.locator('.konvajs-content').first();
  const width = (await stage.boundingBox())!.width;
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect.poll(async () => (await stage.boundingBox())!.width / width).toBeCloseTo(2, 1);
  await page.getByRole('button', { name: 'The whole picture' }).click();
  await expect.poll(async () => (await stage.boundingBox())!.width / width).toBeCloseTo(1, 2);
  while (await page.getByRole('button', { name: /Yes, it is/ }).isVisible()) {
    const question = await page.getByRole('group', { name: 'Asked' }).innerText();
    await page.keyboard.press('y');
    await expect(page.getByRole('group', { name: 'Asked' }).filter({ hasText: question })).toHaveCount(0);
  }
  await expect(measure).toBeDisabled();
  await page.getByLabel('Or the tyre, as printed').fill('37-000');
  await expect(panel).toContainText('as in 28-622');
  await page.getByLabel('Or the tyre, as printed').fill('28-622');
  await page.getByRole('button', { name: /^Take \d+ mm/ }).click();
  await expect(measure).toBeEnabled();
  const wheelbase = Number(await page.getByLabel('Wheelbase, axle to axle').inputValue());
  expect(Math.abs(wheelbase / truth.wheelbaseMm - 1)).toBeLessThan(0.03);
  await page.keyboard.press('m');
  await page.waitForURL(/read$/, { timeout: 90_000 });
  await expect(page.getByTestId('strokes')).toBeVisible();
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await expect(page.getByRole('button', { name: 'non-drive side', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(panel.getByRole('link', { name: 'Go to Read' })).toBeVisible();
});
