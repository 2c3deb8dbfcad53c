import { expect, test, type Page } from './watched.ts';
import { saved, openSession } from './studio.ts';

const lines = (page: Page) => page.getByRole('list', { name: 'Now' });

async function toPlan(page: Page, name: string): Promise<void> {
  await openSession(page, name);
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await page.getByTestId('advice').waitFor();
}

test('a line is edited, rejected with a reason, moved up; what follows is solved again', async ({ page }) => {
  await toPlan(page, 'Pilar Quist');
  const crank = lines(page).getByRole('listitem', { name: /^Cranks/ });
  await expect(crank).toContainText('hip at its most closed');
  await expect(crank).toContainText('175 mm → 170 mm');
  const hip = page.getByTestId('predicted-hipAngleMinDeg');
  const before = await hip.innerText();
  // A reason is asked for.
  await crank.getByRole('button', { name: 'Reject' }).click();
  await page.getByRole('button', { name: 'Reject it' }).click();
  await expect(page.getByText('A word or two')).toBeVisible();
  await page.getByLabel('Why not').fill('No shorter one for this bottom bracket');
  await page.getByRole('button', { name: 'Reject it' }).click();
  await expect(page.getByRole('list', { name: 'Left out' })).toContainText(
    'left out: No shorter one for this bottom bracket',
  );
  await expect(crank).toHaveCount(0);
  await expect(hip).not.toHaveText(before, { useInnerText: true });
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(crank).toBeVisible();
  await expect(hip).toHaveText(before, { useInnerText: true });
  // Another figure, within what is made.
  await crank.getByRole('button', { name: 'Edit' }).click();
  const field = page.getByLabel('Crank length, to');
  await field.fill('100');
  await field.press('Enter');
  await expect(page.getByText('At least 150.')).toBeVisible();
  await field.fill('167.5');
  await field.press('Enter');
  await page.getByRole('button', { name: 'Use these' }).click();
  // What it changes in other lines is reported before it is taken.
  const accept = page.getByRole('button', { name: 'Accept the change' });
  await accept.or(crank.getByText('edited')).first().waitFor();
  if (await accept.isVisible()) await accept.click();
  await expect(crank).toContainText('175 mm → 167.5 mm');
  await expect(crank).toContainText('edited');
  await expect(hip).not.toHaveText(before, { useInnerText: true });
  // Order is the fitter's.
  const second = lines(page).getByRole('listitem').nth(1);
  const name = (await second.getAttribute('aria-label'))!;
  await second.getByRole('button', { name: /earlier$/ }).click();
  await expect(lines(page).getByRole('listitem').first()).toHaveAttribute('aria-label', name);
  await saved(page);
  await page.reload();
  await expect(lines(page).getByRole('listitem').first()).toHaveAttribute('aria-label', name);
  await expect(crank).toContainText('edited');
});

test('the bench: coupled moves, one key to compensate, the impossible said, variants side by side', async ({
  page,
}) => {
  await toPlan(page, 'Pilar Quist');
  await page.getByRole('tab', { name: 'What-if bench' }).click();
  await page.getByRole('button', { name: 'As filmed' }).click();
  await page.getByRole('button', { name: 'Keep this as a variant' }).click();
  await page.getByRole('tab', { name: /^Feet/ }).click();
  for (const side of ['left', 'right']) {
    const cleat = page.getByRole('group', { name: `Cleat fore-aft, ${side}` });
    await cleat.getByRole('textbox').fill('14');
    await cleat.getByRole('textbox').press('Enter');
    await expect(cleat).toContainText('10 mm back');
  }
  await expect(page.getByRole('list', { name: 'Couplings' })).toContainText('acts like 3 mm of saddle up');
  await page.getByRole('heading', { name: 'Variants' }).click();
  await page.keyboard.press('c');
  await page.getByRole('tab', { name: /^Saddle/ }).click();
  await expect(page.getByTestId('by-saddleUp')).toHaveText('3 mm down');
  await page.getByRole('combobox', { name: 'Saddle' }).click();
  await page.getByRole('option', { name: /Halm 155/ }).click();
  await expect(page.getByTestId('by-saddleWidth')).toHaveText('5 mm narrower');
  await page.getByRole('button', { name: 'Keep this as a variant' }).click();
  const table = page.getByRole('table', { name: 'Variants compared' });
  await expect(table).toContainText('as it is');
  await expect(table).toContainText('saddle height 3 mm down');
  const seat = page.getByRole('group', { name: 'Saddle height' }).getByRole('textbox');
  await seat.fill('660');
  await seat.press('Enter');
  const back = page.getByRole('group', { name: 'Setback' }).getByRole('textbox');
  await back.fill('225');
  await back.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Impossible' })).toContainText(
    'another seatpost would be needed',
  );
  await expect(page.getByTestId('predicted-kneeFlexionMinDeg')).toContainText('–');
  await table.getByRole('button', { name: 'On the bench' }).nth(1).click();
  await expect(page.getByTestId('by-saddleUp')).toHaveText('3 mm down');
  // A wanted place of the hands, from the parts bin.
  await page.getByLabel('Up (down is −)').fill('30');
  await page.getByLabel('Up (down is −)').press('Enter');
  const builds = page.getByRole('table', { name: 'Cockpit builds that come near' });
  await expect(builds.getByRole('row')).toHaveCount(7);
  await expect(builds.getByRole('columnheader').first()).toHaveText('Stem, spacers, bar');
  await builds.getByRole('button', { name: 'On the bench' }).first().click();
  await expect(page.getByRole('tab', { name: /^Cockpit \(\d\)/ })).toBeVisible();
});

