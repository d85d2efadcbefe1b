import { groupBy } from '../../units';
import { arrivalDay, offersWith, type OrderProblem } from './problem';

/** A supplier in one of its modes, and what an order there costs beside its goods. */
export type Pair = { supplier: number; mode: number; fee: number; freeOver: number; minimum: number };

/** All that a requirement wants, from one offer in one mode. */
export type Way = {
  part: number;
  pair: number;
  offer: number;
  /** The offer in that mode, and of its contents the part. */
  line: number;
  slot: number;
  content: number;
  units: number;
  price: number;
  adaptation: number;
  late: number;
};

/** `late`: the latenesses that any of its ways has, in days, least first. */
export type Job = { late: number[]; perDay: number; requirements: number[] };

/** Requirements that may share packs of a part: of each offer in each mode, what each could take of it. */
export type Group = { requirements: number[]; shares: { pair: number; ways: (Way | null)[] }[] };

/** What is reckoned with again and again where sets of pairs are compared. */
export type Market = {
  pairs: Pair[];
  jobs: Job[];
  /** By requirement and pair. */
  ways: Way[][][];
  groups: Group[];
  lines: { offer: number; mode: number; slots: number[] }[];
  /** Of each slot, units in a pack. */
  contents: number[];
};

/** What an order costs at so much goods: filled up to its minimum, its fee paid or filled up to where it is waived. */
export function orderCost({ fee, freeOver, minimum }: Pair, goods: number): number {
  if (goods === 0) return 0;
  const filled = goods > minimum ? goods : minimum;
  if (filled >= freeOver) return filled;
  const missing = freeOver - filled;
  return filled + (fee < missing ? fee : missing);
}

export function marketOf(problem: OrderProblem): Market {
  const pairs = problem.suppliers.flatMap(({ minimumOrder: minimum, modes }, supplier) =>
    modes.map(({ fee, freeOver }, mode) => ({ supplier, mode, fee, freeOver: freeOver ?? Infinity, minimum })),
  );
  const lines: Market['lines'] = [];
  const contents: number[] = [];
  const lineOf = new Map<string, number>();
  const addLine = (offer: number, mode: number): number => {
    const slots = (problem.offers[offer]?.contents ?? []).map(
      ({ quantity }) => contents.push(Math.max(1, quantity)) - 1,
    );
    return lines.push({ offer, mode, slots }) - 1;
  };
  const ways = problem.requirements.map(({ alternatives, quantity: units, notFrom, job }) => {
    const byPair: Way[][] = pairs.map(() => []);
    const needBy = problem.jobs[job]?.needBy ?? 0;
    for (const { part, adaptation } of alternatives)
      for (const offer of offersWith(problem, part)) {
        const spec = problem.offers[offer];
        if (!spec || spec.supplier === notFrom) continue;
        const at = spec.contents.findIndex((entry) => entry.part === part);
        const content = spec.contents[at]?.quantity ?? 0;
        if (content === 0 || Math.ceil(units / content) > spec.stock) continue;
        for (const [pair, { supplier, mode }] of pairs.entries()) {
          if (supplier !== spec.supplier) continue;
          const key = `${offer} ${mode}`;
          const line = lineOf.get(key) ?? addLine(offer, mode);
          lineOf.set(key, line);
          const slot = lines[line]?.slots[at] ?? -1;
          const late = Math.max(0, arrivalDay(problem, offer, mode) - needBy);
          byPair[pair]?.push({ part, pair, offer, line, slot, content, units, price: spec.price, adaptation, late });
        }
      }
    return byPair;
  });
  const ofJob = groupBy(problem.requirements.keys(), (r) => problem.requirements[r]?.job ?? -1);
  const jobs = problem.jobs.map(({ latePerDay }, job) => {
    const requirements = ofJob.get(job) ?? [];
    const late = new Set([0, ...requirements.flatMap((r) => (ways[r] ?? []).flat().map((way) => way.late))]);
    return { late: [...late].sort((a, b) => a - b), perDay: latePerDay, requirements };
  });
  return { pairs, jobs, ways, groups: groupsOf(problem, ways), lines, contents };
}

/** Packs of several units that several requirements could take from. */
function groupsOf({ requirements }: OrderProblem, ways: Market['ways']): Group[] {
  const wanted = groupBy(
    requirements.flatMap(({ alternatives }, r) => alternatives.map(({ part }) => ({ part, r }))),
    ({ part }) => part,
  );
  return [...wanted].flatMap(([part, wants]) => {
    const who = wants.map(({ r }) => r);
    const byLine = groupBy(
      who
        .flatMap((r) => (ways[r] ?? []).flat().map((way) => ({ r, way })))
        .filter(({ way }) => way.part === part && way.content > 1),
      ({ way }) => way.line,
    );
    const shares = [...byLine.values()]
      .filter(({ length }) => length > 1)
      .map((sharing) => ({
        pair: sharing[0]?.way.pair ?? -1,
        ways: who.map((r) => sharing.find((one) => one.r === r)?.way ?? null),
      }));
    return shares.length ? [{ requirements: who, shares }] : [];
  });
}
