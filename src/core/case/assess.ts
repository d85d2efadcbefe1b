import {
  knowledgeFor,
  OTHER_CAUSE,
  type Catalogue,
  type Cause,
  type Knowledge,
  type Model,
  type Platform,
  type Proof,
  type Role,
} from '../catalogue';
import { buildWorkSheet, proofsFor, type WorkSheet } from '../bench';
import { nextSteps, priorsOf, rankCauses, type CauseRanking, type NextStep } from '../diagnose';
import { readSerial, type SerialReading } from '../identify';
import { planWork, type WorkPlan } from '../labour';
import { causeFactor, timeFactor, type Learned } from '../learn';
import type { Quote } from '../quote';
import { awaited, evidenceOf, unordered, waitsFor, waitsNow, type TicketState, type Waiting } from '../ticket';
import { addDays, keyBy, laterOf, localDateOf, toMajor, yearsBetween, type Instant, type LocalDate } from '../units';
import { compareRepairReplace, type Worth } from '../worth';
import { repairOptions, type OptionContext, type RepairOption } from './options';
import { partsOfCause, type CauseParts } from './pricing';
import type { Settings } from './settings';

export const STATIONS = ['plate', 'findings', 'part', 'worth', 'order', 'bench', 'proof'] as const;
export type Station = (typeof STATIONS)[number];

export type Age = {
  years: number;
  from: number;
  to: number;
  source: 'serial' | 'receipt' | 'production';
  serial: SerialReading | null;
};

export type DoNext =
  | { kind: 'read-plate' }
  | { kind: 'note-findings' }
  | { kind: 'step'; step: NextStep }
  | { kind: 'decide-cause'; causeId: string; probability: number }
  | { kind: 'choose-part'; causeId: string }
  | { kind: 'offer-quote' }
  | { kind: 'ring-customer' }
  | { kind: 'order-parts'; count: number }
  | { kind: 'await-parts'; dueOn: LocalDate | null }
  | { kind: 'work'; key: string; title: string; minutes: number }
  | { kind: 'wait-cure'; until: Instant }
  | { kind: 'finish-bench' }
  | { kind: 'prove'; proof: Proof }
  | { kind: 'tell-ready' }
  | { kind: 'hand-over' }
  | { kind: 'close'; outcome: 'repaired' | 'declined' | 'not-mendable' }
  | { kind: 'closed' };

/** The rows without the look-up functions: an assessment crosses from a worker as plain data. */
export type KnowledgeRows = Omit<Knowledge, 'findingLikelihood' | 'outcomeLikelihood'>;

/** Everything the sheet and the scale say about one ticket. */
export type Assessment = {
  station: Station | 'done';
  waiting: Waiting;
  doNext: DoNext;
  model: Model | null;
  platform: Platform | null;
  age: Age | null;
  knowledge: KnowledgeRows | null;
  ranking: CauseRanking | null;
  steps: NextStep[];
  /** The cause the rest is computed for: decided, or the likeliest so far. */
  cause: Cause | null;
  causeProbability: number;
  decided: boolean;
  parts: CauseParts | null;
  options: RepairOption[];
  quote: Quote | null;
  /** 10–90 % range of what it may cost while the cause is open; major units, tax included. */
  quoteRange: { low: number; high: number; expected: number } | null;
  worth: Worth | null;
  plan: WorkPlan | null;
  sheet: WorkSheet | null;
  proofs: { proof: Proof; passed: boolean | null }[];
  readyOn: LocalDate | null;
  roles: readonly Role[];
  /** Part numbers by id, for the chains of reasons. */
  partNumbers: Record<string, string>;
};

const DRAWS = 120;
/** Standard deviations of the logarithms: how unsure the life data are. */
const UNCERTAINTY = { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 };
const OPTION_CAUSES = 8;

/**
 * All that follows from what is known about a ticket: the one place where the core's folders are composed. Pure: same input, same answer.
 * Cost: some 10 ms plus the draws of worth (cached per machine).
 */
