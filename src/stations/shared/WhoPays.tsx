'use client';
import Link from 'next/link';
import { ownWarranty, type Settings, type Weighed } from '@/core/case';
import type { TicketState } from '@/core/ticket';
import { localDateOf } from '@/core/units';
import { useEarlier } from './useEarlier';
import { Mark } from '@/ui';
import { formatDate, outOfHundred, payerWords, type Moment } from '@/words';

type Props = Pick<Weighed, 'payers' | 'lore'> & {
  state: TicketState;
  settings: Settings;
  at: Moment;
};

/** Asked before anything is priced: the maker's warranty, a recall, this shop's own earlier repair. Nothing where nobody else may have to pay. */
export function WhoPays({ payers, lore, state, settings, at }: Props) {
  const own = useEarlier(state).flatMap(({ sameMachine, outcome, closedAt, cause, number, ticketId }) => {
    if (!sameMachine || outcome !== 'repaired' || !closedAt || !cause) return [];
    const until = ownWarranty(localDateOf(closedAt, at.zone), settings.warrantyMonths, at.today);
    return until ? [{ until, cause, number, ticketId }] : [];
  });
  const settled = state.round.cause?.causeId ?? null;
  const nameOf = (roleId: string) => lore.roles.find(({ id }) => id === roleId)?.name ?? roleId;
  if (payers.length === 0 && own.length === 0) return null;
  return (
    <section aria-label="Who pays" className="border-l-4 border-doubt bg-well px-3 py-2 text-[15px]">
      <h3 className="font-semibold">Who pays?</h3>
      <ul>
        {own.map(({ until, cause, number, ticketId }) => (
          <li key={ticketId}>
            <Mark tone={settled !== null && settled !== cause.causeId ? 'doubt' : 'stop'}>
              {settled === null || settled === cause.causeId
                ? 'Our own warranty'
                : 'Our own warranty, on something else'}
            </Mark>
            : {cause.name.toLowerCase()} was mended here on{' '}
            <Link href={`/ticket/${ticketId}`} className="underline underline-offset-4">
              ticket {number}
            </Link>
            , and we answer for it until {formatDate(until, at.today)}.
          </li>
        ))}
        {payers.map((payer) => (
          <li key={payer.kind === 'recall' ? payer.recall.id : payer.warranty.id}>
            <Mark tone={payer.fits === 'other-cause' ? 'doubt' : 'stop'}>{payerWords(payer, nameOf).title}</Mark>
            {payer.chance < 0.995 ? ` (${outOfHundred(payer.chance)}, by its age)` : ''}:{' '}
            {payerWords(payer, nameOf).text}
          </li>
        ))}
      </ul>
      <p className="text-soft">Ask for the receipt, and ring the maker, before anything is offered.</p>
    </section>
  );
}
