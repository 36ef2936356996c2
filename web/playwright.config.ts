import { defineConfig } from '@playwright/test';

/**
 * Drives the built application in Debian's Chromium. The test command sets the address and the
 * database.
 */
export default defineConfig({
  testDir: './e2e',
  // Generous: a busy machine is slow, not wrong.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  workers: 1,
  // Where many fail, one thing is broken: the rest would only wait.
  maxFailures: 6,
  reporter: [
    ['list'],
    ['json', { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ?? '.test-e2e.json' }],
  ],
  use: {
    baseURL: process.env.E2E_ADDRESS,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
