import type { RequirementDraft } from '../ticket';
import type { CauseId } from '../units';
import type { Picked } from './options';
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
      ...(candidate.used ? { donor: candidate.used.donor } : {}),
      bought,
      alternatives:
        candidate.parts.length === 1 && !candidate.used ? alternativesTo(answer, candidate, bought.quantity) : [],
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
        // No list calls a typed number the same part.
        other.route !== 'typed' &&
        candidate.route !== 'typed' &&
        other.position === candidate.position &&
        other.probability >= SURE_ENOUGH &&
        other.comparison?.verdict !== 'does-not-fit',
    )
    .slice(0, MAX_ALTERNATIVES)
    .flatMap((other) => boughtOf(other).map((bought) => ({ ...bought, adaptation: other.adaptation })));
