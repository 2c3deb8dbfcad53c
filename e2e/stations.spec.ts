import { fileURLToPath } from 'node:url';
import { expect, test, type Page } from './watched.ts';
import { saved, truthOf, turnTo } from './studio.ts';

/** A new rider's session, at Intake. */
async function begin(page: Page, name = 'Desk rider'): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New rider…' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Start the visit' }).click();
  await page.getByRole('heading', { name: 'Where it hurts' }).waitFor();
}

async function fill(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(text);
  await field.press('Enter');
}

test('intake: complaints on the outlines, suspects at the side, a red flag that stops, consent before film', async ({
  page,
}) => {
  await begin(page);
  await page.getByRole('button', { name: 'front of knee, right' }).click();
  await expect(page.getByRole('region', { name: 'Suspects: front of knee, right' })).toContainText(
    'saddle too low',
  );
  // The same place on the other side makes it one complaint of both.
  await page.getByRole('button', { name: 'front of knee, left' }).click();
  await expect(page.getByRole('region', { name: 'Suspects: front of knee, both sides' })).toBeVisible();
  const bad = page.getByRole('slider', { name: 'How bad, 0 to 10' });
  await bad.focus();
  for (let k = 0; k < 3; k += 1) await bad.press('ArrowRight');
  await expect(page.getByTestId('severity')).toHaveText('8');
  await page.getByRole('button', { name: 'after the ride' }).click();
  // What is removed is named, and comes back as it was, whatever was typed since.
  await page.getByRole('button', { name: 'Remove this complaint' }).click();
  await fill(page, 'Age', '46');
  await expect(page.getByTestId('severity')).toBeHidden();
  await page.getByText('Complaint removed: front of knee').waitFor();
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await page.getByRole('button', { name: 'front of knee, left' }).click();
  await expect(page.getByTestId('severity')).toHaveText('8');

  // Film asks for consent; a rider under 18 has a guardian.
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await expect(page.getByRole('heading', { name: 'Consent first' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Record the consent' })).toBeEnabled();
  await page.getByRole('link', { name: /^1 Intake/ }).click();
  await fill(page, 'Age', '16');
  await expect(page.getByLabel('Guardian’s name')).toBeVisible();
  await fill(page, 'Age', '47.5');
  await expect(page.getByText('Whole years, please.')).toBeVisible();
  await fill(page, 'Age', '47');

  await page.getByRole('button', { name: 'The list…' }).click();
  await page.getByLabel('Pain at rest or at night').check();
  const card = page.getByRole('alert').filter({ hasText: 'Stop: refer first' });
  await expect(card).toContainText('makes no diagnosis');
  await expect(page.getByRole('link', { name: /^1 Intake/ })).toContainText('stop: refer');
  await card.getByRole('button', { name: 'I have told the rider' }).click();
  await expect(card).toContainText('Told on');

  await page.getByRole('button', { name: 'city, upright' }).click();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('button', { name: 'Take it' })).toBeHidden();
  await page.getByLabel('What changed before the trouble began').fill('New shoes <b>in May</b>');
  await page.getByLabel('What changed before the trouble began').blur();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('What changed before the trouble began')).toHaveValue(
    'New shoes <b>in May</b>',
  );
  await expect(page.getByTestId('severity')).toHaveText('8');
  await expect(page.getByText('Told on')).toBeVisible();
});

test('body: estimates as they are typed, in any unit; bands move and are switched off; a skip has its reason', async ({
  page,
}) => {
  await begin(page);
  await page.getByRole('link', { name: /^2 Body/ }).click();
  const side = page.getByRole('complementary', { name: 'What it means' });
  await fill(page, 'Inseam', '33 in');
  // 33 in are 838.2 mm: 738; 0.883 · 838.2 = 740; 0.216 · 838.2 = 181 → 180.
  await expect(side).toContainText('738 mm');
  await expect(side).toContainText('740 mm');
  await expect(side).toContainText('167.5 to 180 mm');
  await expect(page.getByLabel('Inseam', { exact: true })).toHaveValue('838.2');
  await fill(page, 'Inseam', '83 parsec');
  await expect(page.getByText('“parsec” is not a unit of length known here.')).toBeVisible();
  await page.getByLabel('Inseam', { exact: true }).press('Escape');
  await fill(page, 'Sit-bone spacing', '9');
  await expect(page.getByText('Between 60 and 220 mm, please')).toBeVisible();
  await fill(page, 'Sit-bone spacing', '12cm');
  await expect(side).toContainText('155 to 165 mm');

  // From a photo with a ruler in it: any picture will do, its ruler 400 px long, the dents 200 px apart.
  await page.getByRole('button', { name: 'From a photo…' }).click();
  const dialog = page.getByRole('dialog');
  const file = dialog.getByTestId('impression-file');
  await file.setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from('no') });
  await expect(dialog.getByRole('alert')).toContainText('a.png is no picture');
  await file.setInputFiles(fileURLToPath(new URL('../docs/screenshots/film.png', import.meta.url)));
  await fill(page, 'Length on the ruler', '25cm');
  const photo = dialog.getByRole('img', { name: 'The impression' });
  await expect(dialog.getByRole('status')).toContainText('Point out 1 of 4');
  const box = (await photo.boundingBox())!;
  // The picture keeps its shape inside the drawing: its scale is that of the smaller fit.
  const k = Math.min(box.width / 1280, box.height / 800);
  const [left, top] = [(box.width - 1280 * k) / 2, (box.height - 800 * k) / 2];
  for (const [n, x, y] of [
    [1, 300, 300],
    [2, 700, 300],
    [3, 400, 500],
    [4, 600, 500],
  ]) {
    await expect(dialog.getByRole('status')).toContainText(`Point out ${n} of 4`);
    await photo.click({ position: { x: left + x * k, y: top + y * k } });
  }
  await expect(dialog.getByRole('status')).toContainText(/12[456] mm ±/);
  await dialog.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByLabel('Sit-bone spacing', { exact: true })).toHaveValue(/12[456]/);
  await expect(dialog).toBeHidden();

  const raise = page
    .locator('div', { has: page.getByRole('button', { name: 'How: Straight-leg raise' }) })
    .last();
  const row = raise.locator('xpath=..');
  await row.getByLabel('Left').fill('50');
  await row.getByLabel('Left').press('Enter');
  await row.getByLabel('Right').fill('64');
  await row.getByLabel('Right').press('Enter');
  await expect(row).toContainText('Tight hamstrings');
  await expect(row).toContainText('Right larger by 14');
  await expect(page.getByTestId('body-card')).toContainText('Hamstrings: no high saddle, no low bar.');
  await expect(side).toContainText('33 to 42° → 37 to 46°');
  const on = page.getByLabel('straight-leg raise 50°: tight hamstrings');
  await on.uncheck();
  await expect(on).not.toBeChecked();

  // The others are folded, and stand open once asked for.
  await expect(page.getByRole('button', { name: 'How: Core hold' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show everything' }).click();
  await page.getByRole('button', { name: 'How: Core hold' }).click();
  await expect(page.getByText('Seconds until the back sags.')).toBeVisible();
  await page.getByRole('button', { name: 'Skip: Core hold' }).click();
  await page.getByLabel('Why not').fill('Wrist in plaster');
  await page.getByRole('button', { name: 'Skip it' }).click();
  await expect(page.getByText('Skipped: Wrist in plaster')).toBeVisible();

  // Undo steps back through what was done, redo forward.
  await saved(page);
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(page.getByText('Skipped: Wrist in plaster')).toBeHidden();
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(on).toBeChecked();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(on).not.toBeChecked();
  await saved(page);
  await page.reload();
  await expect(on).not.toBeChecked();

  // In inches everywhere, once the studio says so.
  await page.getByRole('button', { name: 'Studio' }).click();
  await page.getByRole('menuitem', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'inches' }).click();
  await expect(page.getByText('28.94 in')).toBeVisible();
  await page.goBack();
  await expect(page.getByLabel('Inseam', { exact: true })).toHaveValue('33');
});

