import type { TroubleshootingAction, TroubleshootingProblem } from './problem';

/** The fixes of a problem as flat arrays: of fix f, the entries from `start[f]` up to `start[f + 1]`. */
type Flat = {
  costs: Float64Array;
  /** What every piece of access costs to open. */
  opening: Float64Array;
  accessStart: Int32Array;
  access: Int32Array;
  curesStart: Int32Array;
  faults: Int32Array;
  cures: Float64Array;
};
const flatOf = new WeakMap<TroubleshootingProblem['fixes'], Flat>();

function flattened({ fixes, access: pieces }: TroubleshootingProblem): Flat {
  const known = flatOf.get(fixes);
  if (known) return known;
  const starts = (lists: readonly (readonly unknown[])[]) =>
    Int32Array.from([0, ...lists.map((_, index) => lists.slice(0, index + 1).reduce((n, list) => n + list.length, 0))]);
  const access = fixes.map((fix) => fix.access);
  // Most fixes cure one fault of many.
  const cures = fixes.map(({ cure }) => [...cure.entries()].filter(([, p]) => p > 0));
  const made: Flat = {
    costs: Float64Array.from(fixes, ({ cost }) => cost),
    opening: Float64Array.from(pieces, ({ cost }) => cost),
    accessStart: starts(access),
    access: Int32Array.from(access.flat()),
    curesStart: starts(cures),
    faults: Int32Array.from(cures.flat().map(([fault]) => fault)),
    cures: Float64Array.from(cures.flat().map(([, p]) => p)),
  };
  flatOf.set(fixes, made);
  return made;
}

/** A fix that costs this many times what its chance of sparing the escalation is worth ends a course: whatever access it opens hardly makes up for that. */
const HOPELESS = 2;

/** What has been done to a machine, by position: 1 where a piece of access is open, where a fix was done. */
export type Done = { open: Uint8Array; fixed: Uint8Array };

/**
 * Expected cost of mending by fixes alone, always the one with the best chance per cost next (re-sorted as access opens), giving up where escalating is cheaper.
 * `masses` need not sum to one: they are the chance of having come here with each fault, and the cost is that times their sum; a fix that fails takes its share
 * away. `stages`: fixes on that course. O(stages × fixes × (access + faults that one fix cures)).
 */
export function fixesOnly(
  problem: TroubleshootingProblem,
  masses: Float64Array,
  { open, fixed }: Done,
): { cost: number; first: TroubleshootingAction; stages: number } {
  const flat = flattened(problem);
  const { costs, accessStart, access, curesStart, faults, cures } = flat;
  const left = new Int32Array(costs.length);
  const opening = flat.opening.slice();
  for (let id = 0; id < opening.length; id += 1) if (open[id] === 1) opening[id] = 0;
  const still = masses.slice();
  let many = 0;
  for (let fix = 0; fix < costs.length; fix += 1)
    if (fixed[fix] !== 1) {
      left[many] = fix;
      many += 1;
    }
  let total = 0;
  for (let fault = 0; fault < still.length; fault += 1) total += still[fault] as number;
  const least = total * 1e-9;
  /** Of each stage: what it costs, and what mass comes to it. */
  const stageCost: number[] = [];
  const stageMass: number[] = [];
  const stageFix: number[] = [];
  for (; many > 0 && total > least; many -= 1) {
    let place = -1;
    let bestCost = 0;
    let bestCure = 0;
    let bestRatio = -1;
    for (let index = 0; index < many; index += 1) {
      const fix = left[index] as number;
      let cost = costs[fix] as number;
      const lastAccess = accessStart[fix + 1] as number;
      for (let entry = accessStart[fix] as number; entry < lastAccess; entry += 1)
        cost += opening[access[entry] as number] as number;
      let cure = 0;
      const lastCure = curesStart[fix + 1] as number;
      for (let entry = curesStart[fix] as number; entry < lastCure; entry += 1)
        cure += (still[faults[entry] as number] as number) * (cures[entry] as number);
      const ratio = cure / (cost < 1e-9 ? 1e-9 : cost);
      if (ratio > bestRatio) {
        place = index;
        bestCost = cost;
        bestCure = cure;
        bestRatio = ratio;
      }
    }
    if (place < 0 || bestCure <= least || bestCost * total > HOPELESS * bestCure * problem.escalate) break;
    const best = left[place] as number;
    stageCost.push(bestCost);
    stageMass.push(total);
    stageFix.push(best);
    left.copyWithin(place, place + 1, many);
    for (let entry = curesStart[best] as number; entry < (curesStart[best + 1] as number); entry += 1) {
      const fault = faults[entry] as number;
      still[fault] = (still[fault] as number) * (1 - (cures[entry] as number));
    }
    for (let entry = accessStart[best] as number; entry < (accessStart[best + 1] as number); entry += 1)
      opening[access[entry] as number] = 0;
    total = 0;
    for (let fault = 0; fault < still.length; fault += 1) total += still[fault] as number;
  }
  // From the end: what comes to a stage goes on with it, or gives up there.
  let cost = total * problem.escalate;
  let first: TroubleshootingAction = { kind: 'escalate' };
  for (let stage = stageCost.length - 1; stage >= 0; stage -= 1) {
    const mass = stageMass[stage] as number;
    const going = mass * (stageCost[stage] as number) + cost;
    const leaving = mass * problem.escalate;
    cost = Math.min(going, leaving);
    first = going < leaving ? { kind: 'fix', id: stageFix[stage] as number } : { kind: 'escalate' };
  }
  return { cost, first, stages: stageCost.length };
}
