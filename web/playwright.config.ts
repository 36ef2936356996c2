import { defineConfig } from '@playwright/test';

// Each worker has an application of its own, on a port and a database of its own: this file is read in
// every worker, before its tests are.
const worker = Number(process.env.TEST_PARALLEL_INDEX ?? 0);
const ports = (process.env.E2E_PORTS ?? '').split(',').filter(Boolean);
const port = ports[worker];
if (port !== undefined) {
  process.env.PORT = port;
  process.env.E2E_ADDRESS = `http://127.0.0.1:${port}`;
  process.env.DATABASE_URL = `${process.env.E2E_DATABASE_URL}_${worker}`;
}

/**
 * Drives the built application in Debian's Chromium. The test command sets the address and the
 * database.
 */
export default defineConfig({
  testDir: './e2e',
  // Generous: a busy machine is slow, not wrong.
  timeout: 180_000,
  expect: { timeout: 40_000 },
  workers: Math.max(1, ports.length),
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
