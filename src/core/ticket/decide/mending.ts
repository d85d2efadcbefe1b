import { addHours, fail, ok, unique, type Result, type CauseId } from '../../units';
import type { ProofBar, StepBar } from '../../bench';
import type { Step } from '../../labour';
import type { Requirement, TicketEventData, TicketEventOf } from '../events';
import { openProofs } from '../ladder';
import { acceptedOption, cureOf, fixIdOf } from '../round';
import { standing } from '../standing';
import { basisNow, type TicketState } from '../state';
import type { Context, Refusal, TicketDecision } from './refusal';

/** A decision before its requirements have ids. */
export type RequirementDraft = Omit<Requirement, 'requirementId'>;
export type OfferDraft = Omit<TicketEventOf<'quoted'>, 'type' | 'on' | 'options'> & {
  causeId: CauseId;
  options: readonly (Omit<TicketEventOf<'quoted'>['options'][number], 'parts'> & {
    parts: readonly RequirementDraft[];
  })[];
};

const open =
  (decide: TicketDecision): TicketDecision =>
  (ticket, context) =>
    ticket.closed ? fail({ kind: 'closed' }) : decide(ticket, context);

/** What would be built on something that does not stand. */
function shakenOf(ticket: TicketState): Result<never, Refusal> | null {
  const by = unique(standing(ticket).shaken.map((entry) => entry.by));
  return by.length ? fail({ kind: 'shaken', by }) : null;
}

export const settleCause = (cause: {
  causeId: CauseId;
  name: string;
  needsPart: boolean;
  fixId?: string | null;
  probability?: number;
  /** What is broken with it and mended in the same go. */
  also?: { causeId: CauseId; name: string } | null;
}): TicketDecision =>
  open(({ round }) => {
    const { also = null, ...first } = cause;
    const decided = { type: 'cause-decided' as const, ...first };
    if (also) return ok([decided, { type: 'also-chosen', ...also }]);
    // What was to be mended along with another cause is the cause itself now.
    return round.also === cause.causeId
      ? ok([decided, { type: 'also-chosen', causeId: null, name: cause.name }])
      : ok([decided]);
  });

/** A job that is offered together with the repair, or is not after all. */
export const alsoDo = (causeId: CauseId | null, name: string): TicketDecision =>
  open(() => ok([{ type: 'also-chosen', causeId, name }]));

/**
 * The repair of a cause did not help. If it is the one of this round, the round is over; else it is evidence. `fixId`: which way of mending it; of this round's cause
 * the one of the round, of any other its own, where it is not said.
 */
export const repairDidNotHelp = (
  causeId: CauseId,
  fixId?: string | null,
  seen: readonly Omit<TicketEventOf<'finding-noted'>, 'type'>[] = [],
): TicketDecision =>
  open(({ round }) => {
    const tried = round.cause?.causeId === causeId ? fixIdOf(round) : null;
    return ok([
      { type: 'fix-failed', causeId, fixId: fixId === undefined ? tried : fixId },
      ...seen.map((finding) => ({ type: 'finding-noted' as const, ...finding })),
    ]);
  });

/** A proof failed, and what it tests is opened again: `steps` are off once more. What was proved is proved anew. */
export const openAgain = (steps: readonly Step[]): TicketDecision =>
  open(({ round }) =>
    round.finished && steps.length
      ? ok([{ type: 'bench-reopened', steps: [...steps] }])
      : fail({ kind: 'not-finished' }),
  );

const samePart = (a: RequirementDraft, b: RequirementDraft) =>
  a.roleId === b.roleId &&
  a.position === b.position &&
  a.bought.partId === b.bought.partId &&
  a.bought.quantity === b.bought.quantity;

/** The same number in the same place keeps its id, and with it what is ordered; another number is another requirement. */
function withIds(
  drafts: readonly RequirementDraft[],
  known: readonly Requirement[],
  newId: Context['newId'],
): Requirement[] {
  const free = [...known];
  return drafts.map((draft) => {
    const index = free.findIndex((requirement) => samePart(requirement, draft));
    const [same] = index < 0 ? [] : free.splice(index, 1);
    return { ...draft, requirementId: same?.requirementId ?? newId() };
  });
}

