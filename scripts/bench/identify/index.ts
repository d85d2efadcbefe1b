import { existsSync } from 'node:fs';
import Fuse from 'fuse.js';
import MiniSearch from 'minisearch';
import {
  buildModelIndex,
  mayBeUnlisted,
  normaliseNumber,
  readPlate,
  unlistedModel,
  type ModelRecord,
  type PlateReading,
} from '@/core/identify';
import { absentShare } from '@/core/learn';
import { seededRandom, sum } from '@/core/units';
import { percent, quantileOf, table } from '../report';
import { whatIsLeft, type Left } from './decidable';
import { endings } from './worlds/endings';
import { hurried } from './worlds/hurried';
import { messaged } from './worlds/messaged';
import { photographed } from './worlds/photographed';
import { serials } from './worlds/serials';
import { today } from './worlds/today';
import { neighbourShare } from './worlds/todayModels';
import { tabulated } from './worlds/tabulated';
import { written } from './worlds/written';
import type { Case, World } from './worlds/world';

const WORLDS: readonly World[] = [today, endings, hurried, photographed, serials, written, tabulated, messaged];

type Result = { entry: Case; reading: PlateReading; left: Left | null; ms: number };

const leadOf = ({ reading }: Result) => reading.candidates[0]?.probability ?? 0;
const isFirst = ({ entry, reading }: Result) => reading.candidates[0]?.modelId === entry.truth;
const inFive = ({ entry, reading }: Result) =>
  reading.candidates.slice(0, 5).some((candidate) => candidate.modelId === entry.truth);
/** As the page takes it. */
const saidNone = ({ reading }: Result) => mayBeUnlisted(reading);
const decidedRight = (result: Result) => isFirst(result) && !saidNone(result);
const assertedWrong = (result: Result) => leadOf(result) >= 0.95 && !isFirst(result);
/** Some listed number is said likelier than none at all: that of a family counts together. */
const listedAtAll = ({ reading }: Result) => reading.unknown < 0.5;
const share = (list: readonly Result[], holds: (result: Result) => boolean) =>
  list.length === 0 ? NaN : list.filter(holds).length / list.length;
const shown = (value: number) => (Number.isNaN(value) ? '' : percent(value));

const COLUMNS = [
  'readings',
  'decidable',
  'right first',
  'of decidable',
  'in five',
  'of decidable',
  'right decision',
  'said none',
  'wrong at 0.95',
  'median / 95 %',
];

function line(kind: string, results: readonly Result[]): string[] {
  const present = results.filter(({ entry }) => entry.truth !== null);
  const decidable = present.filter(({ left }) => left?.decidable);
  const times = results.map(({ ms }) => ms);
  return [
    kind,
    String(results.length),
    shown(share(present, ({ left }) => left?.decidable === true)),
    shown(share(present, isFirst)),
    shown(share(decidable, isFirst)),
    shown(share(present, inFive)),
    shown(share(decidable, inFive)),
    shown(share(present, decidedRight)),
    shown(share(results, saidNone)),
    shown(share(results, assertedWrong)),
    `${quantileOf(times, 0.5).toFixed(2)} / ${quantileOf(times, 0.95).toFixed(2)} ms`,
  ];
}

/** What counts of a world. */
type Figures = {
  world: string;
  first: number;
  firstDecidable: number;
  five: number;
  fiveDecidable: number;
  decision: number;
  decisionDecidable: number;
  kept: number;
  none: number;
  wrong: number;
  wrongAbsent: number;
  precision: number;
  coverage: number;
  calibration: number;
  apart: number;
  byChance: number;
  median: number;
  slow: number;
};

