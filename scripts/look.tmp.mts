import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { chromium, type Page } from '@playwright/test';
import { chromiumLaunch } from '../e2e/chromium.ts';
export async function look(run: (page: Page) => Promise<void>, o: { width?: number; height?: number; dark?: boolean; gl?: boolean; port?: number } = {}) {
  const PORT = o.port ?? 4191;
  const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], { stdio: ['ignore', 'pipe', 'inherit'] });
  await once(server.stdout, 'data');
  const args = [...chromiumLaunch.args.filter((a) => !(o.gl && a === '--disable-gpu')), ...(o.gl ? ['--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'] : [])];
  const browser = await chromium.launch({ ...chromiumLaunch, args });
  try {
    const context = await browser.newContext({ viewport: { width: o.width ?? 1280, height: o.height ?? 800 }, colorScheme: o.dark ? 'dark' : 'light', baseURL: `http://localhost:${PORT}` });
    const page = await context.newPage();
    page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log('CONSOLE', m.text().slice(0, 300)));
    page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
    page.setDefaultTimeout(30000);
    await run(page);
  } finally { await browser.close(); server.kill(); }
}
