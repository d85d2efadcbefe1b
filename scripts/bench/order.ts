import { createHighsSolver, evaluate, planCost, planOrder, type MilpSolver, type OrderProblem } from '@/core/order';
import { formulate } from '@/core/order/plan/formulate';
import { heuristicPlan } from '@/core/order/plan/heuristic';
import { seededRandom } from '@/core/units';
import { percent, table } from './report';

/** A market as the trade knows it: every line offered by most suppliers at prices that scatter, shipping tiers, minimum orders, packs. */
export function makeMarket(lines: number, suppliers: number, seed: number): OrderProblem {
  const random = seededRandom(seed);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const jobs = Math.max(1, Math.round(lines / 3));
  const base = Array.from({ length: lines * 2 }, () => whole(400, 9000));
  return {
    oneMode: false,
    jobs: Array.from({ length: jobs }, () => ({ needBy: whole(1, 6), latePerDay: whole(100, 700) })),
    requirements: Array.from({ length: lines }, (_, index) => ({
      job: index % jobs,
      quantity: whole(1, 2),
      alternatives: [
        { part: index, adaptation: 0 },
        ...(random() < 0.4 ? [{ part: lines + index, adaptation: whole(0, 900) }] : []),
      ],
    })),
    suppliers: Array.from({ length: suppliers }, () => ({
      minimumOrder: random() < 0.4 ? whole(1000, 3000) : 0,
      modes: [
        { fee: whole(390, 890), freeOver: random() < 0.7 ? whole(5000, 12_000) : null, transit: whole(2, 4) },
        { fee: whole(990, 1990), freeOver: null, transit: 1 },
      ],
    })),
    offers: Array.from({ length: suppliers }, (_, supplier) =>
      base.flatMap((price, part) =>
        random() < 0.6
          ? [
              {
                supplier,
                price: Math.round(price * (0.8 + random() * 0.5)),
                contents: [{ part, quantity: random() < 0.15 ? 2 : 1 }],
                stock: whole(2, 6),
                handling: whole(0, 2),
              },
            ]
          : [],
      ),
    ).flat(),
  };
}

/** The same trade told by somebody else: nearly everybody lists everything, at prices close together; three speeds, thresholds everywhere, packs of many sizes. */
export function makeDenseMarket(lines: number, suppliers: number, seed: number): OrderProblem {
  const random = seededRandom(seed * 31 + 5);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const jobs = Math.max(1, Math.round(lines / 2));
  const base = Array.from({ length: lines * 3 }, () => Math.round(Math.exp(5 + random() * 4)));
  return {
    oneMode: false,
    jobs: Array.from({ length: jobs }, () => ({ needBy: whole(0, 5), latePerDay: whole(0, 9) * 100 })),
    requirements: Array.from({ length: lines }, () => ({
      job: whole(0, jobs - 1),
      quantity: random() < 0.8 ? 1 : whole(2, 4),
      alternatives: Array.from({ length: whole(1, 3) }, (_, index) => ({
        part: whole(0, lines * 3 - 1),
        adaptation: index === 0 ? 0 : whole(0, 12) * 100,
      })).filter((entry, index, all) => all.findIndex((other) => other.part === entry.part) === index),
    })),
    suppliers: Array.from({ length: suppliers }, () => ({
      minimumOrder: random() < 0.5 ? whole(10, 50) * 100 : 0,
      modes: [
        { fee: whole(4, 12) * 100, freeOver: whole(40, 150) * 100, transit: whole(3, 5) },
        { fee: whole(7, 16) * 100, freeOver: random() < 0.4 ? whole(150, 300) * 100 : null, transit: 2 },
        { fee: whole(14, 30) * 100, freeOver: null, transit: 1 },
      ],
    })),
    offers: Array.from({ length: suppliers }, (_, supplier) =>
      base.flatMap((price, part) => {
        const quantity = random() < 0.75 ? 1 : whole(2, 10);
        return random() < 0.9
          ? [
              {
                supplier,
                price: Math.max(10, Math.round(price * quantity ** 0.85 * (0.94 + random() * 0.12))),
                contents: [{ part, quantity }],
                stock: whole(1, 20),
                handling: random() < 0.7 ? 0 : whole(1, 3),
              },
            ]
          : [];
      }),
    ).flat(),
  };
}

