import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** What has a database or a worker needs a world of its own; the rest shares one, which saves loading the core for every file. */
const APART = ['src/store/**/*.test.ts', 'src/workers/**/*.test.ts', 'scripts/chaos/**/*.test.ts'];

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    setupFiles: ['tests/support/shipped.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    maxWorkers: 2,
    projects: [
      { extends: true, test: { name: 'apart', include: APART } },
      {
        extends: true,
        test: {
          name: 'together',
          include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
          exclude: ['**/node_modules/**', ...APART],
          isolate: false,
        },
      },
    ],
  },
});
