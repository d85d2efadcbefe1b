import type { StockState } from '../stock';
import type { Catalogue, Cause, Way } from '../catalogue';
import type { CauseRanking } from '../diagnose';
import type { Donor } from '../fit';
import { queueOf } from '../labour';
import type { Learned } from '../learn';
import { acceptedOption, cureOf, evidenceOf, fixIdOf, needsOf, tookApart, type TicketState } from '../ticket';
import { daysBetween, localDateOf, toMajor, type Instant, type LocalDate } from '../units';
import type { Assessment, CausesShown, LoreShown } from './assessment';
import type { Run } from './chapter';
import { alongChapter } from './chapters/along';
import { benchChapter } from './chapters/bench';
import { causesChapter, loreChapter, priorsChapter, shownRanking, tellingChapter, type Lore } from './chapters/causes';
import { conditionIds, conditionsChapter } from './chapters/conditions';
import { choicesChapter } from './chapters/choices';
import {
  broughtBy,
  jobIn,
  jobsChapter,
  likelyCases,
  numbersChapter,
  offerChapter,
  rangeChapter,
  sundriesChapter,
  type OfferMade,
} from './chapters/jobs';
import { ageChapter, machineChapter } from './chapters/machine';
import { lookChapter } from './chapters/look';
import { marketChapter } from './chapters/market';
import { nearbyChapter, worthDoing } from './chapters/nearby';
import { nextChapter } from './chapters/next';
import { payersChapter } from './chapters/payers';
import { chosenParts, partChapter } from './chapters/part';
import { barredChapter, doableChapter, stepsChapter } from './chapters/steps';
import { whyChapter } from './chapters/why';
import { madeOf, pathsChapter, type CasePrice } from './chapters/paths';
import { agesOf, owningChapter, tipsChapter, worthChapter } from './chapters/worth';
import { chosenKey } from './drafts';
import { isKept } from './options';
import { roomOf, type Settings } from './settings';

/** `shipped`: whether a row is what ships with the application and nobody's own word; all are somebody's where it is missing. */
export type World = {
  catalogue: Catalogue;
  settings: Settings;
  learned: Learned;
  shipped?: (row: object) => boolean;
  /** Machines on the shelf that are kept for their parts. */
  donors?: readonly Donor[];
  /** Lots on the shelf, as this ticket sees them. */
  lots?: readonly StockState[];
  /** Hands-on minutes that the bench owes to other machines. */
  waitingMinutes?: number;
};

const NO_DONORS: readonly Donor[] = [];
const NO_LOTS: readonly StockState[] = [];
const OWN_WORD = () => false;