/** A third one: kits that hold several of the parts, short stocks, few who list a part, big jobs that all wait for their last part. */
export function makeKitMarket(lines: number, suppliers: number, seed: number): OrderProblem {
  const random = seededRandom(seed * 57 + 11);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const jobs = Math.max(1, Math.round(lines / 6));
  const parts = Math.round(lines * 1.2);
  const worth = Array.from({ length: parts }, () => whole(3, 80) * 100);
  const lists = Array.from({ length: parts }, () => whole(2, Math.max(2, Math.round(suppliers * 0.5))));
  const single = Array.from({ length: suppliers }, (_, supplier) =>
    worth.flatMap((price, part) =>
      random() < (lists[part] ?? 2) / suppliers || part % suppliers === supplier
        ? [
            {
              supplier,
              price: Math.round(price * (0.75 + random() * 0.6)),
              contents: [{ part, quantity: 1 }],
              stock: part % suppliers === supplier ? 9 : whole(0, 3),
              handling: whole(0, 3),
            },
          ]
        : [],
    ),
  ).flat();
  const kits = Array.from({ length: lines }, () => {
    const contents = [...new Set([whole(0, parts - 1), whole(0, parts - 1), whole(0, parts - 1)])].map((part) => ({
      part,
      quantity: 1,
    }));
    const sum = contents.reduce((all, { part }) => all + (worth[part] ?? 0), 0);
    return {
      supplier: whole(0, suppliers - 1),
      price: Math.round(sum * (0.55 + random() * 0.35)),
      contents,
      stock: whole(1, 4),
      handling: whole(0, 2),
    };
  });
  return {
    oneMode: false,
    jobs: Array.from({ length: jobs }, () => ({ needBy: whole(1, 4), latePerDay: whole(300, 2500) })),
    requirements: Array.from({ length: lines }, (_, index) => ({
      job: Math.floor(index / 6) % jobs,
      quantity: whole(1, 3),
      alternatives: [
        { part: index, adaptation: 0 },
        ...(random() < 0.3 ? [{ part: whole(lines, parts - 1), adaptation: whole(0, 1500) }] : []),
      ],
    })),
    suppliers: Array.from({ length: suppliers }, () => ({
      minimumOrder: random() < 0.3 ? whole(20, 80) * 100 : 0,
      modes: [
        { fee: whole(300, 1200), freeOver: random() < 0.5 ? whole(80, 250) * 100 : null, transit: whole(2, 5) },
        ...(random() < 0.7 ? [{ fee: whole(1200, 2600), freeOver: null, transit: 1 }] : []),
      ],
    })),
    offers: [...single, ...kits],
  };
}

/** The baseline: each line from whoever is cheapest for it, the slow way. */
function cheapestPerLine(problem: OrderProblem): number | null {
  const stock = problem.offers.map((offer) => offer.stock);
  const buys = new Map<number, number>();
  const gives: { requirement: number; part: number; offer: number; mode: number; units: number }[] = [];
  for (const [requirement, wanted] of problem.requirements.entries()) {
    const part = wanted.alternatives[0]?.part ?? -1;
    const choice = problem.offers
      .map((offer, index) => ({ at: index, offer, each: offer.contents[0]?.quantity ?? 1 }))
      .filter(
        ({ at: index, offer, each }) =>
          offer.contents[0]?.part === part && (stock[index] ?? 0) * each >= wanted.quantity,
      )
      .sort((a, b) => a.offer.price / a.each - b.offer.price / b.each)[0];
    if (!choice) return null;
    const packs = Math.ceil(wanted.quantity / choice.each);
    stock[choice.at] = (stock[choice.at] ?? 0) - packs;
    buys.set(choice.at, (buys.get(choice.at) ?? 0) + packs);
    gives.push({ requirement, part, offer: choice.at, mode: 0, units: wanted.quantity });
  }
  const plan = evaluate(
    problem,
    [...buys].map(([offer, packs]) => ({ offer, mode: 0, packs })),
    gives,
  );
  return planCost(plan.totals);
}

const WORLDS = { plain: makeMarket, dense: makeDenseMarket, kits: makeKitMarket } as const;

/** The way it was: the heuristic, then the whole programme until the time is over. */
async function wholeProgramme(problem: OrderProblem, solver: MilpSolver, budgetMs: number): Promise<number> {
  const from = clock();
  const quick = heuristicPlan(problem, { clock, budgetMs: budgetMs * 0.15 });
  const formulation = formulate(problem);
  const result = solver.solve(formulation.model, {
    budgetMs: Math.max(50, budgetMs - (clock() - from)),
    start: quick ? formulation.write(quick.buys, quick.gives) : undefined,
  });
  const read = result.values.length ? formulation.read(result.values) : null;
  const plan = read && evaluate(problem, read.buys, read.gives);
  return Math.min(
    quick ? planCost(quick) : Infinity,
    plan && plan.faults.length === 0 ? planCost(plan.totals) : Infinity,
  );
}

