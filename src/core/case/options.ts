import type { Cause, Knowledge } from '../catalogue';
import { planWork, type WorkPlan } from '../labour';
import { buildQuote, labourLine, reserveLine, type Quote, type QuoteLineInput, type QuoteOptionInput } from '../quote';
import { addDays, fromMajor, zeroMoney, type LocalDate, type CauseId } from '../units';
import { sellingPrice, type CauseParts, type PricedAnswer, type PricedCandidate } from './pricing';
import type { Settings } from './settings';

export type Picked = { answer: PricedAnswer; candidate: PricedCandidate; companion: boolean };

export type RepairOption = QuoteOptionInput & {
  causeIds: CauseId[];
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
  causes: readonly Cause[],
  picks: readonly Picked[],
  unlisted: readonly PricedAnswer[],
): RepairOption {
  const { knowledge, settings, today } = context;
  const plan = planWork(
    knowledge.operations,
    causes.flatMap((cause) => cause.operations),
    { timeFactor: context.timeFactor },
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
    id: kind,
    kind,
    causeNames: causes.map((cause) => cause.name),
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
export const bestOption = (context: OptionContext, cause: Cause, parts: CauseParts): RepairOption =>
  option(context, 'best-fit', [cause], picksOf(parts, decidedBy(context)), unlistedOf(parts));

const decidedBy = (context: OptionContext) => (answer: PricedAnswer) =>
  answer.candidates.find((candidate) => candidateKey(candidate) === context.chosen);

/**
 * Up to three ways for the customer: the repair with the part that fits best; the cheaper number if there is one; and the repair together with the
 * next likely fault whose way in is shared, if doing it now saves at least a third of its own time.
 */
export function repairOptions(
  context: OptionContext,
  cause: Cause,
  parts: CauseParts,
  second: { cause: Cause; parts: CauseParts } | null,
): { options: RepairOption[]; quote: Quote } {
  const { settings } = context;
  const decided = decidedBy(context);
  const options = [bestOption(context, cause, parts)];
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
  if (cheaper)
    options.push(
      option(
        context,
        'cheaper-part',
        [cause],
        picksOf(parts, () => cheaper),
        unlistedOf(parts),
      ),
    );
  if (second) {
    const both = option(
      context,
      'while-open',
      [cause, second.cause],
      mergePicks(
        picksOf(parts, decided),
        picksOf(second.parts, () => undefined),
      ),
      [...unlistedOf(parts), ...unlistedOf(second.parts)],
    );
    const extra = both.plan.handsOnMinutes - (options[0]?.plan.handsOnMinutes ?? 0);
    const alone = planWork(context.knowledge.operations, second.cause.operations, {
      timeFactor: context.timeFactor,
    }).handsOnMinutes;
    if (alone > 0 && extra <= (2 / 3) * alone) options.push({ ...both, savesMinutes: alone - extra });
  }
  const quote = buildQuote({
    currency: settings.currency,
    taxBasisPoints: settings.taxBasisPoints,
    fee: settings.inspectionFee,
    feeWaivedIfRepaired: settings.feeWaivedIfRepaired,
    options,
  });
  return { options, quote };
}

/** Two jobs share what goes with both; a part of the same role at another position is another part. */
function mergePicks(a: readonly Picked[], b: readonly Picked[]): Picked[] {
  const place = ({ answer, candidate }: Picked) => `${answer.roleId} ${candidate.position}`;
  const have = new Set(a.map(place));
  return [...a, ...b.filter((pick) => !have.has(place(pick)))];
}
