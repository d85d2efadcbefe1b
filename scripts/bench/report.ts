/** Milliseconds of the fastest of several runs after one that warms up. */
export function fastestMs(runs: number, work: () => void): number {
  work();
  let best = Infinity;
  for (let i = 0; i < runs; i += 1) {
    const from = performance.now();
    work();
    best = Math.min(best, performance.now() - from);
  }
  return best;
}

export const quantileOf = (values: readonly number[], q: number): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
};

const text = (value: string | number): string =>
  typeof value === 'string' ? value : Math.abs(value) >= 100 ? value.toFixed(0) : value.toPrecision(3);

export function table(title: string, head: readonly string[], rows: readonly (readonly (string | number)[])[]): void {
  const cells = [head, ...rows.map((row) => row.map(text))];
  const widths = head.map((_, index) => Math.max(...cells.map((row) => (row[index] ?? '').length)));
  console.log(`\n${title}`);
  cells.forEach((row, line) => {
    console.log(
      row
        .map((cell, index) => (index === 0 ? cell.padEnd(widths[index] ?? 0) : cell.padStart(widths[index] ?? 0)))
        .join('  '),
    );
    if (line === 0) console.log(widths.map((width) => '-'.repeat(width)).join('  '));
  });
}

export const percent = (share: number): string => `${(share * 100).toFixed(2)} %`;