test('a red flag heads the plan, a conflict is said, serious cautions are acknowledged', async ({ page }) => {
  await openSession(page, 'Juno Achterberg');
  await page.getByRole('link', { name: /^1 Intake/ }).click();
  await page.getByRole('button', { name: 'The list…' }).click();
  await page.getByLabel('Weakness in an arm or a leg').check();
  await page.getByRole('link', { name: /^2 Body/ }).click();
  await page.getByRole('button', { name: /^Leg length/ }).click();
  for (const test of ['Malleoli, legs pulled', 'Malleoli, sitting up']) {
    await page.getByRole('textbox', { name: test }).fill('-9');
    await page.getByRole('textbox', { name: test }).press('Enter');
  }
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await page.getByTestId('advice').waitFor();
  await expect(page.getByRole('alert').first()).toContainText('weakness in an arm or a leg');
  await expect(page.getByText('9 mm of true leg-length difference')).toBeVisible();
  const caution = page.getByRole('checkbox', { name: /licensed clinician/ });
  await caution.check();
  await expect(caution).toBeChecked();
});

test('in band and nothing hurts: an empty plan is an answer', async ({ page }) => {
  await page.goto('/protocols/time-trial');
  for (const field of [
    'Ankle range, to',
    'Head above the back, to',
    'Hip at its most closed, from',
    'Knee path width, to',
  ])
    await page.getByLabel(field).fill('');
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByRole('heading', { name: /version 2/ })).toBeVisible();
  await openSession(page, 'Juno Achterberg');
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await page.getByRole('button', { name: 'Use version 2' }).click();
  await expect(page.getByTestId('measure-ankleRangeDeg')).toContainText('at least 12°');
  await page.getByRole('link', { name: /^3 Bike/ }).click();
  await page.getByRole('button', { name: /^Feet/ }).click();
  await page.getByLabel('Cleat behind first head').nth(1).fill('10');
  await page.getByLabel('Cleat behind first head').nth(1).press('Enter');
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await expect(page.getByTestId('advice')).toHaveText('Leave it alone');
  await expect(lines(page).getByRole('listitem')).toHaveCount(0);
});

test('a complaint that has no place on the body, and a test on the bike that decides about it', async ({
  page,
}) => {
  await openSession(page, 'Pilar Quist');
  await page.getByRole('link', { name: /^1 Intake/ }).click();
  await page.getByLabel('Another complaint').click();
  await page.getByRole('option', { name: 'cramped, arms engaged' }).click();
  const suspects = page.getByRole('region', { name: 'Suspects: cramped, arms engaged' });
  await expect(suspects).toContainText('reach too short');
  await page.getByRole('link', { name: /^9 Plan/ }).click();
  await page.getByRole('tab', { name: 'Complaints' }).click();
  // Each with the test that decides and what to try.
  await expect(suspects.getByRole('listitem').first()).toContainText(/Test: .+ Try: .+\./);
  const reach = page.getByRole('group', { name: 'Static reach test, from the hips to hood height' });
  await reach.getByRole('button', { name: 'shoulders shrug' }).click();
  const short = suspects.getByRole('listitem').filter({ hasText: 'reach too short' });
  await expect(short).toContainText('static reach test, from the hips to hood height: shoulders shrug');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(short).not.toContainText('shoulders shrug');
  await expect(reach.getByRole('button', { name: 'shoulders shrug' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  // The suspects further down are a tap away, with their evidence.
  const back = page.getByRole('region', { name: /^Suspects: low back/ });
  await expect(back.getByText('Then:')).toBeVisible();
  await back.getByText('Then:').click();
  await expect(back.getByRole('listitem').nth(3)).toBeVisible();
  // A compensation seen on the bike is named with what takes it away.
  await page
    .getByRole('group', { name: 'Back and head while riding' })
    .getByRole('button', { name: 'back rounds, head up' })
    .click();
  await page.getByRole('tab', { name: 'Prescription' }).click();
  await expect(page.getByText(/The back rounds and the head comes up: expected to go/)).toBeVisible();
});
