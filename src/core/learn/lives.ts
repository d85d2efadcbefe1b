import { livesOf, type Life } from '../catalogue';
import { groupBy, type CauseId, type PlatformId } from '../units';

/** Machines of a platform (or of a design, where no platform is known) that failed of one cause at one age. */
export type Failures = {
  design: string;
  platformId: PlatformId | null;
  causeId: CauseId;
  /** In half years. */
  halfYears: number;
  count: number;
};

/** Weight of what the catalogue says of a component, in failures. */
const PRIOR_FAILURES = 20;
/** A shop sees only machines that failed: it never moves a life by more. */
const BOUNDS = { least: 0.5, most: 2 };

/** Failures a year at an age, of a Weibull life. */
const hazard = ({ shape, scaleYears }: Life, age: number): number =>
  (shape / scaleYears) * (age / scaleYears) ** (shape - 1);

/** How a component's life differs from what the catalogue says. */
export type LifeChange = {
  component: string;
  name: string;
  /** What failed of it here, and how often that was to be expected of these machines at these ages. */
  failed: number;
  expected: number;
  /** Its life is multiplied by it. */
  factor: number;
};

/**
 * What a design's failures say of its lives. A shop sees only machines that failed, so it learns which component fails sooner *than the others*: each failure at age a was one of component c with
 * probability h_c(a) / Σ h(a), which sums to what was expected of c. Its hazard is that of the catalogue times m ~ Gamma(20, 20) with failures ~ Poisson(m · expected): m = (failed + 20) / (expected
 * + 20), and the life's scale is multiplied by m^(−1 / shape), between ½ and 2. Failures of causes without a life say nothing. O(failures × components).
 */
export function lifeChanges(lives: readonly Life[], failures: readonly Failures[], design: string): LifeChange[] {
  const failed = new Map<string, number>();
  const expected = new Map<string, number>();
  const add = (to: Map<string, number>, component: string, count: number) =>
    to.set(component, (to.get(component) ?? 0) + count);
  const ofPlatforms = groupBy(
    failures.filter((failure) => failure.design === design),
    ({ platformId }) => platformId,
  );
  for (const [platformId, own] of ofPlatforms) {
    const rows = livesOf(lives, design, platformId).filter(({ causeId }) => causeId !== undefined);
    for (const { causeId, halfYears, count } of own) {
      const row = rows.find((one) => one.causeId === causeId);
      if (!row) continue;
      const age = Math.max(0.5, halfYears / 2);
      const all = rows.reduce((sum, one) => sum + hazard(one, age), 0);
      add(failed, row.component, count);
      for (const one of rows) add(expected, one.component, (count * hazard(one, age)) / all);
    }
  }
  return livesOf(lives, design, null).flatMap((row): LifeChange[] => {
    const due = expected.get(row.component);
    if (due === undefined) return [];
    const seen = failed.get(row.component) ?? 0;
    const times = (seen + PRIOR_FAILURES) / (due + PRIOR_FAILURES);
    const factor = Math.min(BOUNDS.most, Math.max(BOUNDS.least, times ** (-1 / row.shape)));
    return [{ component: row.component, name: row.name, failed: seen, expected: due, factor }];
  });
}

/** The lives as this shop has seen them; those of a design without failures as they are. O(lives × failures). */
export function learnedLives(lives: readonly Life[], failures: readonly Failures[]): readonly Life[] {
  const factors = new Map(
    [...new Set(failures.map(({ design }) => design))].flatMap((design) =>
      lifeChanges(lives, failures, design).map(({ component, factor }) => [`${design} ${component}`, factor] as const),
    ),
  );
  if (factors.size === 0) return lives;
  return lives.map((row) => {
    const factor = factors.get(`${row.design} ${row.component}`);
    return factor === undefined ? row : { ...row, scaleYears: row.scaleYears * factor };
  });
}

/** One failure more. */
export function addFailure(failures: Failures[], one: Omit<Failures, 'count' | 'halfYears'>, ageYears: number): void {
  const halfYears = Math.round(ageYears * 2);
  const known = failures.find(
    ({ design, platformId, causeId, halfYears: age }) =>
      design === one.design && platformId === one.platformId && causeId === one.causeId && age === halfYears,
  );
  if (known) known.count += 1;
  else failures.push({ ...one, halfYears, count: 1 });
}
