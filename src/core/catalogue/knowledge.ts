import { groupBy, keyBy, type PlatformId, type CauseId, asId } from '../units';
import { withChanges } from './states';
import type {
  Brings,
  Catalogue,
  Cause,
  Check,
  CodeMeaning,
  Condition,
  Design,
  FailingRun,
  Finding,
  Fix,
  Handling,
  Joint,
  Life,
  Limit,
  LiveBar,
  Operation,
  Outcome,
  AnswerPhrase,
  Phrase,
  Platform,
  Proof,
  RootCause,
  ServiceItem,
  ServiceMode,
  WreckSign,
} from './tables';

export type KnownCheck = Check & { outcomes: readonly Outcome[] };

/** The service mode of a platform with its items; items are empty where the catalogue only says how it is entered. */
export type Service = Pick<ServiceMode, 'enter' | 'leave' | 'readFaults' | 'clearFaults'> & {
  items: readonly ServiceItem[];
};

/** What is known about one platform: the rows of its design, with the platform's own rows in their place. */
export type Knowledge = {
  causes: readonly Cause[];
  /** Other ways of mending them than their own part. */
  fixes: readonly Fix[];
  findings: readonly Finding[];
  checks: readonly KnownCheck[];
  operations: readonly (Operation & { lacks?: readonly string[] })[];
  /** How operations are done by hand, and what joints they close, by operation. */
  handling: ReadonlyMap<string, Handling>;
  joints: ReadonlyMap<string, Joint>;
  limits: readonly Limit[];
  /** What forbids live runs. */
  liveBars: readonly LiveBar[];
  /** What shortens lives and makes work longer. */
  conditions: readonly Condition[];
  /** How customers say the findings. */
  phrases: readonly Phrase[];
  answerPhrases: readonly AnswerPhrase[];
  proofs: readonly Proof[];
  /** What a cause breaks or dirties with it; both are causes of this platform. */
  brings: readonly Brings[];
  /** Why causes come about, and what the dead part shows of it. */
  rootCauses: readonly RootCause[];
  wreckSigns: readonly WreckSign[];
  /** Runs in which such machines fail and are proved. */
  runs: readonly FailingRun[];
  /** null: the platform has no service mode that anybody knows. */
  service: Service | null;
  codes: readonly CodeMeaning[];
  /** P(finding | cause); the finding's background where the cause says nothing. */
  findingLikelihood: (causeId: CauseId, findingId: string) => number;
  /** P(outcome | cause); sums to one over the check's outcomes. */
  outcomeLikelihood: (causeId: CauseId, checkId: string, outcomeId: string) => number;
};

const applies = (designs: readonly string[], tags: readonly string[]): boolean =>
  designs.includes('all') || designs.some((design) => tags.includes(design));

/** A platform's own row need only give the cells that differ: an empty one says what the design's row says. */
const overridden = <T extends object>(row: T, own: T | undefined): T =>
  own ? { ...row, ...Object.fromEntries(Object.entries(own).filter(([, value]) => value !== undefined)) } : row;

function withOverrides<T extends { id: string; designs: string[]; platformId?: PlatformId | undefined }>(
  rows: readonly T[],
  platform: Platform,
): T[] {
  const general = rows.filter((row) => row.platformId === undefined && applies(row.designs, platform.tags));
  const own = keyBy(
    rows.filter((row) => row.platformId === platform.id),
    (row) => row.id,
  );
  const replaced = general.map((row) => overridden(row, own.get(row.id)));
  const added = [...own.values()].filter((row) => !general.some((other) => other.id === row.id));
  return [...replaced, ...added];
}

const BARE_MINIMUM = 0.001;

/** The word for what no listed cause explains. It takes part in every ranking. */
export const OTHER_CAUSE: CauseId = asId('other');

/** Designs that a machine may be of, with their shares; they sum to one. */
export type Mixture = readonly { design: Pick<Design, 'tags'>; probability: number }[];