export function assess(
  catalogue: Catalogue,
  state: TicketState,
  settings: Settings,
  learned: Learned,
  now: Instant,
): Assessment {
  const today = localDateOf(now, settings.zone);
  const model = catalogue.models.find((candidate) => candidate.id === state.plate?.modelId) ?? null;
  const platform = catalogue.platforms.find((candidate) => candidate.id === state.plate?.platformId) ?? null;
  const waiting = waitsNow(waitsFor(state), now);
  if (!model || !platform)
    return {
      ...nothingKnown(waiting),
      doNext: state.closed ? { kind: 'closed' } : { kind: 'read-plate' },
      station: state.closed ? 'done' : 'plate',
    };

  const knowledge = knowledgeFor(catalogue, platform);
  const factor = timeFactor(learned, platform.design);
  const priors = priorsOf(knowledge);
  const share = new Map(knowledge.causes.map((cause, index) => [cause.id, priors[index] ?? 0]));
  const causeWeights = { causeFactor: (id: string) => causeFactor(learned, platform.design, id, share.get(id) ?? 0) };
  const evidence = evidenceOf(state);
  const ranking = rankCauses(knowledge, evidence, causeWeights);
  const age = ageOf(catalogue, state, model, today);
  const question = { models: modelsOf(state), serial: state.serial, today };
  const cache = new Map<string, CauseParts>();
  const parts = (cause: Cause): CauseParts => {
    const known = cache.get(cause.id) ?? partsOfCause(catalogue, question, cause, settings);
    cache.set(cause.id, known);
    return known;
  };
  const byId = keyBy(knowledge.causes, (cause) => cause.id);
  const leading = ranking.causes.find((entry) => entry.cause !== null);
  const cause = state.cause ? (byId.get(state.cause.causeId) ?? null) : (leading?.cause ?? null);
  const causeProbability = ranking.causes.find((entry) => entry.causeId === cause?.id)?.probability ?? 0;
  const done = state.ticks.filter((tick) => tick.key.startsWith('strip ')).map((tick) => tick.operationId);
  const context = { knowledge, settings, today, timeFactor: factor, done: [], chosen: chosenMain(state, cause) };
  const second = cause ? secondCause(ranking, cause) : null;
  const offered = cause
    ? repairOptions(context, cause, parts(cause), second ? { cause: second, parts: parts(second) } : null)
    : null;
  const quoteRange = rangeOf(ranking, context, parts);
  const accepted =
    state.answer?.answer === 'yes'
      ? state.quoted?.options.find((option) => option.id === state.answer?.optionId)
      : undefined;
  const goal = offered?.options.find((option) => option.id === accepted?.id) ?? offered?.options[0];
  const settledQuote = accepted
    ? toMajor(accepted.gross)
    : state.cause && offered
      ? toMajor(offered.quote.options[0]?.gross ?? { amountMinor: 0, currency: settings.currency })
      : null;
  const worth = age
    ? worthOf(catalogue, platform, settings, age, settledQuote ?? quoteRange?.expected ?? 0, cause?.id ?? null)
    : null;
  const steps = nextSteps(knowledge, evidence, {
    perMinute: toMajor(settings.labourPerHour) / 60,
    parts: (causeId) => {
      const found = byId.get(causeId);
      return found ? parts(found).costMajor : 0;
    },
    escalate: Math.max(toMajor(settings.inspectionFee), worth?.limit ?? 200),
    open: done,
    priors: causeWeights,
  });
  const plan = goal
    ? planWork(
        knowledge.operations,
        byIds(byId, goal.causeIds).flatMap((entry) => entry.operations),
        { timeFactor: factor },
      )
    : null;
  const sheet = plan ? buildWorkSheet(plan, platform, { ticks: state.ticks }) : null;
  const disturbed = state.disturbed.length ? state.disturbed : (plan?.strip.map((step) => step.operationId) ?? []);
  const proofs = cause
    ? proofsFor(knowledge.proofs, disturbed, cause.id).map((proof) => ({
        proof,
        passed: state.proofs.find((entry) => entry.proofId === proof.id)?.passed ?? null,
      }))
    : [];
  const { findingLikelihood: _finding, outcomeLikelihood: _outcome, ...rows } = knowledge;
  const known = {
    model,
    platform,
    age,
    knowledge: rows,
    ranking,
    steps,
    cause,
    causeProbability,
    decided: state.cause !== null,
    parts: cause ? parts(cause) : null,
  };
  const body = {
    ...known,
    options: offered?.options ?? [],
    quote: offered?.quote ?? null,
    quoteRange,
    worth,
    plan,
    sheet,
    proofs,
    waiting,
  };
  const stage = stageOf(state, { ...body, settings, now });
  const partNumbers = Object.fromEntries(catalogue.parts.map((part) => [part.id, part.partNumber]));
  return {
    ...body,
    ...stage,
    roles: catalogue.roles,
    partNumbers,
    readyOn: readyOn(state, body.options, sheet, today, settings.zone),
  };
}

/** The decided number of the cause's own role; null while nothing is decided for this cause. */
const chosenMain = (state: TicketState, cause: Cause | null): string | null =>
  state.partsFor === cause?.id
    ? (state.parts
        .find((part) => part.roleId === cause.roleId)
        ?.buy.map(({ partId }) => partId)
        .join('+') ?? null)
    : null;

