import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './e2e',
  globalSetup: './e2e/templates.ts',
  // Two at once, each with a server and a demo of its own: the tests wait for what happens and never for a time.
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  forbidOnly: Boolean(process.env.CI),
  // On a machine shared with others a test may meet an hour in which nothing answers. One that passes at its second try only
  // is named as flaky at the end, to be looked into.
  retries: process.env.CI ? 1 : 0,
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // A trace of every action costs a fifth of the time; for a test that fails: --trace on.
    trace: 'off',
    launchOptions: {
      // Chromium without the windows, bars and pages of its own around a page, which take a fifth of the machine from the tests.
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
