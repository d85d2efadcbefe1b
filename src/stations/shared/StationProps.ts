import type { Assessment, Settings } from '@/core/case';
import type { TicketEventData, TicketState } from '@/core/ticket';
import type { Moment } from '@/words';

export type StationProps = {
  state: TicketState;
  assessment: Assessment;
  settings: Settings;
  at: Moment;
  /** Appends to this ticket; saved when it resolves. */
  record: (...data: TicketEventData[]) => Promise<void>;
};

/** The control that does the next thing: the key d brings the focus here. */
export const DO_NEXT = { 'data-do-next': '' } as const;
