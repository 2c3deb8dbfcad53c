/** npm run screenshots: one current picture of each main view, from the demo data. Needs a build and Chromium. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { chromiumLaunch } from '../e2e/chromium.ts';
import { markAll, openSession, setScale, takeDemoFilm, track, truthOf } from '../e2e/studio.ts';

const PORT = 4187;
mkdirSync('docs/screenshots', { recursive: true });
const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
const browser = await chromium.launch(chromiumLaunch);

async function shot(page: Page, name: string): Promise<void> {
  // Until fonts and the film's picture stand.
  await page.evaluate(() => document.fonts.ready);
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
await page.goto('/riders/pilar');
await page.getByRole('region', { name: 'Visits' }).waitFor();
await shot(page, 'rider');
await page.goto('/parts');
await page.getByRole('gridcell').first().waitFor();
await shot(page, 'parts');
await page.goto('/protocols/road-race');
await page.getByRole('button', { name: 'Keep as a new version' }).waitFor();
await shot(page, 'protocols');
await page.goto('/sessions/idris-1/film');
await page.getByText(/^front, grips/).click();
await page.getByRole('link', { name: /^8 Read/ }).click();
await page.getByTestId('path-left').waitFor();
await shot(page, 'read-front');
await openSession(page, 'Maren Toft');
await page.getByRole('heading', { name: 'Bring in the film' }).waitFor();
await shot(page, 'film-empty');
await takeDemoFilm(page);
await shot(page, 'film');
await setScale(page, truth);
await shot(page, 'scale');
await page.getByRole('link', { name: /^6 Mark/ }).click();
await page.getByRole('button', { name: 'Find the stickers' }).click();
await page.getByText('points proposed').waitFor();
await shot(page, 'proposed');
await page.getByRole('button', { name: 'Leave them' }).click();
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

const dark = await open({ width: 1280, height: 800, dark: true });
await dark.goto('/sessions/juno-1/read');
await dark.getByTestId('knee-min').waitFor();
await shot(dark, 'read-dark');

const tablet = await open({ width: 820, height: 1180 });
await tablet.goto('/sessions/idris-1/read');
await tablet.getByTestId('knee-min').waitFor();
await shot(tablet, 'read-tablet');

await browser.close();
server.kill();
