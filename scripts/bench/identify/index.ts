import Fuse from 'fuse.js';
import MiniSearch from 'minisearch';
import { buildModelIndex, normaliseNumber, readPlate, type ModelRecord, type PlateReading } from '@/core/identify';
import { seededRandom, type Random } from '@/core/units';
import { percent, quantileOf, table } from '../report';
import { KINDS, misread, type Kind } from './misread';
import { makeWorld, neighbourShare, type World } from './makeModels';

const PER_KIND = 4000 / KINDS.length;

type Case = { kind: Kind | 'missing sibling' | 'unknown maker' | 'junk'; text: string; truth: string | null };

function drawByPopularity(models: readonly ModelRecord[], random: Random): () => ModelRecord {
  const sums = new Float64Array(models.length);
  let total = 0;
  models.forEach((model, index) => (sums[index] = total += model.popularity));
  return () => {
    const wanted = random() * total;
    let low = 0;
    let high = models.length - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((sums[middle] ?? 0) < wanted) low = middle + 1;
      else high = middle;
    }
    return models[low] as ModelRecord;
  };
}

function makeCases(world: World, seed: number): Case[] {
  const random = seededRandom(seed);
  const draw = drawByPopularity(world.listed, random);
  const withSuffix = world.listed.filter((model) => model.modelNumber.includes('/'));
  const drawSuffix = drawByPopularity(withSuffix, random);
  const cases: Case[] = [];
  for (const kind of KINDS)
    for (let i = 0; i < PER_KIND; i += 1) {
      const model = kind === 'suffix' && withSuffix.length ? drawSuffix() : draw();
      cases.push({ kind, text: misread(model.modelNumber, kind, random), truth: model.id });
    }
  const any = (list: readonly string[]) => list[Math.floor(random() * list.length)] ?? '';
  const slip = (): Kind => (['clean', 'typed', 'camera', 'worn'] as const)[Math.floor(random() * 4)] ?? 'clean';
  for (let i = 0; i < 260; i += 1)
    cases.push({ kind: 'missing sibling', text: misread(any(world.missing), slip(), random), truth: null });
  for (let i = 0; i < 110; i += 1)
    cases.push({ kind: 'unknown maker', text: misread(any(world.strangers), slip(), random), truth: null });
  for (let i = 0; i < 70; i += 1)
    cases.push({
      kind: 'junk',
      text: Array.from({ length: 4 + Math.floor(random() * 12) }, () =>
        any([...'ABCDEFGHJKLMNPQRSTUVWXYZ0123456789']),
      ).join(''),
      truth: null,
    });
  return cases;
}

type Result = { entry: Case; reading: PlateReading; ms: number };

function report(title: string, results: readonly Result[]): void {
  const rows = [...new Set(results.map(({ entry }) => entry.kind))].map((kind) => {
    const own = results.filter(({ entry }) => entry.kind === kind);
    const times = own.map(({ ms }) => ms);
    const first = own.filter(
      ({ entry, reading }) =>
        reading.candidates[0]?.modelId === entry.truth && reading.unknown < (reading.candidates[0]?.probability ?? 0),
    ).length;
    const listedFirst = own.filter(({ entry, reading }) => reading.candidates[0]?.modelId === entry.truth).length;
    const five = own.filter(({ entry, reading }) =>
      reading.candidates.slice(0, 5).some((candidate) => candidate.modelId === entry.truth),
    ).length;
    const none = own.filter(({ reading }) => reading.unknown > (reading.candidates[0]?.probability ?? 0)).length;
    const asserted = own.filter(
      ({ entry, reading }) =>
        (reading.candidates[0]?.probability ?? 0) >= 0.95 && reading.candidates[0]?.modelId !== entry.truth,
    ).length;
    const present = own[0]?.entry.truth !== null;
    return [
      kind,
      String(own.length),
      present ? percent(listedFirst / own.length) : '',
      present ? percent(five / own.length) : '',
      present ? percent(first / own.length) : '',
      percent(none / own.length),
      percent(asserted / own.length),
      `${quantileOf(times, 0.5).toFixed(2)} / ${quantileOf(times, 0.95).toFixed(2)} ms`,
    ];
  });
  table(
    title,
    [
      'kind',
      'readings',
      'right first',
      'in first five',
      'and above none',
      'said none',
      'wrong at 0.95',
      'median / 95 %',
    ],
    rows,
  );
  const times = results.map(({ ms }) => ms);
  console.log(
    `time per reading over all kinds: median ${quantileOf(times, 0.5).toFixed(2)} ms, 95th percentile ${quantileOf(times, 0.95).toFixed(2)} ms`,
  );
  calibration(results);
}

