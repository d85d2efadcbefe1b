import { knowledgeFor, wayBy, type Cause, type Knowledge } from '@/core/catalogue';
import {
  DEEP,
  doableOn,
  faultStatesOf,
  findingGiven,
  nextSteps,
  ONE_STEP,
  outcomesGiven,
  rankCauses,
  stateBeliefs,
  type Doable,
  type Evidence,
  type FaultState,
} from '@/core/diagnose';
import { seededRandom, sum, type CauseId, type Random } from '@/core/units';
import { demoCatalogue, platform } from '../../tests/support/demo';
import { percent, table } from './report';

const SEED = Number(process.env['SEED'] ?? 1);
const MACHINES = Number(process.env['MACHINES'] ?? 300);
const ODDS = process.env['ODDS'];
const DESIGNS = {
  'F-BB': 'fj-a1',
  'F-BI': 'fj-i4',
  'F-DD': 'qu-d5',
  'T-CP': 'os-t4',
  'T-BT': 'mw-t1',
  'T-SR': 'os-r8',
};
const PER_MINUTE = 0.9;
const ESCALATE = 400;
/** Of a part that must be ordered, and what a day without the machine costs. */
const WAIT_DAYS = 3;
const LATE_PER_DAY = 3.5;
const PAIRS = 0.25;
const MOST_STEPS = 25;

type OfWay = (id: CauseId, fixId?: string | null) => number;
type Shop = { knowledge: Knowledge; doable: Doable; parts: OfWay; wait: OfWay };

function shopOn(platformId: string): Shop {
  const catalogue = demoCatalogue();
  const knowledge = knowledgeFor(catalogue, platform(platformId));
  const usual = new Map(catalogue.roles.map(({ id, usualPrice }) => [id, usualPrice ?? 0]));
  const partsOf = (cause: Cause | undefined) =>
    cause
      ? (cause.roleId ? (usual.get(cause.roleId) ?? 0) : 0) +
        sum(cause.companions.map(({ id, quantity }) => (usual.get(id) ?? 0) * quantity))
      : 0;
  const mended = (id: CauseId, fixId: string | null) => {
    const own = knowledge.causes.find((cause) => cause.id === id);
    return own && wayBy(knowledge, own, fixId).cause;
  };
  const parts: OfWay = (id, fixId = null) => partsOf(mended(id, fixId));
  const wait: OfWay = (id, fixId = null) => (mended(id, fixId)?.roleId ? WAIT_DAYS * LATE_PER_DAY : 0);
  return { knowledge, parts, wait, doable: doableOn(knowledge, { perMinute: PER_MINUTE, parts, wait, open: [] }) };
}

/** The world in which machines are drawn: the knowledge, or one whose odds are off by a third, each way by a coin. */
type World = {
  finding: (state: FaultState, id: string) => number;
  outcomes: (state: FaultState, index: number) => number[];
};

function worldOf({ knowledge }: Shop, off: boolean, seed: number): World {
  const coins = new Map<string, number>();
  const random = seededRandom(seed * 131);
  const factor = (key: string) => {
    if (!off) return 1;
    const known = coins.get(key) ?? (random() < 0.5 ? 4 / 3 : 3 / 4);
    coins.set(key, known);
    return known;
  };
  const keyOf = ({ causeId, brought }: FaultState) => `${causeId} ${brought?.id ?? ''}`;
  return {
    finding: (state, id) => {
      const p = findingGiven(knowledge, state, id);
      const odds = (p / (1 - p)) * factor(`${keyOf(state)} ${id}`);
      return odds / (1 + odds);
    },
    outcomes: (state, index) => {
      const check = knowledge.checks[index];
      if (!check) return [];
      const masses = outcomesGiven(knowledge, state, check).map(
        (p, outcome) => p * factor(`${keyOf(state)} ${check.id} ${outcome}`),
      );
      return masses.map((mass) => mass / sum(masses));
    },
  };
}

function drawn(masses: readonly number[], random: Random): number {
  let left = random() * sum(masses);
  const index = masses.findIndex((mass) => (left -= mass) <= 0);
  return index < 0 ? masses.length - 1 : index;
}

type Machine = { state: FaultState; findings: Evidence['findings']; seed: number };

/** `pairs`: the share of machines with two faults; null: as the knowledge expects. The customer tells at most two things. */
function machineOf({ knowledge }: Shop, world: World, seed: number, pairs: number | null): Machine {
  const random = seededRandom(seed);
  const states = faultStatesOf(knowledge);
  const { beliefs } = stateBeliefs(knowledge, { findings: [], outcomes: [], failedFixes: [] });
  const pair = random() < (pairs ?? 0);
  const masses = states.map(({ cause, brought }, index) =>
    cause !== null && (pairs === null || (brought !== null) === pair) ? (beliefs[index] ?? 0) : 0,
  );
  const state = states[drawn(masses, random)];
  if (!state) throw new Error('Bug: a knowledge without states');
  const shown = knowledge.findings.filter(
    ({ id, group }) => group !== 'Displayed code' && random() < world.finding(state, id),
  );
  const told = shown.slice(0, 2).map(({ id }) => ({ findingId: id, present: true }));
  return { state, findings: told, seed };
}

