import type { Catalogue, Cause, Mended, Offer, Part, Relation, ShippingMode } from '../catalogue';
import {
  compareParts,
  partsFor,
  type FitAnswer,
  type FitCandidate,
  type FitRoute,
  type Donor,
  type FitVerdict,
  type OldNumber,
  type PartProperties,
} from '../fit';
import { namedSupplier, normaliseNumber, typedPart } from '../identify';
import {
  addMoney,
  arrivalDate,
  daysBetween,
  indexOnce,
  money,
  shareOfMoney,
  sumMoney,
  timesMoney,
  toMajor,
  zeroMoney,
  type Money,
  type LocalDate,
  type PartId,
  type ModelId,
  type RoleId,
} from '../units';
import type { TicketState } from '../ticket';
import type { Settings } from './settings';

/** How a quantity would be bought: so many packs of one offer. */
export type Purchase = { offer: Offer; packs: number; cost: Money; days: number };

/** A part that is taken out of a machine kept for its parts. */
export type UsedPart = {
  donor: Pick<Donor, 'ticketId' | 'number'>;
  /** P(it is the number that is wanted, and works). */
  works: number;
  /** How long it lasts, as a share of a new one's life. */
  lifeShare: number;
  testMinutes: number;
  /** It lies on the shelf already: nothing is taken apart for it. */
  isOut: boolean;
  /** How it is tried before it is fitted. */
  test: string;
};

export type PricedCandidate = Omit<FitCandidate, 'route'> & {
  /** donor: it is taken out of a machine on the shelf. */
  route: FitRoute | 'donor';
  /** Where it is taken out of a donor. */
  used?: UsedPart;
  parts: { part: Part; quantity: number; purchase: Purchase | null }[];
  /** What buying it costs, in whole packs; null when somebody must be asked. */
  cost: Money | null;
  /** What the customer pays for it, net. */
  sellingPrice: Money | null;
  days: number | null;
  /** What a kit brings with it beside the part asked for. */
  covers: string[];
  /** Old part against this one by dimension and rating; null where there is nothing to compare. */
  comparison: FitVerdict | null;
  /** Work to make it fit, charged as labour. */
  adaptation: Money;
};

export type PricedAnswer = {
  roleId: RoleId;
  roleName: string;
  quantity: number;
  candidates: PricedCandidate[];
  /** What one piece usually costs where nobody lists it, major units; null where that is not known either. */
  usualPrice: number | null;
  /** What the number on the old part says; null where nobody read it. */
  old: OldNumber | null;
  problems: FitAnswer['problems'];
  positions: FitAnswer['positions'];
};

const offersOf = indexOnce((offer: Offer) => offer.partId);
const partsById = indexOnce((part: Part) => part.id);
const contentsOf = indexOnce((relation: Relation) => relation.fromPartId);
const propertiesByPart = indexOnce((row: Catalogue['part_properties'][number]) => row.partId);
const modesOf = indexOnce((mode: ShippingMode) => mode.supplierId);

/** Where a part is bought: in which money, and how many days from today until it is here. */
export type Market = { currency: string; arrives: (handlingDays: number, transitDays: number) => number };

/** The market of a day, by the shop's calendar of suppliers, carriers and holidays. */
export function marketOf(settings: Settings, today: LocalDate): Market {
  const known = markets.get(settings);
  if (known?.today === today) return known.market;
  const days = new Map<number, number>();
  const market: Market = {
    currency: settings.currency,
    arrives: (handlingDays, transitDays) => {
      const key = handlingDays * 1000 + transitDays;
      const found = days.get(key) ?? daysBetween(today, arrivalDate(today, { handlingDays, transitDays }, settings));
      days.set(key, found);
      return found;
    },
  };
  markets.set(settings, { today, market });
  return market;
}

const markets = new WeakMap<Settings, { today: LocalDate; market: Market }>();

/**
 * The cheapest way to buy a quantity, in whole packs: one screw does not cost a hundredth of the pack of a hundred. Of equal ones the faster. null
 * when nobody lists it in this currency or has enough.
 */
export function bestPurchase(
  catalogue: Pick<Catalogue, 'offers' | 'shipping_modes'>,
  partId: PartId,
  quantity: number,
  { currency, arrives }: Market,
): Purchase | null {
  const choices = (offersOf(catalogue.offers).get(partId) ?? [])
    .map((offer): Purchase => {
      const packs = Math.ceil(quantity / offer.packQuantity);
      const transit = (modesOf(catalogue.shipping_modes).get(offer.supplierId) ?? []).map((mode) => mode.transitDays);
      return {
        offer,
        packs,
        cost: timesMoney(offer.packPrice, packs),
        days: Math.min(...transit.map((days) => arrives(offer.handlingDays, days))),
      };
    })
    .filter(
      ({ offer, packs, days }) =>
        offer.packPrice.currency === currency && offer.stockPacks >= packs && Number.isFinite(days),
    )
    .sort((a, b) => a.cost.amountMinor - b.cost.amountMinor || a.days - b.days);
  return choices[0] ?? null;
}

