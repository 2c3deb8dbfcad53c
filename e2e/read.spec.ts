import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';

test.use({ permissions: ['clipboard-read', 'clipboard-write'] });

test('findings are put in words, lead to their frame, and say what was not measured', async ({ page }) => {
  await page.goto('/sessions/pilar-1/read');
  const findings = page.getByRole('region', { name: 'Findings' });
  const back = page.getByTestId('measure-backAngleDeg');
  await expect(back).toContainText('Back above horizontal 37.2° ± 2.0');
  await expect(back).toContainText(/57 to 62°: 19\.8° below it, beyond doubt/);
  await expect(findings).toContainText('The left leg: there is no film of that side.');
  await page.getByRole('button', { name: 'See Foot pitch, crank at bottom' }).click();
  await expect(page.getByText(/^crank 1(7[5-9]|8[0-5])°$/)).toBeVisible();
  // In the other convention the same finding is told the other way round.
  await page.getByLabel('Judged by').click();
  await page.getByRole('option', { name: 'Time trial and pursuit' }).click();
  const elbow = page.getByTestId('measure-elbowFlexionDeg');
  await expect(elbow).toContainText(/° below it, beyond doubt/);
  await page.getByRole('button', { name: 'Inside, straight 180°' }).click();
  await expect(elbow).toContainText(/° above it, beyond doubt/);
});

test('the glance shows three to five chosen figures, and remembers them', async ({ page }) => {
  await page.goto('/sessions/idris-1/read');
  await page.getByRole('button', { name: 'Glance' }).click();
  const glance = page.getByRole('dialog', { name: 'Glance' });
  await expect(glance.getByTestId('glance-kneeFlexionMinDeg')).toContainText('±');
  await expect(glance.locator('[data-testid^="glance-"]')).toHaveCount(4);
  await page.getByRole('button', { name: 'Choose the figures' }).click();
  await glance.getByLabel('Hip travel, vertical').check();
  await expect(glance.getByLabel('Ankle range')).toBeDisabled();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(glance.getByTestId('glance-hipVerticalTravelMm')).toContainText('mm');
  await expect(page.getByText('Saved on this device')).toBeAttached();
  await page.keyboard.press('Escape');
  await expect(glance).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Glance' }).click();
  await expect(glance.locator('[data-testid^="glance-"]')).toHaveCount(5);
});

test('a chart goes out as drawing and picture, the table into a spreadsheet', async ({ page }) => {
  await page.goto('/sessions/idris-1/read');
  await page.getByTestId('knee-min').waitFor();
  const svg = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Chart as SVG' }).click();
  const text = readFileSync((await (await svg).path())!, 'utf8');
  expect(text).toMatch(/^<svg [^>]*viewBox="0 0 520 250"/);
  expect(text).toContain('forward');
  expect((text.match(/<path/g) ?? []).length).toBeGreaterThan(2);
  const png = page.waitForEvent('download');
  await page.getByRole('button', { name: 'as PNG' }).click();
  const bytes = readFileSync((await (await png).path())!);
  expect([...bytes.subarray(1, 4)].map((b) => String.fromCharCode(b)).join('')).toBe('PNG');
  expect(bytes.readUInt32BE(16)).toBe(3 * 520);
  await page.getByRole('button', { name: 'Copy the table' }).click();
  await expect(page.getByRole('button', { name: /^Copied/ })).toBeVisible();
  const rows = (await page.evaluate(() => navigator.clipboard.readText()))
    .split('\n')
    .map((r) => r.split('\t'));
  expect(rows).toHaveLength(9);
  expect(rows.every((r) => r.length === 8)).toBe(true);
  expect(rows[1][0]).toBe('Knee (bend)');
  expect(Number(rows[1][5])).toBeGreaterThan(20);
});

test('another take is laid beside: its curve, its differences, real or within noise', async ({ page }) => {
  // The same film once more as a second take, with the first one's tracks read in: nothing may differ.
  await page.goto('/sessions/idris-1/film');
  await page.getByTestId('frame-readout').waitFor();
  await page.getByTestId('film-file').setInputFiles('public/demo/idris.webm');
  await page.getByRole('button', { name: /^The camera stood still/ }).click();
  await expect(page.getByText(/stickers found again/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.getByRole('button', { name: 'Track', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Followed through the whole film' })).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('link', { name: /^8 Read/ }).click();
  const beside = page.getByRole('region', { name: 'Beside other takes' });
  await beside.getByRole('checkbox').first().check();
  await expect(beside.getByTestId('differences')).toContainText(
    '0 of 24 figures differ by more than the noise',
  );
  await beside.getByRole('button', { name: 'All figures' }).click();
  await expect(beside.getByRole('table').getByRole('row')).toHaveCount(25);
  await expect(beside.getByRole('table')).not.toContainText('real');
  await beside.getByLabel('Stickered anew in between').check();
  await expect(beside).toContainText('Other stickers: where they sit counts fully.');
});
