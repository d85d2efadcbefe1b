'use client';
import { troubleWords } from '@/words';
import { useState } from 'react';
import { defaultSettings } from '@/core/case';
import { guessMoney, moneyToDecimal } from '@/core/units';
import { changeSettings, saving, type SettingsChange } from '@/store';
import { Button, Field, Mark, Select, useNewest } from '@/ui';
import { searchWorker } from '@/workers';
import { currencyOptions, deviceZone, zoneOptions } from './places';
import { ReplaceShop } from './ReplaceShop';
import { TickList, TOOLS_TEXT } from './TickList';
import { useWholeShop } from './useWholeShop';
import { goToShop } from './whichShop';

const DEFAULTS = defaultSettings();

type Entered = { name: string; zone: string; currency: string; tax: string; labour: string; fee: string };

/** What was entered, as the shop's settings; null where a figure does not read. */
function settingsOf(
  { name, zone, currency, tax, labour, fee }: Entered,
  lackingTools: string[],
): SettingsChange | null {
  const share = Number(tax.replace(',', '.'));
  const [labourPerHour, inspectionFee] = [guessMoney(labour, currency), guessMoney(fee, currency)];
  if (tax.trim() === '' || !(share >= 0 && share <= 100)) return null;
  if (!labourPerHour.ok || !inspectionFee.ok) return null;
  if (labourPerHour.value.amountMinor < 0 || inspectionFee.value.amountMinor < 0) return null;
  return {
    zone,
    currency,
    taxBasisPoints: Math.round(share * 100),
    labourPerHour: labourPerHour.value,
    inspectionFee: inspectionFee.value,
    lackingTools,
    ...(name.trim() ? { shopName: name.trim() } : {}),
  };
}

/** What a new shop is asked: each with a default and a reason. What else is missing is asked where it is needed. */
export function SetUp() {
  const [entered, setEntered] = useState<Entered>({
    name: '',
    zone: deviceZone(),
    currency: DEFAULTS.currency,
    tax: String(DEFAULTS.taxBasisPoints / 100),
    labour: moneyToDecimal(DEFAULTS.labourPerHour),
    fee: moneyToDecimal(DEFAULTS.inspectionFee),
  });
  const tools = useNewest('tools', () => searchWorker.get().tools()).answer ?? [];
  const [lacking, setLacking] = useState<string[] | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const shop = useWholeShop();
  const lacks = lacking ?? tools.filter(({ usual }) => usual === 'no').map(({ id }) => id);
  const set = (field: keyof Entered) => (event: { target: { value: string } }) =>
    setEntered({ ...entered, [field]: event.target.value });
  const begin = async () => {
    const change = settingsOf(entered, lacks);
    if (!change)
      return setWrong('Tax is a percentage like 19, labour and fee are amounts like 54.00. Nothing is saved yet.');
    try {
      if (!(await saving.keep(() => changeSettings(change))))
        setWrong('One of the figures is outside what makes sense. Nothing is saved yet.');
    } catch (error) {
      setWrong(`Not saved: ${troubleWords(error)}. Try again.`);
    }
  };
  return (
    <main className="mx-auto flex w-full max-w-3xl flex-col gap-4 p-6 pt-[6vh]">
      <div>
        <h1 className="text-2xl font-bold">Your shop</h1>
        <p className="text-soft">
          Each has a default that will do to begin with. All of it can be changed on the Shop page, at any time.
        </p>
      </div>
      <form
        className="grid gap-x-6 gap-y-4 sm:grid-cols-2"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <Field
          label="Name of the shop"
          value={entered.name}
          onChange={set('name')}
          note="Stands on offers and orders."
        />
        <Select
          label="Time zone"
          value={entered.zone}
          empty="choose"
          options={zoneOptions(entered.zone)}
          onChange={(value) => setEntered({ ...entered, zone: value || deviceZone() })}
        />
        <Select
          label="Currency"
          value={entered.currency}
          empty="choose"
          options={currencyOptions()}
          onChange={(value) => setEntered({ ...entered, currency: value || DEFAULTS.currency })}
        />
        <Field
          label="Tax"
          unit="%"
          inputMode="decimal"
          value={entered.tax}
          onChange={set('tax')}
          note="On top of every offer; 0 if you charge none."
        />
        <Field
          label="Labour per hour, net"
          unit={entered.currency}
          inputMode="decimal"
          value={entered.labour}
          onChange={set('labour')}
          note="Every offer, and what a check is worth, is counted with it."
        />
        <Field
          label="Inspection fee, net"
          unit={entered.currency}
          inputMode="decimal"
          value={entered.fee}
          onChange={set('fee')}
          note="What looking costs if the customer says no."
        />
        {tools.length ? (
          <details className="sm:col-span-2">
            <summary className="min-h-11 cursor-pointer content-center font-semibold">
              Tools: {tools.length - lacks.length} of {tools.length} are in your shop
              {lacking === null ? ', as in most shops' : ''}
            </summary>
            <TickList {...TOOLS_TEXT} entries={tools} lacking={lacks} onChange={setLacking} />
          </details>
        ) : null}
        {wrong ? (
          <p role="alert" className="sm:col-span-2">
            <Mark tone="stop">{wrong}</Mark>
          </p>
        ) : null}
        <Button tone="main" type="submit" disabled={shop.busy} className="justify-self-start">
          Begin
        </Button>
      </form>
      <section aria-label="Or begin with" className="border-t border-line pt-3">
        <h2 className="font-semibold">Or begin with what there is</h2>
        <ReplaceShop shop={shop} last={<Button onClick={() => goToShop('demo')}>Look round in the demo shop</Button>} />
      </section>
    </main>
  );
}