/** The mark-up of the dearest tier that the purchase price reaches, else the shop's own. */
function markupOf(cost: Money, { markupTiers, partsMarkupBasisPoints }: Settings): number {
  const reached = markupTiers
    .filter(({ from }) => from.currency === cost.currency && from.amountMinor <= cost.amountMinor)
    .sort((a, b) => b.from.amountMinor - a.from.amountMinor);
  return reached[0]?.basisPoints ?? partsMarkupBasisPoints;
}

export const sellingPrice = (cost: Money, settings: Settings): Money =>
  addMoney(cost, shareOfMoney(cost, markupOf(cost, settings)));

/** What so many pieces out of the pack cost that this was bought in; whole minor units, rounded up. */
export const costOfPieces = ({ offer }: Purchase, pieces: number): Money =>
  money(Math.ceil((offer.packPrice.amountMinor * pieces) / offer.packQuantity), offer.packPrice.currency);

function price(
  catalogue: Catalogue,
  candidate: FitCandidate,
  roleId: RoleId,
  measured: PartProperties | undefined,
  old: OldNumber | null,
  settings: Settings,
  market: Market,
): PricedCandidate {
  const { currency } = market;
  const comparison = compareWithOld(catalogue, candidate, roleId, measured, old);
  const parts = candidate.buy.flatMap(({ partId, quantity }) => {
    const part = partsById(catalogue.parts).get(partId)?.[0];
    return part ? [{ part, quantity, purchase: bestPurchase(catalogue, partId, quantity, market) }] : [];
  });
  const purchases = parts.flatMap(({ purchase }) => purchase ?? []);
  const complete = purchases.length === candidate.buy.length;
  const inside = candidate.buy
    .flatMap(({ partId }) => contentsOf(catalogue.relations).get(partId) ?? [])
    .filter(({ kind }) => kind === 'contains');
  return {
    ...candidate,
    parts,
    cost: complete
      ? sumMoney(
          purchases.map(({ cost }) => cost),
          currency,
        )
      : null,
    // Marked up number by number, as the lines of the offer are.
    sellingPrice: complete
      ? sumMoney(
          purchases.map(({ cost }) => sellingPrice(cost, settings)),
          currency,
        )
      : null,
    days: complete ? Math.max(0, ...purchases.map(({ days }) => days)) : null,
    covers: inside.map((relation) => relation.toPartId),
    comparison,
    adaptation: labourFor(comparison?.workMinutes ?? 0, settings),
  };
}

const labourFor = (minutes: number, settings: Settings): Money =>
  // Hundredths of a percent of an hour, so that nothing passes through a float of money.
  shareOfMoney(settings.labourPerHour, Math.round((minutes / 60) * 10_000));

const propertiesOf = (catalogue: Catalogue, partId: PartId): PartProperties =>
  Object.fromEntries(
    (propertiesByPart(catalogue.part_properties).get(partId) ?? []).map((row) => [row.property, row.value]),
  );

/** The old part is taken for what its number says when that is as sure as this. */
const SURE_OF_OLD = 0.9;

/**
 * What the old part is: as its number says, else as listed, or as measured where somebody measured. A number along the supersessions is the maker's word and is compared only
 * with what was measured; any other number is compared in any case.
 */
function compareWithOld(
  catalogue: Catalogue,
  candidate: FitCandidate,
  roleId: RoleId,
  measured: PartProperties | undefined,
  old: OldNumber | null,
): FitVerdict | null {
  const role = catalogue.role_properties.filter((property) => property.roleId === roleId);
  if (role.length === 0 || candidate.route === 'kit' || candidate.buy.length > 1) return null;
  if (candidate.route === 'maker' && Object.keys(measured ?? {}).length === 0) return null;
  const [read] = old?.candidates ?? [];
  const known = read && read.probability >= SURE_OF_OLD ? read.part.id : candidate.listedPartId;
  const taken = { ...propertiesOf(catalogue, known), ...measured };
  const verdict = compareParts(role, taken, propertiesOf(catalogue, candidate.part.id));
  return verdict.dimensions.every((dimension) => dimension.verdict === 'unknown') ? null : verdict;
}

const DAYS_OF_A_TYPED_PART = 3;

