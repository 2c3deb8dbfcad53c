import { expect, test } from './watched.ts';
import { saved, turnTo } from './studio.ts';

test('the change log by keyboard alone: step, word, undo, all of it back', async ({ page }) => {
  // Idris has a plan to keep first: his stance and his cleats. New to it, he is stepped by halves.
  await page.goto('/sessions/idris-1/plan');
  // A guided sequence is gone through beside it, rung by rung.
  await page.getByRole('tab', { name: 'Complaints' }).click();
  const stance = page.getByRole('region', { name: 'Sequence: Stance' });
  await stance.getByRole('button', { name: 'The same' }).click();
  await expect(stance.getByRole('listitem').nth(1)).toHaveAttribute('aria-current', 'step');
  await page.getByRole('tab', { name: 'Prescription' }).click();
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(page.getByTestId('kept-plan')).toContainText('cleat fore-aft');
  await page.getByRole('link', { name: 'Next: Trial' }).click();
  await expect(page.getByTestId('next-step')).toHaveText(
    'Cleat across, left 0.5 mm in: foot out, cleat across, right 0.5 mm in: foot out',
  );

  await page.keyboard.press('n');
  const riding = page.getByRole('region', { name: 'Being ridden' });
  await expect(riding).toContainText('Cleat outward, left: 4 mm → 3.5 mm');
  await riding.getByRole('button', { name: 'outside edge of foot' }).click();
  await riding
    .getByRole('group', { name: /^Both hands off/ })
    .getByRole('button', { name: 'holds' })
    .click();
  await riding.getByLabel('Power').fill('95');
  await riding.getByLabel('Power').press('Enter');
  await riding.getByLabel('In the rider’s words').fill('easier already');
  await riding.getByLabel('In the rider’s words').press('Enter');
  await page.locator('body').click({ position: { x: 5, y: 400 } });
  await page.keyboard.press('b');
  const log = page.getByRole('list', { name: 'What was moved' });
  await expect(log.getByRole('listitem')).toHaveCount(1);
  await expect(log).toContainText('felt at outside edge of foot · both hands off: holds · 95 W');
  await expect(log.getByLabel('In the rider’s words')).toHaveValue('easier already');

  // The next one is undone by one key, and stays in the log as tried.
  await page.keyboard.press('n');
  await expect(riding).toContainText('3.5 mm → 3 mm');
  await page.keyboard.press('u');
  await expect(riding).toHaveCount(0);
  await expect(log.getByRole('listitem')).toHaveCount(2);
  await expect(log.getByRole('listitem').first()).toContainText('undone');
  const stands = page.getByTestId('stands-feet.left.cleatOutwardMm');
  await expect(stands).toContainText('3.5 mm');
  // Undo takes the putting back back; redo puts it back again.
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(stands).toContainText('3 mm');
  await expect(riding).toBeVisible();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(riding).toHaveCount(0);

  // Something that is not in the plan; the impossible is stated.
  await page.getByRole('button', { name: 'Something else…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Something else' });
  await dialog.getByLabel('What is moved').click();
  await page.getByRole('option', { name: 'Spacers' }).click();
  await dialog.getByLabel('Spacers, to').fill('65');
  await dialog.getByLabel('Spacers, to').press('Enter');
  await expect(dialog.getByRole('alert')).toContainText('Impossible: more than 50 mm of spacers');
  await dialog.getByLabel('Spacers, to').fill('20');
  await dialog.getByRole('button', { name: 'On the bike' }).click();
  await expect(riding).toContainText('Spacers: 30 mm → 20 mm');
  await page.keyboard.press('w');

  await page.getByRole('button', { name: 'Restore as found…' }).click();
  const back = page.getByRole('dialog', { name: 'Restore as found' });
  await expect(back.getByRole('list', { name: 'To restore' }).getByRole('listitem')).toHaveCount(3);
  await expect(back).toContainText('Spacers: 20 mm → 30 mm');
  await back.getByRole('button', { name: 'The bike is as found again' }).click();
  await expect(page.getByRole('button', { name: 'Restore as found…' })).toBeDisabled();
  await saved(page);
  await page.reload();
  await expect(log.getByRole('listitem')).toHaveCount(4);
  await expect(stands).toContainText('4 mm');
  // The sequence is where it was.
  await turnTo(page, '/sessions/idris-1/plan');
  await page.getByRole('tab', { name: 'Complaints' }).click();
  await expect(stance.getByRole('listitem').first()).toContainText('made no difference');
});

test('the step ladder marks the plateau and where it turns, beside any measure', async ({ page }) => {
  await page.goto('/sessions/maren-1/trial?view=ladder');
  await expect(page.getByTestId('ladder-answer')).toHaveText('Best from 661 mm to 664 mm; turns at 667 mm');
  const steps = page.getByRole('table', { name: 'Step ladder' }).getByRole('row');
  await expect(steps.nth(1)).toHaveText('start646start');
  await expect(steps.nth(2)).toHaveText('16491');
  await expect(page.getByText(/^band .*42$/)).toBeVisible();
  await page.getByLabel('Compare with').click();
  await page.getByRole('option', { name: 'Saddle, peak' }).click();
  await expect(page.getByText('Saddle, peak, kPa')).toBeVisible();
  await page.getByLabel('Which setting').click();
  await page.getByRole('option', { name: 'Tilt (saddle)' }).click();
  await expect(page.getByTestId('ladder-answer')).toHaveText('Best from −1.5° to −1°');
  await turnTo(page, '/sessions/juno-1/trial?view=ladder');
  await expect(page.getByRole('heading', { name: 'No steps yet' })).toBeVisible();
});

