import { defineConfig } from '@playwright/test';

const ARGS = [
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
  '--no-sandbox',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  // The level is drawn by SwiftShader either way; putting the page together in it as well took half of all the time.
  '--disable-gpu-compositing',
];

export default defineConfig({
  testDir: 'src',
  outputDir: 'test-results',
  // Two cores and drawing in software: one browser at a time.
  workers: 1,
  fullyParallel: false,
  // A shared machine may stall for a minute; a second try is counted as flaky and printed as such.
  retries: process.env.CI ? 1 : 0,
  timeout: 600_000,
  expect: { timeout: 40_000 },
  reporter: process.env.RAMMER_E2E_JSON ? [['list'], ['json', { outputFile: process.env.RAMMER_E2E_JSON }]] : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    deviceScaleFactor: 1,
    trace: 'off',
    screenshot: 'only-on-failure',
    launchOptions: { executablePath: process.env.RAMMER_CHROMIUM ?? '/usr/bin/chromium', args: ARGS },
  },
});
