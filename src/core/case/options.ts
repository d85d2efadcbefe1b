import type { Cause, Knowledge, Way } from '../catalogue';
import { planWork, type WorkPlan } from '../labour';
import { buildQuote, labourLine, reserveLine, type Quote, type QuoteLineInput, type QuoteOptionInput } from '../quote';
import { addDays, fromMajor, zeroMoney, type LocalDate, type CauseId } from '../units';
import { sellingPrice, type CauseParts, type PricedAnswer, type PricedCandidate } from './pricing';
import type { Settings } from './settings';

export type Picked = { answer: PricedAnswer; candidate: PricedCandidate; companion: boolean };

export type RepairOption = QuoteOptionInput & {
  causeIds: CauseId[];
  /** P(it mends what it is to mend), and how long that lasts as a share of a new part's life. */
  cure: number;
  lifeShare: number;
  picks: Picked[];
  plan: WorkPlan;
  /** Minutes that doing it now saves against doing it alone later; null where that is not the point. */
  savesMinutes: number | null;
};

export type OptionContext = {
  knowledge: Knowledge;
  settings: Settings;
  today: LocalDate;
  timeFactor: number;
  /** How much likelier than usual something will not come. */
  rescueFactor: number;
  /** Numbers the ticket has decided on, joined by +: they lead in place of the best fit. */
  chosen?: string | null;
};

/** How a candidate is named in a decision. */
export const candidateKey = (candidate: Pick<PricedCandidate, 'buy'>): string =>
  candidate.buy.map(({ partId }) => partId).join('+');

/** What the customer pays for a number is what is bought for it, in whole packs, with the shop's margin: card, line and order plan say the same. */
const lineOf = ({ parts }: PricedCandidate, companion: boolean, settings: Settings): QuoteLineInput[] =>
  parts.map(({ part, quantity, purchase }) => ({
    kind: companion ? 'companion' : 'part',
    description: part.description,
    partId: part.id,
    partNumber: part.partNumber,
    quantity,
    minutes: null,
    net: purchase ? sellingPrice(purchase.cost, settings) : null,
  }));

/** Until a part is here for which somebody must be asked. */
export const DAYS_TO_ASK = 10;

/** One way of doing the job: which numbers, the work, the lines, the day on which it is ready. */
function option(
  context: OptionContext,
  kind: RepairOption['kind'],
  way: Way,
  also: readonly Cause[],
  picks: readonly Picked[],
  unlisted: readonly PricedAnswer[],
): RepairOption {
  const { knowledge, settings, today } = context;
  const causes = [way.cause, ...also];
  const plan = planWork(
    knowledge.operations,
    causes.flatMap((cause) => cause.operations),
    { timeFactor: context.timeFactor, rescueFactor: context.rescueFactor },
  );
  const adapting = picks.reduce((sum, { candidate }) => sum + (candidate.comparison?.workMinutes ?? 0), 0);
  const handsOnMinutes = plan.expectedMinutes + adapting;
  const labour = labourLine(handsOnMinutes, settings.labourPerHour);
  const reserve = reserveLine(labour.net ?? zeroMoney(settings.currency), settings.reserveBasisPoints);
  const lines = [
    ...picks.flatMap(({ candidate, companion }) => lineOf(candidate, companion, settings)),
    ...unlisted.map(({ roleName, usualPrice, quantity }): QuoteLineInput => ({
      kind: 'part',
      description: roleName,
      partId: null,
      partNumber: null,
      quantity,
      minutes: null,
      net: usualPrice === null ? null : sellingPrice(fromMajor(usualPrice * quantity, settings.currency), settings),
      ...(usualPrice === null ? {} : { estimated: true }),
    })),
    labour,
    ...(reserve.net && reserve.net.amountMinor > 0 ? [reserve] : []),
  ];
  const days = Math.max(
    0,
    ...picks.map(({ candidate }) => candidate.days ?? DAYS_TO_ASK),
    unlisted.length ? DAYS_TO_ASK : 0,
  );
  const waitDays = Math.ceil(plan.elapsedHours / 24);
  return {
    id: kind === 'other-way' ? (way.fixId ?? kind) : kind,
    kind,
    causeNames: causes.map((cause) => cause.name),
    fixId: way.fixId,
    fixName: way.name,
    cure: causes.reduce((product, { cure }) => product * cure, 1),
    lifeShare: way.lifeShare,
    causeIds: causes.map((cause) => cause.id),
    lines,
    handsOnMinutes,
    readyOn: addDays(today, days + waitDays + 1),
    picks: [...picks],
    plan,
    savesMinutes: null,
  };
}