test('filmed again: both films in crank phase, real changes, forecasts, the rider’s own answer', async ({
  page,
}) => {
  await page.goto('/sessions/maren-1/trial?view=compare');
  await expect(page.getByTestId('moved-between')).toContainText('saddle height 9 mm up, setback 10 mm back');
  const knee = page.getByTestId('outcome-kneeFlexionMinDeg');
  await expect(knee).toContainText('48°');
  await expect(knee).toContainText('46°');
  // Two degrees lie within what one rides from time to time: neither real, nor a test of the forecast.
  await expect(knee).toContainText('within noise');
  await expect(knee).toContainText('too little to test');
  await expect(page.getByTestId('outcome-hipAngleMinDeg')).toContainText('real');
  await expect(page.getByTestId('outcome-ankleRangeDeg')).toContainText('within noise');
  // What the simulation hid, 20 % and 62 %, lies within both.
  await expect(page.getByTestId('kappa')).toContainText('The foot takes 38 % ± 33 %');
  await expect(page.getByTestId('rho')).toContainText('The back takes 50 % ± 49 %');
  await expect(page.getByRole('button', { name: 'Kept with the rider' })).toBeDisabled();
  // Stickers taken off in between: the ± grows, and less of it is real.
  const real = page.getByRole('table', { name: 'Before and after' }).getByText('real', { exact: true });
  const before = await real.count();
  await page.getByLabel('Stickers reapplied in between').check();
  expect(await real.count()).toBeLessThan(before);

  // One cursor: at every crank angle both films stand alike.
  const [first, second] = [page.getByTestId('phase-before'), page.getByTestId('phase-after')];
  await expect(first).not.toHaveText('0');
  const frames = async (): Promise<number[]> => [
    Number(await first.innerText()),
    Number(await second.innerText()),
  ];
  await expect.poll(frames).toEqual([39, 18]);
  for (let k = 0; k < 3; k += 1) await page.keyboard.press('>');
  await expect(page.getByTestId('phase-readout')).toHaveText(/turn 1 of \d, crank 270°/);
  await expect.poll(async () => (await frames())[0]).toBeGreaterThan(65);
  // Space belongs to the switch while it has the focus.
  await page.getByRole('heading', { name: 'What changed' }).click();
  await page.keyboard.press(' ');
  await expect.poll(async () => (await frames())[1], { timeout: 30_000 }).toBeGreaterThan(110);
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Play (Space)' })).toBeVisible();
  await page.getByRole('link', { name: 'Plan the next round' }).click();
  await expect(page.getByTestId('advice')).toBeVisible();
  // The visit after six weeks is compared with the one before.
  await turnTo(page, '/sessions/maren-2/trial?view=compare');
  await expect(page.getByLabel('Stickers reapplied in between')).toBeChecked();
  await expect(page.getByTestId('moved-between')).toContainText('saddle height 18 mm up');
});

test('trainer and mat: connected, read into the log and the take; tables out and in, broken ones told', async ({
  page,
}) => {
  await page.goto('/sessions/pilar-1/trial');
  await page.getByRole('button', { name: 'Something else…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Saddle height, to').fill('615');
  await dialog.getByLabel('Saddle height, to').press('Enter');
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Connect the simulated trainer and mat' }).click();
  const line = page.getByTestId('device-line');
  await expect(line).toContainText('left leg');
  const first = await line.innerText();
  await expect(line).not.toHaveText(first);
  await page.getByRole('button', { name: /^Better/ }).click();
  await expect(page.getByRole('list', { name: 'What was moved' })).toContainText(
    /\d+ W · \d+ rpm · left leg/,
  );

  await page.getByRole('tab', { name: 'Trainer and mat' }).click();
  await expect(page.getByRole('img', { name: 'Pressure on the saddle now' })).toBeVisible();
  await page.getByRole('button', { name: 'Keep with the take' }).click();
  await expect(page.getByTestId('take-trainer')).toContainText('simulated trainer');
  const out = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Mat as CSV' }).click();
  const file = await (await out).path();
  await page.getByTestId('mat-file').setInputFiles({
    name: 'mat.csv',
    mimeType: 'text/csv',
    buffer: await import('node:fs/promises').then((fs) => fs.readFile(file)),
  });
  await expect(page.getByTestId('take-mat')).toContainText('mat.csv');
  await page.getByTestId('trainer-file').setInputFiles({
    name: 'trainer.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('t_s,power_w,cadence_rpm\n0,100,80\n1,-5,80\n'),
  });
  await expect(page.getByRole('alert')).toContainText('trainer.csv: Row 3: power_w must be 0 to 3000');
  await expect(page.getByTestId('take-trainer')).toContainText('simulated trainer');
});