const clock = () => performance.now();

/**
 * Large plans in a few seconds against the best plan known: of a long run of each road. `LONG` seconds each; `CASES` drawn per world and size. Seeds are those of the run: fresh
 * ones for what is quoted.
 */
export async function benchPlanQuality(seed: number): Promise<void> {
  const solver = await createHighsSolver();
  const long = Number(process.env['LONG'] ?? 30) * 1000;
  const cases = Number(process.env['CASES'] ?? 4);
  const rows: (string | number)[][] = [];
  for (const [lines, suppliers, budgetMs] of [
    [60, 8, 3000],
    [200, 10, 5000],
  ] as const)
    for (const [world, make] of Object.entries(WORLDS)) {
      const over: Record<'now' | 'whole' | 'quick', number[]> = { now: [], whole: [], quick: [] };
      const times: number[] = [];
      let proven = 0;
      for (let index = 0; index < cases; index += 1) {
        const problem = make(lines, suppliers, seed * 1000 + index);
        const from = clock();
        const plan = await planOrder(problem, solver, { budgetMs, clock });
        times.push(clock() - from);
        if (plan.provenGap === 0) proven += 1;
        const whole = await wholeProgramme(problem, solver, budgetMs);
        const quick = heuristicPlan(problem, { clock, budgetMs });
        const costs = [planCost(plan), whole, quick ? planCost(quick) : Infinity];
        const best =
          plan.provenGap === 0
            ? planCost(plan)
            : Math.min(
                ...costs,
                planCost(await planOrder(problem, solver, { budgetMs: long, clock })),
                await wholeProgramme(problem, solver, long),
              );
        const [now = 0, then = 0, first = 0] = costs.map((cost) => cost / best - 1);
        over.now.push(now);
        over.whole.push(then);
        over.quick.push(first);
      }
      const mean = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0) / list.length;
      const said = (list: readonly number[]) => `+${percent(mean(list))} / +${percent(Math.max(...list))}`;
      rows.push([
        `${lines} x ${suppliers}, ${world}`,
        cases,
        said(over.now),
        said(over.whole),
        said(over.quick),
        `${proven} of ${cases}`,
        `${Math.max(...times).toFixed(0)} ms`,
      ]);
    }
  table(
    `Large order plans against the best known (long runs of ${long / 1000} s), mean / worst, seed ${seed}`,
    ['case', 'drawn', 'now', 'baseline: whole programme', 'heuristic alone', 'proven optimal', 'longest'],
    rows,
  );
}

export async function benchOrders(): Promise<void> {
  const from = performance.now();
  const solver = await createHighsSolver();
  console.log(`\nSolver start-up ${(performance.now() - from).toFixed(0)} ms`);
  const rows: (string | number)[][] = [];
  for (const [lines, suppliers, budgetMs] of [
    [10, 4, 10_000],
    [40, 6, 10_000],
    [60, 8, 20_000],
  ] as const)
    for (const seed of [11, 12]) {
      const problem = makeMarket(lines, suppliers, seed);
      const quickFrom = clock();
      const quick = heuristicPlan(problem, { clock, budgetMs: 1500 });
      const quickMs = clock() - quickFrom;
      const planFrom = clock();
      const plan = await planOrder(problem, solver, { budgetMs, clock });
      const planMs = clock() - planFrom;
      const cheapest = cheapestPerLine(problem);
      const cost = planCost(plan);
      rows.push([
        `${lines} x ${suppliers}, seed ${seed}`,
        (cost / 100).toFixed(2),
        percent(plan.provenGap),
        `${planMs.toFixed(0)} ms`,
        quick ? `+${percent(planCost(quick) / cost - 1)} in ${quickMs.toFixed(0)} ms` : 'none',
        cheapest === null ? 'impossible' : `+${percent(cheapest / cost - 1)}`,
      ]);
    }
  table(
    'Order plan (lines x suppliers)',
    ['case', 'cost', 'proven gap', 'time', 'heuristic alone', 'baseline: cheapest per line'],
    rows,
  );
}
