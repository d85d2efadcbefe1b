import { createHighsSolver, evaluate, planCost, planOrder, type OrderProblem } from '@/core/order';
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

export async function benchOrders(): Promise<void> {
  const from = performance.now();
  const solver = await createHighsSolver();
  console.log(`\nSolver start-up ${(performance.now() - from).toFixed(0)} ms`);
  const rows: (string | number)[][] = [];
  const clock = () => performance.now();
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
