import {
  decideMachine,
  repairLimit,
  solveReplacement,
  type LifeComponent,
  type ReplacementProblem,
} from '@/core/worth';
import { normalDraw, seededRandom, toMajor } from '@/core/units';
import { demoCatalogue } from '../../tests/support/demo';
import { fastestMs, percent, table } from './report';

function problemOf(design: string): ReplacementProblem {
  const catalogue = demoCatalogue();
  const economics = catalogue.economics.find((row) => row.design === design);
  const life: LifeComponent[] = catalogue.lives
    .filter((row) => row.design === design && row.platformId === undefined)
    .map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost: toMajor(cost), costVariation }));
  const replace = economics
    ? toMajor(economics.newPrice) + toMajor(economics.delivery) + toMajor(economics.disposal)
    : NaN;
  return { life, next: life, replace, disruption: 40, rho: 0.05 };
}

/** Mean cost per year over a long time with a rule, by dice; common seeds make rules comparable. */
function costPerYear(
  problem: ReplacementProblem,
  repairs: (age: number, cost: number) => boolean,
  years: number,
): number {
  const random = seededRandom(17);
  let time = 0;
  let age = 0;
  let total = 0;
  while (time < years) {
    const failures = problem.life.map(
      (c) => c.scaleYears * ((age / c.scaleYears) ** c.shape - Math.log(1 - random())) ** (1 / c.shape),
    );
    const index = Math.min(...failures);
    const failed = problem.life[failures.indexOf(index)];
    time += index - age;
    age = index;
    if (!failed) break;
    const variance = Math.log(1 + failed.costVariation ** 2);
    const cost = failed.cost * Math.exp(-variance / 2 + Math.sqrt(variance) * normalDraw(random));
    total += problem.disruption;
    if (repairs(age, cost)) total += cost;
    else {
      total += problem.replace;
      age = 0;
    }
  }
  return total / time;
}

export function benchWorth(): void {
  const rows: (string | number)[][] = [];
  for (const { design } of demoCatalogue().economics) {
    const problem = problemOf(design);
    const limit = repairLimit(problem);
    const best = costPerYear(problem, (age, cost) => cost <= limit(age), 40_000);
    const half = costPerYear(problem, (_, cost) => cost <= problem.replace / 2, 40_000);
    const old = costPerYear(problem, (age) => age <= 12, 40_000);
    rows.push([
      design,
      best.toFixed(1),
      `+${percent(half / best - 1)}`,
      `+${percent(old / best - 1)}`,
      `${fastestMs(5, () => solveReplacement(problem)).toFixed(1)} ms`,
    ]);
  }
  table(
    'Repair limit, undiscounted cost per year',
    ['design', 'by the limit', 'baseline: half the new price', 'baseline: nothing over 12 years', 'one solution'],
    rows,
  );
  const problem = problemOf('F-BB');
  let seed = 0;
  const ask = () =>
    decideMachine(problem, {
      ageYears: 9,
      quote: 140,
      uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
      draws: 120,
      seed: (seed += 1),
    });
  table(
    'One machine with 120 draws',
    ['what', 'time'],
    [['decideMachine, nothing kept from before', `${fastestMs(3, ask).toFixed(0)} ms`]],
  );
}