test('bike: one measurement gives the others, contradictions name the slip, the drawing follows', async ({
  page,
}) => {
  await begin(page);
  await page.getByRole('link', { name: /^3 Bike/ }).click();
  await expect(page.getByText('Type the first numbers, and the bike is drawn.')).toBeVisible();
  await fill(page, 'Crank length', '172.5');
  await fill(page, 'Height to bottom bracket', '73.5 cm');
  await page.getByRole('button', { name: 'Show everything' }).click();
  await expect(page.getByText('follows: 907.5 mm')).toBeVisible();
  const drawing = page.getByRole('img', { name: 'The bike from its right side, to scale' });
  await expect(drawing).toContainText('735');
  await fill(page, 'Height to spindle', '735');
  const clash = page.getByRole('alert').filter({ hasText: 'Can’t both be true' });
  await expect(clash).toContainText('173 mm apart');
  await expect(clash).toContainText('The same number stands in both');
  await fill(page, 'Height to spindle', '907');
  await expect(clash).toBeHidden();
  await fill(page, 'Height to spindle', '');
  await expect(page.getByText('follows: 907.5 mm')).toBeVisible();
  await fill(page, 'Setback at 80 mm width', '200');
  await fill(page, 'Nose to 80 mm width', '130');
  await expect(page.getByText('follows: 70 mm')).toBeVisible();
  await fill(page, 'Saddle tilt', '-6');
  await expect(page.getByText('saddle 6° nose-down')).toBeVisible();
  for (const [label, text] of [
    ['Stack', '570'],
    ['Reach', '385'],
    ['Head angle', '71.5'],
    ['Stem length', '100'],
    ['Stem angle', '-6'],
    ['Spacers', '20'],
    ['Clamp to hoods, forward', '85'],
  ])
    await fill(page, label, text);
  // The clamp by hand: 385 − 50 cos 71.5° + 100 cos 12.5° = 466.8; the hood 551.8; from the sit point at −200: 752.
  await expect(page.getByTestId('computed-Saddle to hood')).toHaveText('752 mm');
  await fill(page, 'Stem length', '4000');
  await expect(page.getByText('Between 0 and 180 mm, please')).toBeVisible();
  await page.getByLabel('Stem length', { exact: true }).press('Escape');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Stem length', { exact: true })).toHaveValue('100');
  await expect(page.getByTestId('computed-Saddle to hood')).toHaveText('752 mm');
  // A usual frame takes the place of what is typed, and Undo brings that back.
  await page.getByRole('button', { name: 'Copy from…' }).click();
  await page.getByRole('button', { name: 'City, medium' }).click();
  await expect(page.getByLabel('Stem length', { exact: true })).toHaveValue('');
  await expect(page.getByLabel('Seat tube angle', { exact: true })).toHaveValue('72.5');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(page.getByLabel('Stem length', { exact: true })).toHaveValue('100');
});