/** The numbers for a cause: the main part by `choose`, else the best; and what goes with it, unless a kit brings it. */
function picksOf(parts: CauseParts, choose: (answer: PricedAnswer) => PricedCandidate | undefined): Picked[] {
  const main = parts.main ? (choose(parts.main) ?? parts.main.candidates[0]) : undefined;
  const inKit = (answer: PricedAnswer) =>
    answer.candidates.some((candidate) =>
      [candidate.listedPartId, ...candidate.buy.map(({ partId }) => partId)].some((id) => main?.covers.includes(id)),
    );
  return [
    ...(parts.main && main ? [{ answer: parts.main, candidate: main, companion: false }] : []),
    ...parts.companions
      .filter((answer) => !inKit(answer))
      .flatMap((answer) =>
        answer.candidates[0] ? [{ answer, candidate: answer.candidates[0], companion: true }] : [],
      ),
  ];
}

/** Roles of a cause for which nobody lists a number: a line of the offer all the same. */
const unlistedOf = ({ main, companions }: CauseParts): PricedAnswer[] =>
  [...(main ? [main] : []), ...companions].filter((answer) => answer.candidates.length === 0);

/** Among candidates of less than this share of the first one's price one is offered as the cheaper way. */
const CHEAPER_SHARE = 0.9;
const CHEAPER_FITS = 0.5;

/** The repair with the part that was decided on, or fits best: what the price range and the first look need. */
export const bestOption = (context: OptionContext, way: Way, parts: CauseParts): RepairOption =>
  option(context, 'best-fit', way, [], picksOf(parts, decidedBy(context)), unlistedOf(parts));

const decidedBy = (context: OptionContext) => (answer: PricedAnswer) =>
  answer.candidates.find((candidate) => candidateKey(candidate) === context.chosen);

/** What the shop charges beside the work and the parts. */
export const chargedBy = (settings: Settings) => ({
  currency: settings.currency,
  taxBasisPoints: settings.taxBasisPoints,
  fee: settings.inspectionFee,
  feeWaivedIfRepaired: settings.feeWaivedIfRepaired,
});

/** Why a way is not among the three: this shop opens no welded tub; another is no worse in anything and better in something; or others give more for the money. */
export type WhyNot =
  | { kind: 'welded-tub' }
  | { kind: 'no-better'; than: Pick<RepairOption, 'kind' | 'causeNames' | 'fixName'> }
  | { kind: 'less-for-the-money' };

type OtherWay = { way: Way; parts: CauseParts; isDone: boolean };

const MOST_OFFERED = 3;

/**
 * Up to three ways for the customer, and those that are not among them. The first is the way decided on with the number that fits best; then the repair together with
 * the fault whose way in is shared, if doing it now saves at least a third of its own time; then what gives most mended life for its price: a cheaper number, another
 * way of mending. What another way of the same repair beats in price, day, odds and life is left out. The quote has the sums of all. O(ways²).
 */
