import { expect, test } from './watched.ts';
import { saved, newSession } from './studio.ts';

test('a take is recorded here: countdown, self-stop, kept as a file that opens again', async ({ page }) => {
  await newSession(page, 'Recorded Rider');
  await page.getByRole('button', { name: 'Record here…' }).click();
  await expect(page.getByText(/^The camera gives \d+ × \d+ px/)).toBeVisible();
  await page.getByRole('button', { name: 'strokes' }).click();
  await page.getByLabel('Strokes', { exact: true }).fill('200');
  await page.getByLabel('Strokes', { exact: true }).press('Enter');
  await expect(page.getByText('From 1 to 120.')).toBeVisible();
  // Two strokes and one more for the part turns at the ends, at 90 rpm: two seconds.
  await page.getByLabel('Strokes', { exact: true }).fill('2');
  await page.getByLabel('Strokes', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Record in 5 s' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^[1-5]$/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop and keep it' })).toBeVisible({ timeout: 10_000 });
  await expect(page.getByTestId('frame-readout')).toBeVisible({ timeout: 20_000 });
  const take = page.getByRole('region', { name: 'Takes' });
  await expect(take).toContainText(/recorded .*\.webm, [23]\.\d s/);
  await expect(page.getByTestId('check-rate')).toContainText('film again');
  await saved(page);
  await page.reload();
  await page.getByTestId('frame-readout').waitFor();
});

test('the camera is unplugged: what was recorded is kept, and it is said', async ({ page }) => {
  // The simulated camera can't be pulled out, so its track ends as one does that is.
  await page.addInitScript(() => {
    const media = MediaDevices.prototype;
    const ask = Reflect.get(media, 'getUserMedia') as MediaDevices['getUserMedia'];
    media.getUserMedia = async function unplugged(c) {
      const stream = await ask.call(this, c);
      const [camera] = stream.getVideoTracks();
      (window as unknown as { unplug: () => void }).unplug = () => {
        camera.stop();
        camera.dispatchEvent(new Event('ended'));
      };
      return stream;
    };
  });
  await newSession(page, 'Unplugged Rider');
  await page.getByRole('button', { name: 'Record here…' }).click();
  await page.getByRole('button', { name: 'Record in 5 s' }).click();
  // After two of ten seconds.
  await expect(page.getByRole('status').filter({ hasText: /^8 s$/ })).toBeVisible();
  await page.evaluate(() => (window as unknown as { unplug: () => void }).unplug());
  await expect(page.getByTestId('frame-readout')).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('region', { name: 'Takes' })).toContainText('recorded');
});
