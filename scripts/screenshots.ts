/** npm run screenshots: one current picture of each main view, from the demo data. Needs a build and Chromium. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { chromiumLaunch } from '../e2e/chromium.ts';
import { beforeFilming, markAll, setScale, takeDemoFilm, track, truthOf } from '../e2e/studio.ts';

const PORT = 4187;
mkdirSync('docs/screenshots', { recursive: true });
const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
const browser = await chromium.launch(chromiumLaunch);

async function shot(page: Page, name: string): Promise<void> {
  // Until fonts and the film's picture stand: a canvas with nothing drawn is black.
  await page.evaluate(() => document.fonts.ready);
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLCanvasElement>('canvas[role="img"]')]
      .filter((c) => !c.getAttribute('aria-label')!.startsWith('Close-up'))
      .every((c) => c.getContext('2d', { alpha: false })!.getImageData(5, 5, 1, 1).data[0] > 0),
  );
  await page.waitForTimeout(700);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  console.log(name);
}

async function open(options: { width: number; height: number; dark?: boolean }): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: options.width, height: options.height },
    colorScheme: options.dark ? 'dark' : 'light',
    baseURL: `http://localhost:${PORT}`,
  });
  return context.newPage();
}

const page = await open({ width: 1280, height: 800 });
const truth = truthOf('maren');
await page.goto('/');
await page.getByRole('heading', { name: 'Maren Toft' }).waitFor();
await shot(page, 'riders');
for (const station of ['intake', 'bike']) {
  await page.goto(`/sessions/maren-1/${station}`);
  await page.getByRole('complementary').waitFor();
  await shot(page, station);
}
await page.goto('/sessions/pilar-1/body');
await page.getByTestId('body-card').waitFor();
await shot(page, 'body');
await page.goto('/riders/maren');
await page.getByRole('region', { name: 'Visits' }).waitFor();
await shot(page, 'rider');
await page.goto('/sessions/idris-1/film');
await page.getByText(/^front, grips/).click();
await page.getByRole('link', { name: /^8 Read/ }).click();
await page.getByTestId('path-left').waitFor();
await shot(page, 'read-front');
await beforeFilming(page);
await page.getByRole('heading', { name: 'Add a film' }).waitFor();
await takeDemoFilm(page);
// Looked at, with what was found drawn over it.
await page.getByTestId('film-verdict').waitFor({ timeout: 60_000 });
await shot(page, 'film');
await setScale(page, truth);
await markAll(page, truth);
await shot(page, 'mark');
await track(page);
await page.keyboard.press('>');
await shot(page, 'track');
await page.getByRole('link', { name: /^8 Read/ }).click();
await page.getByTestId('knee-min').waitFor();
await shot(page, 'read');
await page.getByRole('button', { name: 'Glance' }).click();
await page.getByTestId('glance-kneeFlexionMinDeg').waitFor();
await shot(page, 'glance');
await page.keyboard.press('Escape');
await page.getByRole('link', { name: /^9 Plan/ }).click();
await page.getByTestId('advice').waitFor();
await shot(page, 'plan');

const story = await open({ width: 1280, height: 800 });
await story.goto('/sessions/maren-1/trial?view=ladder');
await story.getByTestId('ladder-answer').waitFor();
await story.getByText(/^band .*42$/).waitFor();
await shot(story, 'ladder');
await story.goto('/sessions/maren-1/trial?view=compare');
await story.getByTestId('kappa').waitFor();
// The frame that stands at the crank’s top, and no longer the film’s first.
await story
  .getByTestId('phase-after')
  .filter({ hasText: /^[1-9]/ })
  .waitFor();
await shot(story, 'before-after');
await story.goto('/sessions/maren-1/handover');
await story.getByTestId('preview-pages').waitFor({ timeout: 60_000 });
await shot(story, 'report');
await story.goto('/sessions/idris-1/plan');
await story.getByRole('button', { name: 'Keep this plan' }).click();
await story.getByRole('link', { name: 'Next: Trial' }).click();
await story.getByTestId('next-step').waitFor();
await story.keyboard.press('n');
await story.keyboard.press('b');
await story.keyboard.press('n');
await story.getByRole('region', { name: 'Being ridden' }).waitFor();
await shot(story, 'changes');

// Two changes measured; its picture is drawn by a worker, which alone can look at it.
await story.goto('/practice');
await story.getByRole('button', { name: 'Let the rider pedal' }).click();
await story.getByText('Reading every turn').waitFor({ timeout: 60_000 });
await story.waitForTimeout(12_000);
for (const [handle, move] of [
  ['Saddle height', '3 mm up'],
  ['Hood height', '5 mm down'],
]) {
  await story.getByRole('group', { name: handle }).getByRole('button', { name: move }).click();
  await story.getByTestId('practice-change').first().getByTestId('measured').waitFor({ timeout: 60_000 });
}
await story.screenshot({ path: 'docs/screenshots/practice.png' });
console.log('practice');

const dark = await open({ width: 1280, height: 800, dark: true });
await dark.goto('/sessions/pilar-1/plan?view=bench');
await dark.getByRole('group', { name: 'Saddle height' }).waitFor();
await shot(dark, 'bench');

const tablet = await open({ width: 820, height: 1180 });
await tablet.goto('/sessions/idris-1/read');
await tablet.getByTestId('knee-min').waitFor();
await shot(tablet, 'read-tablet');

await browser.close();
server.kill();
