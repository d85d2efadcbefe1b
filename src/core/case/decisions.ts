import type { Cause } from '../catalogue';
import type { ChosenPart, TicketEventData, TicketState } from '../ticket';
import type { Assessment } from './assessment';
import type { RepairOption } from './options';
import type { PricedAnswer, PricedCandidate } from './pricing';

type Bought = ChosenPart['buy'][number];

const boughtOf = (candidate: PricedCandidate): Bought[] =>
  candidate.parts.map(({ part, quantity, offer }) => ({
    partId: part.id,
    partNumber: part.partNumber,
    description: part.description,
    quantity,
    unitPrice: offer?.price ?? null,
  }));

/** Other single numbers that do the same: what the order plan may take instead. At most five. */
const MAX_ALTERNATIVES = 5;
/** Below this a number is not offered as equal. */
const SURE_ENOUGH = 0.85;

/**
 * What the ticket copies when an option's parts are decided: numbers, descriptions, prices of the day. A number that was split into two is
 * two requirements, each ordered and checked in by itself; only a single number has alternatives.
 */
export function partsChosen(
  option: Pick<RepairOption, 'picks'>,
  causeId: string,
): Extract<TicketEventData, { type: 'parts-chosen' }> {
  return {
    type: 'parts-chosen',
    causeId,
    parts: option.picks.flatMap(({ answer, candidate, companion }) =>
      boughtOf(candidate).map((bought, at): ChosenPart => ({
        requirementId: [answer.roleId, candidate.position, ...(at > 0 ? [at + 1] : [])].join(' '),
        roleId: answer.roleId,
        causeId,
        companion,
        position: candidate.position,
        route: candidate.route,
        buy: [bought],
        alternatives: candidate.parts.length === 1 ? alternativesTo(answer, candidate) : [],
      })),
    ),
  };
}

const alternativesTo = (answer: PricedAnswer, candidate: PricedCandidate): Bought[] =>
  answer.candidates
    .filter(
      (other) =>
        other !== candidate &&
        other.parts.length === 1 &&
        other.route !== 'kit' &&
        other.position === candidate.position &&
        other.probability >= SURE_ENOUGH &&
        other.comparison?.verdict !== 'does-not-fit',
    )
    .slice(0, MAX_ALTERNATIVES)
    .flatMap((other) => boughtOf(other).map((bought) => ({ ...bought, adaptation: other.adaptation })));

/** The decided number of the cause's own role (a split: its numbers, joined by +); null while nothing is decided for this cause. */
export function chosenKey(state: TicketState, cause: Pick<Cause, 'id' | 'roleId'> | null): string | null {
  if (!cause || state.partsFor !== cause.id) return null;
  const own = state.parts.filter((part) => part.roleId === cause.roleId && !part.companion);
  return own.length ? own.flatMap((part) => part.buy.map(({ partId }) => partId)).join('+') : null;
}

/** The offer to the customer as it stands today; null when there is nothing to price yet. */
export function quoteGiven(assessment: Assessment): Extract<TicketEventData, { type: 'quoted' }> | null {
  const { quote, options, worth } = assessment;
  if (!quote || quote.options.length === 0) return null;
  return {
    type: 'quoted',
    options: quote.options.map((option) => ({
      id: option.id,
      title: option.title,
      causeId: options.find((candidate) => candidate.id === option.id)?.causeIds[0] ?? null,
      net: option.net,
      tax: option.tax,
      gross: option.gross,
      handsOnMinutes: Math.round(option.handsOnMinutes),
      readyOn: option.readyOn,
    })),
    worth: worth
      ? {
          annualRepair: worth.annualRepair,
          annualReplace: worth.annualReplace,
          probabilityRepair: worth.probabilityRepair,
        }
      : null,
  };
}