test('the sample riders come with every station filled: complaints, body and bike, read and planned at once', async ({
  page,
}) => {
  await page.goto('/riders/juno');
  await turnTo(page, '/sessions/juno-1/body');
  await expect(page.getByTestId('body-card')).toContainText('Left leg 5 mm longer.');
  for (const [rider, complaint] of [
    ['maren', 'front of knee, both sides'],
    ['idris', 'outside edge of foot, both sides'],
    ['pilar', 'low back'],
    ['juno', null],
  ] as const) {
    if (complaint) {
      await turnTo(page, `/sessions/${rider}-1/intake`);
      await expect(page.getByRole('region', { name: `Suspects: ${complaint}` })).toBeVisible();
      await turnTo(page, `/sessions/${rider}-1/bike`);
      await expect(page.getByTestId('computed-Saddle to hood')).toContainText('mm');
    }
    await turnTo(page, `/sessions/${rider}-1/read`);
    const cadence = parseFloat(await page.getByTestId('cadence').innerText());
    expect(cadence).toBeCloseTo(truthOf(rider).cadenceRpm, 0);
    await turnTo(page, `/sessions/${rider}-1/plan`);
    await expect(page.getByTestId('advice')).toContainText(/ mm/);
    await expect(page.getByRole('list', { name: 'Now' }).getByRole('listitem').first()).toContainText('Why');
  }
});
