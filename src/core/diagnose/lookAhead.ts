import { fixesOnly, type Done } from './fixesOnly';
import type { TroubleshootingAction, TroubleshootingProblem } from './problem';

/** How far a plan looks: steps, and how often it may work out at a leaf what mending by fixes alone would cost. */
export type Effort = { steps: number; leaves: number };

/** Every action once, then fixes alone: the value of information of one step (Heckerman, Breese & Rommelse 1995). */
export const ONE_STEP: Effort = { steps: 1, leaves: Infinity };
/** Three steps where the problem is small, two where it is large, within some 40 ms. */
export const DEEP: Effort = { steps: 3, leaves: 2700 };
/** A leaf with this many fixes looked at, over all stages of its course, counts as one. */
const LEAF_OF = 100;
/**
 * In a large problem only the best actions are looked at again, and in their branches the checks that tell most for their price and the fixes with the best chance per
 * cost: the fewer the more fixes there are.
 */
const breadthOf = ({ fixes }: TroubleshootingProblem) => ({
  actions: between(6, 24, 800 / fixes.length),
  checks: between(6, 16, 500 / fixes.length),
  fixes: 5,
});
const between = (least: number, most: number, value: number) => Math.max(least, Math.min(most, Math.round(value)));

/**
 * Where a plan stands. `masses`: the chance of having come here with each fault; they sum to that of being here at all. `high`, `low`: 64 bits of what was found and
 * done (Zobrist, A new hashing method with application for game playing, 1970), whatever its order.
 */
export type Place = Done & { masses: Float64Array; checked: Uint8Array; high: number; low: number };

export type Valued = { action: TroubleshootingAction; cost: number };

type Search = {
  problem: TroubleshootingProblem;
  /** Costs of places already met, by depth and evidence. */
  known: Map<number, number>;
  leaves: number;
  most: number;
  small: boolean;
  /** Whether what is open depends on more than what was done: on its order. */
  closing: boolean;
};

/** Of each check and outcome P(outcome | fault), by fault. */
const seenMade = new WeakMap<TroubleshootingProblem['checks'], Float64Array[][]>();
/** Of each fix P(it does not cure | fault), by fault. */
const failsMade = new WeakMap<TroubleshootingProblem['fixes'], Float64Array[]>();

function seenOf({ prior, checks }: TroubleshootingProblem): Float64Array[][] {
  const known = seenMade.get(checks);
  if (known) return known;
  const made = checks.map(({ outcomes }) =>
    Array.from({ length: outcomes[0]?.length ?? 0 }, (_, outcome) =>
      Float64Array.from(prior, (_, fault) => outcomes[fault]?.[outcome] ?? 0),
    ),
  );
  seenMade.set(checks, made);
  return made;
}

function failsOf({ prior, fixes }: TroubleshootingProblem): Float64Array[] {
  const known = failsMade.get(fixes);
  if (known) return known;
  const made = fixes.map(({ cure }) => Float64Array.from(prior, (_, fault) => 1 - (cure[fault] ?? 0)));
  failsMade.set(fixes, made);
  return made;
}

function times(masses: Float64Array, column: Float64Array): Float64Array {
  const next = new Float64Array(masses.length);
  for (let fault = 0; fault < masses.length; fault += 1)
    next[fault] = (masses[fault] as number) * (column[fault] as number);
  return next;
}

const sumOf = (masses: Float64Array): number => {
  let sum = 0;
  for (let fault = 0; fault < masses.length; fault += 1) sum += masses[fault] as number;
  return sum;
};

function opened(
  problem: TroubleshootingProblem,
  place: Place,
  needs: readonly number[],
): { cost: number; open: Uint8Array } {
  let cost = 0;
  let open = place.open;
  for (const id of needs)
    if (open[id] !== 1) {
      cost += problem.access[id]?.cost ?? 0;
      if (open === place.open) open = place.open.slice();
      open[id] = 1;
    }
  return { cost, open };
}

/** As it is after a check that needs these in their places. */
function closed(open: Uint8Array, closes: readonly number[] | undefined): Uint8Array {
  if (!closes?.some((id) => open[id] === 1)) return open;
  const next = open.slice();
  for (const id of closes) next[id] = 0;
  return next;
}

const marked = (list: Uint8Array, at: number, value: number): Uint8Array => {
  const next = list.slice();
  next[at] = value;
  return next;
};

