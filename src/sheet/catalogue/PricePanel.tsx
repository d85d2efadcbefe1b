'use client';
import { proxy } from 'comlink';
import { useLiveQuery } from 'dexie-react-hooks';
import { useRef, useState } from 'react';
import { localDateOf, type SupplierId } from '@/core/units';
import { database, dropPrices, saving, type PriceHabit } from '@/store';
import { useLayersKey, useSettings } from '@/store/react';
import { Button, FileInput, Mark, Progress, Select, useNewest } from '@/ui';
import { formatNumber, troubleWords } from '@/words';
import { pricesWorker, searchWorker, type CheckedList, type OpenedList } from '@/workers';
import { PriceCheck } from './PriceCheck';
import { PriceColumns } from './PriceColumns';

type Step =
  | { kind: 'none' }
  | { kind: 'busy'; what: string; done: number; total: number }
  | {
      kind: 'opened';
      name: string;
      list: Exclude<OpenedList, { kind: 'unreadable' }>;
      habit: PriceHabit;
      checked: CheckedList | null;
    }
  | { kind: 'applied'; name: string; rows: number }
  | { kind: 'failed'; why: string };

function useSuppliers(): readonly { id: SupplierId; name: string }[] {
  const layers = useLayersKey();
  return useNewest(layers, () => searchWorker.get().suppliers()).answer ?? [];
}

/** A supplier's own prices, from the table that the supplier sends: columns named once, checked against today's prices, then used. */
export function PricePanel() {
  const suppliers = useSuppliers();
  const settings = useSettings();
  const lists = useLiveQuery(() => database().priceLists.toArray(), []) ?? [];
  const [chosen, setChosen] = useState<SupplierId | null>(null);
  const [step, setStep] = useState<Step>({ kind: 'none' });
  const file = useRef<HTMLInputElement>(null);
  const supplierId = chosen ?? suppliers[0]?.id ?? null;
  const nameOf = (id: string | null) => suppliers.find((supplier) => supplier.id === id)?.name ?? id ?? '';

  const attempt = async (what: string, work: () => Promise<Step>) => {
    setStep({ kind: 'busy', what, done: 0, total: 0 });
    try {
      setStep(await work());
    } catch (error) {
      setStep({ kind: 'failed', why: troubleWords(error) });
    }
  };
  const check = async (name: string, list: Extract<Step, { kind: 'opened' }>['list'], habit: PriceHabit) => {
    if (supplierId === null) return;
    await attempt('Reading every row', async () => ({
      kind: 'opened',
      name,
      list,
      habit,
      checked: await pricesWorker.get().check(supplierId, habit),
    }));
  };
  const say = (done: number, total: number) => setStep((now) => (now.kind === 'busy' ? { ...now, done, total } : now));
  const open = (picked: File | undefined) => {
    if (!picked || !settings || supplierId === null) return;
    const { currency } = settings;
    void attempt('Opening the list', async () => {
      const list = await pricesWorker.get().open(picked, supplierId, currency, proxy(say));
      if (list.kind === 'unreadable') return { kind: 'failed', why: list.why };
      const habit = list.kind === 'table' ? list.habit : { mapping: {}, style: { decimalComma: false, currency } };
      const ready = list.kind === 'ubl' || list.remembered;
      const checked = ready ? await pricesWorker.get().check(supplierId, habit) : null;
      return { kind: 'opened', name: picked.name, list, habit, checked };
    });
  };
  const apply = async (name: string, rows: number) => {
    if (supplierId === null) return;
    await attempt('Putting the prices to use', async () => {
      await saving.keep(() => pricesWorker.get().apply(supplierId, name));
      return { kind: 'applied', name, rows };
    });
  };

  return (
    <section aria-label="Price lists" className="mt-5 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">Price lists of suppliers</h2>
      <p className="max-w-prose text-[15px] text-soft">
        CSV, XLSX or UBL Catalogue XML, up to 100,000 rows. A list takes the place of what the catalogue says of that
        supplier, and stays when the catalogue is renewed.
      </p>
      {lists.length > 0 ? (
        <ul className="mt-1 text-[15px]">
          {lists.map((list) => (
            <li key={list.supplierId} className="flex flex-wrap items-center gap-x-3">
              <span>
                <strong>{nameOf(list.supplierId)}</strong>: {list.title}, {formatNumber(list.rows)} prices, since{' '}
                {localDateOf(list.at, settings?.zone ?? 'UTC')}
              </span>
              <Button
                tone="quiet"
                onClick={() =>
                  void attempt('Going back', async () => {
                    await saving.keep(() => dropPrices(database(), list.supplierId));
                    return { kind: 'none' };
                  })
                }
              >
                Back to the catalogue’s prices of {nameOf(list.supplierId)}
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      <div className="mt-2 flex flex-wrap items-end gap-2.5">
        <Select
          label="Supplier"
          value={supplierId ?? ''}
          empty="choose"
          options={suppliers.map(({ id, name }) => ({ value: id, text: name }))}
          onChange={(id) => {
            setChosen(suppliers.find((supplier) => supplier.id === id)?.id ?? null);
            setStep({ kind: 'none' });
          }}
        />
        <Button onClick={() => file.current?.click()} disabled={supplierId === null || step.kind === 'busy'}>
          Choose a price list
        </Button>
        {step.kind === 'busy' ? (
          <Button
            onClick={() => {
              pricesWorker.stop();
              setStep({ kind: 'none' });
            }}
          >
            Stop
          </Button>
        ) : null}
      </div>
      <FileInput
        ref={file}
        accept=".csv,.txt,.xlsx,.xml,text/csv,application/xml"
        label="Price list"
        onFile={(picked) => open(picked)}
      />
      <div aria-live="polite" className="mt-3 flex flex-col gap-3">
        {step.kind === 'busy' ? <Progress label={step.what} done={step.done} total={step.total} /> : null}
        {step.kind === 'failed' ? <Mark tone="stop">{step.why}</Mark> : null}
        {step.kind === 'applied' ? (
          <Mark tone="sound">
            {step.name} is in use: {formatNumber(step.rows)} prices of {nameOf(supplierId)}.
          </Mark>
        ) : null}
        {step.kind === 'opened' ? (
          <>
            {step.list.kind === 'table' ? (
              <PriceColumns
                list={step.list}
                habit={step.habit}
                onChange={(habit) => setStep({ ...step, habit, checked: null })}
              />
            ) : (
              <p>
                {step.list.title}
                {step.list.supplier ? ` of ${step.list.supplier}` : ''}: {formatNumber(step.list.rows)} priced lines.
              </p>
            )}
            {step.checked ? (
              <PriceCheck checked={step.checked} onApply={() => void apply(step.name, step.checked?.rows ?? 0)} />
            ) : (
              <Button
                tone="main"
                className="self-start"
                disabled={!step.habit.mapping.partNumber || !step.habit.mapping.price}
                onClick={() => void check(step.name, step.list, step.habit)}
              >
                Check the rows
              </Button>
            )}
          </>
        ) : null}
      </div>
    </section>
  );
}
