import { knowledgeFor, type Catalogue, type Cause } from '../catalogue';
import { buildWorkSheet, proofsFor } from '../bench';
import { nextSteps, priorsOf, rankCauses, type CauseRanking } from '../diagnose';
import { partsFor } from '../fit';
import { planWork } from '../labour';
import { causeFactor, timeFactor, type Learned } from '../learn';
import { evidenceOf, waitsFor, waitsNow, type TicketState, type Waiting } from '../ticket';
import { keyBy, localDateOf, toMajor, type Instant } from '../units';
import type { Assessment } from './assessment';
import { chosenKey } from './decisions';
import { ageOf, rangeOf, worthOf } from './estimates';
import { candidateKey, repairOptions } from './options';
import { partsOfCause, type CauseParts } from './pricing';
import type { Settings } from './settings';
import { readyOn, stageOf } from './stage';

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
  const question = { models: modelsOf(state), serial: state.serial, today, measured: state.measured };
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
  const context = { knowledge, settings, today, timeFactor: factor, done: [], chosen: chosenKey(state, cause) };
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
    doubtMatters: doubtMatters(catalogue, state, cause ? parts(cause) : null, today),
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
    ...comparables(catalogue, cause ? parts(cause) : null),
    partNumbers,
    readyOn: readyOn(state, body.options, sheet, today, settings.zone),
  };
}

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
  doubtMatters: null,
  roleProperties: [],
  partProperties: {},
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

/** Share of the probable models that must take the same number before a doubtful plate does not matter for this job. */
const SAME_ENOUGH = 0.98;

/**
 * Whether it matters for this job which of the models it is; null where the plate is settled. Each model is asked by itself: a build date that is open
 * for all of them alike is another doubt, and no better look at the model number settles it.
 */
function doubtMatters(
  catalogue: Catalogue,
  state: TicketState,
  parts: CauseParts | null,
  today: string,
): boolean | null {
  if (!state.plate || state.plate.confirmed || state.plate.others.length === 0) return null;
  if (!parts) return true;
  if (!parts.main) return false;
  const [lead] = parts.main.candidates;
  if (!lead) return true;
  const { roleId } = parts.main;
  const fits = modelsOf(state).map(({ modelId }) => {
    const models = [{ modelId, probability: 1 }];
    const answer = partsFor(catalogue, { models, roleId, serial: state.serial ?? undefined, today });
    const same = answer.candidates.filter(
      (candidate) => candidate.position === lead.position && candidateKey(candidate) === candidateKey(lead),
    );
    return Math.max(0, ...same.map(({ probability }) => probability));
  });
  return Math.min(...fits) < SAME_ENOUGH * Math.max(...fits);
}

/** What is needed to compare old and new at the bench: the properties that matter for the part's role, and those of the numbers offered. */
function comparables(
  catalogue: Catalogue,
  parts: CauseParts | null,
): Pick<Assessment, 'roleProperties' | 'partProperties'> {
  const main = parts?.main;
  if (!main) return { roleProperties: [], partProperties: {} };
  const ids = new Set(main.candidates.flatMap((candidate) => [candidate.listedPartId, candidate.part.id]));
  const partProperties: Record<string, Record<string, string>> = {};
  for (const { partId, property, value } of catalogue.part_properties)
    if (ids.has(partId)) (partProperties[partId] ??= {})[property] = value;
  return {
    roleProperties: catalogue.role_properties.filter((property) => property.roleId === main.roleId),
    partProperties,
  };
}
