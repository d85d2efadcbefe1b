import type { Cause, Knowledge, Way } from '../catalogue';
import { planWork, readyDate, type WorkPlan } from '../labour';
import {
  buildQuote,
  carriageLine,
  labourLine,
  reserveLine,
  type Quote,
  type QuoteLineInput,
  type QuoteOptionInput,
} from '../quote';
import { fromMajor, sum, toMajor, zeroMoney, type LocalDate, type CauseId, type RoleId } from '../units';
import { costOfPieces, sellingPrice, type CauseParts, type PricedAnswer, type PricedCandidate } from './pricing';
import type { TicketState } from '../ticket';
import type { Lore } from './chapters/causes';
import type { Settings } from './settings';

export type Picked = { answer: PricedAnswer; candidate: PricedCandidate; companion: boolean };

/** What operations use up, by role: the answer for one piece. */
export type Sundries = ReadonlyMap<RoleId, PricedAnswer>;

export type RepairOption = QuoteOptionInput & {
  causeIds: CauseId[];
  /** P(it mends what it is to mend), and how long that lasts as a share of a new part's life. */
  cure: number;
  lifeShare: number;
  picks: Picked[];
  plan: WorkPlan;
  /** What the shop keeps of the parts: their prices less what they cost to buy, as far as both are known; major units. */
  partsMargin: number;
  /** Minutes that doing it now saves against doing it alone later; null where that is not the point. */
  savesMinutes: number | null;
};

export type OptionContext = {
  knowledge: Knowledge;
  settings: Settings;
  today: LocalDate;
  timeFactor: number;
  times: Lore['times'];
  /** How much likelier than usual something will not come. */
  rescueFactor: number;
  sundries: Sundries;
  carriage: TicketState['carriage'];
  /** Numbers the ticket has decided on, joined by +: they lead in place of the best fit. */
  chosen?: string | null;
};

/** How a candidate is named in a decision. */
export const candidateKey = (candidate: Pick<PricedCandidate, 'buy'>): string =>
  candidate.buy.map(({ partId }) => partId).join('+');

/** What the customer pays for a number is what is bought for it, in whole packs, with the shop's margin: card, line and order plan say the same. */
const lineOf = (
  { parts, used, sellingPrice: usedPrice }: PricedCandidate,
  companion: boolean,
  settings: Settings,
): QuoteLineInput[] =>
  parts.map(({ part, quantity, purchase }) => ({
    kind: companion ? 'companion' : 'part',
    description: part.description,
    partId: part.id,
    partNumber: part.partNumber,
    quantity,
    minutes: null,
    net: used ? usedPrice : purchase ? sellingPrice(purchase.cost, settings) : null,
    ...(used ? { usedFrom: used.donor.number } : {}),
  }));

/** Until a part is here for which somebody must be asked. */
export const DAYS_TO_ASK = 10;

/** What is kept on the shelf and taken by the piece: what operations use up, but for what this shop does not keep. */
export const isKept = ({ sundries, settings }: Pick<OptionContext, 'sundries' | 'settings'>, roleId: RoleId): boolean =>
  sundries.has(roleId) && !settings.lackingStock.includes(roleId);

/**
 * Sundries of a job: what goes with its parts and what its operations use up, joined. Kept ones are lines by the piece; what this shop does not keep is bought as a
 * part. `picks`: what remains to be bought.
 */
