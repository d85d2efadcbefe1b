/** Weibull life of one component: hazard h(t) = (shape/scale)(t/scale)^(shape−1) per year; repair cost lognormal with this mean. */
export type Weibull = { shape: number; scaleYears: number };
export type LifeComponent = Weibull & { cost: number; costVariation: number };

/** Floats in major units of money; rho per year, >= 0: zero means that later money counts in full, and the long-run average decides. */
export type ReplacementProblem = {
  life: LifeComponent[];
  next: LifeComponent[];
  replace: number;
  disruption: number;
  rho: number;
  /** What the machine owned uses a year (energy, water) above the one bought in its place; 0 where it is missing. */
  runningMore?: number;
};

/** Standard deviations of the logarithms of the estimates. */
export type ReplacementUncertainty = { scale: number; shape: number; cost: number; replace: number };

export const hazard = (component: LifeComponent, age: number): number => {
  const ratio = Math.max(age, 1e-6) / component.scaleYears;
  return (component.shape / component.scaleYears) * ratio ** (component.shape - 1);
};

export function totalHazard(life: readonly LifeComponent[], age: number): number {
  let total = 0;
  for (const component of life) total += hazard(component, age);
  return total;
}

/** Expected failures of a component from new to an age: the integral of its hazard, exact. */
export const failuresUntil = ({ shape, scaleYears }: Weibull, age: number): number => (age / scaleYears) ** shape;