const byIds = (map: ReadonlyMap<string, Cause>, ids: readonly string[]): Cause[] =>
  ids.flatMap((id) => map.get(id) ?? []);

const nothingKnown = (waiting: Waiting): Omit<Assessment, 'doNext' | 'station'> => ({
  waiting,
  model: null,
  platform: null,
  age: null,
  knowledge: null,
  ranking: null,
  steps: [],
  cause: null,
  causeProbability: 0,
  decided: false,
  parts: null,
  options: [],
  quote: null,
  quoteRange: null,
  worth: null,
  plan: null,
  sheet: null,
  proofs: [],
  readyOn: null,
  roles: [],
  partNumbers: {},
});

function modelsOf(state: TicketState): { modelId: string; probability: number }[] {
  if (!state.plate) return [];
  if (state.plate.confirmed) return [{ modelId: state.plate.modelId, probability: 1 }];
  return [
    { modelId: state.plate.modelId, probability: state.plate.probability },
    ...state.plate.others.map(({ modelId, probability }) => ({ modelId, probability })),
  ];
}

function ageOf(catalogue: Catalogue, state: TicketState, model: Model, today: LocalDate): Age | null {
  if (state.boughtOn) {
    const years = Math.max(0, yearsBetween(state.boughtOn, today));
    return { years, from: years, to: years, source: 'receipt', serial: null };
  }
  const serial = state.serial
    ? readSerial(catalogue.serial_schemes, model.makerId, state.serial, {
        producedFrom: model.producedFrom,
        producedTo: model.producedTo,
        today,
      })
    : null;
  const windows = serial?.candidates.length
    ? serial.candidates
    : [{ builtFrom: model.producedFrom, builtTo: model.producedTo ?? today, probability: 1 }];
  const ages = windows.map((window) => ({
    from: yearsBetween(window.builtTo, today),
    to: yearsBetween(window.builtFrom, today),
    p: window.probability,
  }));
  const years = ages.reduce((sum, entry) => sum + (entry.p * (entry.from + entry.to)) / 2, 0);
  return {
    years: Math.max(0, years),
    from: Math.max(0, Math.min(...ages.map((entry) => entry.from))),
    to: Math.max(0, ...ages.map((entry) => entry.to)),
    source: serial?.candidates.length ? 'serial' : 'production',
    serial,
  };
}

const SECOND_AT_LEAST = 0.04;

const secondCause = (ranking: CauseRanking, first: Cause): Cause | null =>
  ranking.causes.find(
    (entry) =>
      entry.cause &&
      entry.cause.id !== first.id &&
      entry.probability >= SECOND_AT_LEAST &&
      entry.cause.roleId &&
      entry.cause.operations.length,
  )?.cause ?? null;

/** Gross price of each likely cause, weighted: what can be said at the phone in the first minute. */
function rangeOf(
  ranking: CauseRanking,
  context: OptionContext,
  parts: (cause: Cause) => CauseParts,
): Assessment['quoteRange'] {
  const priced = ranking.causes
    .filter((entry) => entry.causeId !== OTHER_CAUSE)
    .slice(0, OPTION_CAUSES)
    .flatMap((entry) => {
      if (!entry.cause) return [];
      const gross = repairOptions(context, entry.cause, parts(entry.cause), null).quote.options[0]?.gross;
      return gross ? [{ gross: toMajor(gross), p: entry.probability }] : [];
    })
    .sort((a, b) => a.gross - b.gross);
  const total = priced.reduce((sum, entry) => sum + entry.p, 0);
  if (total <= 0) return null;
  const at = (share: number): number => {
    let mass = 0;
    for (const entry of priced) {
      mass += entry.p / total;
      if (mass >= share) return entry.gross;
    }
    return priced.at(-1)?.gross ?? 0;
  };
  return {
    low: at(0.1),
    high: at(0.9),
    expected: priced.reduce((sum, entry) => sum + (entry.p / total) * entry.gross, 0),
  };
}

