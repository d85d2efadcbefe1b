import type { TicketEventData, ChosenPart } from '../ticket';
import type { Assessment } from './assess';
import type { RepairOption } from './options';
import type { PricedCandidate } from './pricing';

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

/** What the ticket copies when an option's parts are decided: numbers, descriptions, prices of the day. */
export function partsChosen(
  option: Pick<RepairOption, 'picks'>,
  causeId: string,
): Extract<TicketEventData, { type: 'parts-chosen' }> {
  return {
    type: 'parts-chosen',
    causeId,
    parts: option.picks
      .filter(({ candidate }) => candidate.parts.length > 0)
      .map(({ answer, candidate, companion }) => ({
        requirementId: `${answer.roleId} ${candidate.position}`,
        roleId: answer.roleId,
        causeId,
        companion,
        position: candidate.position,
        route: candidate.route,
        buy: boughtOf(candidate),
        alternatives: answer.candidates
          .filter(
            (other) =>
              other !== candidate &&
              other.parts.length === 1 &&
              other.route !== 'kit' &&
              other.position === candidate.position &&
              other.probability >= SURE_ENOUGH,
          )
          .slice(0, MAX_ALTERNATIVES)
          .flatMap(boughtOf),
      })),
  };
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
