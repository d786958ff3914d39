import { existsSync } from 'node:fs';

import { defineConfig } from '@playwright/test';

import { PORTS } from './e2e/ports';

const launchOptions = {
  executablePath:
    process.env.CHROMIUM_PATH ??
    ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
  args: [
    '--no-sandbox',
    '--disable-dev-shm-usage',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    // every test opens a page anew: compiling its scripts for speed, beside it on cores that are taken, costs more than it gives
    '--js-flags=--single-threaded --no-turbofan --always-sparkplug',
  ],
};

export default defineConfig({
  testDir: './e2e',
  // waits hang on events: how long one may take says only how busy a machine may be
  timeout: 480_000,
  expect: { timeout: 60_000 },
  // each worker has a server of its own: what lies on one's bench is nothing to the other
  workers: PORTS.length,
  fullyParallel: true,
  forbidOnly: Boolean(process.env.CI),
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  // a trace costs a third of the run: `npx playwright test --trace on` when one is wanted
  use: { launchOptions, screenshot: 'only-on-failure', timezoneId: 'Europe/Berlin', locale: 'en-GB' },
  projects: [
    {
      name: 'wide',
      // what is done with the phone over the tank, or does not depend on the width, is tested there alone
      grepInvert: /@phone/,
      use: { browserName: 'chromium', viewport: { width: 1280, height: 800 } },
    },
    {
      name: 'phone',
      use: {
        browserName: 'chromium',
        viewport: { width: 390, height: 844 },
        hasTouch: true,
        isMobile: true,
      },
    },
  ],
  webServer: PORTS.map((port) => ({
    command: 'node_modules/.bin/tsx server/index.ts',
    env: { PORT: String(port) },
    url: `http://127.0.0.1:${port}/api/health`,
    reuseExistingServer: false,
  })),
});