function worthOf(
  catalogue: Catalogue,
  platform: Platform,
  settings: Settings,
  age: Age,
  quote: number,
  causeId: string | null,
): Worth | null {
  const economics = catalogue.economics.find((row) => row.design === platform.design);
  const lives = catalogue.lives.filter((row) => row.design === platform.design);
  if (!economics || lives.length === 0) return null;
  const life = lives.map((row) => ({
    id: row.component,
    name: row.name,
    shape: row.shape,
    scaleYears: row.scaleYears,
    cost: toMajor(row.cost),
    costVariation: row.costVariation,
  }));
  return compareRepairReplace({
    life,
    next: life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
    replacePrice: toMajor(economics.newPrice) + toMajor(economics.delivery) + toMajor(economics.disposal),
    usedPrice: toMajor(economics.usedPrice) + toMajor(economics.delivery) + toMajor(economics.disposal),
    disruption: toMajor(settings.disruption),
    rho: settings.rho,
    ageYears: Math.round(age.years * 20) / 20,
    quote,
    mendsComponent: lives.find((row) => row.causeId === causeId)?.component ?? null,
    repairModel: settings.repairModel,
    uncertainty: UNCERTAINTY,
    draws: DRAWS,
    seed: 7,
    rules: settings.rules,
  });
}

type Body = Pick<
  Assessment,
  'waiting' | 'ranking' | 'steps' | 'cause' | 'causeProbability' | 'parts' | 'sheet' | 'proofs'
> & { settings: Settings; now: Instant };

const next = (station: Assessment['station'], doNext: DoNext) => ({ station, doNext });

/** Which station is in work, and the one thing to do now. Nothing forces the order: this is a proposal. */
function stageOf(state: TicketState, body: Body): Pick<Assessment, 'station' | 'doNext'> {
  if (state.closed) return next('done', { kind: 'closed' });
  if (state.answer?.answer === 'no')
    return next('proof', state.handedOverAt ? { kind: 'close', outcome: 'declined' } : { kind: 'hand-over' });
  if (!state.cause) {
    const told =
      state.findings.some((finding) => finding.answer === 'yes') || state.codes.length > 0 || state.checks.length > 0;
    if (!told) return next('findings', { kind: 'note-findings' });
    const best = body.steps[0];
    if (best?.kind === 'check' && body.causeProbability < body.settings.enoughCertainty)
      return next('findings', { kind: 'step', step: best });
    return next(
      'findings',
      body.cause
        ? { kind: 'decide-cause', causeId: body.cause.id, probability: body.causeProbability }
        : { kind: 'note-findings' },
    );
  }
  const needsParts = body.parts !== null && (body.parts.main !== null || body.parts.companions.length > 0);
  if (needsParts && state.partsFor !== state.cause.causeId)
    return next('part', { kind: 'choose-part', causeId: state.cause.causeId });
  if (!state.quoted) return next('worth', { kind: 'offer-quote' });
  if (!state.answer || state.answer.answer === 'thinking') return next('worth', { kind: 'ring-customer' });
  const open = unordered(state);
  if (open.length > 0) return next('order', { kind: 'order-parts', count: open.length });
  const coming = awaited(state);
  if (coming.length > 0)
    return next('order', { kind: 'await-parts', dueOn: body.waiting.for === 'parts' ? body.waiting.dueOn : null });
  if (!state.benchFinishedAt) return next('bench', benchStep(body));
  const failedOrOpen = body.proofs.find((entry) => entry.passed !== true);
  if (failedOrOpen) return next('proof', { kind: 'prove', proof: failedOrOpen.proof });
  if (!state.readyToldAt) return next('proof', { kind: 'tell-ready' });
  return next('proof', state.handedOverAt ? { kind: 'close', outcome: 'repaired' } : { kind: 'hand-over' });
}

function benchStep(body: Body): DoNext {
  const step = body.sheet?.sections
    .flatMap((section) => section.steps)
    .find((entry) => entry.key === body.sheet?.nextKey);
  if (body.sheet?.waitUntil && body.sheet.waitUntil > body.now)
    return { kind: 'wait-cure', until: body.sheet.waitUntil };
  return step ? { kind: 'work', key: step.key, title: step.title, minutes: step.minutes } : { kind: 'finish-bench' };
}

function readyOn(
  state: TicketState,
  options: readonly RepairOption[],
  sheet: WorkSheet | null,
  today: LocalDate,
  zone: string,
): LocalDate | null {
  if (state.readyToldAt) return localDateOf(state.readyToldAt, zone);
  if (state.benchFinishedAt) return today;
  const chosen = options.find((option) => option.id === state.answer?.optionId) ?? options[0];
  if (!chosen) return null;
  const coming = awaited(state);
  if (state.parts.length > 0 && unordered(state).length === 0) {
    const wait = Math.ceil(chosen.plan.elapsedHours / 24);
    const due = coming
      .map((part) => state.progress[part.requirementId]?.dueOn ?? addDays(today, 10))
      .reduce(laterOf, today);
    const cured = sheet?.waitUntil ? localDateOf(sheet.waitUntil, zone) : today;
    return laterOf(addDays(due, wait + (coming.length > 0 ? 1 : 0)), cured);
  }
  return chosen.readyOn;
}
