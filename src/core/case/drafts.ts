import type { CauseId } from '../units';
import type { Cause } from '../catalogue';
import type { OfferDraft, RequirementDraft, TicketState } from '../ticket';
import type { Weighed } from './assessment';
import type { Picked, RepairOption } from './options';
import type { PricedAnswer, PricedCandidate } from './pricing';

type Bought = RequirementDraft['bought'];

const boughtOf = (candidate: PricedCandidate): Bought[] =>
  candidate.parts.map(({ part, quantity, purchase }) => ({
    partId: part.id,
    partNumber: part.partNumber,
    description: part.description,
    quantity,
    cost: purchase?.cost ?? null,
  }));

/** What is decided of a cause: whether it needs a part goes with it. */
export const settlementOf = ({ id, name, roleId, companions }: Cause) => ({
  causeId: id,
  name,
  needsPart: roleId !== undefined || companions.length > 0,
});

/** Other single numbers that do the same: what the order plan may take instead. At most five. */
const MAX_ALTERNATIVES = 5;
/** Below this a number is not offered as equal. */
const SURE_ENOUGH = 0.85;

/**
 * What the ticket copies when parts are decided: numbers, descriptions, prices of the day. A number that was split into two is two requirements, each
 * ordered and checked in by itself; only a single number has alternatives.
 */
export const partsOf = (picks: readonly Picked[], causeId: CauseId): RequirementDraft[] =>
  picks.flatMap(({ answer, candidate, companion }) =>
    boughtOf(candidate).map((bought): RequirementDraft => ({
      roleId: answer.roleId,
      causeId,
      companion,
      position: candidate.position,
      route: candidate.route,
      bought,
      alternatives: candidate.parts.length === 1 ? alternativesTo(answer, candidate, bought.quantity) : [],
    })),
  );

/** Only numbers of which the same quantity does: two of another number are not an alternative to one. */
const alternativesTo = (answer: PricedAnswer, candidate: PricedCandidate, quantity: number): Bought[] =>
  answer.candidates
    .filter(
      (other) =>
        other !== candidate &&
        other.parts.length === 1 &&
        other.parts[0]?.quantity === quantity &&
        other.route !== 'kit' &&
        other.position === candidate.position &&
        other.probability >= SURE_ENOUGH &&
        other.comparison?.verdict !== 'does-not-fit',
    )
    .slice(0, MAX_ALTERNATIVES)
    .flatMap((other) => boughtOf(other).map((bought) => ({ ...bought, adaptation: other.adaptation })));

/** The decided number of the cause's own role (a split: its numbers, joined by +); null while nothing is decided for this cause. */
export function chosenKey({ round }: TicketState, cause: Pick<Cause, 'id' | 'roleId'> | null): string | null {
  if (!cause || round.partsOn?.causeId !== cause.id) return null;
  const own = round.parts.filter((part) => part.roleId === cause.roleId && !part.companion);
  return own.length ? own.map(({ bought }) => bought.partId).join('+') : null;
}

const partsOfOption = ({ picks, causeIds }: RepairOption): RequirementDraft[] =>
  causeIds[0] === undefined ? [] : partsOf(picks, causeIds[0]);

/** The offer to the customer as it stands today: what is printed, accepted and bought. null when there is nothing to price yet. */
export function offerOf({ offer, worth }: Pick<Weighed, 'offer' | 'worth'>): OfferDraft | null {
  const causeId = offer?.options[0]?.causeIds[0];
  if (!offer || causeId === undefined) return null;
  const { quote, options } = offer;
  return {
    causeId,
    fee: { gross: quote.feeGross, waived: quote.feeWaivedIfRepaired },
    worth: worth && {
      annualRepair: worth.annualRepair,
      annualReplace: worth.annualReplace,
      probabilityRepair: worth.probabilityRepair,
    },
    options: quote.options.flatMap(({ id, kind, causeNames, lines, net, tax, gross, handsOnMinutes, readyOn }) => {
      const option = options.find((candidate) => candidate.id === id);
      return option
        ? [
            {
              id,
              kind,
              causeIds: option.causeIds,
              causeNames: [...causeNames],
              net,
              tax,
              gross,
              handsOnMinutes: Math.round(handsOnMinutes),
              readyOn,
              lines,
              parts: partsOfOption(option),
            },
          ]
        : [];
    }),
  };
}