type Played = {
  cost: number;
  minutes: number;
  firstRight: boolean;
  wrongParts: number;
  visits: number;
  mended: boolean;
  /** What the likeliest was said to be at the moment of the first repair, and whether it was. */
  said: { p: number; true: boolean; present: boolean } | null;
};

type Move = { kind: 'check' | 'fix'; index: number } | null;
type Policy = (shop: Shop, evidence: Evidence, done: ReadonlySet<string>) => Move;

const lookingAhead =
  (effort: typeof DEEP): Policy =>
  (shop, evidence) => {
    const { knowledge, doable, parts, wait } = shop;
    const costs = { perMinute: PER_MINUTE, parts, wait, escalate: ESCALATE, open: [] };
    const [best] = nextSteps(knowledge, evidence, costs, doable, effort);
    if (!best || best.kind === 'escalate') return null;
    if (best.kind === 'check') return { kind: 'check', index: knowledge.checks.findIndex(({ id }) => id === best.id) };
    return { kind: 'fix', index: fixIndex(doable, best.id, best.also, best.fixId) };
  };

const fixIndex = ({ mends, fixIds }: Doable, id: string, also: CauseId | null, fixId: string | null): number =>
  mends.findIndex(
    ([first, second = null], index) => first === id && second === also && (fixIds[index] ?? null) === fixId,
  );

const swapLikeliest: Policy = ({ knowledge, doable }, evidence) => {
  const { causes } = rankCauses(knowledge, evidence);
  const next = causes.find(({ cause }) => cause && !evidence.failedFixes.includes(cause.id));
  return next?.cause && evidence.failedFixes.length < 6
    ? { kind: 'fix', index: fixIndex(doable, next.cause.id, null, null) }
    : null;
};

/** Every check that can be made, cheapest first, until one cause is four fifths likely; then the likeliest is mended. */
const cheapestFirst: Policy = (shop, evidence, done) => {
  const { knowledge, doable } = shop;
  const lead = rankCauses(knowledge, evidence).causes.find(({ cause }) => cause !== null);
  const price = (index: number) =>
    (doable.checks[index]?.cost ?? Infinity) +
    sum((doable.checks[index]?.access ?? []).map((piece) => doable.access[piece]?.cost ?? 0));
  const [next] = knowledge.checks
    .map((_, index) => index)
    .filter((index) => price(index) < 1e6 && !done.has(`check ${index}`))
    .sort((a, b) => price(a) - price(b));
  if (next !== undefined && (lead?.probability ?? 0) < 0.8) return { kind: 'check', index: next };
  return swapLikeliest(shop, evidence, done);
};

function play(shop: Shop, world: World, { state, findings, seed }: Machine, policy: Policy): Played {
  const { knowledge, doable, parts } = shop;
  const random = seededRandom(seed * 7 + 3);
  const outcomes: { checkId: string; outcomeId: string }[] = [];
  const failedFixes: CauseId[] = [];
  const failedWays: string[] = [];
  const mended = new Set<string>();
  const done = new Set<string>();
  const open = new Set<number>();
  const result: Played = {
    cost: 0,
    minutes: 0,
    firstRight: false,
    wrongParts: 0,
    visits: 0,
    mended: false,
    said: null,
  };
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const evidence = { findings, outcomes, failedFixes, failedWays };
    const move = policy(shop, evidence, done);
    if (!move) break;
    done.add(`${move.kind} ${move.index}`);
    const spec = move.kind === 'check' ? doable.checks[move.index] : doable.fixes[move.index];
    for (const piece of spec?.access ?? [])
      if (!open.has(piece)) {
        open.add(piece);
        result.cost += doable.access[piece]?.cost ?? 0;
        result.minutes += (doable.access[piece]?.cost ?? 0) / PER_MINUTE;
      }
    result.cost += spec?.cost ?? 0;
    for (const piece of doable.checks[move.kind === 'check' ? move.index : -1]?.closes ?? []) open.delete(piece);
    if (move.kind === 'check') {
      const check = knowledge.checks[move.index];
      result.minutes += check?.minutes ?? 0;
      const seen = check?.outcomes[drawn(world.outcomes(state, move.index), random)];
      if (check && seen) outcomes.push({ checkId: check.id, outcomeId: seen.id });
      continue;
    }
    const job = doable.mends[move.index] ?? [];
    const fixId = doable.fixIds[move.index] ?? null;
    result.minutes += doable.workMinutes[move.index] ?? 0;
    if (result.said === null) {
      const [lead] = rankCauses(knowledge, evidence).causes;
      const { cause, brought } = state;
      result.said = {
        p: lead?.probability ?? 0,
        true: lead?.causeId === state.causeId,
        present: [cause?.id, brought?.id].some((id) => id === lead?.causeId),
      };
    }
    for (const id of job) {
      const own = knowledge.causes.find((one) => one.id === id);
      if (own && random() < wayBy(knowledge, own, fixId).cause.cure) mended.add(id);
    }
    const present = [state.cause, state.brought].flatMap((cause) => cause?.id ?? []);
    if (present.every((id) => mended.has(id))) {
      result.mended = true;
      result.firstRight = failedFixes.length + failedWays.length === 0;
      return result;
    }
    for (const id of job) {
      if (!present.includes(id) && parts(id, fixId) > 0) result.wrongParts += 1;
      if (fixId !== null) failedWays.push(fixId);
      else if (!failedFixes.includes(id)) failedFixes.push(id);
    }
    if (job.some((id) => parts(id, fixId) > 0)) result.visits += 1;
  }
  result.cost += ESCALATE;
  return result;
}

