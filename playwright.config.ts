import { execFileSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';

const PORT = Number(process.env['E2E_PORT'] ?? 3210);
const chromium = execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim();

/** Real interface, production build, Debian's Chromium. */
export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: './tests/e2e/seedOnce.ts',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  fullyParallel: true,
  // A race of the driver with the page must not refuse a day's work; what passed only the second time is listed as flaky.
  retries: 1,
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: chromium,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  // As ./demo starts it, and as a shop starts it.
  webServer: [
    { port: PORT, env: { SORTER_DEMO: '1' } },
    { port: PORT + 1, env: {} },
  ].map(({ port, env }) => ({
    command: `npx --no-install next start --port ${port}`,
    url: `http://localhost:${port}/icon.svg`,
    env: { ...env, NEXT_TELEMETRY_DISABLED: '1' },
    reuseExistingServer: true,
    timeout: 60_000,
  })),
});
