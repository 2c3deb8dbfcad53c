import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { chromium } from '@playwright/test';
import { chromiumLaunch } from '../e2e/chromium.ts';
const server = spawn('node', ['server/serve.mjs', '--port', '4192', '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout!, 'data');
const browser = await chromium.launch(chromiumLaunch);
for (const spec of process.argv.slice(2)) {
  const [path, name, w = '1280', h = '800', dark = ''] = spec.split('|');
  const ctx = await browser.newContext({
    viewport: { width: +w, height: +h },
    baseURL: 'http://localhost:4192',
    colorScheme: dark ? 'dark' : 'light',
  });
  const page = await ctx.newPage();
  page.on('pageerror', (e) => console.log('ERR', String(e).slice(0, 300)));
  page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text().slice(0, 300)));
  await page.goto(path);
  await page.waitForTimeout(2200);
  await page.screenshot({ path: `/tmp/shots/${name}.png` });
  await ctx.close();
}
await browser.close();
server.kill();