/** Cost of an action and of what follows it, `steps` ahead and then by fixes alone; times the chance of being here. */
function costOf(search: Search, place: Place, action: TroubleshootingAction, steps: number): number {
  const { problem } = search;
  const mass = sumOf(place.masses);
  if (action.kind === 'escalate') return mass * problem.escalate;
  if (action.kind === 'fix') {
    const fix = problem.fixes[action.id];
    if (!fix) return Infinity;
    const { cost, open } = opened(problem, place, fix.access);
    const fails = failsOf(problem)[action.id] as Float64Array;
    return mass * (fix.cost + cost) + goingOn(search, place, FIXED, action.id, 1, fails, open, steps);
  }
  const check = problem.checks[action.id];
  if (!check) return Infinity;
  const { cost, open: during } = opened(problem, place, check.access);
  const open = closed(during, check.closes);
  let total = mass * (check.cost + cost);
  const seen = seenOf(problem)[action.id] ?? [];
  for (let outcome = 0; outcome < seen.length; outcome += 1)
    total += goingOn(search, place, CHECKED, action.id, outcome + 1, seen[outcome] as Float64Array, open, steps);
  return total;
}

function atLeaf(search: Search, place: Place): number {
  const { cost, stages } = fixesOnly(search.problem, place.masses, place);
  search.leaves += 0.5 + (search.problem.fixes.length * (1 + stages)) / LEAF_OF;
  return cost;
}

/** What can still be done here. */
function actionsAt({ problem }: Search, { checked, fixed }: Place): TroubleshootingAction[] {
  return [
    ...problem.fixes.flatMap((_, id): TroubleshootingAction[] => (fixed[id] === 1 ? [] : [{ kind: 'fix', id }])),
    ...problem.checks.flatMap((_, id): TroubleshootingAction[] =>
      (checked[id] ?? 0) > 0 ? [] : [{ kind: 'check', id }],
    ),
  ];
}

/** In a branch: all of it where that is little, else the fixes with the best chance per cost and the checks that tell most for theirs. */
function branchActions(search: Search, place: Place): TroubleshootingAction[] {
  const all = actionsAt(search, place);
  if (search.small) return all;
  const { problem } = search;
  const breadth = breadthOf(problem);
  const worth = (action: TroubleshootingAction): number => {
    if (action.kind === 'escalate') return 0;
    const spec = action.kind === 'fix' ? problem.fixes[action.id] : problem.checks[action.id];
    const price = (spec?.cost ?? Infinity) + opened(problem, place, spec?.access ?? []).cost;
    const gain = action.kind === 'fix' ? curedBy(problem, place, action.id) : toldBy(problem, place, action.id);
    return gain / Math.max(1e-9, price);
  };
  const best = (kind: 'fix' | 'check', many: number) =>
    all
      .filter((action) => action.kind === kind)
      .map((action) => ({ action, worth: worth(action) }))
      .sort((a, b) => b.worth - a.worth)
      .slice(0, many)
      .map(({ action }) => action);
  return [...best('fix', breadth.fixes), ...best('check', breadth.checks)];
}

function curedBy(problem: TroubleshootingProblem, { masses }: Place, fix: number): number {
  const fails = failsOf(problem)[fix];
  let cured = 0;
  for (let fault = 0; fault < masses.length; fault += 1)
    cured += (masses[fault] as number) * (1 - (fails?.[fault] ?? 1));
  return cured;
}

/** Mutual information of a check and the fault, in nats times the chance of being here. */
function toldBy(problem: TroubleshootingProblem, { masses }: Place, check: number): number {
  const total = sumOf(masses);
  let told = 0;
  for (const seen of seenOf(problem)[check] ?? []) {
    let all = 0;
    for (let fault = 0; fault < masses.length; fault += 1) all += (masses[fault] as number) * (seen[fault] as number);
    if (all <= 0) continue;
    for (let fault = 0; fault < masses.length; fault += 1) {
      const p = seen[fault] as number;
      if (p > 0) told += (masses[fault] as number) * p * Math.log((p * total) / all);
    }
  }
  return told;
}