/** What has an id in this round: decided on, given up with something on the way, or offered, whether it was taken or not. */
function knownParts({ round }: TicketState): Requirement[] {
  const offered = round.offer?.options.flatMap((option) => option.parts) ?? [];
  const all = [...round.parts, ...round.dropped, ...offered];
  return [...new Map(all.map((part) => [part.requirementId, part])).values()];
}

/** Decides on the numbers for a cause; an empty list says that nobody lists one. */
export const chooseParts = (causeId: CauseId, drafts: readonly RequirementDraft[]): TicketDecision =>
  open((ticket, { newId }) =>
    ok([
      {
        type: 'parts-chosen',
        causeId,
        parts: withIds(drafts, knownParts(ticket), newId),
        on: { ...basisNow(ticket), causeId },
      },
    ]),
  );

/** What was decided is still right on what is known now: the parts, or the offer with its yes. Not for another cause: that is decided anew. */
export const keep = (decision: 'part' | 'offer'): TicketDecision =>
  open((ticket) => {
    const { round } = ticket;
    if (decision === 'part' ? !round.partsOn : !round.offer) return fail({ kind: 'nothing-to-keep' });
    const { shaken } = standing(ticket);
    if (shaken.some((entry) => entry.decision === decision && entry.by === 'cause'))
      return fail({ kind: 'shaken', by: ['cause'] });
    const causeId =
      basisNow(ticket).causeId ?? (decision === 'part' ? round.partsOn?.causeId : round.offer?.on.causeId);
    return ok([{ type: 'decision-kept', decision, on: { ...basisNow(ticket), causeId: causeId ?? null } }]);
  });

/**
 * The offer as it is read to the customer and printed. It rests on parts that stand; the numbers of the first option are the ones decided on, at the
 * prices of the offer.
 */
export const offer = ({ causeId, options, ...terms }: OfferDraft): TicketDecision =>
  open((ticket, { newId }) => {
    const { round } = ticket;
    const by = unique(standing(ticket).shaken.flatMap((entry) => (entry.decision === 'part' ? [entry.by] : [])));
    if (by.length) return fail({ kind: 'shaken', by });
    const on = { ...basisNow(ticket), causeId };
    const priced = options.map((option) => ({ ...option, parts: withIds(option.parts, knownParts(ticket), newId) }));
    const [first] = priced;
    const chosen = round.partsOn !== null && first !== undefined;
    return ok([
      ...(chosen ? [{ type: 'parts-chosen' as const, causeId, parts: first.parts, on }] : []),
      { type: 'quoted', options: priced, ...terms, on },
    ]);
  });

/** `said`: who gave the answer and by what means, where that was noted. */
export const answerOffer = (
  answer: 'yes' | 'no' | 'thinking',
  optionId: string | null,
  said: Pick<TicketEventOf<'customer-answered'>, 'by' | 'how'> = {},
): TicketDecision =>
  open((ticket) => {
    const { offer: made } = ticket.round;
    if (!made) return fail({ kind: 'no-offer' });
    if (answer === 'yes') {
      if (!made.options.some((option) => option.id === optionId)) return fail({ kind: 'no-offer' });
      const shaken = shakenOf(ticket);
      if (shaken) return shaken;
    }
    return ok([
      {
        type: 'customer-answered',
        answer,
        offer: made.offerId,
        optionId: answer === 'yes' ? optionId : null,
        ...said,
      },
    ]);
  });

/** `waitHours`: how long nothing may load what was just closed; 0 for most steps. `barred`: why it may not be done yet, as the sheet says. */
export const tickStep = (step: Step, title: string, waitHours: number, barred: StepBar | null = null): TicketDecision =>
  open(
    (ticket, { at }) =>
      shakenOf(ticket) ??
      (barred
        ? fail({ kind: 'step-barred', by: barred })
        : ok([{ type: 'step-ticked', step, title, waitUntil: waitHours > 0 ? addHours(at, waitHours) : null }])),
  );

