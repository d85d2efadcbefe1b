import { spawnSync } from 'node:child_process';

const HISTORIES = '2000';

/** Histories of a shop drawn afresh, each checked against every promise after every step: what ./check does with 150. */
export function benchPromises(): void {
  const seed = process.env['SEED'] ?? '21';
  const from = performance.now();
  const run = spawnSync('npx', ['--no-install', 'vitest', 'run', 'src/store/records/promises.test.ts'], {
    env: { ...process.env, HISTORIES, SEED: seed, NO_COLOR: '1' },
    encoding: 'utf8',
  });
  const seconds = ((performance.now() - from) / 1000).toFixed(0);
  console.log(
    run.status === 0
      ? `\nDecisions: ${HISTORIES} histories of seed ${seed}, none with a broken promise (${seconds} s)`
      : `\nDecisions: a promise was broken.\n${run.stdout}`,
  );
}
