import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './watched.ts';
import { shellLaunch } from './chromium.ts';
import { shortFilm } from './shortFilm.ts';
import { atStage, newSession, openSession } from './studio.ts';

/** A figure's number, as it stands on the page. */
const figure = async (page: Page, id: string): Promise<number> =>
  Number(/−?[\d.]+/.exec(await page.getByTestId(id).innerText())![0].replace('−', '-'));

test('a film from the front, worked through: view, crank, stickers found by themselves, knee paths', async ({
  page,
}) => {
  await newSession(page, 'Fenna Brook');
  await page.getByTestId('film-file').setInputFiles(await shortFilm('idris-front'));
  await page.getByTestId('frame-readout').waitFor();
  await page.getByRole('button', { name: 'front', exact: true }).click();
  await page.getByRole('link', { name: /^5 Scale/ }).click();
  await expect(page.getByText('Type the crank’s length, or a width')).toBeVisible();
  await page.getByLabel('Crank length').fill('175');
  await page.getByLabel('Crank length').press('Enter');
  await expect(page.getByRole('link', { name: /^5 Scale/ })).toContainText('by the crank');
  await page.getByRole('link', { name: /^6 Mark/ }).click();
  await page.getByText('Point out 1 of 12').waitFor();
  await page.getByRole('button', { name: 'Find the stickers' }).click();
  const proposed = page.getByRole('region', { name: 'Proposed marks' });
  await expect(proposed.getByRole('status')).toHaveText(/^1[12] points proposed$/, { timeout: 60_000 });
  // Two are given each other's names, and back.
  const kneeRow = proposed.getByLabel('Proposed as right knee');
  await expect(kneeRow).toBeAttached();
  await proposed.getByRole('button', { name: 'Take them' }).click();
  await expect(page.getByTestId('point-kneeR')).toContainText('sticker');
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.getByRole('button', { name: 'Track', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Tracked through the whole film' })).toBeVisible({
    timeout: 90_000,
  });
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await page.getByTestId('path-left').waitFor();
  // The virtual rider's own: paths 34 and 30 mm wide, feet 242 mm apart, 78 rpm.
  expect(Math.abs((await figure(page, 'path-left')) - 34)).toBeLessThanOrEqual(6);
  expect(Math.abs((await figure(page, 'path-right')) - 30)).toBeLessThanOrEqual(6);
  expect(Math.abs((await figure(page, 'stance')) - 242)).toBeLessThanOrEqual(9);
  expect(Math.abs((await figure(page, 'cadence')) - 78)).toBeLessThan(0.5);
  const findings = page.getByRole('region', { name: 'Findings' });
  await expect(findings.getByTestId('measure-kneePathWidthMm')).toContainText('left, the wider');
  await expect(page.getByTestId('sides-kneePathWidthMm')).toContainText('equal');
});

test('front beside side: one visit, one set of findings; width and crank check each other', async ({
  page,
}) => {
  await openSession(page, 'Juno Achterberg');
  await page.getByRole('link', { name: /^8 Read/ }).click();
  const findings = page.getByRole('region', { name: 'Findings' });
  await expect(findings.getByTestId('measure-kneePathWidthMm')).toContainText('right, the wider');
  await expect(findings.getByTestId('measure-headAboveBackMm')).toContainText('at most 60 mm');
  await findings.getByRole('button', { name: 'What is behind the ± of Knee path width' }).click();
  await expect(findings.getByTestId('measure-kneePathWidthMm')).toContainText('perspective and yaw');
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await page.getByText('rear, extensions, working').click();
  await page.getByRole('link', { name: /^5 Scale/ }).click();
  await expect(page.getByTestId('width-check')).toContainText(/the lens stood about [2-6]\.\d m away/, {
    timeout: 20_000,
  });
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await expect(page.getByText(/^Pelvis (level|left higher): 2\.\d ± \d\.\d°/)).toBeVisible();
  await page.getByRole('button', { name: /^Pelvis/ }).click();
  await expect(page).toHaveURL(/curve=pelvis/);
  await page.getByRole('button', { name: 'Files' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save curves (CSV)' }).click();
  const text = readFileSync((await (await saved).path())!, 'utf8');
  const rows = text.trim().split('\n');
  expect(rows).toHaveLength(145);
  expect(rows[0]).toBe(
    'theta_deg,knee_left_mm,knee_right_mm,knee_over_foot_left_mm,knee_over_foot_right_mm,pelvis_deg,shoulders_deg,hip_shift_mm',
  );
  await page.getByRole('button', { name: 'Files' }).click();
  const tracks = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save tracks (CSV)' }).click();
  await page.getByTestId('tracks-file').setInputFiles({
    name: 'rear.csv',
    mimeType: 'text/csv',
    buffer: readFileSync((await (await tracks).path())!),
  });
  await expect(page.getByText('Tracks imported from rear.csv.')).toBeVisible();
  const lay = (content: string): Promise<void> =>
    page
      .getByTestId('curves-file')
      .setInputFiles({ name: 'front.csv', mimeType: 'text/csv', buffer: Buffer.from(content) });
  await lay(rows.slice(0, 9).join('\n'));
  await expect(page.getByText(/front\.csv: The table has 8 rows/)).toBeVisible();
  await lay(text);
  await expect(page.getByTestId('laid-table')).toContainText(/pelvis deg from −?\d\.\d to \d\.\d/);
});

test('without WebGL the pose model says so, and the rest goes on', async ({ baseURL, launch }) => {
  const browser = await launch({
    ...shellLaunch,
    args: [...shellLaunch.args, '--disable-3d-apis'],
  });
  const page = await (await browser.newContext({ baseURL })).newPage();
  await atStage(page, 'filmed', 'mark');
  await page.getByRole('button', { name: 'Mark the rider' }).click();
  await expect(page.getByRole('alert')).toContainText('has no WebGL', { timeout: 60_000 });
  await expect(page.getByText('Point out 1 of 8')).toBeVisible();
});

test('one click marks the rider: the pose model proposes, stickers pull each point to their centre', async ({
  baseURL,
  launch,
}) => {
  test.setTimeout(240_000);
  const browser = await launch({
    ...shellLaunch,
    args: [
      ...shellLaunch.args.filter((a) => a !== '--disable-gpu'),
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--ignore-gpu-blocklist',
    ],
  });
  const page = await (
    await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } })
  ).newPage();
  const others: string[] = [];
  page.on('request', (r) => {
    if (!r.url().startsWith(baseURL!) && !/^(blob|data):/.test(r.url())) others.push(r.url());
  });
  await atStage(page, 'filmed', 'mark');
  await page.getByText('Point out 1 of 8').waitFor();
  await page.getByRole('button', { name: 'Mark the rider' }).click();
  const proposed = page.getByRole('region', { name: 'Proposed marks' });
  await expect(proposed.getByText('on a sticker')).toHaveCount(8, { timeout: 180_000 });
  await proposed.getByRole('button', { name: 'Take them' }).click();
  const truth = JSON.parse(readFileSync('public/demo/maren.truth.json', 'utf8')) as {
    jointsPx: Record<string, [number, number][]>;
  };
  await expect(page.getByTestId('point-wrist')).toContainText('sticker');
  for (const [key, path] of Object.entries(truth.jointsPx)) {
    const text = await page.getByTestId(`point-${key}`).innerText();
    const [x, y] = /([\d.]+), ([\d.]+) px/.exec(text)!.slice(1).map(Number);
    expect(Math.hypot(x - path[0][0], y - path[0][1]), key).toBeLessThan(0.5);
  }
  expect(others).toEqual([]);
});
