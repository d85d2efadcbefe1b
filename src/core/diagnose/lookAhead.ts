import { fixesOnly, type Done } from './fixesOnly';
import type { TroubleshootingAction, TroubleshootingProblem } from './problem';

/** How far a plan looks: steps, and how often it may work out at a leaf what mending by fixes alone would cost. */
export type Effort = { steps: number; leaves: number };

/** Every action once, then fixes alone: the value of information of one step (Heckerman, Breese & Rommelse 1995). */
export const ONE_STEP: Effort = { steps: 1, leaves: Infinity };
/** Three steps where the problem is small, two where it is large, within some 40 ms. */
export const DEEP: Effort = { steps: 3, leaves: 8000 };
/** With this many fixes working out a leaf counts as one; its work grows with their square. */
const LEAF_OF = 10;
/**
 * In a large problem only the best actions are looked at again, and in their branches the checks that tell most for their price and the fixes with the best chance per
 * cost: the fewer the more fixes there are.
 */
const breadthOf = ({ fixes }: TroubleshootingProblem) => ({
  actions: between(4, 12, 240 / fixes.length),
  checks: between(4, 8, 160 / fixes.length),
  fixes: 3,
});
const between = (least: number, most: number, value: number) => Math.max(least, Math.min(most, Math.round(value)));

/** Where a plan stands. `masses`: the chance of having come here with each fault; they sum to that of being here at all. */
export type Place = Done & { masses: Float64Array; checked: Uint8Array };

export type Valued = { action: TroubleshootingAction; cost: number };

type Search = {
  problem: TroubleshootingProblem;
  /** Costs of places already met, by depth and evidence. */
  known: Map<string, number>;
  leaves: number;
  most: number;
  small: boolean;
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

const marked = (list: Uint8Array, at: number, value: number): Uint8Array => {
  const next = list.slice();
  next[at] = value;
  return next;
};

/** Cost of an action and of what follows it, times the chance of being here; `after`: what follows costs at each place that it leads to. */
function costOf(
  { problem }: Search,
  place: Place,
  action: TroubleshootingAction,
  after: (next: Place) => number,
): number {
  const mass = sumOf(place.masses);
  if (action.kind === 'escalate') return mass * problem.escalate;
  if (action.kind === 'fix') {
    const fix = problem.fixes[action.id];
    if (!fix) return Infinity;
    const { cost, open } = opened(problem, place, fix.access);
    const masses = times(place.masses, failsOf(problem)[action.id] as Float64Array);
    return mass * (fix.cost + cost) + after({ ...place, masses, open, fixed: marked(place.fixed, action.id, 1) });
  }
  const check = problem.checks[action.id];
  if (!check) return Infinity;
  const { cost, open } = opened(problem, place, check.access);
  let total = mass * (check.cost + cost);
  for (const [outcome, seen] of (seenOf(problem)[action.id] ?? []).entries()) {
    const masses = times(place.masses, seen);
    if (sumOf(masses) > 1e-12 * mass)
      total += after({ ...place, masses, open, checked: marked(place.checked, action.id, outcome + 1) });
  }
  return total;
}

function atLeaf(search: Search, place: Place): number {
  search.leaves += 0.5 + (search.problem.fixes.length / LEAF_OF) ** 2;
  return fixesOnly(search.problem, place.masses, place).cost;
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

const keyOf = ({ checked, fixed }: Place, steps: number): string =>
  `${steps} ${String.fromCharCode(...checked)} ${String.fromCharCode(...fixed)}`;

/** Least cost of going on from here, `steps` ahead and then by fixes alone; times the chance of being here. Infinity once the leaves are used up. */
function goingOn(search: Search, place: Place, steps: number): number {
  if (search.leaves > search.most) return Infinity;
  const key = keyOf(place, steps);
  const known = search.known.get(key);
  if (known !== undefined) return known;
  let best = atLeaf(search, place);
  if (steps > 0) {
    const mass = sumOf(place.masses);
    const bound = mass * search.problem.escalate;
    best = Math.min(best, bound);
    for (const action of branchActions(search, place)) {
      const price = action.kind === 'escalate' ? 0 : mass * entryOf(search.problem, place, action);
      // Whatever it tells, it costs that and then what mending costs when the fault is known.
      if (price + floorOf(search.problem, place, action) >= best) continue;
      best = Math.min(
        best,
        costOf(search, place, action, (next) => goingOn(search, next, steps - 1)),
      );
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
  };
  const value = (action: TroubleshootingAction, ahead: number): Valued => ({
    action,
    cost: costOf(search, place, action, (next) => goingOn(search, next, ahead)),
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
