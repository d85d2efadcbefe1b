import { groupBy, keyBy, type PlatformId, type CauseId, asId } from '../units';
import type {
  Catalogue,
  Cause,
  Check,
  CodeMeaning,
  Design,
  Finding,
  Limit,
  LiveBar,
  Operation,
  Outcome,
  Phrase,
  Platform,
  Proof,
} from './tables';

/** What is known about one platform: the rows of its design, with the platform's own rows in their place. */
export type Knowledge = {
  causes: readonly Cause[];
  findings: readonly Finding[];
  checks: readonly (Check & { outcomes: readonly Outcome[] })[];
  operations: readonly (Operation & { lacks?: readonly string[] })[];
  limits: readonly Limit[];
  /** What forbids live runs. */
  liveBars: readonly LiveBar[];
  /** How customers say the findings. */
  phrases: readonly Phrase[];
  proofs: readonly Proof[];
  codes: readonly CodeMeaning[];
  /** P(finding | cause); the finding's background where the cause says nothing. */
  findingLikelihood: (causeId: CauseId, findingId: string) => number;
  /** P(outcome | cause); sums to one over the check's outcomes. */
  outcomeLikelihood: (causeId: CauseId, checkId: string, outcomeId: string) => number;
};

const applies = (designs: readonly string[], tags: readonly string[]): boolean =>
  designs.includes('all') || designs.some((design) => tags.includes(design));

function withOverrides<T extends { id: string; designs: string[]; platformId?: PlatformId | undefined }>(
  rows: readonly T[],
  platform: Platform,
): T[] {
  const general = rows.filter((row) => row.platformId === undefined && applies(row.designs, platform.tags));
  const own = keyBy(
    rows.filter((row) => row.platformId === platform.id),
    (row) => row.id,
  );
  const replaced = general.map((row) => own.get(row.id) ?? row);
  const added = [...own.values()].filter((row) => !general.some((other) => other.id === row.id));
  return [...replaced, ...added];
}

const BARE_MINIMUM = 0.001;

/** The word for what no listed cause explains. It takes part in every ranking. */
export const OTHER_CAUSE: CauseId = asId('other');

/** Designs that a machine may be of, with their shares; they sum to one. */
export type Mixture = readonly { design: Pick<Design, 'tags'>; probability: number }[];

/**
 * Causes of a machine whose design is in doubt. What is found speaks of the cause and not of the design, so the prior of a cause is its share in each design,
 * weighed by the design's: exact, not an approximation. In hundredths.
 */
const mixed = (causes: readonly Cause[], mixture: Mixture): Cause[] =>
  causes.map((cause) => ({
    ...cause,
    weight: mixture.reduce((sum, { design, probability }) => {
      if (!applies(cause.designs, design.tags)) return sum;
      const all = causes.reduce(
        (total, other) => (applies(other.designs, design.tags) ? total + other.weight : total),
        0,
      );
      return sum + (100 * probability * cause.weight) / all;
    }, 0),
  }));

/** Selects and indexes the knowledge of one platform; `mixture`: of a machine that may be of several designs, whose tags the platform then carries together. O(rows). */
export function knowledgeFor(catalogue: Catalogue, platform: Platform, mixture: Mixture = []): Knowledge {
  const rows = withOverrides(catalogue.causes, platform);
  const causes = mixture.length ? mixed(rows, mixture) : rows;
  const findings = catalogue.findings.filter((finding) => applies(finding.designs, platform.tags));
  const outcomesOf = groupBy(catalogue.outcomes, (outcome) => outcome.checkId);
  const checks = catalogue.checks
    .filter((check) => applies(check.designs, platform.tags))
    .map((check) => ({ ...check, outcomes: outcomesOf.get(check.id) ?? [] }))
    .filter((check) => check.outcomes.length > 1);
  const backgrounds = keyBy(findings, (finding) => finding.id);
  const findingP = new Map(catalogue.likelihoods.map((row) => [`${row.causeId} ${row.findingId}`, row.p]));
  const outcomeP = outcomeTable(catalogue, checks);
  const clamp = (p: number) => Math.min(1 - BARE_MINIMUM, Math.max(BARE_MINIMUM, p));

  return {
    causes,
    findings,
    checks,
    operations: withOverrides(catalogue.operations, platform),
    limits: withOverrides(catalogue.limits, platform),
    liveBars: catalogue.live_bars.filter((bar) => applies(bar.designs, platform.tags)),
    phrases: catalogue.phrases.filter(({ findingId }) => backgrounds.has(findingId)),
    proofs: catalogue.proofs.filter((proof) => applies(proof.designs, platform.tags)),
    codes: catalogue.codes.filter((code) => code.makerId === platform.makerId),
    findingLikelihood: (causeId, findingId) =>
      clamp(findingP.get(`${causeId} ${findingId}`) ?? backgrounds.get(findingId)?.background ?? BARE_MINIMUM),
    outcomeLikelihood: (causeId, checkId, outcomeId) =>
      outcomeP.get(`${causeId} ${checkId} ${outcomeId}`) ??
      outcomeP.get(`${OTHER_CAUSE} ${checkId} ${outcomeId}`) ??
      BARE_MINIMUM,
  };
}

/** Rows given for a cause keep their p; what is left of one is spread over its other outcomes as the background is. */
function outcomeTable(catalogue: Catalogue, checks: Knowledge['checks']): Map<string, number> {
  const table = new Map<string, number>();
  const given = groupBy(catalogue.outcome_likelihoods, (row) => row.checkId);
  for (const check of checks) {
    const byCause = groupBy(given.get(check.id) ?? [], (row) => row.causeId);
    const background = check.outcomes.map((outcome) => Math.max(BARE_MINIMUM, outcome.background));
    const put = (causeId: CauseId, masses: number[]) => {
      const floored = masses.map((mass) => Math.max(BARE_MINIMUM, mass));
      const total = floored.reduce((sum, mass) => sum + mass, 0);
      check.outcomes.forEach((outcome, index) =>
        table.set(`${causeId} ${check.id} ${outcome.id}`, (floored[index] ?? 0) / total),
      );
    };
    put(OTHER_CAUSE, background);
    for (const [causeId, rows] of byCause) {
      const said = check.outcomes.map((outcome) => rows.find((row) => row.outcomeId === outcome.id)?.p);
      const left = Math.max(0, 1 - said.reduce<number>((sum, p) => sum + (p ?? 0), 0));
      const silent = background.filter((_, index) => said[index] === undefined).reduce((sum, mass) => sum + mass, 0);
      put(
        causeId,
        said.map((p, index) => p ?? (silent > 0 ? (left * (background[index] ?? 0)) / silent : 0)),
      );
    }
  }
  return table;
}
