'use client';
import { useMemo, useState } from 'react';
import { recordsOf } from '@/core/learn';
import { addDays, localDateOf } from '@/core/units';
import { useMoment, useSettings } from '@/store/react';
import { Button, download, notice, Select } from '@/ui';
import { filesWorker } from '@/workers';
import { Bounds, Figure, Rules, Said, TicketList, Waits } from './figures';
import { useRecordedCases } from './useRecordedCases';
import { daysWords, latenessWords, marginWords, minutesWords, plural, pricesWords, troubleWords } from '@/words';

const PERIODS = { '90': 'the last three months', '365': 'the last twelve months', all: 'all of it' } as const;
type Period = keyof typeof PERIODS;

/** So many of the ranges that are told should hold what is agreed. */
const TOLD_SHARE = 0.8;

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
  const takeAllOut = async () => {
    try {
      download('records.zip', 'application/zip', await filesWorker.get().exportRecords());
    } catch (error) {
      notice(`No file was made: ${troubleWords(error)}.`);
    }
  };
  if (!records) return <main className="p-6 text-soft">Opening the records …</main>;
  const { rightFirstTime, cameBack, accepted, promiseKept, minutes, days, plates, causes } = records;
  const { months, waits, lateness, margin, rules, prices } = records;
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
        <Button tone="quiet" onClick={() => void takeAllOut()}>
          Tickets, orders and shelf as a data package
        </Button>
      </div>
      {records.cases === 0 ? (
        <p className="mt-4 max-w-prose text-soft">
          Nothing to say yet: the figures come from closed tickets, and only from what was noted on them.
        </p>
      ) : (
        <div className="mt-4 grid max-w-5xl gap-x-10 gap-y-6 lg:grid-cols-2">
          <Figure
            title="The part was right first time"
            share={rightFirstTime}
            others="Wrong at first"
            months={months.rightFirstTime}
          />
          <Figure
            title="Came back with the same fault"
            share={cameBack}
            others="Came back"
            months={months.cameBack}
            isBad
          />
          <Figure title="Offers accepted" share={accepted} others="Declined" months={months.accepted} />
          <Figure title="Ready when it was promised" share={promiseKept} others="Late" months={months.promiseKept}>
            {lateness ? <p>{latenessWords(lateness)}</p> : null}
          </Figure>
          <section>
            <h2 className="text-lg font-semibold">How long the work takes</h2>
            <p>{minutes ? minutesWords(minutes) : 'Nobody noted minutes yet.'}</p>
          </section>
          <section>
            <h2 className="text-lg font-semibold">Days in the shop</h2>
            <p>{days ? daysWords(days) : 'No machine was told ready yet.'}</p>
            {days ? <TicketList title="The slowest" tickets={days.slowest} /> : null}
          </section>
          <Waits waits={waits} />
          <section>
            <h2 className="text-lg font-semibold">What a repair leaves</h2>
            {margin ? (
              <>
                <p>{marginWords(margin)}</p>
                <TicketList title="The least" tickets={margin.least} />
              </>
            ) : (
              <p>No repair was handed over of which it is known what its parts cost.</p>
            )}
          </section>
          <section>
            <h2 className="text-lg font-semibold">The price told first, and what was agreed</h2>
            {prices ? (
              <>
                <Bounds share={prices.inside} said={TOLD_SHARE} />
                <p>{pricesWords(prices)}</p>
                <TicketList title="Outside what was told" tickets={prices.inside.no} />
              </>
            ) : (
              <p>No range was noted as told at a Worth station yet.</p>
            )}
          </section>
          <Rules rules={rules} />
          <Said title="Plates, as first read" said={plates} />
          <Said title="Causes, as settled on" said={causes} />
        </div>
      )}
    </main>
  );
}