function calibration(results: readonly Result[]): void {
  const answers = results.map(({ entry, reading }) => {
    const lead = reading.candidates[0];
    return lead && lead.probability > reading.unknown
      ? { p: lead.probability, right: lead.modelId === entry.truth }
      : { p: reading.unknown, right: entry.truth === null };
  });
  const bins = Array.from({ length: 10 }, (_, bin) =>
    answers.filter(({ p }) => Math.min(9, Math.floor(p * 10)) === bin),
  );
  const error = bins.reduce((sum, bin) => {
    if (bin.length === 0) return sum;
    const said = bin.reduce((total, { p }) => total + p, 0) / bin.length;
    const was = bin.filter(({ right }) => right).length / bin.length;
    return sum + (bin.length / answers.length) * Math.abs(said - was);
  }, 0);
  const sure = results.filter(({ reading }) => (reading.candidates[0]?.probability ?? 0) >= 0.95);
  const right = sure.filter(({ entry, reading }) => reading.candidates[0]?.modelId === entry.truth).length;
  const absent = results.filter(({ entry }) => entry.truth === null);
  const saidNone = absent.filter(({ reading }) => reading.unknown > (reading.candidates[0]?.probability ?? 0)).length;
  const kept = results.filter(({ entry }) => entry.truth !== null);
  const keptRight = kept.filter(({ reading }) => (reading.candidates[0]?.probability ?? 0) >= reading.unknown).length;
  console.log(
    `calibration error over ten bins ${error.toFixed(4)}; at 0.95 and above: precision ${percent(right / Math.max(1, sure.length))}, coverage ${percent(sure.length / results.length)}, wrong ${percent((sure.length - right) / results.length)} of all, ${percent(sure.filter(({ entry }) => entry.truth === null).length / absent.length)} of the absent; absent said none ${percent(saidNone / absent.length)}, present kept ${percent(keptRight / kept.length)}`,
  );
}

const memory = () => {
  globalThis.gc?.();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};

function baselines(world: World, cases: readonly Case[]): void {
  const wanted = cases.filter((entry) => entry.truth !== null && entry.kind !== 'buried');
  const some = wanted.filter((_, index) => index % Math.ceil(wanted.length / 60) === 0);
  const documents = world.listed.map((model) => ({ id: model.id, number: normaliseNumber(model.modelNumber) }));
  const text = new MiniSearch({ fields: ['number'], searchOptions: { fuzzy: 0.25, prefix: true } });
  text.addAll(documents);
  const fuzzy = new Fuse(documents, { keys: ['number'], includeScore: true, threshold: 0.4 });
  const run = (name: string, ask: (query: string) => string | undefined): (string | number)[] => {
    const times: number[] = [];
    let right = 0;
    for (const entry of some) {
      const from = performance.now();
      const id = ask(normaliseNumber(entry.text).replace(/\?/g, ''));
      times.push(performance.now() - from);
      if (id === entry.truth) right += 1;
    }
    return [
      name,
      String(some.length),
      percent(right / some.length),
      `${quantileOf(times, 0.5).toFixed(1)} / ${quantileOf(times, 0.95).toFixed(1)} ms`,
    ];
  };
  table(
    'Baselines on a sample of the same readings (no notion of none)',
    ['library', 'readings', 'right first', 'median / 95 %'],
    [
      run('general full-text search (minisearch, fuzzy)', (query) => String(text.search(query)[0]?.id)),
      run('fuzzy match (fuse.js)', (query) => fuzzy.search(query, { limit: 1 })[0]?.item.id),
    ],
  );
}

export function benchIdentify(): void {
  const sizes = (process.env['SIZES'] ?? '400,50000,250000').split(',').map(Number);
  for (const size of sizes) {
    const world = makeWorld(size, 20_261 + size + Number(process.env['SEED'] ?? 0));
    const share = neighbourShare(world.listed.map((model) => normaliseNumber(model.modelNumber)));
    const before = memory();
    const from = performance.now();
    const index = buildModelIndex(world.listed);
    const buildMs = performance.now() - from;
    const grown = memory() - before;
    console.log(
      `\n${size} models, ${percent(share)} with a neighbour one character away; index built in ${buildMs.toFixed(0)} ms${globalThis.gc ? `, ${grown.toFixed(1)} MB beside the records` : ''}; ${index.forward.size} + ${index.backward.size} nodes`,
    );
    const cases = makeCases(world, 97 + Number(process.env['SEED'] ?? 0));
    for (const entry of cases.slice(0, 50)) readPlate(index, entry.text);
    const results = cases.map((entry): Result => {
      const start = performance.now();
      const reading = readPlate(index, entry.text);
      return { entry, reading, ms: performance.now() - start };
    });
    report(`Reading a plate among ${size} models`, results);
    if (size <= 50_000 && !process.env['FAST']) baselines(world, cases);
  }
}