/** Shares of the general causes of a design, by their weights; they sum to one. O(causes). */
export function causeShares(causes: readonly Cause[], design: Pick<Design, 'tags'>): Map<CauseId, number> {
  const own = causes.filter((cause) => cause.platformId === undefined && applies(cause.designs, design.tags));
  const all = own.reduce((sum, { weight }) => sum + weight, 0);
  return new Map(own.map(({ id, weight }) => [id, weight / all]));
}

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
  const service = serviceOf(catalogue, platform);
  const inService = new Set(service?.items.map(({ checkId }) => checkId));
  const checks = catalogue.checks
    .filter((check) => applies(check.designs, platform.tags))
    // An item of the service mode can be run only where the platform has one that answers it.
    .filter((check) => check.kind !== 'service' || inService.has(check.id))
    .map((check) => ({ ...check, outcomes: outcomesOf.get(check.id) ?? [] }))
    .filter((check) => check.outcomes.length > 1);
  const changes = withOverrides(catalogue.state_changes, platform);
  const has = new Set(causes.map(({ id }) => id));
  const broughtIn = (designs: readonly string[]) => bringsAmong(catalogue.brings, rows, designs);
  const brings = mixture.length
    ? mixedBrings(rows, mixture, broughtIn)
    : bringsAmong(catalogue.brings, rows, platform.tags);
  const backgrounds = keyBy(findings, (finding) => finding.id);
  const findingP = new Map(catalogue.likelihoods.map((row) => [`${row.causeId} ${row.findingId}`, row.p]));
  const outcomeP = outcomeTable(catalogue, checks);
  const clamp = (p: number) => Math.min(1 - BARE_MINIMUM, Math.max(BARE_MINIMUM, p));

  return {
    causes,
    fixes: withOverrides(catalogue.fixes, platform).filter(({ causeId }) => has.has(causeId)),
    findings,
    checks,
    operations: withOverrides(catalogue.operations, platform).map((operation) => withChanges(operation, changes)),
    handling: keyBy(withOverrides(catalogue.handling, platform), ({ id }) => id),
    joints: keyBy(withOverrides(catalogue.joints, platform), ({ id }) => id),
    limits: withOverrides(catalogue.limits, platform),
    liveBars: catalogue.live_bars.filter((bar) => applies(bar.designs, platform.tags)),
    conditions: catalogue.conditions.filter((condition) => applies(condition.designs, platform.tags)),
    phrases: catalogue.phrases.filter(({ findingId }) => backgrounds.has(findingId)),
    answerPhrases: catalogue.answer_phrases.filter(({ checkId }) => checks.some(({ id }) => id === checkId)),
    proofs: catalogue.proofs.filter((proof) => applies(proof.designs, platform.tags)),
    brings,
    rootCauses: catalogue.root_causes.filter(({ causeId }) => has.has(causeId)),
    wreckSigns: catalogue.wreck_signs.filter(({ causeId }) => has.has(causeId)),
    runs: catalogue.runs.filter((run) => applies(run.designs, platform.tags)),
    service,
    codes: catalogue.codes.filter((code) => code.makerId === platform.makerId),
    findingLikelihood: (causeId, findingId) =>
      clamp(findingP.get(`${causeId} ${findingId}`) ?? backgrounds.get(findingId)?.background ?? BARE_MINIMUM),
    outcomeLikelihood: (causeId, checkId, outcomeId) =>
      outcomeP.get(`${causeId} ${checkId} ${outcomeId}`) ??
      outcomeP.get(`${OTHER_CAUSE} ${checkId} ${outcomeId}`) ??
      BARE_MINIMUM,
  };
}

/** However much a cause brings, this much of it comes alone. */
const ALONE_AT_LEAST = 0.1;

/** What causes of a machine with these tags bring; of one cause together no more than leaves it alone now and then. */
function bringsAmong(brings: readonly Brings[], causes: readonly Cause[], tags: readonly string[]): Brings[] {
  const here = new Set(causes.filter(({ designs }) => applies(designs, tags)).map(({ id }) => id));
  const among = brings.filter(
    ({ causeId, bringsId, p }) => here.has(causeId) && here.has(bringsId) && causeId !== bringsId && p > 0,
  );
  const sums = new Map<CauseId, number>();
  for (const { causeId, p } of among) sums.set(causeId, (sums.get(causeId) ?? 0) + p);
  return among.map((row) => ({ ...row, p: row.p * Math.min(1, (1 - ALONE_AT_LEAST) / (sums.get(row.causeId) ?? 1)) }));
}

/** Of a machine whose design is in doubt: what a cause brings in each design that has both, weighed by how much of the cause comes from it. Exact, as `mixed` is. */
function mixedBrings(
  causes: readonly Cause[],
  mixture: Mixture,
  broughtIn: (tags: readonly string[]) => readonly Brings[],
): Brings[] {
  const weights = keyBy(mixed(causes, mixture), ({ id }) => id);
  const rows = new Map<string, Brings>();
  for (const one of mixture) {
    const here = keyBy(mixed(causes, [one]), ({ id }) => id);
    for (const row of broughtIn(one.design.tags)) {
      const share = (here.get(row.causeId)?.weight ?? 0) / Math.max(1e-12, weights.get(row.causeId)?.weight ?? 0);
      const key = `${row.causeId} ${row.bringsId}`;
      rows.set(key, { ...row, p: (rows.get(key)?.p ?? 0) + share * row.p });
    }
  }
  return [...rows.values()];
}

/** Older packages only say how it is entered. */
function serviceOf({ service_modes, service_items }: Catalogue, platform: Platform): Service | null {
  const mode = service_modes.find(({ platformId }) => platformId === platform.id);
  const items = service_items.filter(({ platformId }) => platformId === platform.id);
  if (mode) return { ...mode, items };
  return platform.serviceMode === undefined
    ? null
    : { enter: platform.serviceMode, leave: '', readFaults: undefined, clearFaults: undefined, items };
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

/** The lives of a design; on a platform that has its own word on a component, that. O(rows). */
export function livesOf(lives: readonly Life[], design: string, platformId: PlatformId | null): Life[] {
  const own = keyBy(
    lives.filter((row) => row.design === design && row.platformId !== undefined && row.platformId === platformId),
    (row) => row.component,
  );
  return lives
    .filter((row) => row.design === design && row.platformId === undefined)
    .map((row) => own.get(row.component) ?? row);
}