/** What happens at the bench beside the ticks. */
export type BenchFact = Extract<
  TicketEventData,
  {
    type:
      | 'worker-noted'
      | 'readied'
      | 'counted-home'
      | 'step-remarked'
      | 'photographed'
      | 'photograph-dropped'
      | 'piece-home'
      | 'swap-ticked'
      | 'rescue-chosen'
      | 'more-answered'
      | 'run-repeated'
      | 'parked'
      | 'taken-up';
  }
>;
export const atBench = (fact: BenchFact): TicketDecision => open(() => ok([fact]));

/** A piece that nobody can name gets the next number. */
export const setAside = (step: Step, text: string, photoId: string | null): TicketDecision =>
  open(({ pieces }) => {
    const piece = 1 + Math.max(0, ...pieces.map((one) => one.piece));
    return ok([{ type: 'piece-set-aside', piece, text, step, photoId }]);
  });

/** The bead of a joint is on: the skin's clock runs. */
export const layBead = (operationId: string, skinMinutes: number): TicketDecision =>
  open((_, { at }) => ok([{ type: 'bead-laid', operationId, skinUntil: addHours(at, skinMinutes / 60) }]));

/** Starts or stops the clock at the bench. */
export const runClock = (runs: boolean): TicketDecision =>
  open(() => ok([{ type: runs ? 'work-started' : 'work-stopped' }]));

export const clearStep = (step: Step, title: string): TicketDecision =>
  open(() => ok([{ type: 'step-cleared', step, title }]));

/** Everything is ticked. `proofIds`: what has to be proved. Not while a joint cures. */
export const finishBench = (operationIds: readonly string[], proofIds: readonly string[]): TicketDecision =>
  open((ticket, { at }) => {
    const shaken = shakenOf(ticket);
    if (shaken) return shaken;
    const until = cureOf(ticket.round)?.waitUntil;
    if (until && until > at) return fail({ kind: 'curing', until });
    const left = ticket.pieces.filter(({ home }) => !home).map(({ piece }) => piece);
    if (left.length) return fail({ kind: 'pieces-left', pieces: left });
    return ok([{ type: 'bench-finished', operationIds: [...operationIds], proofIds: [...proofIds] }]);
  });

/** `barred`: why it may not be passed yet, as the proof's own list says. That it failed can be noted at any time. */
export const noteProof = (
  proofId: string,
  title: string,
  passed: boolean,
  barred: ProofBar | null = null,
): TicketDecision =>
  open(() =>
    passed && barred
      ? fail({ kind: 'proof-barred', by: barred })
      : ok([{ type: 'proof-noted', proofId, title, passed }]),
  );

export const tellReady = (): TicketDecision =>
  open((ticket) => {
    if (!ticket.round.finished) return fail({ kind: 'not-finished' });
    const left = openProofs(ticket).length;
    return left > 0 ? fail({ kind: 'not-proved', proofs: left }) : ok([{ type: 'ready-told', how: 'phone' }]);
  });

export const handOver = (advice: string): TicketDecision =>
  open((ticket) =>
    ticket.round.toldAt || ticket.round.answer?.answer === 'no'
      ? ok([{ type: 'handed-over', advice }])
      : fail({ kind: 'not-finished' }),
  );

export const closeTicket = (how: Omit<TicketEventOf<'closed'>, 'type'>): TicketDecision =>
  open(() => ok([{ type: 'closed', ...how }]));

/** A closed machine is back on the bench. */
export const cameBack =
  (sameFault: boolean): TicketDecision =>
  (ticket) =>
    ticket.closed ? ok([{ type: 'came-back', sameFault }]) : fail({ kind: 'not-closed' });

/** Whether an order may be built on this ticket: the yes stands on what is known now. */
export function mayBuy(ticket: TicketState): Result<null, Refusal> {
  if (ticket.closed) return fail({ kind: 'closed' });
  if (!acceptedOption(ticket.round)) return fail({ kind: 'no-yes' });
  return shakenOf(ticket) ?? ok(null);
}
