import { defineConfig } from '@playwright/test';
import { chromiumLaunch } from './e2e/chromium.ts';

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  workers: 1,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: 'http://localhost:4179',
    viewport: { width: 1280, height: 800 },
    launchOptions: chromiumLaunch,
  },
  webServer: {
    command: 'node server/serve.mjs --port 4179 --strict-port',
    url: 'http://localhost:4179/healthz',
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
