import { readFileSync } from 'node:fs';
import { savedTracks } from './studio.ts';
import { expect, test, type Page } from './watched.ts';
import { parseTracksCsv, writeTracksCsv } from '../core/formats/tracksCsv.ts';
import type { Tracks } from '../core/tracking/tracks.ts';

const original = (): Tracks => {
  const parsed = parseTracksCsv(readFileSync('public/demo/idris.tracks.csv', 'utf8'));
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.tracks;
};

/** Reads tracks into Idris's session, as a fitter would from a file. */
async function readIn(page: Page, tracks: Tracks): Promise<void> {
  await page.goto('/sessions/idris-1/read');
  await page.getByRole('button', { name: 'Files' }).click();
  await page.getByTestId('tracks-file').setInputFiles({
    name: 'tracks.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(writeTracksCsv(tracks)),
  });
  await expect(page.getByText('Tracks imported from tracks.csv.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.getByTestId('frame-readout').waitFor();
}

async function stored(page: Page): Promise<Tracks> {
  await page.getByRole('link', { name: /^8 Read/ }).click();
  return savedTracks(page);
}

test('the correction loop by keyboard alone: next doubt, put right, followed again, without a jump', async ({
  page,
}) => {
  const truth = original();
  const broken = original();
  const { toe } = broken.landmarks;
  // From frame 100 on the toe was lost for a while, then taken for another spot.
  for (let i = 100; i < 130; i += 1) {
    toe.xPx[i] = NaN;
    toe.yPx[i] = NaN;
    toe.confidence[i] = 0;
  }
  for (let i = 130; i < 160; i += 1) {
    toe.xPx[i] += 45;
    toe.yPx[i] -= 30;
  }
  await readIn(page, broken);
  await expect(page.getByTestId('doubts')).toContainText('doubtful place');
  await page.keyboard.press('n');
  const doubt = page.getByTestId('doubt');
  await expect(doubt).toContainText('toe is lost on frames 100 to 129');
  await expect(page.getByTestId('frame-readout')).toContainText('frame 100 of');
  // From where it was seen last to where it is now: the first frame after, a few pixels on.
  const dx = Math.round(2 * (truth.landmarks.toe.xPx[100] - truth.landmarks.toe.xPx[99]));
  const dy = Math.round(2 * (truth.landmarks.toe.yPx[100] - truth.landmarks.toe.yPx[99]));
  for (let k = 0; k < Math.abs(dx); k += 1) await page.keyboard.press(dx > 0 ? 'ArrowRight' : 'ArrowLeft');
  for (let k = 0; k < Math.abs(dy); k += 1) await page.keyboard.press(dy > 0 ? 'ArrowDown' : 'ArrowUp');
  await expect(page.getByRole('button', { name: 'Correct it here (Enter)' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('toe corrected on frame 100')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('doubts')).toHaveText('Nothing doubtful');
  await expect(page.getByText('1 place corrected by hand.')).toBeVisible();
  const mended = await stored(page);
  let worst = 0;
  for (let i = 0; i < mended.tS.length; i += 1)
    worst = Math.max(
      worst,
      Math.hypot(
        mended.landmarks.toe.xPx[i] - truth.landmarks.toe.xPx[i],
        mended.landmarks.toe.yPx[i] - truth.landmarks.toe.yPx[i],
      ),
    );
  expect(worst).toBeLessThan(1);

  // Every step back: the broken tracks stand again.
  await page.getByRole('link', { name: /^7 Track/ }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('doubts')).toContainText('doubtful place');
});

test('two crossed points are swapped, a stretch is said to be hidden, both undone', async ({ page }) => {
  const crossed = original();
  const { heel, toe } = crossed.landmarks;
  for (let i = 200; i < 390; i += 1) {
    [heel.xPx[i], toe.xPx[i]] = [toe.xPx[i], heel.xPx[i]];
    [heel.yPx[i], toe.yPx[i]] = [toe.yPx[i], heel.yPx[i]];
  }
  await readIn(page, crossed);
  await expect(page.getByTestId('doubts')).toContainText('doubtful place');
  await page.keyboard.press('n');
  await expect(page.getByTestId('doubt')).toContainText('its limb is');
  // To the first frame of the trouble, then swap from there on.
  const readout = page.getByTestId('frame-readout');
  await page.keyboard.press('Home');
  for (let k = 0; k < 20; k += 1) await page.keyboard.press('>');
  await expect(readout).toContainText('frame 200 of');
  await page.getByRole('button', { name: 'heel', exact: true }).click();
  await page.getByLabel(/^Swap with/).click();
  await page.getByRole('option', { name: 'toe' }).click();
  await expect(page.getByText('heel and toe swapped from frame 200 to 389.')).toBeVisible();
  await expect(page.getByTestId('doubts')).toHaveText('Nothing doubtful');
  await page.keyboard.press('h');
  await expect(page.getByText('heel is taken for hidden on frames 200 to 200.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Not hidden' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Hidden here (h)' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('doubts')).toContainText('doubtful place');
});
