import { readFileSync } from 'node:fs';
import { seededRandom } from '@/core/units';
import { plateNumbers } from '../photographs/plateNumbers';
import type { Case, World } from './world';

const READINGS = 'scripts/bench/identify/photographs/readings.jsonl';
/** As the photographs were made: their numbers are the first 50,000. */
const SEED = 4004;
const LEAST = 50_000;
/** Only readings from this one on: those that nobody looked at while the resolver was made. */
const FROM = Number(process.env['FROM'] ?? 0);

type Reading = { at: number; number: string; listed: boolean; level: string; text: string; sure: number };

/** (d) Photographs of made-up plates, read by the text reader that ships: `npm run readings:make`. The seed draws which of them are asked. */
export const photographed: World = {
  name: 'd: photographs',
  about:
    'made-up plates in eleven typefaces, degraded, read by the reader that ships; the first 1,442 readings were looked at, FROM=1616 are those that were not',
  make(size, seed) {
    const { listed } = plateNumbers(Math.max(size, LEAST), SEED);
    const id = new Map(listed.map((model) => [model.modelNumber, model.id]));
    const random = seededRandom(seed + 5);
    const cases = readFileSync(READINGS, 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Reading)
      .filter(({ at, text }) => at >= FROM && text.trim() !== '' && random() < 0.9)
      .map((reading): Case => ({
        kind: reading.listed ? `photograph, ${reading.level}` : 'photograph, not listed',
        text: reading.text,
        sure: reading.sure,
        truth: reading.listed ? (id.get(reading.number) ?? null) : null,
      }));
    return { listed, cases };
  },
};
