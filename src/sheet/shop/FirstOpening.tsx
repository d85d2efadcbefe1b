'use client';
import { useState } from 'react';
import { changeSettings } from '@/store';
import { Button, Field, Select } from '@/ui';
import { currencyOptions, deviceZone, zoneOptions } from './places';
import { ReplaceShop } from './ReplaceShop';
import { useWholeShop } from './useWholeShop';

/** What a new shop is asked before anything else: what every date and every price depends on. All of it can be changed later. */
export function FirstOpening() {
  const [name, setName] = useState('');
  const [zone, setZone] = useState(deviceZone);
  const [currency, setCurrency] = useState('EUR');
  const [wrong, setWrong] = useState<string | null>(null);
  const shop = useWholeShop();
  const begin = async () => {
    try {
      await changeSettings({ zone, currency, ...(name.trim() ? { shopName: name.trim() } : {}) });
    } catch (error) {
      setWrong(`Not saved: ${error instanceof Error ? error.message : String(error)}. Try again.`);
    }
  };
  return (
    <main className="mx-auto flex w-full max-w-md flex-col gap-4 p-6 pt-[12vh]">
      <h1 className="text-2xl font-bold">Your shop</h1>
      <p className="text-soft">Dates and prices depend on this. All of it can be changed on the Shop page.</p>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <Field label="Name of the shop" value={name} onChange={(event) => setName(event.target.value)} />
        <Select
          label="Time zone"
          value={zone}
          empty="choose"
          options={zoneOptions(zone)}
          onChange={(value) => setZone(value || deviceZone())}
        />
        <Select
          label="Currency"
          value={currency}
          empty="choose"
          options={currencyOptions()}
          onChange={(value) => setCurrency(value || 'EUR')}
        />
        {wrong ? <p role="alert">{wrong}</p> : null}
        <Button tone="main" type="submit" disabled={shop.busy} className="self-start">
          Begin
        </Button>
      </form>
      <section aria-label="Or begin with" className="border-t border-line pt-3">
        <h2 className="font-semibold">Or begin with what there is</h2>
        <ReplaceShop shop={shop} />
      </section>
    </main>
  );
}