function sundriesOf(
  context: OptionContext,
  plan: WorkPlan,
  causes: readonly Cause[],
  ownPicks: readonly Picked[],
): { lines: QuoteLineInput[]; picks: Picked[]; cost: number } {
  const { sundries, settings } = context;
  const picks = ownPicks.filter(({ answer, companion }) => !companion || !isKept(context, answer.roleId));
  const lines: QuoteLineInput[] = [];
  let cost = 0;
  for (const [roleId, answer] of sundries) {
    const gone = sum(
      causes.flatMap(({ companions }) => companions.filter(({ id }) => id === roleId)).map((one) => one.quantity),
    );
    const used = plan.consumables.find(({ id }) => id === roleId)?.quantity ?? 0;
    const [candidate] = answer.candidates;
    if (!isKept(context, roleId)) {
      // What goes with the part is bought already; a quantity beyond it is rare, and bought with it.
      if (used <= 0 || gone > 0 || !candidate) continue;
      const parts = candidate.parts.map((part) => ({ ...part, quantity: part.quantity * used }));
      picks.push({ answer: { ...answer, quantity: used }, candidate: { ...candidate, parts }, companion: true });
      continue;
    }
    const quantity = Math.max(gone, used);
    if (quantity <= 0) continue;
    const purchase = candidate?.parts[0]?.purchase ?? null;
    const usual = answer.usualPrice === null ? null : fromMajor(answer.usualPrice * quantity, settings.currency);
    const paid = purchase ? costOfPieces(purchase, quantity) : usual;
    cost += paid ? toMajor(paid) : 0;
    lines.push({
      kind: 'sundry',
      description: answer.roleName,
      partId: candidate?.part.id ?? null,
      partNumber: candidate?.part.partNumber ?? null,
      quantity,
      minutes: null,
      net: paid && sellingPrice(paid, settings),
      ...(purchase ? {} : { estimated: true }),
    });
  }
  return { lines, picks, cost };
}

