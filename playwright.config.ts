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
  retries: 0,
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
  webServer: {
    command: `npx --no-install next start --port ${PORT}`,
    url: `http://localhost:${PORT}/icon.svg`,
    env: { SORTER_DEMO: '1', NEXT_TELEMETRY_DISABLED: '1' },
    reuseExistingServer: true,
    timeout: 60_000,
  },
});
