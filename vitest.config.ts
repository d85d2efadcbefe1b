import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    setupFiles: ['tests/support/shipped.ts'],
    include: ['src/**/*.test.ts', 'scripts/**/*.test.ts'],
    testTimeout: 60_000,
    maxWorkers: 2,
  },
});