/** Two different numbers of 32 bits for each thing that can be so, the same on every machine (fmix32 of MurmurHash3). */
function bitsOf(kind: number, id: number, value: number, salt: number): number {
  let h = Math.imul(kind + 4 * (id + 1024 * value) + salt, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}
const SALTS = [0x2545f491, 0x5bd1e995] as const;
const CHECKED = 0;
const FIXED = 1;
const OPEN = 2;
const STEPS = 3;

/**
 * 53 bits of a place: of the some ten thousand places of one search two are taken for one with probability 10⁻⁸. What is open counts where that follows from more than
 * what was done.
 */
function keyOf(high: number, low: number, open: Uint8Array, steps: number, closing: boolean): number {
  let [a, b] = [high ^ bitsOf(STEPS, steps, 0, SALTS[0]), low ^ bitsOf(STEPS, steps, 0, SALTS[1])];
  if (closing)
    for (let id = 0; id < open.length; id += 1)
      if (open[id] === 1) [a, b] = [a ^ bitsOf(OPEN, id, 1, SALTS[0]), b ^ bitsOf(OPEN, id, 1, SALTS[1])];
  return (a >>> 0) * 0x200000 + (b >>> 11);
}

/**
 * Least cost of going on from where an action led that was begun at `from`, `steps` ahead and then by fixes alone; times the chance of being there. `given`:
 * P(what came of it | fault). Infinity once the leaves are used up.
 */
function goingOn(
  search: Search,
  from: Place,
  kind: typeof CHECKED | typeof FIXED,
  id: number,
  value: number,
  given: Float64Array,
  open: Uint8Array,
  steps: number,
): number {
  if (search.leaves > search.most) return Infinity;
  const high = from.high ^ bitsOf(kind, id, value, SALTS[0]);
  const low = from.low ^ bitsOf(kind, id, value, SALTS[1]);
  const key = keyOf(high, low, open, steps, search.closing);
  const known = search.known.get(key);
  if (known !== undefined) return known;
  const masses = times(from.masses, given);
  const mass = sumOf(masses);
  if (mass <= 0) return 0;
  const checked = kind === CHECKED ? marked(from.checked, id, value) : from.checked;
  const fixed = kind === FIXED ? marked(from.fixed, id, value) : from.fixed;
  const place: Place = { masses, open, checked, fixed, high, low };
  let best = atLeaf(search, place);
  if (steps > 0) {
    best = Math.min(best, mass * search.problem.escalate);
    for (const action of branchActions(search, place)) {
      const price = action.kind === 'escalate' ? 0 : mass * entryOf(search.problem, place, action);
      // Whatever it tells, it costs that and then what mending costs when the fault is known.
      if (price + floorOf(search.problem, place, action) >= best) continue;
      best = Math.min(best, costOf(search, place, action, steps - 1));
    }
  }
  search.known.set(key, best);
  return best;
}

function entryOf(problem: TroubleshootingProblem, place: Place, action: TroubleshootingAction): number {
  if (action.kind === 'escalate') return problem.escalate;
  const spec = action.kind === 'fix' ? problem.fixes[action.id] : problem.checks[action.id];
  return (spec?.cost ?? Infinity) + opened(problem, place, spec?.access ?? []).cost;
}

const floors = new WeakMap<TroubleshootingProblem['fixes'], Float64Array>();
/** Of each fault the least that mending it can cost, with every way in open; Infinity where no fix mends it. */
function leastOf({ fixes }: TroubleshootingProblem, faults: number): Float64Array {
  const known = floors.get(fixes);
  if (known) return known;
  const made = Float64Array.from({ length: faults }, (_, fault) =>
    fixes.reduce((least, { cost, cure }) => ((cure[fault] ?? 0) > 0 ? Math.min(least, cost) : least), Infinity),
  );
  floors.set(fixes, made);
  return made;
}

/** Least that what follows an action can cost. */
function floorOf(problem: TroubleshootingProblem, { masses }: Place, action: TroubleshootingAction): number {
  const least = leastOf(problem, masses.length);
  const fails = action.kind === 'fix' ? failsOf(problem)[action.id] : undefined;
  let floor = 0;
  for (let fault = 0; fault < masses.length; fault += 1)
    floor +=
      (masses[fault] as number) *
      (fails ? (fails[fault] as number) : 1) *
      Math.min(problem.escalate, least[fault] as number);
  return floor;
}

/** Checks and fixes together up to which nothing is left out. */
const SMALL = 28;
/** Steps beyond this would not be finished where there is more. */
const LARGE_STEPS = 2;

/**
 * Every action that is possible at a place with the expected cost of doing it first, cheapest first; 'escalate' is always among them. First each with fixes alone
 * after it; then, step by step, the best of them with more steps in between, for as long as the effort lasts: a round that it does not finish counts for nothing.
 * Costs are those of a course that can be followed, so they are upper bounds of the optimum, and fall with the effort.
 */
export function lookAhead(problem: TroubleshootingProblem, place: Place, { steps, leaves }: Effort): Valued[] {
  const search: Search = {
    problem,
    known: new Map(),
    leaves: 0,
    most: Infinity,
    small: problem.checks.length + problem.fixes.length <= SMALL,
    closing: problem.checks.some(({ closes }) => closes !== undefined && closes.length > 0),
  };
  const value = (action: TroubleshootingAction, ahead: number): Valued => ({
    action,
    cost: costOf(search, place, action, ahead),
  });
  const actions: TroubleshootingAction[] = [{ kind: 'escalate' }, ...actionsAt(search, place)];
  let ranked = actions.map((action) => value(action, 0)).sort((a, b) => a.cost - b.cost);
  search.leaves = 0;
  search.most = leaves;
  const furthest = search.small ? steps : Math.min(steps, LARGE_STEPS);
  for (let ahead = 1; ahead < furthest; ahead += 1) {
    const again = ranked
      .slice(0, search.small ? ranked.length : breadthOf(problem).actions)
      .map(({ action }) => value(action, ahead));
    if (search.leaves > search.most) break;
    ranked = [...again, ...ranked.slice(again.length)].sort((a, b) => a.cost - b.cost);
  }
  return ranked;
}
