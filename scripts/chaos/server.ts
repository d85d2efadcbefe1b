import { spawn, type ChildProcess } from 'node:child_process';

/** Sorter as it is started, on this machine only; ended when the work is done. Needs a build. */
export async function withServer<T>(port: number, work: (base: string) => Promise<T>): Promise<T> {
  const server: ChildProcess = spawn(
    'node_modules/.bin/next',
    ['start', '--port', String(port), '--hostname', '127.0.0.1'],
    {
      env: { ...process.env, SORTER_DEMO: '1', NEXT_TELEMETRY_DISABLED: '1' },
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
  const base = `http://127.0.0.1:${port}`;
  try {
    await answering(base);
    return await work(base);
  } finally {
    server.kill('SIGKILL');
  }
}

async function answering(base: string): Promise<void> {
  for (let tries = 0; tries < 120; tries += 1) {
    const answered = await fetch(base).then(
      () => true,
      () => false,
    );
    if (answered) return;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error(`no server answered at ${base}: run "npm run build" first`);
}