/** All that follows from what is known about a ticket: the table of contents, and the only file that knows all chapters. Pure: same question, same answer. */
export function compose(run: Run, world: World, state: TicketState, now: Instant): Assessment {
  const { catalogue, learned, shipped = OWN_WORD, donors = NO_DONORS, lots = NO_LOTS, waitingMinutes = 0 } = world;
  const settings = settingsFor(world.settings, state, waitingMinutes);
  const { models, platforms, serial_schemes, economics, lives, routes } = catalogue;
  const { plate, plateNotListed, kind, relative, serial, boughtOn, guessedYears, measured, typed, oldNumbers } = state;
  const { round, carriage } = state;
  const today = localDateOf(now, settings.zone);
  const nobody = { steps: [], lead: null, probabilityOf: () => 0, bench: null, options: [], part: null, tips: null };
  const { designs, kind_questions, kind_answers, kind_likelihoods } = catalogue;
  const seen = { designs, kind_questions, kind_answers, kind_likelihoods };
  const machine = run(machineChapter, { models, platforms, ...seen, plate, plateNotListed, kind, relative, today });
  if (!machine) return { kind: 'unread', next: run(nextChapter, { state, settings, now, ...nobody }) };
  const { model, platform, candidates } = machine;
  const listed = machine.designs.length === 0;
  const age = run(ageChapter, { serial_schemes, model, listed, serial, boughtOn, guessedYears, today });
  const { lackingTools } = settings;
  const lore = run(loreChapter, {
    catalogue,
    platform,
    designs: machine.designs,
    learned,
    lackingTools,
    room: roomOf(settings),
  });
  const evidence = evidenceOf(state);
  const ageYears = age.years;
  const priors = run(priorsChapter, { lore, lives, platform, ageYears });
  const ranking = run(causesChapter, { lore, priors, evidence });
  const telling = run(tellingChapter, { lore, priors, evidence, findings: state.findings });
  const numbers = run(numbersChapter, {
    catalogue,
    lore,
    settings,
    models: candidates,
    serial,
    measured,
    typed,
    oldNumbers,
    today,
  });
  const conditions = run(conditionsChapter, { lore, ids: conditionIds(lore, evidence) });
  const { rescues } = conditions;
  const sundries = run(sundriesChapter, { catalogue, lore, settings, models: candidates, today });
  const priced = { lore, platform, numbers, sundries, carriage, settings, today, rescues };
  const jobs = run(jobsChapter, priced);
  const fixId = fixIdOf(round);
  const lead = leadOf(ranking, lore, round.cause?.causeId ?? null);
  const accepted = acceptedOption(round);
  const job = lead && jobIn(jobs, lead.id, fixId, accepted !== null);
  const cause = job?.way.cause ?? null;
  const parts = (cause && numbers.get(cause)) ?? null;
  const kept = (parts?.companions ?? []).map(({ roleId }) => roleId).filter((id) => isKept({ sundries, settings }, id));
  const decided = chosenParts(round);
  const part = run(partChapter, { catalogue, machine, parts, kept, serial, today, oldNumbers, chosen: decided });
  const range = run(rangeChapter, { ranking, jobs });
  const market = run(marketChapter, { economics, platform, shipped });
  const owned = {
    economics,
    lives: lore.lives,
    platform,
    settings,
    ageYears: age.years,
    causeId: settings.repairModel === 'renewal' ? (cause?.id ?? null) : null,
    lifeShare: settings.repairModel === 'renewal' ? (job?.way.lifeShare ?? 1) : 1,
    designs: machine.designs,
    ages: agesOf(age, listed),
    conditions: conditions.seen,
    used: routes.find(({ kind: route }) => route === 'used-machine') ?? null,
  };
  const owning = run(owningChapter, owned);
  const nearby = run(nearbyChapter, {
    ...priced,
    jobs,
    job,
    owning,
    ageYears,
    conditions: conditions.seen,
    lives: lore.lives,
  });
  const second =
    cause && (causeOf(lore, round.also) ?? broughtBy(ranking, cause) ?? worthDoing(nearby, lore.knowledge.causes));
  const chosen = chosenKey(state, cause);
  const offer =
    job && run(offerChapter, { ...priced, catalogue, donors, lots, jobs, job, second, also: round.also, chosen });
  const cases = casePrices(state, offer, job?.waitDays ?? 0, today) ?? likelyCases(ranking, jobs);
  const quotes = cases.map(({ gross, days, probability }) => ({ quote: gross, days, probability }));
  const waiting = { newDays: market?.economics.daysToReplace ?? 0, perDay: toMajor(settings.latePerDay) };
  const worth = run(worthChapter, { owning, quotes, waiting });
  const isOpen = round.cause !== null && accepted === null;
  const choices = run(choicesChapter, {
    offer: isOpen ? offer : null,
    owning,
    waiting,
    cause,
    causes: lore.knowledge.causes,
    platform,
    conditions: conditions.seen,
    settings,
    today,
    lives: lore.lives,
  });
  const tips = run(tipsChapter, { question: owned, quotes, waiting });
  const paths = run(pathsChapter, { owning, cases, routes, economics: market?.economics ?? null, settings });
  const open = tookApart(round.ticks).map(({ step }) => step.operationId);
  const worthUpTo = owning?.limit ?? null;
  const doable = run(doableChapter, { lore, jobs, settings, open });
  const steps = run(stepsChapter, { lore, priors, doable, evidence, jobs, settings, open, worthUpTo });
  const along = run(alongChapter, { ranking, jobs, suppliers: catalogue.suppliers, settings });
  const barred = run(barredChapter, { lore, evidence, open });
  const look = run(lookChapter, {
    catalogue,
    machine,
    learned,
    settings,
    jobs,
    open,
    evidence,
    steps,
    worthUpTo,
    ageYears,
  });
  const payers = run(payersChapter, {
    warranties: catalogue.warranties,
    recalls: catalogue.recalls,
    machine,
    age,
    cause: round.cause ? cause : null,
    today,
  });
  const causeIds = accepted?.causeIds ?? (cause ? [cause.id] : []);
  const why = run(whyChapter, { lore, causeId: cause?.id ?? null, wrecks: state.wrecks });
  const rootProofId = why?.told?.proofId ?? null;
  const bench = causeIds.length
    ? run(benchChapter, {
        lore,
        roles: catalogue.roles,
        platform,
        causeIds,
        fixId: job?.way.fixId ?? null,
        rescues,
        rootProofId,
        round,
        accepted,
        orderedHere: needsOf(state).every(({ supply }) => supply.missing === 0 && supply.coming === 0),
        curing: (cureOf(round)?.waitUntil ?? now) > now,
        liveBarred: barred.some((bar) => bar.kind === 'live'),
        readings: state.readings,
        pieces: state.pieces,
        photographs: state.photographs,
        settings,
      })
    : null;
  const causes = shownCauses(ranking, job?.way ?? null, round.cause !== null);
  const probabilityOf = (id: string) => ranking.causes.find(({ causeId }) => causeId === id)?.probability ?? 0;
  const options = offer?.options ?? [];
  const next = run(nextChapter, {
    state,
    settings,
    now,
    steps,
    lead: causes.lead,
    probabilityOf,
    bench,
    options,
    part,
    tips,
  });
  return {
    kind: 'weighed',
    machine,
    age,
    lore: shownLore(lore, catalogue),
    causes,
    telling,
    part,
    offer,
    range,
    market,
    conditions,
    worth,
    choices,
    tips,
    paths,
    nearby,
    payers,
    steps,
    barred,
    along,
    look,
    why,
    bench,
    next,
  };
}