/** One way of doing the job: which numbers, the work, the lines, the day on which it is ready. */
function option(
  context: OptionContext,
  kind: RepairOption['kind'],
  way: Way,
  also: readonly Cause[],
  ownPicks: readonly Picked[],
  unlisted: readonly PricedAnswer[],
): RepairOption {
  const { knowledge, settings, today } = context;
  const causes = [way.cause, ...also];
  const plan = planWork(
    knowledge.operations,
    causes.flatMap((cause) => cause.operations),
    { timeFactor: context.timeFactor, times: context.times, rescueFactor: context.rescueFactor },
  );
  const sundries = sundriesOf(context, plan, causes, ownPicks);
  const { picks } = sundries;
  const adapting = sum(picks.map(({ candidate }) => candidate.comparison?.workMinutes ?? 0));
  const handsOnMinutes = plan.expectedMinutes + adapting;
  const used = picks.flatMap(({ candidate }) => candidate.used ?? []);
  const cure = [...causes.map((cause) => cause.cure), ...used.map(({ works }) => works)].reduce((a, b) => a * b, 1);
  // Taking a part out of a donor is the way in without the way back, and its test; what lies on the shelf is out already.
  const takenOut = sum(
    used.map(({ testMinutes, isOut }) => testMinutes + (isOut ? 0 : sum(plan.strip.map(({ minutes }) => minutes)))),
  );
  const labour = labourLine(handsOnMinutes, settings.labourPerHour);
  const reserve = reserveLine(labour.net ?? zeroMoney(settings.currency), callBackBasisPoints(cure, settings));
  const partLines = [
    ...picks.flatMap(({ candidate, companion }) => lineOf(candidate, companion, settings)),
    ...sundries.lines,
  ];
  const lines = [
    ...partLines,
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
  const paid =
    sundries.cost +
    sum(picks.map(({ candidate: { cost } }) => (cost ? toMajor(cost) : 0))) +
    (takenOut / 60) * toMajor(settings.labourPerHour);
  return {
    id: idOf(kind, way),
    kind,
    causeNames: causes.map((cause) => cause.name),
    fixId: way.fixId,
    fixName: way.name,
    cure,
    lifeShare: used.reduce((share, one) => share * one.lifeShare, way.lifeShare),
    causeIds: causes.map((cause) => cause.id),
    lines,
    handsOnMinutes,
    readyOn: readyDate(
      today,
      { partDays: days, handsOnMinutes: handsOnMinutes + takenOut, elapsedHours: plan.elapsedHours },
      settings,
    ),
    picks,
    plan,
    partsMargin: sum(partLines.map(({ net }) => (net ? toMajor(net) : 0))) - paid,
    savesMinutes: null,
  };
}

/** One of a kind by itself, but for those of which each way of mending has its own. */
function idOf(kind: RepairOption['kind'], { fixId }: Way): string {
  if (kind === 'other-way') return fixId ?? kind;
  return kind === 'used-part' && fixId !== null ? `${kind} ${fixId}` : kind;
}

/** Work that comes back is done for nothing: of the labour, the chance that the mend does not hold, up to what the shop puts aside at most. */
export const callBackBasisPoints = (cure: number, { reserveBasisPoints }: Settings): number =>
  Math.min(reserveBasisPoints, Math.round((1 - cure) * 10_000));

/** The numbers for a cause: the main part by `choose`, else the best; and what goes with it, unless a kit brings it. */
/** What goes with the main part and is not in it already: a kit brings its own. */
export const companionsOf = ({ companions }: CauseParts, main: PricedCandidate | undefined): PricedAnswer[] =>
  companions.filter(
    ({ candidates }) =>
      !candidates.some((candidate) =>
        [candidate.listedPartId, ...candidate.buy.map(({ partId }) => partId)].some((id) => main?.covers.includes(id)),
      ),
  );

function picksOf(parts: CauseParts, choose: (answer: PricedAnswer) => PricedCandidate | undefined): Picked[] {
  const main = parts.main ? (choose(parts.main) ?? parts.main.candidates[0]) : undefined;
  return [
    ...(parts.main && main ? [{ answer: parts.main, candidate: main, companion: false }] : []),
    ...companionsOf(parts, main).flatMap((answer) =>
      answer.candidates[0] ? [{ answer, candidate: answer.candidates[0], companion: true }] : [],
    ),
  ];
}

/** The numbers to decide on with this one for the main part: it and what goes with it, but for what is kept and taken by the piece. */
export const picksToDecide = (
  parts: CauseParts,
  main: PricedCandidate | undefined,
  kept: readonly RoleId[],
): Picked[] =>
  picksOf(parts, () => main).filter(({ answer, companion }) => !companion || !kept.includes(answer.roleId));

/** Roles of a cause for which nobody lists a number: a line of the offer all the same, but for what is kept on the shelf. */
const unlistedOf = (context: OptionContext, { main, companions }: CauseParts): PricedAnswer[] =>
  [...(main ? [main] : []), ...companions.filter(({ roleId }) => !isKept(context, roleId))].filter(
    (answer) => answer.candidates.length === 0,
  );

/** Among candidates of less than this share of the first one's price one is offered as the cheaper way. */
const CHEAPER_SHARE = 0.9;
const CHEAPER_FITS = 0.5;

/** The repair with the part that was decided on, or fits best: what the price range and the first look need. */
export const bestOption = (context: OptionContext, way: Way, parts: CauseParts): RepairOption =>
  option(context, 'best-fit', way, [], picksOf(parts, decidedBy(context)), unlistedOf(context, parts));

const decidedBy = (context: OptionContext) => (answer: PricedAnswer) =>
  answer.candidates.find((candidate) => candidateKey(candidate) === context.chosen);

/** What the shop charges beside the work and the parts. */
export const chargedBy = (settings: Settings, { collect, bringBack }: TicketState['carriage']) => ({
  currency: settings.currency,
  taxBasisPoints: settings.taxBasisPoints,
  taxStyle: settings.taxStyle,
  labourTaxBasisPoints: settings.labourTaxBasisPoints,
  depositBasisPoints: settings.depositBasisPoints,
  fee: settings.inspectionFee,
  feeWaivedIfRepaired: settings.feeWaivedIfRepaired,
  extras: [
    ...(collect && settings.collectionFee ? [carriageLine('collection', settings.collectionFee)] : []),
    ...(bringBack && settings.deliveryFee ? [carriageLine('delivery', settings.deliveryFee)] : []),
  ],
});

/** Why a way is not among the three: this shop opens no welded tub; another is no worse in anything and better in something; or others give more for the money. */
export type WhyNot =
  | { kind: 'welded-tub' }
  | { kind: 'no-better'; than: Pick<RepairOption, 'kind' | 'causeNames' | 'fixName'> }
  | { kind: 'less-for-the-money' };

type OtherWay = { way: Way; parts: CauseParts; isDone: boolean };

/** The wanted part out of a machine on the shelf; null where none carries it. */
export type FindUsed = (answer: PricedAnswer) => PricedCandidate | null;

const MOST_OFFERED = 3;

/** A second fault on the same machine. `decided`: it is mended with the first because somebody said so. */
type Second = { cause: Cause; parts: CauseParts; decided: boolean };

/**
 * Up to three ways for the customer, and those that are not among them. The first is the way decided on with the number that fits best; then the repair together with
 * the fault whose way in is shared, if doing it now saves at least a third of its own time or it was settled with the first; then what gives most mended life for its price: a cheaper number, another
 * way of mending. What another way of the same repair beats in price, day, odds and life is left out. The quote has the sums of all. O(ways²).
 */
export function repairOptions(
  context: OptionContext,
  way: Way,
  parts: CauseParts,
  second: Second | null,
  others: readonly OtherWay[],
  findUsed: FindUsed = () => null,
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
      unlistedOf(context, its),
    ),
  }));
  const shop = rest.filter(({ isDone }) => isDone).map((other) => other.option);
  const used = [{ way, parts, isDone: true }, ...others].flatMap((one) =>
    one.isDone ? (usedOption(context, one.way, one.parts, findUsed) ?? []) : [],
  );
  const same = [lead, ...(cheaper ? [cheaper] : []), ...shop, ...used];
  const quote = buildQuote({
    ...chargedBy(context.settings, context.carriage),
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
  return option(context, 'cheaper-part', way, [], picks, unlistedOf(context, parts));
}

/** The same way with the main part out of a donor. */
function usedOption(context: OptionContext, way: Way, parts: CauseParts, findUsed: FindUsed): RepairOption | null {
  const used = parts.main && findUsed(parts.main);
  if (!used) return null;
  const picks = picksOf(parts, () => used);
  return option(context, 'used-part', way, [], picks, unlistedOf(context, parts));
}

/** The repair together with a second job on the same machine. */
export function withAnother(
  context: OptionContext,
  way: Way,
  parts: CauseParts,
  second: Omit<Second, 'decided'>,
): RepairOption {
  const picks = mergePicks(
    picksOf(parts, decidedBy(context)),
    picksOf(second.parts, () => undefined),
  );
  return option(context, 'while-open', way, [second.cause], picks, [
    ...unlistedOf(context, parts),
    ...unlistedOf(context, second.parts),
  ]);
}

/** The repair together with a second fault; null where too little of the second's time is saved, unless it is settled that both are broken. */
function whileOpen(
  context: OptionContext,
  way: Way,
  parts: CauseParts,
  second: Second,
  lead: RepairOption,
): RepairOption | null {
  const both = withAnother(context, way, parts, second);
  const extra = both.plan.handsOnMinutes - lead.plan.handsOnMinutes;
  const alone = planWork(context.knowledge.operations, second.cause.operations, {
    timeFactor: context.timeFactor,
    times: context.times,
  }).handsOnMinutes;
  return second.decided || (alone > 0 && extra <= (2 / 3) * alone) ? { ...both, savesMinutes: alone - extra } : null;
}

/** Two jobs share what goes with both; a part of the same role at another position is another part. */
function mergePicks(a: readonly Picked[], b: readonly Picked[]): Picked[] {
  const place = ({ answer, candidate }: Picked) => `${answer.roleId} ${candidate.position}`;
  const have = new Set(a.map(place));
  return [...a, ...b.filter((pick) => !have.has(place(pick)))];
}
