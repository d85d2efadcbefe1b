'use client';
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Calibration, MonthShare, Records, Share } from '@/core/learn';
import { Bar, Folded, Why } from '@/ui';
import {
  BOUNDS_BECAUSE,
  boundsWords,
  calibrationWords,
  monthsWords,
  plural,
  ruleRecordWords,
  ruleName,
  shareWords,
  WAITING_NAMES,
  waitWords,
} from '@/words';

type Tickets = readonly { ticketId: string; number: number }[];

/** A share with its bounds, its months and its tickets. */
export function Figure({
  title,
  share,
  others,
  months,
  isBad = false,
  children,
}: {
  title: string;
  share: Share | null;
  others: string;
  months: readonly MonthShare[];
  isBad?: boolean;
  children?: ReactNode;
}) {
  return (
    <section>
      <h2 className="text-lg font-semibold">{title}</h2>
      {share ? (
        <>
          <Bounds share={share} />
          <p>
            {shareWords(share)}; <Surely share={share} />.
          </p>
          <Months months={months} />
          {children}
          <TicketList title={others} tickets={isBad ? share.yes : share.no} />
        </>
      ) : (
        <p>Nothing noted yet.</p>
      )}
    </section>
  );
}

/** A share as a mark on a line from none to all, with the bounds between which it very likely lies. `said`: what was said, as a hollow mark. */
export function Bounds({ share: { share, low, high }, said }: { share: Share; said?: number }) {
  const x = (value: number) => 4 + 192 * value;
  return (
    <svg viewBox="0 0 200 18" className="w-full max-w-xs" aria-hidden>
      <path d="M4 9 H196" className="stroke-line" strokeWidth="2" />
      <path d={`M${x(low)} 9 H${x(high)}`} className="stroke-edge" strokeWidth="5" strokeLinecap="round" />
      {said === undefined ? null : (
        <circle cx={x(said)} cy="9" r="5" className="fill-sheet stroke-ink" strokeWidth="1.5" />
      )}
      <circle cx={x(share)} cy="9" r="3.5" className="fill-ink" />
    </svg>
  );
}

const Surely = ({ share }: { share: Share }) => (
  <Why label="How sure" because={BOUNDS_BECAUSE}>
    {boundsWords(share)}
  </Why>
);

const COLUMN = 10;
const HIGH = 34;

/** A column for each month: its height the share, its width the same; hollow where the month had few cases. The sentence beside it says what it shows. */
function Months({ months }: { months: readonly MonthShare[] }) {
  const said = monthsWords(months);
  if (said === null) return null;
  return (
    <div className="mt-1">
      <svg
        viewBox={`0 0 ${COLUMN * months.length} ${HIGH + 2}`}
        style={{ maxWidth: `${COLUMN * months.length * 1.5}px` }}
        className="w-full"
        aria-hidden
      >
        {months.map(({ month, of, yes }, index) =>
          of === 0 ? null : (
            <rect
              key={month}
              x={index * COLUMN + 1.5}
              y={1 + HIGH * (1 - yes / of)}
              width={COLUMN - 3}
              height={Math.max(0.5, HIGH * (yes / of))}
              className={of < FEW ? 'fill-none stroke-ink' : 'fill-ink stroke-ink'}
              strokeWidth="1"
            />
          ),
        )}
        <path d={`M0 ${HIGH + 1.5} H${COLUMN * months.length}`} className="stroke-line" strokeWidth="1" />
      </svg>
      <p className="text-[15px] text-soft">{said}</p>
    </div>
  );
}

/** Fewer cases than this say little of a month. */
const FEW = 4;

/** Where the days in the shop went. */
export function Waits({ waits }: { waits: Records['waits'] }) {
  if (waits.length === 0) return null;
  return (
    <section>
      <h2 className="text-lg font-semibold">
        <Why
          label="Where the days go"
          because="From one note on the ticket to the next it counts for what the machine waited for in between, nights and weekends in it."
        >
          Where the days go
        </Why>
      </h2>
      <ul>
        {waits.map((one) => (
          <li key={one.what} className="border-b border-line py-1.5">
            <div className="flex justify-between gap-3 text-[15px]">
              <span>{WAITING_NAMES[one.what]}</span>
              <strong>{waitWords(one)}</strong>
            </div>
            <Bar share={one.share} />
            <TicketList title="The longest" tickets={one.longest} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** House rules against what was advised. */
export function Rules({ rules }: { rules: Records['rules'] }) {
  return (
    <section>
      <h2 className="text-lg font-semibold">House rules against the advice</h2>
      {rules.length ? (
        <ul>
          {rules.map((rule) => (
            <li key={rule.id} className="border-b border-line py-1.5">
              <p className="text-[15px]">
                <strong>{ruleName(rule.id)}</strong>: {ruleRecordWords(rule)}
              </p>
              <TicketList title="Said otherwise" tickets={rule.otherwise.yes} />
            </li>
          ))}
        </ul>
      ) : (
        <p>No offer was made yet with an advice and the rules beside it.</p>
      )}
    </section>
  );
}

/** What was said against what was so. */
export function Said({ title, said }: { title: string; said: readonly Calibration[] }) {
  return (
    <section>
      <h2 className="text-lg font-semibold">{title}</h2>
      {said.length ? (
        <>
          <p className="text-sm text-soft">Filled: what was so, with its bounds. Hollow: what was said.</p>
          <ul>
            {said.map((one) => (
              <li key={one.from} className="border-b border-line py-1.5">
                <Bounds share={one.is} said={one.meanSaid} />
                <p className="text-[15px]">
                  {calibrationWords(one)}, <Surely share={one.is} />.
                </p>
                <TicketList title="Not so" tickets={one.is.no} />
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p>Nothing noted yet.</p>
      )}
    </section>
  );
}

const MOST_LISTED = 40;

export function TicketList({ title, tickets }: { title: string; tickets: Tickets }) {
  if (tickets.length === 0) return null;
  return (
    <Folded title={title} aside={plural(tickets.length, 'ticket')}>
      <ul className="flex flex-wrap gap-x-4">
        {tickets.slice(0, MOST_LISTED).map(({ ticketId, number }, index) => (
          <li key={`${ticketId} ${index}`}>
            <Link
              href={`/ticket/${ticketId}`}
              className="inline-block min-h-11 content-center underline underline-offset-4"
            >
              ticket {number}
            </Link>
          </li>
        ))}
        {tickets.length > MOST_LISTED ? (
          <li className="content-center">and {tickets.length - MOST_LISTED} more</li>
        ) : null}
      </ul>
    </Folded>
  );
}