const causeOf = ({ knowledge }: Pick<Lore, 'knowledge'>, id: string | null): Cause | null =>
  knowledge.causes.find((cause) => cause.id === id) ?? null;

/** The cause that was decided, else the likeliest of those that the knowledge lists. */
function leadOf(ranking: CauseRanking, { knowledge }: Lore, decided: string | null): Cause | null {
  if (decided !== null) return causeOf({ knowledge }, decided);
  return ranking.causes.find((entry) => entry.cause !== null)?.cause ?? null;
}

/** What the customer pays, as accepted, else as it would be offered for the cause that was settled; null while that is open. */
function casePrices(
  { round }: TicketState,
  offer: OfferMade | null,
  partDays: number,
  today: LocalDate,
): CasePrice[] | null {
  const option = acceptedOption(round) ?? (round.cause ? offer?.quote.options[0] : undefined);
  if (!option) return null;
  const { partsNet, hours } = madeOf(option);
  const days = option.readyOn && option.readyOn > today ? daysBetween(today, option.readyOn) : 0;
  return [{ probability: 1, gross: toMajor(option.gross), days, partDays, partsNet, hours }];
}

const ownFigures = new WeakMap<Settings, Map<string, Settings>>();

/**
 * The shop's figures, with what this customer says a day without a machine costs in the place of the shop's, and the bench taken for as long as other machines need it:
 * the same object for the same word.
 */
function settingsFor(settings: Settings, { dayWithout }: TicketState, waitingMinutes: number): Settings {
  const latePerDay = dayWithout?.currency === settings.currency ? dayWithout : settings.latePerDay;
  const queueDays = Math.max(settings.queueDays, queueOf(waitingMinutes, settings.benches));
  if (latePerDay === settings.latePerDay && queueDays === settings.queueDays) return settings;
  const said = ownFigures.get(settings) ?? new Map<string, Settings>();
  ownFigures.set(settings, said);
  const key = `${latePerDay.amountMinor} ${queueDays}`;
  const own = said.get(key) ?? { ...settings, latePerDay, queueDays };
  said.set(key, own);
  return own;
}

const rankingShown = new WeakMap<CauseRanking, Map<string, CausesShown>>();

/** The same object for the same ranking, lead and standing: the page is sent nothing that has not changed. */
function shownCauses(ranking: CauseRanking, way: Way | null, decided: boolean): CausesShown {
  const cause = way?.cause ?? null;
  const of = rankingShown.get(ranking) ?? new Map<string, CausesShown>();
  rankingShown.set(ranking, of);
  const key = `${cause?.id ?? ''} ${way?.fixId ?? ''} ${decided}`;
  const probability = ranking.causes.find((entry) => entry.causeId === cause?.id)?.probability ?? 0;
  const shown = of.get(key) ?? {
    ...shownRanking(ranking),
    lead: way ? { causeId: way.cause.id, probability, way } : null,
    decided,
  };
  of.set(key, shown);
  return shown;
}

const loreShown = new WeakMap<Lore, LoreShown>();

function shownLore(lore: Lore, { roles }: Catalogue): LoreShown {
  const { causes, fixes, findings, phrases, answerPhrases, checks, limits, codes, operations, runs, service } =
    lore.knowledge;
  const known = loreShown.get(lore) ?? {
    causes,
    fixes,
    findings,
    phrases,
    answerPhrases,
    checks,
    limits,
    codes,
    runs,
    service,
    operations: operations.map(({ id, title, refitTitle, refitMinutes }) => ({ id, title, refitTitle, refitMinutes })),
    roles,
  };
  loreShown.set(lore, known);
  return known;
}
