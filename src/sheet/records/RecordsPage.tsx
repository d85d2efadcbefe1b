'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { recordsOf, type Calibration, type Share } from '@/core/learn';
import { addDays, localDateOf } from '@/core/units';
import { useMoment, useSettings } from '@/store/react';
import { Button, download, Folded, notice, Select } from '@/ui';
import { useRecordedCases } from './useRecordedCases';
import { calibrationWords, daysWords, minutesWords, plural, shareWords, troubleWords } from '@/words';

const PERIODS = { '90': 'the last three months', '365': 'the last twelve months', all: 'all of it' } as const;
type Period = keyof typeof PERIODS;

type Tickets = readonly { ticketId: string; number: number }[];

/** How the shop works, by its closed tickets: each figure with how sure it is, and with its tickets. */
export function RecordsPage() {
  const settings = useSettings();
  const at = useMoment(settings);
  const cases = useRecordedCases();
  const [period, setPeriod] = useState<Period>('365');
  const zone = settings?.zone;
  const shown = useMemo(() => {
    if (!cases || zone === undefined) return null;
    const since = period === 'all' ? '' : addDays(at.today, -Number(period));
    return cases.filter(({ closedAt }) => localDateOf(closedAt, zone) >= since);
  }, [cases, zone, period, at.today]);
  const records = useMemo(() => (shown && zone !== undefined ? recordsOf(shown, zone) : null), [shown, zone]);
  const takeOut = async () => {
    try {
      const { recordsAsCsv } = await import('@/core/learn/recordsCsv');
      download('records.csv', 'text/csv;charset=utf-8', recordsAsCsv(shown ?? [], zone ?? 'UTC'));
    } catch (error) {
      notice(`No file was made: ${troubleWords(error)}.`);
    }
  };
  if (!records) return <main className="p-6 text-soft">Opening the records …</main>;
  const { rightFirstTime, cameBack, accepted, promiseKept, minutes, days, plates, causes } = records;
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Records</h1>
      <div className="mt-2 flex flex-wrap items-end gap-4">
        <Select
          label="Over"
          className="w-64"
          value={period}
          onChange={(value) => setPeriod(value in PERIODS ? (value as Period) : 'all')}
          empty="all of it"
          options={Object.entries(PERIODS).map(([value, text]) => ({ value, text }))}
        />
        <p className="pb-2.5 text-soft">{plural(records.cases, 'closed ticket')}</p>
        {records.cases ? (
          <Button tone="quiet" onClick={() => void takeOut()}>
            These tickets as CSV file
          </Button>
        ) : null}
      </div>
      {records.cases === 0 ? (
        <p className="mt-4 max-w-prose text-soft">
          Nothing to say yet: the figures come from closed tickets, and only from what was noted on them.
        </p>
      ) : (
        <div className="mt-4 grid max-w-5xl gap-x-10 gap-y-6 lg:grid-cols-2">
          <Figure title="The part was right first time" share={rightFirstTime} others="Wrong at first" />
          <Figure title="Came back with the same fault" share={cameBack} others="Came back" isBad />
          <Figure title="Offers accepted" share={accepted} others="Declined" />
          <Figure title="Ready when it was promised" share={promiseKept} others="Late" />
          <section>
            <h2 className="text-lg font-semibold">How long the work takes</h2>
            <p>{minutes ? minutesWords(minutes) : 'Nobody noted minutes yet.'}</p>
          </section>
          <section>
            <h2 className="text-lg font-semibold">Days in the shop</h2>
            <p>{days ? daysWords(days) : 'No machine was told ready yet.'}</p>
            {days ? <TicketList title="The slowest" tickets={days.slowest} /> : null}
          </section>
          <Said title="Plates, as first read" said={plates} />
          <Said title="Causes, as settled on" said={causes} />
        </div>
      )}
    </main>
  );
}

function Figure({
  title,
  share,
  others,
  isBad = false,
}: {
  title: string;
  share: Share | null;
  others: string;
  isBad?: boolean;
}) {
  return (
    <section>
      <h2 className="text-lg font-semibold">{title}</h2>
      {share ? (
        <>
          <Bounds share={share} />
          <p>{shareWords(share)}.</p>
          <TicketList title={others} tickets={isBad ? share.yes : share.no} />
        </>
      ) : (
        <p>Nothing noted yet.</p>
      )}
    </section>
  );
}

/** A share as a mark on a line from none to all, with the bounds between which it surely lies. `said`: what was said, as a hollow mark. */
function Bounds({ share: { share, low, high }, said }: { share: Share; said?: number }) {
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

/** What was said against what was so. */
function Said({ title, said }: { title: string; said: readonly Calibration[] }) {
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
                <p className="text-[15px]">{calibrationWords(one)}.</p>
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

function TicketList({ title, tickets }: { title: string; tickets: Tickets }) {
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
