import { existsSync } from 'node:fs';

/** How every script here starts Debian's Chromium. */
export const chromiumLaunch = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};

/** The same engine without the window nobody sees: a fifth quicker. The tests take it where it is installed. */
const SHELL = '/usr/bin/chromium-headless-shell';
export const shellLaunch = {
  ...chromiumLaunch,
  executablePath: process.env.CHROMIUM ?? (existsSync(SHELL) ? SHELL : chromiumLaunch.executablePath),
};

/** The same with a simulated camera, which a page is given as soon as it asks: one browser for all tests, so that none waits for another kind. */
export const cameraLaunch = {
  ...shellLaunch,
  args: [...shellLaunch.args, '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'],
};
