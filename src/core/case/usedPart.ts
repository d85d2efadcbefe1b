import type { Catalogue, Platform, Role } from '../catalogue';
import { donorsFor, type Donor, type DonorMatch } from '../fit';
import {
  shareOfMoney,
  timesMoney,
  zeroMoney,
  fromMajor,
  type LocalDate,
  type Money,
  type PartId,
  type RoleId,
} from '../units';
import type { StockState } from '../stock';
import type { PricedAnswer, PricedCandidate, UsedPart } from './pricing';
import type { Settings } from './settings';

export type UsedQuestion = {
  catalogue: Catalogue;
  donors: readonly Donor[];
  /** Lots on the shelf as the ticket sees them. */
  lots: readonly StockState[];
  platform: Platform;
  today: LocalDate;
  settings: Settings;
};

/** What the knowledge says of one taken out of a donor; null: such a part is never fitted used. */
export function usedTerms({
  usedWorks,
  usedLife,
  usedTestMinutes,
  usedTest,
}: Role): Pick<UsedPart, 'works' | 'lifeShare' | 'testMinutes' | 'test'> | null {
  if (usedWorks === undefined || usedLife === undefined) return null;
  return { works: usedWorks, lifeShare: usedLife, testMinutes: usedTestMinutes ?? 0, test: usedTest ?? '' };
}

/**
 * A wanted part out of the likeliest donor on the shelf, as a candidate beside the numbers that are sold: nothing is bought, it is here, and it is charged at the shop's
 * share of what a new one costs. null where none carries it, where more than one piece is wanted, or where the part is never fitted used. O(donors × fits of the platform).
 */
export function usedCandidate(answer: PricedAnswer, question: UsedQuestion): PricedCandidate | null {
  const { catalogue, donors, lots, platform, today, settings } = question;
  const role = catalogue.roles.find(({ id }) => id === answer.roleId);
  const terms = role && usedTerms(role);
  const [best] = answer.candidates;
  if (!terms || !best || answer.quantity > 1 || best.route === 'typed') return null;
  const listedPartIds = answer.candidates
    .filter(({ comparison }) => comparison?.verdict !== 'does-not-fit')
    .flatMap(({ listedPartId, buy }) => [listedPartId, ...(buy.length === 1 ? buy.map(({ partId }) => partId) : [])]);
  const harvested = harvestedLot(lots, answer.roleId, best.position, listedPartIds);
  if (harvested)
    return fromDonor(
      answer,
      best,
      { ...harvested, probability: 1, isOut: true },
      harvested.tried ? { ...terms, works: TRIED_WORKS, testMinutes: 0 } : terms,
      settings,
    );
  const [match] = donorsFor(catalogue, donors, {
    roleId: answer.roleId,
    position: best.position,
    listedPartIds,
    platformId: platform.id,
    today,
  });
  return match ? fromDonor(answer, best, { ...match, isOut: false }, terms, settings) : null;
}

/** Of a part that was tried when it came out, and lay on the shelf since. */
const TRIED_WORKS = 0.97;

/** The part out of a donor that lies on the shelf already: a tried one first, then the oldest. */
function harvestedLot(
  lots: readonly StockState[],
  roleId: RoleId,
  position: string,
  partIds: readonly PartId[],
): { donor: UsedPart['donor']; partId: PartId; tried: boolean } | null {
  const [lot] = lots
    .flatMap(({ origin, partId, used, free, works, since }) =>
      origin.kind === 'donor' &&
      used &&
      free > 0 &&
      partId !== null &&
      partIds.includes(partId) &&
      origin.roleId === roleId &&
      (position === 'any' || origin.position === 'any' || origin.position === position)
        ? [{ donor: { ticketId: origin.ticketId, number: origin.number }, partId, tried: works === true, since }]
        : [],
    )
    .sort((a, b) => Number(b.tried) - Number(a.tried) || (a.since < b.since ? -1 : 1));
  return lot ?? null;
}

function fromDonor(
  answer: PricedAnswer,
  best: PricedCandidate,
  { donor, probability, partId, isOut }: Pick<DonorMatch, 'probability' | 'partId'> & Pick<UsedPart, 'donor' | 'isOut'>,
  terms: NonNullable<ReturnType<typeof usedTerms>>,
  settings: Settings,
): PricedCandidate | null {
  const carried = answer.candidates.find(
    ({ listedPartId, buy }) => listedPartId === partId || buy[0]?.partId === partId,
  );
  const part = carried?.parts.find((one) => one.part.id === partId)?.part ?? carried?.part ?? best.part;
  return {
    buy: [{ partId: part.id, quantity: 1 }],
    part,
    listedPartId: carried?.listedPartId ?? best.listedPartId,
    position: best.position,
    route: 'donor',
    probability,
    reasons: [],
    parts: [{ part, quantity: 1, purchase: null }],
    cost: zeroMoney(settings.currency),
    sellingPrice: usedPrice(answer, settings),
    days: 0,
    covers: [],
    comparison: null,
    adaptation: zeroMoney(settings.currency),
    used: {
      donor: { ticketId: donor.ticketId, number: donor.number },
      ...terms,
      isOut,
      works: probability * terms.works,
    },
  };
}

/** The shop's share of what a new one costs its customer: the best of those that have a price, else the usual one; null where nobody knows any. */
export function usedPrice({ candidates, usualPrice, quantity }: PricedAnswer, settings: Settings): Money | null {
  const priced = candidates.find(({ sellingPrice }) => sellingPrice !== null)?.sellingPrice;
  const usual = usualPrice === null ? null : timesMoney(fromMajor(usualPrice, settings.currency), quantity);
  const whole = priced ?? usual;
  return whole && shareOfMoney(whole, settings.usedPartsBasisPoints);
}
