import type { CauseId, Instant, LocalDate, ModelId, PlatformId, RoleId, TicketId } from '../units';
import { acceptedOption } from './round';
import { rungOf, waitsFor, type Rung, type Waiting } from './ladder';
import { benchMinutes, standing, type Shaken } from './standing';
import type { TicketState } from './state';

/** What the floor shows of a ticket: rebuildable from its events, without a 'now'. */
export type TicketSummary = {
  ticketId: TicketId;
  number: number;
  sequence: number;
  machine: string;
  modelId: ModelId | null;
  platformId: PlatformId | null;
  customer: string;
  place: string;
  /** What was found, in three words; '' before anything was. */
  words: string;
  causeId: CauseId | null;
  openedAt: Instant;
  lastAt: Instant;
  waiting: Waiting;
  rung: Rung;
  shaken: Shaken[];
  closed: boolean;
  /** The day that the customer was told with the offer that was accepted; null before, missing in a summary that was kept before it was noted. */
  promisedOn?: LocalDate | null;
  /** Hands-on minutes that the bench still owes it; missing in a summary that was kept before it was counted. */
  benchMinutes?: number;
  /** What the work takes beside its time; null while nothing is agreed or it is over, missing where the offer did not say. */
  takes?: { people: number; wet: boolean } | null;
  /** What is gone from a donor, by role and position; null for a machine that is none. */
  donor: { taken: { roleId: RoleId; position: string; forTicket?: number | null }[] } | null;
};

/** What the machine of a ticket is called: brand and number, or what stands on a plate that no list has; empty before it is read. */
export const machineName = ({ plate, plateNotListed }: Pick<TicketState, 'plate' | 'plateNotListed'>): string =>
  plate ? `${plate.badge} ${plate.modelNumber}` : (plateNotListed ?? '');

/** O(parts + findings). */
export function summarise(state: TicketState): TicketSummary {
  const { plate, round } = state;
  const words = state.findings.find((finding) => finding.answer === 'yes')?.threeWords ?? '';
  return {
    ticketId: state.ticketId,
    number: state.number,
    sequence: state.sequence,
    machine: machineName(state),
    modelId: plate?.modelId ?? null,
    platformId: plate?.platformId ?? null,
    customer: state.customer?.name ?? '',
    place: state.customer?.place ?? '',
    words,
    causeId: round.cause?.causeId ?? null,
    openedAt: state.openedAt,
    lastAt: state.lastAt,
    waiting: waitsFor(state),
    rung: rungOf(state),
    shaken: state.closed ? [] : standing(state).shaken,
    closed: state.closed !== null,
    promisedOn: acceptedOption(round)?.readyOn ?? null,
    benchMinutes: benchMinutes(state),
    takes: (round.finished ? null : acceptedOption(round)?.takes) ?? null,
    donor: state.donor && { taken: state.donor.taken },
  };
}