const POLICIES: readonly [string, Policy][] = [
  ['baseline: swap the likeliest', swapLikeliest],
  ['cheapest check first', cheapestFirst],
  ['one step', lookingAhead(ONE_STEP)],
  ['as shipped', lookingAhead(DEEP)],
];

const mean = (list: readonly number[]): number => sum(list) / Math.max(1, list.length);

/** What is said of a likelihood against how often it was so. */
function calibration(said: readonly NonNullable<Played['said']>[]): string[][] {
  return [0, 0.5, 0.7, 0.85, 0.95].map((from, index, all) => {
    const to = all[index + 1] ?? 1.001;
    const inside = said.filter(({ p }) => p >= from && p < to);
    return [
      `${Math.round(100 * from)} to ${Math.round(100 * Math.min(1, to))} %`,
      String(inside.length),
      percent(mean(inside.map(({ p }) => p))),
      percent(mean(inside.map((one) => Number(one.true)))),
      percent(mean(inside.map((one) => Number(one.present)))),
    ];
  });
}

const CALIBRATION_HEAD = ['said', 'machines', 'mean said', 'was the cause', 'was broken'];

/** Whether what is said is so where two faults are as rare as the knowledge has them: the sums, and not the draw, are looked at. */
function benchCalibration(): void {
  const said = Object.values(DESIGNS).flatMap((platformId, design) => {
    const shop = shopOn(platformId);
    const world = worldOf(shop, false, SEED);
    return Array.from({ length: MACHINES }, (_, index) => {
      const machine = machineOf(shop, world, SEED * 300_000 + index * 19 + design, null);
      return play(shop, world, machine, lookingAhead(ONE_STEP)).said ?? [];
    }).flat();
  });
  table(
    'Said of the likeliest cause at the first repair, two faults as rare as the knowledge has them',
    CALIBRATION_HEAD,
    calibration(said),
  );
}

/** Machines drawn from the demo's knowledge and worked to the end by each policy, a quarter of them with two faults; then with the world's odds off by a third. */
export function benchPlayed(): void {
  benchCalibration();
  // ODDS=right or off: one of the two worlds alone.
  for (const off of [false, true].filter((one) => ODDS === undefined || (ODDS === 'off') === one)) {
    const all = POLICIES.map(() => [] as Played[]);
    const rows: string[][] = [];
    for (const [design, platformId] of Object.entries(DESIGNS)) {
      const shop = shopOn(platformId);
      const world = worldOf(shop, off, SEED);
      const machines = Array.from({ length: MACHINES }, (_, index) =>
        machineOf(shop, world, SEED * 100_000 + index * 17 + design.length, PAIRS),
      );
      const played = POLICIES.map(([, policy]) => machines.map((machine) => play(shop, world, machine, policy)));
      const base = mean((played[0] ?? []).map(({ cost }) => cost));
      played.forEach((list, index) => {
        all[index]?.push(...list);
        rows.push([
          design,
          POLICIES[index]?.[0] ?? '',
          mean(list.map(({ cost }) => cost)).toFixed(0),
          percent(mean(list.map(({ cost }) => cost)) / base - 1),
          mean(list.map(({ minutes }) => minutes)).toFixed(0),
          percent(mean(list.map((one) => Number(one.firstRight)))),
          mean(list.map(({ wrongParts }) => wrongParts)).toFixed(2),
          mean(list.map(({ visits }) => visits)).toFixed(2),
          percent(mean(list.map((one) => Number(one.mended)))),
        ]);
      });
    }
    table(
      `${MACHINES} machines of each design, a quarter with two faults${off ? ', odds off by a third' : ''}`,
      [
        'design',
        'policy',
        'mean cost',
        'against the baseline',
        'minutes',
        'first time',
        'wrong parts',
        'vain visits',
        'mended',
      ],
      rows,
    );
    const shipped = all.at(-1) ?? [];
    table(
      `Said of the likeliest cause at the first repair, as shipped${off ? ', odds off by a third' : ''}`,
      CALIBRATION_HEAD,
      calibration(shipped.flatMap(({ said }) => said ?? [])),
    );
  }
}
