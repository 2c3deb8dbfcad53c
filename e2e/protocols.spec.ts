import { readFileSync } from 'node:fs';
import { expect, test } from './watched.ts';
import { openSession } from './studio.ts';

test('a protocol is changed, kept as a version, and a visit goes on with its own until told otherwise', async ({
  page,
}) => {
  await openSession(page, 'Pilar Quist');
  await page.getByRole('link', { name: /^8 Read/ }).click();
  const range = page.getByTestId('measure-ankleRangeDeg');
  await expect(range).toContainText('15 to 35°');
  await page.getByRole('link', { name: 'See its bands' }).click();
  await expect(page).toHaveURL(/protocols\/long-distance/);
  const low = page.getByLabel('Ankle range, from');
  await low.fill('sixty');
  await expect(page.getByTestId('band-ankleRangeDeg')).toContainText('Type a number, or leave it empty');
  await expect(page.getByRole('button', { name: 'Keep as a new version' })).toBeDisabled();
  await low.fill('14');
  await page.getByLabel('Ankle range, why').fill('A held foot is no goal here.');
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByRole('heading', { name: /version 2/ })).toBeVisible();
  // Laid beside what it was.
  await page.getByLabel('Compare with').click();
  await page.getByRole('option', { name: 'Long-distance and gravel, version 1' }).click();
  await expect(page.getByText('1 of 15 bands differ')).toBeVisible();
  await openSession(page, 'Pilar Quist');
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await expect(page.getByText('This visit keeps version 1')).toBeVisible();
  await expect(range).toContainText('15 to 35°');
  await page.getByRole('button', { name: 'Use version 2' }).click();
  await expect(range).toContainText('14 to 35°');
  await range.getByRole('button', { name: /^What is behind/ }).click();
  await expect(range).toContainText('A held foot is no goal here.');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(range).toContainText('15 to 35°');
});

test('protocols are copied, go out as a file and come back in, and a broken file is named', async ({
  page,
}) => {
  await page.goto('/protocols/trail');
  await page.getByRole('button', { name: 'Copy this one' }).click();
  await expect(page.getByRole('heading', { name: /^Trail, copy/ })).toBeVisible();
  await page.getByLabel('Name').fill('Steep trail');
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByRole('heading', { name: /^Steep trail/ })).toContainText('version 2');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save all versions' }).click();
  const file = (await (await saved).path())!;
  expect((JSON.parse(readFileSync(file, 'utf8')) as { protocols: object[] }).protocols).toHaveLength(7);
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('Steep trail', { exact: true })).toHaveCount(0);
  await page.getByTestId('protocols-file').setInputFiles(file);
  await expect(page.getByRole('heading', { name: /^(Trail, copy|Steep trail)/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /^Steep trail/ })).toBeVisible();
  await page.getByTestId('protocols-file').setInputFiles('public/demo/pilar.tracks.csv');
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'pilar.tracks.csv: this is no JSON file',
  );
});
