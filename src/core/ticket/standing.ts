import { sum, unique } from '../units';
import { supplyOf, type Delivery, type Supply } from './deliveries';
import type { Basis, OfferedOption, Requirement } from './events';
import { acceptedOption, partsKey, type Round } from './round';
import { basisNow, type TicketState } from './state';

export type Stand = 'open' | 'stands' | 'shaken';
export type ShakenBy = 'plate' | 'serial' | 'cause' | 'part' | 'price';
/** A decision whose basis has moved since. Nothing further is built on it until it is kept or made again. */
export type Shaken = { decision: 'part' | 'offer' | 'answer' | 'order'; by: ShakenBy };

export type Standing = { part: Stand; offer: Stand; answer: Stand; shaken: Shaken[] };

const standOf = (made: boolean, by: readonly ShakenBy[]): Stand => (!made ? 'open' : by.length ? 'shaken' : 'stands');

/** Which decisions still stand on what is known now. What has been fitted is past: there the proof decides. O(parts). */
export function standing(state: TicketState): Standing {
  const { round } = state;
  const part = round.finished ? [] : partMovedBy(state);
  const offer = round.finished ? [] : offerMovedBy(state, part);
  const accepted = round.answer?.answer === 'yes';
  const ordered = round.parts.some(({ requirementId }) => (state.deliveries[requirementId] ?? []).length > 0);
  return {
    part: standOf(round.partsOn !== null, part),
    offer: standOf(round.offer !== null, offer),
    answer: standOf(round.answer !== null && round.answer.answer !== 'thinking', accepted ? offer : []),
    shaken: [
      ...part.map((by): Shaken => ({ decision: 'part', by })),
      ...offer.map((by): Shaken => ({ decision: 'offer', by })),
      ...(accepted ? offer.map((by): Shaken => ({ decision: 'answer', by })) : []),
      ...(ordered ? part.map((by): Shaken => ({ decision: 'order', by })) : []),
    ],
  };
}

const sameWay = (a: Basis, b: Basis): boolean => (a.fixId ?? null) === (b.fixId ?? null);

function partMovedBy(state: TicketState): ShakenBy[] {
  const { partsOn } = state.round;
  if (!partsOn) return [];
  const now = basisNow(state);
  return [
    ...(partsOn.on.modelId === now.modelId ? [] : ['plate' as const]),
    ...(partsOn.on.serial === now.serial ? [] : ['serial' as const]),
    ...(now.causeId === null || (partsOn.causeId === now.causeId && sameWay(partsOn.on, now))
      ? []
      : ['cause' as const]),
  ];
}

/** An offer rests on the machine, the cause, and the parts and prices that were chosen: whatever shakes the parts shakes it. */
function offerMovedBy(state: TicketState, part: readonly ShakenBy[]): ShakenBy[] {
  const { round } = state;
  const { offer } = round;
  if (!offer) return [];
  const now = basisNow(state);
  const offered = acceptedOption(round) ?? offer.options[0];
  return unique<ShakenBy>([
    ...(offer.on.modelId === now.modelId ? [] : ['plate' as const]),
    ...(now.causeId === null || (offer.on.causeId === now.causeId && sameWay(offer.on, now)) ? [] : ['cause' as const]),
    ...part,
    ...(offered && round.partsOn ? partsDiffer(offered, round) : []),
  ]);
}

function partsDiffer(offered: OfferedOption, round: Round): ShakenBy[] {
  const named = ({ bought }: Requirement) => `${bought.partId} ${bought.quantity}`;
  const same = (say: (part: Requirement) => string) =>
    round.parts.map(say).sort().join('|') === offered.parts.map(say).sort().join('|');
  if (round.offer?.keptFor === partsKey(round.parts)) return [];
  if (!same(named)) return ['part'];
  return partsKey(round.parts) === partsKey(offered.parts) ? [] : ['price'];
}

export type PartNeed = { requirement: Requirement; supply: Supply };

/** The parts of the round with where each stands. */
export const needsOf = (state: TicketState): PartNeed[] =>
  state.round.parts.map((requirement) => ({ requirement, supply: supplyOf(state.deliveries, requirement) }));

/** Requirements of which something is still to be ordered. */
export const unordered = (state: TicketState): PartNeed[] => needsOf(state).filter(({ supply }) => supply.missing > 0);

/** Of these, what has to be bought: the others are taken out of a donor. */
export const toBuy = (state: TicketState): PartNeed[] =>
  unordered(state).filter(({ requirement }) => requirement.route !== 'donor');

/** Hands-on minutes that the bench still owes this machine: agreed on, less what the clock counted; 0 before the yes, and once it is done. */
export function benchMinutes({ round, closed }: Pick<TicketState, 'round' | 'closed'>): number {
  const accepted = closed || round.finished ? null : acceptedOption(round);
  const more = sum(round.rescues.map(({ minutes }) => minutes));
  return accepted ? Math.max(0, accepted.handsOnMinutes + more - round.clock.minutes) : 0;
}

/** Everything is ordered, and something is not here yet. */
export const awaited = (state: TicketState): PartNeed[] =>
  needsOf(state).filter(({ supply }) => supply.missing === 0 && supply.coming > 0);

/** On the way for a part that is no longer wanted: another number was chosen, or the attempt is over. */
export function leftOver(state: TicketState): Delivery[] {
  const wanted = new Set<string>(state.round.parts.map(({ requirementId }) => requirementId));
  return Object.entries(state.deliveries).flatMap(([requirementId, list]) =>
    wanted.has(requirementId) ? [] : list.filter(({ units, here }) => here < units),
  );
}
