'use client';
import Link from 'next/link';
import { planDay, type DayTask } from '@/core/day';
import { arrivalsOf, goingBackOf } from '@/core/order';
import type { Settings } from '@/core/case';
import type { TicketSummary } from '@/core/ticket';
import { useOrders, type Moment } from '@/store/react';
import { cx, Why } from '@/ui';
import {
  CALL_WORDS,
  capital,
  dayWords,
  dueWords,
  formatDate,
  formatMinutes,
  formatMoment,
  formatSince,
  plural,
  RUNG_WORDS,
  taskBecause,
} from '@/words';

/** The day: what to do next over all machines, whom to call, what comes, what has cured. */
export default function Today({
  tickets,
  settings,
  at,
}: {
  tickets: readonly TicketSummary[];
  settings: Settings;
  at: Moment;
}) {
  const orders = useOrders(1) ?? [];
  const { tasks, calls, parcels, returns, cures, handsOnMinutes, minutesLeft } = planDay({
    tickets,
    onTheWay: arrivalsOf(orders),
    goingBack: goingBackOf(orders),
    now: at.now,
    settings,
  });
  const beyond = tasks.findIndex(({ fits }) => !fits);
  return (
    <>
      <p className="mt-1 text-soft">{dayWords(handsOnMinutes, minutesLeft)}</p>
      <div className="mt-4 flex flex-col gap-x-10 gap-y-6 xl:grid xl:grid-cols-[minmax(0,1fr)_20rem]">
        <section aria-labelledby="next-today">
          <h2 id="next-today" className="border-t-[3px] border-ink pt-2 text-lg font-semibold">
            Next, in this order
          </h2>
          <ol>
            {tasks.map((task, index) => (
              <Task key={task.tickets[0]?.ticketId} task={task} isBeyond={minutesLeft > 0 && index === beyond} />
            ))}
          </ol>
          {tasks.length === 0 ? <p className="pt-2 text-soft">Nothing here waits for your hands.</p> : null}
        </section>
        <aside aria-label="Calls, parcels and cures" className="flex flex-col gap-5">
          <Side title="Calls to make" empty="Nobody waits for a call.">
            {calls.map(({ ticketId, number, machine, customer, why, since }) => (
              <Row key={ticketId} href={`/ticket/${ticketId}`} title={customer || machine || `Ticket ${number}`}>
                {CALL_WORDS[why]}, {formatSince(since, at.now, at.zone)}
              </Row>
            ))}
          </Side>
          <Side title="Parcels due" empty="None today.">
            {parcels.map(({ orderId, number, supplierName, dueOn }) => (
              <Row key={`${orderId} ${dueOn}`} href="/orders" title={`Order ${number}`}>
                {supplierName}
                {dueOn < at.today ? `, was due ${formatDate(dueOn, at.today)}` : ', today'}
              </Row>
            ))}
          </Side>
          {returns.length ? (
            <Side title="To send back" empty="">
              {returns.map(({ returnId, number, supplierName, sendBy }) => (
                <Row key={returnId} href="/orders" title={`Out of order ${number}`}>
                  {supplierName}, {sendBy < at.today ? 'was to go by' : 'by'} {formatDate(sendBy, at.today)}
                </Row>
              ))}
            </Side>
          ) : null}
          {cures.length ? (
            <Side title="Cures that end today" empty="">
              {cures.map(({ ticketId, number, machine, until }) => (
                <Row key={ticketId} href={`/ticket/${ticketId}`} title={machine || `Ticket ${number}`}>
                  safe at {formatMoment(until, at.now, at.zone)}
                </Row>
              ))}
            </Side>
          ) : null}
        </aside>
      </div>
    </>
  );
}

function Task({ task, isBeyond }: { task: DayTask; isBeyond: boolean }) {
  const { tickets, rung, minutes, daysLeft } = task;
  const [first] = tickets;
  if (!first) return null;
  const title = capital(RUNG_WORDS[rung]);
  return (
    <li className={cx('border-line', isBeyond ? 'border-t-[3px] border-double pt-1' : 'border-t')}>
      {isBeyond ? <p className="text-sm text-soft">As it stands, from here on it is tomorrow’s.</p> : null}
      <div className="grid items-center gap-x-6 max-sm:pb-2 sm:grid-cols-[1fr_auto]">
        <Link
          href={tickets.length > 1 ? '/orders' : `/ticket/${first.ticketId}`}
          className="flex min-h-14 flex-col justify-center py-2 max-sm:pb-1"
        >
          <strong className="text-[17px]">
            {title}
            {tickets.length > 1 ? ` of ${plural(tickets.length, 'machine')}` : ''}
            {task.twoPeople ? ' · two people' : ''}
            {task.wet ? ' · at the wet place' : ''}
          </strong>
          <span className="text-soft">
            {tickets
              .map(({ machine, number, words, customer }) =>
                [machine || `ticket ${number}, not known yet`, words, customer].filter(Boolean).join(' · '),
              )
              .join('; ')}
          </span>
        </Link>
        <Why label={`${title}: ${first.machine || `ticket ${first.number}`}`} because={taskBecause(task)}>
          <span className={cx('whitespace-nowrap', daysLeft < 0 ? 'font-semibold text-stop' : 'text-soft')}>
            {formatMinutes(minutes)} · {dueWords(daysLeft)}
          </span>
        </Why>
      </div>
    </li>
  );
}

function Side({ title, empty, children }: { title: string; empty: string; children: React.ReactNode[] }) {
  return (
    <section>
      <h2 className="border-t-[3px] border-ink pt-2 text-lg font-semibold">{title}</h2>
      {children.length ? <ul>{children}</ul> : <p className="text-soft">{empty}</p>}
    </section>
  );
}

function Row({ href, title, children }: { href: string; title: string; children: React.ReactNode }) {
  return (
    <li className="border-b border-line">
      <Link href={href} className="flex min-h-11 flex-col justify-center py-1.5">
        <strong>{title}</strong>
        <span className="text-[15px] text-soft">{children}</span>
      </Link>
    </li>
  );
}