function figuresOf(world: string, results: readonly Result[]): Figures {
  const present = results.filter(({ entry }) => entry.truth !== null);
  const absent = results.filter(({ entry }) => entry.truth === null);
  const decidable = present.filter(({ left }) => left?.decidable);
  const sure = results.filter((result) => leadOf(result) >= 0.95);
  const times = results.map(({ ms }) => ms);
  const answers = results.map(answerOf);
  return {
    world,
    first: share(present, isFirst),
    firstDecidable: share(decidable, isFirst),
    five: share(present, inFive),
    fiveDecidable: share(decidable, inFive),
    decision: share(present, decidedRight),
    decisionDecidable: share(decidable, decidedRight),
    kept: share(present, listedAtAll),
    none: share(absent, saidNone),
    wrong: share(results, assertedWrong),
    wrongAbsent: share(absent, assertedWrong),
    precision: share(sure, isFirst),
    coverage: sure.length / results.length,
    calibration: calibrationError(answers),
    apart: calibrationApart(answers),
    byChance: errorByChance(answers),
    median: quantileOf(times, 0.5),
    slow: quantileOf(times, 0.95),
  };
}

type Answer = { p: number; right: boolean; none: boolean };
/** What is said to be likeliest. */
const answerOf = (result: Result): Answer =>
  result.reading.unknown > leadOf(result)
    ? { p: result.reading.unknown, right: result.entry.truth === null, none: true }
    : { p: leadOf(result), right: isFirst(result), none: false };

/** The error that is measured of a reader whose probabilities are right, on as many readings: chance alone; mean of draws. */
function errorByChance(answers: readonly Answer[]): number {
  const random = seededRandom(1);
  const draws = Array.from({ length: 20 }, () =>
    calibrationError(answers.map((answer) => ({ ...answer, right: random() < answer.p }))),
  );
  return sum(draws) / draws.length;
}

/** Mean distance between what was said and what was true, in ten bins of the answer's probability. */
function calibrationError(answers: readonly Answer[]): number {
  const bins = Array.from({ length: 10 }, (_, bin) =>
    answers.filter(({ p }) => Math.min(9, Math.floor(p * 10)) === bin),
  );
  return bins.reduce((error, bin) => {
    if (bin.length === 0) return error;
    const said = bin.reduce((total, { p }) => total + p, 0) / bin.length;
    const was = bin.filter(({ right }) => right).length / bin.length;
    return error + (bin.length / answers.length) * Math.abs(said - was);
  }, 0);
}

/** The same of listed numbers and of 'not listed' apart: in one bin 'not listed' said too surely and numbers said too seldom hide each other. */
const calibrationApart = (answers: readonly Answer[]): number =>
  [true, false].reduce((error, wanted) => {
    const some = answers.filter(({ none }) => none === wanted);
    return error + (some.length / answers.length) * calibrationError(some);
  }, 0);

function summary(size: number, all: readonly Figures[]): void {
  const rows: [string, string, (of: Figures) => number, 'least' | 'most', (value: number) => string][] = [
    ['right first', '', ({ first }) => first, 'least', shown],
    ['right first of decidable', '≥ 90 %', ({ firstDecidable }) => firstDecidable, 'least', shown],
    ['in five', '', ({ five }) => five, 'least', shown],
    ['in five of decidable', '≥ 98 %', ({ fiveDecidable }) => fiveDecidable, 'least', shown],
    ['right decision of present', '≥ 89 %', ({ decision }) => decision, 'least', shown],
    ['right decision of decidable', '', ({ decisionDecidable }) => decisionDecidable, 'least', shown],
    ['present: listed likelier than none', '', ({ kept }) => kept, 'least', shown],
    ['absent said none', '≥ 80 %', ({ none }) => none, 'least', shown],
    ['wrong at 0.95', '≤ 0.3 %', ({ wrong }) => wrong, 'most', shown],
    ['wrong at 0.95 of absent', '≤ 2 %', ({ wrongAbsent }) => wrongAbsent, 'most', shown],
    ['precision at 0.95', '≥ 99.5 %', ({ precision }) => precision, 'least', shown],
    ['coverage at 0.95', '', ({ coverage }) => coverage, 'least', shown],
    ['calibration error', '≤ 0.015', ({ calibration }) => calibration, 'most', (value) => value.toFixed(4)],
    ['numbers and none apart', '', ({ apart }) => apart, 'most', (value) => value.toFixed(4)],
    ['of it by chance', '', ({ byChance }) => byChance, 'most', (value) => value.toFixed(4)],
    ['median, ms', '≤ 1', ({ median }) => median, 'most', (value) => value.toFixed(2)],
    ['95th percentile, ms', '≤ 10', ({ slow }) => slow, 'most', (value) => value.toFixed(2)],
  ];
  table(
    `Reading a plate among ${size} models: every world, and the worst`,
    ['figure', 'aim', ...all.map(({ world }) => world), 'worst'],
    rows.map(([name, aim, of, worse, words]) => [
      name,
      aim,
      ...all.map((figures) => words(of(figures))),
      words((worse === 'least' ? Math.min : Math.max)(...all.map(of))),
    ]),
  );
}

