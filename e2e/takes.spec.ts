import { shellLaunch } from './chromium.ts';
import { expect, test } from './watched.ts';
import { shortFilm } from './shortFilm.ts';
import { atStage, newSession, track } from './studio.ts';

test('a camera that is refused is said plainly, with what to do', async ({ launch, baseURL }) => {
  // The other tests' browser has a camera.
  const page = await (await launch(shellLaunch)).newPage({ baseURL });
  await newSession(page, 'Refused Rider');
  await page.getByRole('button', { name: 'Record here…' }).click();
  await expect(page.getByRole('alert')).toContainText(
    /was not allowed to use the camera|No camera is connected/,
  );
  await expect(page.getByRole('button', { name: 'Record in 5 s' })).toBeDisabled();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('heading', { name: 'Add a film' })).toBeVisible();
});

test('several takes: each with its own words and part of the film; the unmoved camera gives scale and marks', async ({
  page,
}) => {
  await atStage(page, 'marked', 'film');
  await page.getByLabel('Power').fill('9000');
  await page.getByLabel('Power').press('Enter');
  await expect(page.getByText('From 0 to 2500 W.')).toBeVisible();
  await page.getByLabel('Power').fill('140');
  await page.getByLabel('Power').press('Enter');
  await expect(page.getByTestId('check-square')).toContainText('good');
  await expect(page.getByTestId('check-stickers')).toContainText('good');

  await page.getByTestId('film-file').setInputFiles(await shortFilm('maren'));
  const takes = page.getByRole('region', { name: 'Takes' });
  await expect(takes).toContainText('2 takes');
  await expect(page.getByRole('link', { name: /^6 Mark/ })).toContainText('0 of 8');
  await page.getByRole('button', { name: 'hard' }).click();
  await page.getByRole('button', { name: /^The camera stood still/ }).click();
  await expect(page.getByText('8 of 8 stickers found again on frame 0')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('link', { name: /^5 Scale/ })).toContainText('axles set');
  await expect(page.getByRole('link', { name: /^6 Mark/ })).toContainText('8 of 8');

  // Only a part of this one: two seconds.
  await page.getByTestId('frame-readout').waitFor();
  await page.keyboard.press('Home');
  for (let k = 0; k < 6; k += 1) await page.keyboard.press('>');
  await expect(page.getByTestId('frame-readout')).toContainText('frame 60');
  await page.getByRole('button', { name: 'Begin here' }).click();
  for (let k = 0; k < 12; k += 1) await page.keyboard.press('>');
  await expect(page.getByTestId('frame-readout')).toContainText('frame 180');
  await page.getByRole('button', { name: 'End here' }).click();
  await expect(page.getByText('Read from frame 60 to 180 of 299')).toBeVisible();
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.getByRole('button', { name: 'Track', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Tracked through the whole film' })).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await expect(page.getByTestId('strokes')).toContainText('provisional');

  // Back to the first: it still waits for its tracks, its words and marks are its own.
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await takes.getByText(/hoods, easy, 140 W/).click();
  await expect(page.getByRole('link', { name: /^7 Track/ })).toContainText('open');
  await track(page);
  await page.getByRole('link', { name: /^8 Read/ }).click();
  await expect(page.getByTestId('strokes')).not.toContainText('provisional');
  await page.getByRole('link', { name: /^4 Film/ }).click();
  await page.getByRole('button', { name: 'Remove the take maren.webm' }).last().click();
  await expect(takes).toContainText('The take');
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(takes).toContainText('2 takes');
});