export function repairOptions(
  context: OptionContext,
  way: Way,
  parts: CauseParts,
  second: { cause: Cause; parts: CauseParts } | null,
  others: readonly OtherWay[],
): { offered: RepairOption[]; left: { option: RepairOption; why: WhyNot }[]; quote: Quote } {
  const lead = bestOption(context, way, parts);
  const together = second ? whileOpen(context, way, parts, second, lead) : null;
  const cheaper = cheaperOption(context, way, parts);
  const rest = others.map(({ way: other, parts: its, isDone }) => ({
    isDone,
    option: option(
      context,
      'other-way',
      other,
      [],
      picksOf(its, () => undefined),
      unlistedOf(its),
    ),
  }));
  const shop = rest.filter(({ isDone }) => isDone).map((other) => other.option);
  const same = [lead, ...(cheaper ? [cheaper] : []), ...shop];
  const quote = buildQuote({
    ...chargedBy(context.settings),
    options: [
      ...same,
      ...(together ? [together] : []),
      ...rest.flatMap((other) => (other.isDone ? [] : [other.option])),
    ],
  });
  const gross = new Map(quote.options.map(({ id, gross: { amountMinor } }) => [id, amountMinor]));
  const priceOf = ({ id }: RepairOption) => gross.get(id) ?? 0;
  const beaten = (one: RepairOption) => same.find((other) => other !== one && beats(other, one, priceOf));
  const ranked = same
    .slice(1)
    .filter((one) => !beaten(one))
    .sort((a, b) => priceOf(a) / mendedLife(a) - priceOf(b) / mendedLife(b));
  const offered = [lead, ...(together ? [together] : []), ...ranked].slice(0, MOST_OFFERED);
  const left = [
    ...same.slice(1).flatMap((one) => {
      if (offered.includes(one)) return [];
      const than = beaten(one);
      return [
        { option: one, why: than ? { kind: 'no-better' as const, than } : { kind: 'less-for-the-money' as const } },
      ];
    }),
    ...rest.flatMap((other) => (other.isDone ? [] : [{ option: other.option, why: { kind: 'welded-tub' as const } }])),
  ];
  return { offered, left, quote };
}

/** How much of a new part's life one may count on. */
const mendedLife = ({ cure, lifeShare }: RepairOption): number => Math.max(0.01, cure * lifeShare);

/** No worse in price, day, odds and life, and better in one of them. */
function beats(a: RepairOption, b: RepairOption, priceOf: (option: RepairOption) => number): boolean {
  const differences = [
    priceOf(b) - priceOf(a),
    (b.readyOn ?? '') === (a.readyOn ?? '') ? 0 : (b.readyOn ?? '') > (a.readyOn ?? '') ? 1 : -1,
    a.cure - b.cure,
    a.lifeShare - b.lifeShare,
  ];
  return differences.every((by) => by >= 0) && differences.some((by) => by > 0);
}

function cheaperOption(context: OptionContext, way: Way, parts: CauseParts): RepairOption | null {
  const decided = decidedBy(context);
  const first = parts.main ? (decided(parts.main) ?? parts.main.candidates[0]) : undefined;
  const cheaper = parts.main?.candidates.find(
    (candidate) =>
      candidate !== first &&
      candidate.sellingPrice &&
      first?.sellingPrice &&
      candidate.position === first.position &&
      candidate.sellingPrice.amountMinor < CHEAPER_SHARE * first.sellingPrice.amountMinor &&
      candidate.probability >= CHEAPER_FITS &&
      candidate.comparison?.verdict !== 'does-not-fit',
  );
  if (!cheaper) return null;
  const picks = picksOf(parts, () => cheaper);
  return option(context, 'cheaper-part', way, [], picks, unlistedOf(parts));
}

/** The repair together with a second fault; null where too little of the second's time is saved. */
function whileOpen(
  context: OptionContext,
  way: Way,
  parts: CauseParts,
  second: { cause: Cause; parts: CauseParts },
  lead: RepairOption,
): RepairOption | null {
  const picks = mergePicks(
    picksOf(parts, decidedBy(context)),
    picksOf(second.parts, () => undefined),
  );
  const unlisted = [...unlistedOf(parts), ...unlistedOf(second.parts)];
  const both = option(context, 'while-open', way, [second.cause], picks, unlisted);
  const extra = both.plan.handsOnMinutes - lead.plan.handsOnMinutes;
  const alone = planWork(context.knowledge.operations, second.cause.operations, {
    timeFactor: context.timeFactor,
  }).handsOnMinutes;
  return alone > 0 && extra <= (2 / 3) * alone ? { ...both, savesMinutes: alone - extra } : null;
}

/** Two jobs share what goes with both; a part of the same role at another position is another part. */
function mergePicks(a: readonly Picked[], b: readonly Picked[]): Picked[] {
  const place = ({ answer, candidate }: Picked) => `${answer.roleId} ${candidate.position}`;
  const have = new Set(a.map(place));
  return [...a, ...b.filter((pick) => !have.has(place(pick)))];
}