const memory = () => {
  // What typed arrays held is given back a turn later.
  for (let turn = 0; turn < 4; turn += 1) globalThis.gc?.();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};

function baselines(listed: readonly ModelRecord[], cases: readonly Case[]): void {
  const wanted = cases.filter((entry) => entry.truth !== null && entry.kind !== 'buried');
  const some = wanted.filter((_, index) => index % Math.ceil(wanted.length / 60) === 0);
  const documents = listed.map((model) => ({ id: model.id, number: normaliseNumber(model.modelNumber) }));
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

/** What a shop of this world has learned of how many machines are listed nowhere. */
const absentIn = (cases: readonly Case[]): number =>
  absentShare(new Map(cases.map(({ truth }, at) => [truth === null ? unlistedModel(String(at)) : String(at), 1])));

/** One draw of a world: its models listed, its readings asked. */
function asked(world: World, size: number, seed: number): Result[] {
  const { listed, cases } = world.make(size, seed);
  const options = { absentPrior: absentIn(cases) };
  const neighbours = neighbourShare(listed.map((model) => normaliseNumber(model.modelNumber)));
  const before = memory();
  const from = performance.now();
  const index = buildModelIndex(listed);
  const buildMs = performance.now() - from;
  const grown = memory() - before;
  console.log(
    `\nWorld ${world.name} (${world.about}): ${listed.length} models, ${percent(neighbours)} with a neighbour one character away; index built in ${buildMs.toFixed(0)} ms${globalThis.gc ? `, ${grown.toFixed(1)} MB beside the records` : ''}; ${index.forward.size} + ${index.backward.size} nodes`,
  );
  for (const { text, sure } of cases.slice(0, 50)) readPlate(index, text, { ...options, sure });
  const left = size <= 50_000 ? whatIsLeft(listed, cases) : cases.map(() => null);
  const results = cases.map((entry, at): Result => {
    const start = performance.now();
    const reading = readPlate(index, entry.text, { ...options, sure: entry.sure });
    return { entry, reading, left: left[at] ?? null, ms: performance.now() - start };
  });
  if (size === 50_000 && world === today && !process.env['FAST']) baselines(listed, cases);
  return results;
}

/**
 * SIZES: how many models. ONLY: the worlds whose name has this in it. SEED: another draw of models and readings. DRAWS: how many of them, with seeds
 * that follow; what is asked of all of them is counted together (the photographs are the same in each).
 */
export function benchIdentify(): void {
  const sizes = (process.env['SIZES'] ?? '400,50000,250000').split(',').map(Number);
  const seed = Number(process.env['SEED'] ?? 0);
  const draws = Number(process.env['DRAWS'] ?? 1);
  for (const size of sizes) {
    const all: Figures[] = [];
    for (const world of WORLDS.filter(({ name }) => (process.env['ONLY'] ?? 'abcdefgh').includes(name.charAt(0)))) {
      if (world === photographed && (size < 50_000 || !existsSync('scripts/bench/identify/photographs/readings.jsonl')))
        continue;
      const seeds = Array.from({ length: world === photographed ? 1 : draws }, (_, draw) => seed + draw);
      const results = seeds.flatMap((own) => asked(world, size, own));
      table(
        `World ${world.name}, by kind of reading`,
        ['kind', ...COLUMNS],
        [...new Set(results.map(({ entry }) => entry.kind))].map((kind) =>
          line(
            kind,
            results.filter(({ entry }) => entry.kind === kind),
          ),
        ),
      );
      all.push(figuresOf(world.name, results));
    }
    summary(size, all);
  }
}
