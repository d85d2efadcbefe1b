/** Weibull life of one component: hazard h(t) = (shape/scale)(t/scale)^(shape−1) per year; repair cost lognormal with this mean. */
export type LifeComponent = { shape: number; scaleYears: number; cost: number; costVariation: number };

/** Floats in major units of money; rho per year, > 0. */
export type ReplacementProblem = {
  life: LifeComponent[];
  next: LifeComponent[];
  replace: number;
  disruption: number;
  rho: number;
};

/** Standard deviations of the logarithms of the estimates. */
export type ReplacementUncertainty = { scale: number; shape: number; cost: number; replace: number };

export const hazard = (component: LifeComponent, age: number): number => {
  const ratio = Math.max(age, 1e-6) / component.scaleYears;
  return (component.shape / component.scaleYears) * ratio ** (component.shape - 1);
};

export const totalHazard = (life: readonly LifeComponent[], age: number): number =>
  life.reduce((sum, component) => sum + hazard(component, age), 0);
