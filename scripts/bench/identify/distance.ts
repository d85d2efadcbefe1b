/** Slips between two texts: replaced, left out, too many, or two changed about (optimal string alignment); more than `most` counts as more. O(length²). */
const WIDTH = 64;
const rows = new Uint8Array(WIDTH * WIDTH);

export function slipsBetween(a: string, b: string, most: number): number {
  const [n, m] = [Math.min(a.length, WIDTH - 1), Math.min(b.length, WIDTH - 1)];
  if (Math.abs(n - m) > most) return most + 1;
  for (let j = 0; j <= m; j += 1) rows[j] = j;
  for (let i = 1; i <= n; i += 1) {
    rows[i * WIDTH] = i;
    let least = i;
    const one = a.charCodeAt(i - 1);
    for (let j = 1; j <= m; j += 1) {
      const at = i * WIDTH + j;
      const other = b.charCodeAt(j - 1);
      let best = (rows[at - WIDTH - 1] as number) + (one === other || other === 63 ? 0 : 1);
      best = Math.min(best, (rows[at - WIDTH] as number) + 1, (rows[at - 1] as number) + 1);
      if (i > 1 && j > 1 && one === b.charCodeAt(j - 2) && a.charCodeAt(i - 2) === other)
        best = Math.min(best, (rows[at - 2 * WIDTH - 2] as number) + 1);
      rows[at] = best;
      if (best < least) least = best;
    }
    if (least > most) return most + 1;
  }
  return rows[n * WIDTH + m] as number;
}
