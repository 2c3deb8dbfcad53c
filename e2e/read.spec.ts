import { readFileSync } from 'node:fs';
import { expect, test } from './watched.ts';
import { saved, turnTo } from './studio.ts';

test.use({ permissions: ['clipboard-read', 'clipboard-write'] });

test('findings are put in words, lead to their frame, and say what was not measured', async ({ page }) => {
  await page.goto('/sessions/pilar-1/read');
  const findings = page.getByRole('region', { name: 'Findings' });
  const back = page.getByTestId('measure-backAngleDeg');
  await expect(back).toContainText('Back above horizontal 37.4° ± 4.6');
  await expect(back).toContainText(/49\.5 to 55°: 12\.1° below it, beyond doubt/);
  await expect(findings).toContainText('The left leg: there is no film of that side.');
  await page.getByRole('button', { name: 'See Foot pitch, crank at bottom' }).click();
  await expect(page.getByText(/^crank 1(7[5-9]|8[0-5])°$/)).toBeVisible();
  // In the other convention the same finding is reported the other way round.
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
  await glance.getByLabel('Hip sticker’s travel, vertical').check();
  await expect(glance.getByLabel('Ankle range')).toBeDisabled();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(glance.getByTestId('glance-hipVerticalTravelMm')).toContainText('mm');
  await saved(page);
  await page.keyboard.press('Escape');
  await expect(glance).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Glance' }).click();
  await expect(glance.locator('[data-testid^="glance-"]')).toHaveCount(5);
});

test('another take is laid beside; the chart goes out as drawing and picture, the table into a spreadsheet', async ({
  page,
}) => {
  await page.goto('/sessions/maren-1/read');
  await page.getByTestId('knee-min').waitFor();
  const region = page.getByRole('region', { name: 'Compare with other takes' });
  await region.getByRole('checkbox').first().check();
  await expect(region.getByTestId('differences')).toContainText(/\d+ of 24 figures differ by more than/);
  const svg = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Chart as SVG' }).click();
  const text = readFileSync((await (await svg).path())!, 'utf8');
  expect(text).toMatch(/^<svg [^>]*viewBox="0 0 520 250"/);
  expect(text).toContain('forward');
  // The other take's curve, by its dash.
  expect(text).toMatch(/<path[^>]* stroke-dasharray="9 4"/);
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

test('angles and the visit come back from their files; broken ones are told where they are read', async ({
  page,
}) => {
  const saved = async (item: string): Promise<string> => {
    const coming = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Files' }).click();
    await page.getByRole('menuitem', { name: item }).click();
    return (await (await coming).path())!;
  };
  await page.goto('/sessions/idris-1/read');
  await page.getByTestId('knee-min').waitFor();
  const angles = readFileSync(await saved('Save angles (CSV)'), 'utf8');
  const visit = readFileSync(await saved('Save visit (JSON)'), 'utf8');
  const region = page.getByRole('region', { name: 'Compare with other takes' });
  const lay = (name: string, text: string): Promise<void> =>
    region
      .getByTestId('curves-file')
      .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await lay('broken.csv', angles.replace(/\n1,/, '\none,'));
  await expect(region.getByRole('alert')).toContainText('broken.csv: Row 2, column stroke: “one”');
  // The reading's own table differs from it by nothing; one with the knee 5° further bent by that.
  await lay('own.csv', angles);
  const own = region.getByRole('table', { name: 'own.csv, differences' });
  await expect(own.getByRole('row')).toHaveCount(9);
  await expect(own.getByRole('row', { name: /^Knee/ })).toContainText(/^Knee0\.0°0\.0°$/);
  const [head, ...rows] = angles.trim().split('\n');
  const knee = head.split(',').indexOf('knee_flexion_deg');
  const bent = rows.map((row) =>
    row
      .split(',')
      .map((cell, i) => (i === knee ? String(Number(cell) + 5) : cell))
      .join(','),
  );
  await lay('bent.csv', [head, ...bent].join('\n'));
  await expect(
    region.getByRole('table', { name: 'bent.csv, differences' }).getByRole('row', { name: /^Knee/ }),
  ).toContainText(/\+5\.0°\+5\.0°/);
  // Quoted as the angle inside the joint, five degrees more bend are five degrees less.
  await page.getByRole('button', { name: 'Inside, straight 180°' }).click();
  await expect(
    region.getByRole('table', { name: 'bent.csv, differences' }).getByRole('row', { name: /^Knee/ }),
  ).toContainText(/−5\.0°−5\.0°/);
  await region.getByRole('button', { name: 'Remove own.csv' }).click();
  await expect(region.getByTestId('laid-table')).toHaveCount(1);

  await turnTo(page, '/backup');
  const bring = (text: string): Promise<void> =>
    page
      .getByTestId('backup-file')
      .setInputFiles({ name: 'visit.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await bring('{"session": 7');
  await expect(page.getByRole('alert')).toContainText('neither a backup nor a visit');
  await bring(
    visit
      .replaceAll('"riderId":"idris"', '"riderId":"nobody"')
      .replaceAll('"riderId": "idris"', '"riderId": "nobody"'),
  );
  await expect(page.getByRole('alert')).toContainText('The rider of this visit is not on this device');
  await bring(visit);
  await expect(page.getByTestId('backup-seen')).toContainText('1 rider and 1 visit can be restored.');
  await page.getByRole('button', { name: 'have both' }).click();
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('1 rider, 1 visit');
});
