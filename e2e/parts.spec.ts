import { readFileSync } from 'node:fs';
import { expect, test } from './watched.ts';
import { saved } from './studio.ts';

test('the parts bin is edited as a table, refuses what can’t be, and goes out and in as CSV', async ({
  page,
}) => {
  await page.goto('/parts');
  await page.getByRole('button', { name: 'Add a part' }).click();
  const row = page.getByRole('row').filter({ hasText: 'New part' });
  await row.getByRole('gridcell').nth(1).dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Fennel 95');
  await page.keyboard.press('Enter');
  const fennel = page.getByRole('row').filter({ hasText: 'Fennel 95' });
  await fennel.getByRole('gridcell').nth(2).dblclick();
  await page.keyboard.type('9500');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Fennel 95: Length, mm is from 0 to 400.');
  await page.keyboard.press('Escape');
  await fennel.getByRole('gridcell').nth(2).dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('95');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.reload();
  await expect(fennel.getByRole('gridcell').nth(2)).toHaveText('95');

  await page.getByLabel('Remove Fennel 95').click();
  await expect(fennel).toBeHidden();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(fennel).toBeVisible();

  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save (CSV)' }).click();
  const table = readFileSync((await (await coming).path())!, 'utf8');
  expect(table.split('\n')[0].trim()).toBe(
    'kind,name,length_mm,angle_deg,width_mm,reach_mm,drop_mm,stack_mm,price,count',
  );
  expect(table).toContain('stem,Fennel 95,95');
  const file = (text: string) => ({ name: 'parts.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page.getByTestId('parts-file').setInputFiles(file('kind,name\nstem,Good\nengine,Bad'));
  await expect(page.getByRole('alert')).toContainText('Row 3, column kind: “engine” is none of');
  await expect(page.getByRole('row').filter({ hasText: 'Good' })).toBeHidden();
  await page.getByTestId('parts-file').setInputFiles(file('kind,name,stack_mm\nspacer,Aardvark ring,7'));
  // Taken in: nothing is complained of any more.
  await expect(page.getByRole('alert')).toBeHidden();
  await page.getByRole('columnheader', { name: 'Name' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Aardvark ring' })).toBeVisible();
});
