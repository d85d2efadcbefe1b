'use client';
import Link from 'next/link';
import { note, repairDidNotHelp } from '@/core/ticket';
import type { EarlierTicket } from '@/store';
import { useEarlier } from '../shared/useEarlier';
import { Button, Folded, Mark } from '@/ui';
import { formatMoment, plural } from '@/words';
import type { FindingsProps } from './FindingsProps';

const OUTCOMES: Record<EarlierTicket['outcome'], string> = {
  repaired: 'repaired',
  declined: 'the customer said no',
  'not-mendable': 'not mendable',
  open: 'still open',
};
const MENDED = 'mended-before';

/** Here before: this machine and this customer, with what was done; what was mended and did not help is evidence by one touch. */
export function Before({ state, lore, at, ask }: FindingsProps) {
  const before = useEarlier(state);
  if (before.length === 0) return null;
  const own = before.filter(({ sameMachine }) => sameMachine);
  const finding = lore.findings.find(({ id }) => id === MENDED);
  const said = state.findings.some(({ findingId }) => findingId === MENDED);
  const aside = [
    own.length ? `this machine ${plural(own.length, 'time')}` : '',
    before.length > own.length ? `this customer ${plural(before.length - own.length, 'time')}` : '',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Folded title="Here before" aside={aside}>
      <ul className="flex flex-col">
        {before.map((ticket) => {
          const { cause } = ticket;
          const failed = cause !== null && state.failedFixes.includes(cause.causeId);
          const known = cause && lore.causes.find(({ id }) => id === cause.causeId);
          return (
            <li
              key={ticket.ticketId}
              className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 gap-y-1 border-b border-line py-1 text-[15px]"
            >
              <span className="min-w-0">
                <Link
                  href={`/ticket/${ticket.ticketId}`}
                  className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
                >
                  Ticket {ticket.number}
                </Link>{' '}
                <span className="text-soft">
                  {ticket.sameMachine ? 'this machine' : ticket.machine} ·{' '}
                  {formatMoment(ticket.openedAt, at.now, at.zone)} · {cause ? cause.name.toLowerCase() : 'no cause'} ·{' '}
                  {OUTCOMES[ticket.outcome]}
                  {ticket.callBacks ? `, came back ${plural(ticket.callBacks, 'time')}` : ''}
                </span>
              </span>
              {ticket.sameMachine && ticket.outcome === 'repaired' && known ? (
                failed ? (
                  <Mark tone="doubt">did not help</Mark>
                ) : (
                  <Button onClick={() => void ask(repairDidNotHelp(known.id))}>It is the same again</Button>
                )
              ) : null}
            </li>
          );
        })}
      </ul>
      {finding && !said && own.some(({ outcome }) => outcome === 'repaired') ? (
        <Button
          className="mt-2"
          onClick={() =>
            void ask(
              note({ type: 'finding-noted', findingId: finding.id, answer: 'yes', threeWords: finding.threeWords }),
            )
          }
        >
          Note it: {finding.text.toLowerCase()}
        </Button>
      ) : null}
    </Folded>
  );
}
