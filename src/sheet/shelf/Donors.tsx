'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import Link from 'next/link';
import { useState } from 'react';
import type { HarvestRow, Settings } from '@/core/case';
import { shareOfMoney, type TicketId } from '@/core/units';
import { database, eventStore, harvestPart, now } from '@/store';
import { Button, Mark, notice, NumberText } from '@/ui';
import { capital, formatMinutes, formatMoney, harvestWords, plural, troubleWords } from '@/words';
import { shelfWorker } from '@/workers';
import { tried } from '../tried';

type DonorLine = { ticketId: TicketId; number: number; machine: string; taken: number };

const useDonorList = (): DonorLine[] | undefined =>
  useLiveQuery(
    async () =>
      (await database().summaries.where('[kind+open]').equals(['ticket', 0]).toArray()).flatMap((record) => {
        if (record.kind !== 'ticket' || !record.summary.donor) return [];
        const { ticketId, number, machine, donor } = record.summary;
        return [{ ticketId, number, machine, taken: donor.taken.length }];
      }),
    [],
  );

/** Machines that are kept for their parts, and what of each is worth the minutes. */
export function Donors({ settings }: { settings: Settings }) {
  const donors = useDonorList();
  if (!donors?.length) return null;
  return (
    <section aria-label="Kept for their parts" className="mt-6 max-w-5xl border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">Kept for their parts: {plural(donors.length, 'machine')}</h2>
      <ul>
        {donors.map((donor) => (
          <Donor key={donor.ticketId} donor={donor} settings={settings} />
        ))}
      </ul>
    </section>
  );
}

function Donor({ donor, settings }: { donor: DonorLine; settings: Settings }) {
  const [rows, setRows] = useState<HarvestRow[] | 'running' | null>(null);
  const ask = async () => {
    setRows('running');
    try {
      setRows(await shelfWorker.get().harvest(donor.ticketId, now()));
    } catch (error) {
      setRows(null);
      notice(`It could not be worked out: ${troubleWords(error)}. Nothing was changed.`);
    }
  };
  const take = async (row: HarvestRow) => {
    const minutes = row.minutes + row.testMinutes;
    const done = await tried(() =>
      harvestPart(eventStore(), donor.ticketId, row, {
        partId: row.partId,
        partNumber: row.partNumber,
        description: row.description,
        place: '',
        // What it cost the shop: the work.
        unitCost: shareOfMoney(settings.labourPerHour, Math.round((minutes / 60) * 10_000)),
      }),
    );
    if (!done) return;
    notice(
      `On the shelf, used: ${row.partNumber}. ${row.test ? `${capital(row.test)}, then note there whether it works.` : ''}`,
    );
    await ask();
  };
  const list = Array.isArray(rows) ? rows : [];
  const worth = list.filter((row) => row.worth.amountMinor > 0);
  const rest = list.filter((row) => row.worth.amountMinor <= 0);
  return (
    <li className="border-t border-line py-1.5 text-[15px]">
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
        <span>
          <Link href={`/ticket/${donor.ticketId}`} className="font-semibold underline underline-offset-4">
            Machine {donor.number}
          </Link>
          , {donor.machine}
          {donor.taken ? `, ${plural(donor.taken, 'part')} taken` : ''}
        </span>
        {rows === 'running' ? (
          <span role="status">Working it out …</span>
        ) : (
          <Button onClick={() => void ask()}>What is worth taking out of machine {donor.number}?</Button>
        )}
      </div>
      {Array.isArray(rows) ? (
        <>
          <ol aria-label={`Worth taking out of machine ${donor.number}`} className="mt-1">
            {worth.map((row) => (
              <Part key={row.roleId + row.position} row={row} onTake={() => void take(row)} />
            ))}
          </ol>
          {worth.length === 0 ? <p className="text-soft">Nothing on it is worth the minutes.</p> : null}
          {rest.length ? (
            <details>
              <summary className="min-h-11 w-fit cursor-pointer content-center">
                Not worth the minutes: {plural(rest.length, 'part')}
              </summary>
              <ol>
                {rest.map((row) => (
                  <Part key={row.roleId + row.position} row={row} onTake={() => void take(row)} />
                ))}
              </ol>
            </details>
          ) : null}
        </>
      ) : null}
    </li>
  );
}

function Part({ row, onTake }: { row: HarvestRow; onTake: () => void }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line py-1.5">
      <span className="min-w-0 flex-1 basis-72">
        <NumberText text={row.partNumber} className="font-semibold" /> {row.description}
        <span className="block text-soft">{capital(harvestWords(row))}</span>
      </span>
      <Mark tone={row.worth.amountMinor > 0 ? 'sound' : 'doubt'}>
        {row.worth.amountMinor > 0 ? 'worth' : 'loses'}{' '}
        {formatMoney({ ...row.worth, amountMinor: Math.abs(row.worth.amountMinor) })} in{' '}
        {formatMinutes(row.minutes + row.testMinutes)}
      </Mark>
      <Button onClick={onTake}>Taken out, on the shelf</Button>
    </li>
  );
}
