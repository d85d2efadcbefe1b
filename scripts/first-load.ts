/**
 * Script that a page brings before anything can be done, gzipped, in kB of 1,000 bytes; ends with 1 above the limit. Needs a build. Its own server on a
 * free port, so that what is counted is what a browser is told to load.
 */
import { spawn } from 'node:child_process';
import { gzipSync } from 'node:zlib';
import { readFileSync } from 'node:fs';
import path from 'node:path';

const LIMIT_KB = 260;
const PORT = process.env['PORT'] ?? '3391';
const server = spawn('npx', ['--no-install', 'next', 'start', '--port', PORT], {
  env: { ...process.env, SORTER_DEMO: '1' },
  stdio: 'ignore',
  detached: true,
});

async function page(url: string): Promise<string> {
  for (let attempt = 0; attempt < 100; attempt += 1) {
    try {
      return await (await fetch(`http://localhost:${PORT}${url}`)).text();
    } catch {
      await new Promise((done) => setTimeout(done, 200));
    }
  }
  throw new Error('The server did not start.');
}

const kilobytes = (file: string): number =>
  gzipSync(readFileSync(path.join('.next', file.replace('/_next/', ''))), { level: 9 }).length / 1000;

const scriptsOf = (html: string): string[] => [
  ...new Set(
    [...html.matchAll(/<script[^>]*src="(\/_next\/[^"]+)"[^>]*>/g)]
      // What only browsers without modules load is loaded by none that Sorter runs in.
      .filter(([tag]) => !/nomodule/i.test(tag))
      .map(([, src = '']) => src),
  ),
];

try {
  const figures = new Map<string, number>();
  for (const url of ['/', '/ticket/none', '/catalogue', '/orders', '/shop'])
    figures.set(
      url,
      scriptsOf(await page(url)).reduce((sum, file) => sum + kilobytes(file), 0),
    );
  for (const [url, sum] of figures) console.log(`${url.padEnd(14)} ${sum.toFixed(0)} kB of script, gzipped`);
  const floor = figures.get('/') ?? Infinity;
  if (floor > LIMIT_KB || floor === 0) {
    console.error(`The floor page brings ${floor.toFixed(0)} kB, over the limit of ${LIMIT_KB} kB.`);
    process.exitCode = 1;
  }
} finally {
  // A server that could not start is gone by itself.
  if (server.pid !== undefined && server.exitCode === null) process.kill(-server.pid);
}
