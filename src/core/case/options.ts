import type { Cause, Knowledge } from '../catalogue';
import { planWork, type WorkPlan } from '../labour';
import { buildQuote, labourLine, reserveOf, type Quote, type QuoteLineInput, type QuoteOptionInput } from '../quote';
import { addDays, sumMoney, type LocalDate } from '../units';
import { sellingPrice, type CauseParts, type PricedAnswer, type PricedCandidate } from './pricing';
import type { Settings } from './settings';

export type RepairOption = QuoteOptionInput & {
  causeIds: string[];
  picks: { answer: PricedAnswer; candidate: PricedCandidate; companion: boolean }[];
  plan: WorkPlan;
  complete: boolean;
};

export type OptionContext = {
  knowledge: Knowledge;
  settings: Settings;
  today: LocalDate;
  timeFactor: number;
  done: readonly string[];
  /** Numbers the ticket has decided on, joined by +: they lead in place of the best fit. */
  chosen?: string | null;
};

/** How a candidate is named in a decision. */
export const candidateKey = (candidate: Pick<PricedCandidate, 'buy'>): string =>
  candidate.buy.map(({ partId }) => partId).join('+');

function lineOf(candidate: PricedCandidate, companion: boolean, settings: Settings): QuoteLineInput[] {
  return candidate.parts.flatMap(({ part, quantity, offer }): QuoteLineInput[] =>
    offer
      ? [
          {
            kind: companion ? 'companion' : 'part',
            text: part.description,
            partId: part.id,
            partNumber: part.partNumber,
            quantity,
            unit: sellingPrice(perUnit(offer.price, offer.packQuantity), settings),
          },
        ]
      : [],
  );
}

const perUnit = (price: { amountMinor: number; currency: string }, pack: number) => ({
  amountMinor: Math.ceil(price.amountMinor / pack),
  currency: price.currency,
});

/** One way of doing the job: which numbers, the work, the lines, the day on which it is ready. */
function option(
  context: OptionContext,
  id: string,
  title: string,
  causes: readonly Cause[],
  picks: RepairOption['picks'],
  complete: boolean,
  notes: readonly string[],
): RepairOption {
  const { knowledge, settings, today } = context;
  const plan = planWork(
    knowledge.operations,
    causes.flatMap((cause) => cause.operations),
    { timeFactor: context.timeFactor, done: context.done },
  );
  const parts = picks.flatMap(({ candidate, companion }) => lineOf(candidate, companion, settings));
  const adapting = picks.reduce((sum, { candidate }) => sum + (candidate.comparison?.workMinutes ?? 0), 0);
  const handsOnMinutes = plan.expectedMinutes + adapting;
  const labour = labourLine(handsOnMinutes, settings.labourPerHour);
  const reserve = reserveOf(sumMoney([labour.unit], settings.currency), settings.reserveShare);
  const lines = [
    ...parts,
    labour,
    ...(reserve.amountMinor > 0
      ? [
          {
            kind: 'reserve' as const,
            text: 'Guarantee on the work',
            partId: null,
            partNumber: null,
            quantity: 1,
            unit: reserve,
          },
        ]
      : []),
  ];
  const days = Math.max(0, ...picks.map(({ candidate }) => candidate.days ?? 10));
  const waitDays = Math.ceil(plan.elapsedHours / 24);
  return {
    id,
    title,
    lines,
    handsOnMinutes,
    readyOn: addDays(today, days + waitDays + 1),
    notes: [...notes],
    causeIds: causes.map((cause) => cause.id),
    picks,
    plan,
    complete,
  };
}

const firsts = (
  parts: CauseParts,
  route?: (answer: PricedAnswer) => PricedCandidate | undefined,
): RepairOption['picks'] => {
  const companionPick = (answer: PricedAnswer) => {
    const candidate = answer.candidates[0];
    return candidate ? [{ answer, candidate, companion: true }] : [];
  };
  const main = parts.main ? (route?.(parts.main) ?? parts.main.candidates[0]) : undefined;
  const inKit = (answer: PricedAnswer) =>
    answer.candidates.some((candidate) =>
      [candidate.listedPartId, ...candidate.buy.map(({ partId }) => partId)].some((id) => main?.covers.includes(id)),
    );
  return [
    ...(parts.main && main ? [{ answer: parts.main, candidate: main, companion: false }] : []),
    ...parts.companions.filter((answer) => !inKit(answer)).flatMap(companionPick),
  ];
};

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
  const decided = (answer: PricedAnswer) =>
    answer.candidates.find((candidate) => candidateKey(candidate) === context.chosen);
  const best = option(context, 'best-fit', cause.name, [cause], firsts(parts, decided), parts.complete, []);
  const options = [best];
  const first = parts.main ? (decided(parts.main) ?? parts.main.candidates[0]) : undefined;
  const cheaper = parts.main?.candidates.find(
    (candidate) =>
      candidate !== first &&
      candidate.price &&
      first?.price &&
      candidate.price.amountMinor < 0.9 * first.price.amountMinor &&
      candidate.probability >= 0.5 &&
      candidate.comparison?.verdict !== 'does-not-fit',
  );
  if (cheaper)
    options.push(
      option(
        context,
        'cheaper-part',
        `${cause.name}, cheaper part`,
        [cause],
        firsts(parts, () => cheaper),
        parts.complete,
        [`route:${cheaper.route}`],
      ),
    );
  if (second) {
    const both = option(
      context,
      'while-open',
      `${cause.name}, and ${second.cause.name.toLowerCase()} while it is open`,
      [cause, second.cause],
      mergePicks(firsts(parts, decided), firsts(second.parts)),
      parts.complete && second.parts.complete,
      [],
    );
    const extra = both.plan.handsOnMinutes - best.plan.handsOnMinutes;
    const alone = planWork(context.knowledge.operations, second.cause.operations, {
      timeFactor: context.timeFactor,
    }).handsOnMinutes;
    if (alone > 0 && extra <= (2 / 3) * alone) options.push({ ...both, notes: [`saves:${Math.round(alone - extra)}`] });
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

function mergePicks(a: RepairOption['picks'], b: RepairOption['picks']): RepairOption['picks'] {
  const have = new Set(a.map(({ answer }) => answer.roleId));
  return [...a, ...b.filter(({ answer }) => !have.has(answer.roleId))];
}
