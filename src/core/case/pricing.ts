import type { Catalogue, Cause, Offer, Part } from '../catalogue';
import {
  compareParts,
  partsFor,
  type FitAnswer,
  type FitCandidate,
  type FitVerdict,
  type PartProperties,
} from '../fit';
import { addMoney, fromMajor, keyBy, shareOfMoney, timesMoney, toMajor, zeroMoney, type Money } from '../units';
import type { Settings } from './settings';

export type PricedCandidate = FitCandidate & {
  parts: { part: Part; quantity: number; offer: Offer | null }[];
  /** Cheapest purchase price together; null when somebody must be asked. */
  cost: Money | null;
  /** What the customer pays, net. */
  price: Money | null;
  days: number | null;
  /** What a kit brings with it beside the part asked for. */
  covers: string[];
  /** Old part against this one by dimension and rating; null where there is nothing to compare. */
  comparison: FitVerdict | null;
  /** Work to make it fit, charged as labour. */
  adaptation: Money;
};

export type PricedAnswer = {
  roleId: string;
  quantity: number;
  candidates: PricedCandidate[];
  problems: FitAnswer['problems'];
  positions: FitAnswer['positions'];
};

/** Cheapest offer that has enough; of equal ones the faster. null when nobody lists it or all are out of stock. */
export function bestOffer(
  catalogue: Catalogue,
  partId: string,
  quantity: number,
  currency: string,
): { offer: Offer; days: number } | null {
  const choices = catalogue.offers
    .filter(
      (offer) =>
        offer.partId === partId && offer.price.currency === currency && offer.stock * offer.packQuantity >= quantity,
    )
    .map((offer) => ({
      offer,
      days:
        offer.handlingDays +
        Math.min(
          ...catalogue.shipping_modes
            .filter((mode) => mode.supplierId === offer.supplierId)
            .map((mode) => mode.transitDays),
        ),
    }))
    .filter(({ days }) => Number.isFinite(days))
    .sort(
      (a, b) =>
        a.offer.price.amountMinor / a.offer.packQuantity - b.offer.price.amountMinor / b.offer.packQuantity ||
        a.days - b.days,
    );
  return choices[0] ?? null;
}

export const sellingPrice = (cost: Money, settings: Settings): Money =>
  addMoney(cost, shareOfMoney(cost, settings.partsMarkupBasisPoints));

function price(
  catalogue: Catalogue,
  candidate: FitCandidate,
  roleId: string,
  measured: PartProperties | undefined,
  settings: Settings,
): PricedCandidate {
  const comparison = compareWithOld(catalogue, candidate, roleId, measured);
  const byId = keyBy(catalogue.parts, (part) => part.id);
  let days: number | null = 0;
  let cost: Money | null = zeroMoney(settings.currency);
  const parts = candidate.buy.flatMap(({ partId, quantity }) => {
    const part = byId.get(partId);
    const best = bestOffer(catalogue, partId, quantity, settings.currency);
    days = best && days !== null ? Math.max(days, best.days) : null;
    cost =
      best && cost ? addMoney(cost, timesMoney(best.offer.price, Math.ceil(quantity / best.offer.packQuantity))) : null;
    return part ? [{ part, quantity, offer: best?.offer ?? null }] : [];
  });
  const inside = catalogue.relations.filter(
    (relation) => relation.kind === 'contains' && candidate.buy.some(({ partId }) => partId === relation.fromPartId),
  );
  return {
    ...candidate,
    parts,
    cost,
    price: cost ? sellingPrice(cost, settings) : null,
    days,
    covers: inside.map((relation) => relation.toPartId),
    comparison,
    adaptation: labourFor(comparison?.workMinutes ?? 0, settings),
  };
}

const labourFor = (minutes: number, settings: Settings): Money =>
  fromMajor((toMajor(settings.labourPerHour) * minutes) / 60, settings.currency);

const propertiesOf = (catalogue: Catalogue, partId: string): PartProperties =>
  Object.fromEntries(
    catalogue.part_properties.filter((row) => row.partId === partId).map((row) => [row.property, row.value]),
  );

/**
 * What the old part is: as listed, or as measured where somebody measured. A number along the supersessions is the maker's word and is compared only
 * with what was measured; any other number is compared in any case.
 */
function compareWithOld(
  catalogue: Catalogue,
  candidate: FitCandidate,
  roleId: string,
  measured: PartProperties | undefined,
): FitVerdict | null {
  const role = catalogue.role_properties.filter((property) => property.roleId === roleId);
  if (role.length === 0 || candidate.route === 'kit' || candidate.buy.length > 1) return null;
  if (candidate.route === 'maker' && Object.keys(measured ?? {}).length === 0) return null;
  const old = { ...propertiesOf(catalogue, candidate.listedPartId), ...measured };
  const verdict = compareParts(role, old, propertiesOf(catalogue, candidate.part.id));
  return verdict.dimensions.every((dimension) => dimension.verdict === 'unknown') ? null : verdict;
}

export type PartQuestion = {
  models: readonly { modelId: string; probability: number }[];
  serial: string | null;
  today: string;
  /** What the caliper and the meter said about the old parts, by role. */
  measured?: Readonly<Record<string, PartProperties>>;
};

/** The numbers for one role with their prices, best fit first; of equal fits the buyable and the cheaper first. */
export function pricedParts(
  catalogue: Catalogue,
  question: PartQuestion,
  roleId: string,
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
  });
  const scaled = answer.candidates.map((candidate) => ({
    ...candidate,
    buy: candidate.buy.map((entry) => ({ ...entry, quantity: entry.quantity * quantity })),
  }));
  const candidates = scaled.map((candidate) =>
    price(catalogue, candidate, roleId, question.measured?.[roleId], settings),
  );
  // What does not fit comes last, then what nobody has in stock; else the order stays.
  const rank = (candidate: PricedCandidate) =>
    (candidate.comparison?.verdict === 'does-not-fit' ? 2 : 0) + (candidate.cost === null ? 1 : 0);
  const buyable = [...candidates].sort((a, b) => rank(a) - rank(b));
  return { roleId, quantity, candidates: buyable, problems: answer.problems, positions: answer.positions };
}

export type CauseParts = {
  main: PricedAnswer | null;
  companions: PricedAnswer[];
  costMajor: number;
  complete: boolean;
};

/** The part a cause needs and what goes with it. costMajor: purchase price of the first choices, major units; unknown prices count 0 and `complete` is false. */
export function partsOfCause(
  catalogue: Catalogue,
  question: PartQuestion,
  cause: Cause,
  settings: Settings,
): CauseParts {
  const main = cause.roleId ? pricedParts(catalogue, question, cause.roleId, 1, cause.position, settings) : null;
  const companions = cause.companions.map(({ id, quantity }) =>
    pricedParts(catalogue, question, id, quantity, 'any', settings),
  );
  const all = [...(main ? [main] : []), ...companions];
  const firsts = all.map((answer) => answer.candidates[0]?.cost ?? null);
  return {
    main,
    companions,
    costMajor: firsts.reduce((sum, cost) => sum + (cost ? toMajor(cost) : 0), 0),
    complete: firsts.every((cost) => cost !== null),
  };
}
