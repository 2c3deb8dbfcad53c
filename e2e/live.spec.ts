import { hipMostClosedDeg, madeCamera, ride } from './madeCamera.ts';
import { atStage, saved } from './studio.ts';
import { expect, test } from './watched.ts';

// One camera at a time beside the other tests: each takes most of the computer.
test.describe.configure({ mode: 'default' });

test('live: the camera finds the rider by itself, reads every turn, and a change measures itself', async ({
  page,
}) => {
  // Turns are ridden in their own time, however slow the computer.
  test.setTimeout(480_000);
  await madeCamera(page, 'maren');
  await atStage(page, 'tracked', 'plan');
  await page
    .getByRole('button', { name: /Keep this plan/ })
    .first()
    .click();
  await page.getByRole('link', { name: /^10 Trial/ }).click();
  await page.getByRole('tab', { name: 'Live' }).click();
  await page.getByRole('button', { name: 'Turn the camera on' }).click();
  await expect(page.getByTestId('live-state')).toContainText('Reading every turn', { timeout: 120_000 });
  // The film of the same rider reads 48°.
  await expect(page.getByTestId('live-kneeFlexionMinDeg')).toContainText(/4[789]°/, { timeout: 120_000 });
  const turns = page.getByRole('table', { name: /Knee at its straightest/ }).getByRole('row');
  await expect.poll(() => turns.count(), { timeout: 120_000 }).toBeGreaterThanOrEqual(8);

  // One key puts the plan’s next step on the bike; the rider rides on, with the saddle higher.
  await page.keyboard.press('PageDown');
  await expect(page.getByTestId('live-change')).toContainText('Height to bottom bracket');
  await ride(page, 'maren-second');
  await expect(page.getByTestId('live-change')).toContainText('Settling');
  const measured = page.getByTestId('live-change').getByTestId('measured');
  await expect(measured).toContainText('Measured live', { timeout: 120_000 });
  await expect(measured).toContainText(/Hip at its most closed −\d\.\d° ± \d\.\d, predicted/);
  const [, by, plusMinus] = /Hip at its most closed −(\d\.\d)° ± (\d\.\d)/.exec(await measured.innerText())!;
  const truth = hipMostClosedDeg('maren') - hipMostClosedDeg('maren-second');
  expect(Math.abs(Number(by) - truth)).toBeLessThan(Number(plusMinus) + 0.3);
  await page.keyboard.press('b');

  // The last minute becomes a take that reads at once.
  await page.getByRole('button', { name: 'Keep the last minute' }).click();
  await page.getByText('The last minute is kept as a take').waitFor({ timeout: 120_000 });
  await expect(page.getByRole('link', { name: /^4 Film/ })).toContainText('2 takes');

  // It goes on whatever page is drawn, and says so there.
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await expect(page.getByTestId('knee-min')).toContainText(/4\d/);
  await page.getByRole('link', { name: 'The camera reads the rider' }).click();
  await expect(page.getByRole('img', { name: 'What the camera sees' })).toBeVisible();
  await expect(page.getByTestId('live-counts')).toContainText(/[1-9]\d{2,} pictures, \d+ dropped/);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Start again' })).toBeVisible();

  // What was measured stays with the change.
  await page.getByRole('tab', { name: 'Changes' }).click();
  await expect(page.getByRole('list', { name: 'What was moved' })).toContainText('Measured live');
  await saved(page);
  await page.reload();
  await expect(page.getByRole('list', { name: 'What was moved' })).toContainText('Hip at its most closed');
});

test('practice: a made-up rider’s saddle goes up, and what is read of it is what it truly did', async ({
  page,
}) => {
  // Turns are ridden in the computer’s own time.
  test.setTimeout(480_000);
  await page.goto('/practice');
  const saddle = page.getByRole('group', { name: 'Saddle height' });
  await expect(saddle.getByRole('button', { name: '3 mm up' })).toBeDisabled();
  await page.getByRole('button', { name: 'Let the rider pedal' }).click();
  await expect(page.getByTestId('live-state')).toContainText('Reading every turn', { timeout: 120_000 });
  const turns = page.getByRole('table', { name: /Knee at its straightest/ }).getByRole('row');
  await expect.poll(() => turns.count(), { timeout: 120_000 }).toBeGreaterThanOrEqual(10);

  // Pressed twice is one change, of six millimetres.
  await page.getByLabel('Your guess').fill('-2');
  await saddle.getByRole('button', { name: '3 mm up' }).click();
  await saddle.getByRole('button', { name: '3 mm up' }).click();
  await expect(saddle).toContainText('6 mm up');
  const change = page.getByTestId('practice-change');
  await expect(change).toContainText('Saddle height 6 mm up');
  await expect(change.getByTestId('measured')).toBeVisible({ timeout: 120_000 });
  const text = (await change.innerText()).replaceAll('−', '-');
  const [, by, plusMinus, truly] =
    /Knee at its straightest (-\d\.\d)° ± (\d\.\d)(?:, within noise)?, truly (-\d\.\d)/.exec(text)!;
  expect(Number(truly)).toBeLessThan(-1);
  expect(Math.abs(Number(by) - Number(truly))).toBeLessThanOrEqual(Number(plusMinus) + 0.2);
  expect(text).toContain('Your guess for the knee was -2.0°. The rider says: “Better.”');

  await page.getByRole('button', { name: 'Show where this rider is at ease' }).click();
  await expect(page.getByRole('region', { name: 'At ease' })).toContainText('Saddle setbackright');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Let the rider pedal' })).toBeVisible();
  // What was read stays.
  await expect(change.getByTestId('measured')).toBeVisible();
  await page.getByRole('button', { name: 'Another rider' }).click();
  await expect(page.getByRole('heading', { name: 'Rider 2' })).toBeVisible();
  await expect(change).toBeHidden();
});