/** A number that somebody typed: it is taken at its word, and compared in the hand. One that is listed all the same is that part. */
function typedCandidate(
  catalogue: Catalogue,
  { roleId, partNumber, piecePrice, days, supplierName }: TicketState['typed'][string],
  description: string,
  quantity: number,
  position: Cause['position'],
  settings: Settings,
  market: Market,
): PricedCandidate {
  const part = listedAs(catalogue, partNumber, roleId) ?? {
    id: typedPart(partNumber),
    partNumber,
    makerId: undefined,
    roleId,
    description,
    kind: 'maker',
    status: 'current',
  };
  const own = piecePrice?.currency === settings.currency ? piecePrice : null;
  const handlingDays = days ?? DAYS_OF_A_TYPED_PART;
  const said = own && timesMoney(own, quantity);
  const purchase =
    own && said
      ? {
          offer: {
            id: part.id,
            supplierId: namedSupplier(supplierName),
            partId: part.id,
            supplierNumber: partNumber,
            packPrice: own,
            packQuantity: 1,
            stockPacks: quantity,
            handlingDays,
          },
          packs: quantity,
          cost: said,
          days: market.arrives(handlingDays, 0),
        }
      : bestPurchase(catalogue, part.id, quantity, market);
  return {
    buy: [{ partId: part.id, quantity }],
    part,
    listedPartId: part.id,
    position,
    route: 'typed',
    probability: 1,
    reasons: [{ kind: 'typed', supplierName }],
    parts: [{ part, quantity, purchase }],
    cost: purchase && purchase.cost,
    sellingPrice: purchase && sellingPrice(purchase.cost, settings),
    days: purchase && purchase.days,
    covers: [],
    comparison: null,
    adaptation: zeroMoney(settings.currency),
  };
}

/** The part of a typed number, where some layer has it: of the role that is asked for, else of whichever. */
function listedAs({ parts }: Catalogue, number: string, roleId: RoleId): Part | null {
  const wanted = normaliseNumber(number);
  const same = parts.filter((part) => normaliseNumber(part.partNumber) === wanted);
  return same.find((part) => part.roleId === roleId) ?? same[0] ?? null;
}

export type PartQuestion = {
  models: readonly { modelId: ModelId; probability: number }[];
  serial: string | null;
  today: LocalDate;
  /** What the caliper and the meter said about the old parts, by role. */
  measured?: Readonly<Record<string, PartProperties>>;
  /** Numbers that no catalogue lists, by role. */
  typed?: TicketState['typed'];
  /** What was read on the old parts, by role. */
  oldNumbers?: TicketState['oldNumbers'];
};

/** The numbers for one role with their prices, best fit first; of equal fits the buyable and the cheaper first. */
export function pricedParts(
  catalogue: Catalogue,
  question: PartQuestion,
  roleId: RoleId,
  quantity: number,
  position: Cause['position'],
  settings: Settings,
): PricedAnswer {
  const answer = partsFor(catalogue, {
    models: question.models,
    roleId,
    position,
    ...(question.serial ? { serial: question.serial } : {}),
    today: question.today,
    sets: quantity,
    oldNumber: question.oldNumbers?.[roleId]?.text,
  });
  const market = marketOf(settings, question.today);
  const typed = question.typed?.[roleId];
  const role = catalogue.roles.find(({ id }) => id === roleId);
  const byHand = typed && typedCandidate(catalogue, typed, role?.name ?? roleId, quantity, position, settings, market);
  const candidates = [
    ...(byHand ? [byHand] : []),
    ...answer.candidates
      .filter(({ buy }) => buy.length > 1 || buy[0]?.partId !== byHand?.part.id)
      .map((candidate) =>
        price(catalogue, candidate, roleId, question.measured?.[roleId], answer.old, settings, market),
      ),
  ];
  // What does not fit comes last, then what nobody has in stock; else the order stays.
  const rank = (candidate: PricedCandidate) =>
    (candidate.comparison?.verdict === 'does-not-fit' ? 2 : 0) + (candidate.cost === null ? 1 : 0);
  const buyable = [...candidates].sort((a, b) => rank(a) - rank(b));
  return {
    roleId,
    roleName: role?.name ?? roleId,
    quantity,
    candidates: buyable,
    usualPrice: role?.usualPrice ?? null,
    old: answer.old,
    problems: answer.problems,
    positions: answer.positions,
  };
}

export type CauseParts = {
  main: PricedAnswer | null;
  companions: PricedAnswer[];
  costMajor: number;
  complete: boolean;
};

/** The part a cause needs and what goes with it. costMajor: purchase price of the first choices, major units; where nobody names a price the usual one counts, and `complete` is false. */
export function partsOfCause(
  catalogue: Catalogue,
  question: PartQuestion,
  cause: Mended,
  settings: Settings,
): CauseParts {
  const main = cause.roleId
    ? pricedParts(catalogue, question, cause.roleId, cause.sets ?? 1, cause.position, settings)
    : null;
  const companions = cause.companions.map(({ id, quantity, position = 'any' }) =>
    pricedParts(catalogue, question, id, quantity, position, settings),
  );
  const all = [...(main ? [main] : []), ...companions];
  const firsts = all.map((answer) => answer.candidates[0]?.cost ?? null);
  const usual = (answer: PricedAnswer | undefined) => (answer?.usualPrice ?? 0) * (answer?.quantity ?? 1);
  return {
    main,
    companions,
    costMajor: firsts.reduce((sum, cost, index) => sum + (cost ? toMajor(cost) : usual(all[index])), 0),
    complete: firsts.every((cost) => cost !== null),
  };
}
