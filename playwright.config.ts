import { defineConfig } from '@playwright/test';
import { cameraLaunch } from './e2e/chromium.ts';

export default defineConfig({
  testDir: 'e2e',
  // Generous: a machine shared with others can stand still for many seconds, and nothing here is timed.
  timeout: 150_000,
  expect: { timeout: 20_000 },
  retries: 1,
  workers: 2,
  fullyParallel: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: 'http://localhost:4179',
    viewport: { width: 1280, height: 800 },
    // Kept for the test that is about it: elsewhere every page would fetch the whole application again.
    serviceWorkers: 'block',
    // A page that moves is looked at in the visits from end to end; elsewhere it would only be waited for.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: cameraLaunch,
    // Generous too; without it a control that is gone is waited for until the test's own end.
    actionTimeout: 90_000,
  },
  webServer: {
    command: 'node server/serve.mjs --port 4179 --strict-port',
    url: 'http://localhost:4179/healthz',
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
