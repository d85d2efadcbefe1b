'use client';
import { useState } from 'react';
import { settingsSchema, type Settings } from '@/core/case';
import { moneyToDecimal, parseMoney, type Money } from '@/core/units';
import { saveSettings } from '@/store';
import { Field, Mark } from '@/ui';
import { symbolOf } from '@/words';

type Change = (text: string) => Partial<Settings> | string;

type Line = {
  label: string;
  unit?: string;
  value: (settings: Settings) => string;
  change: (settings: Settings) => Change;
  note?: string;
};

const number = (text: string): number | null => {
  const value = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(value) ? value : null;
};

const text = (label: string, key: 'shopName' | 'address' | 'phone'): Line => ({
  label,
  value: (settings) => settings[key],
  change: () => (typed) => ({ [key]: typed }),
});
const amount = (
  label: string,
  key: 'labourPerHour' | 'inspectionFee' | 'latePerDay' | 'disruption',
  note?: string,
): Line => ({
  label,
  ...(note ? { note } : {}),
  value: (settings) => moneyToDecimal(settings[key]),
  change: (settings) => (typed) => {
    const read = parseMoney(typed, settings.currency);
    return read.ok ? { [key]: read.value satisfies Money } : 'An amount like 54.00.';
  },
});
const share = (
  label: string,
  get: (settings: Settings) => number,
  set: (settings: Settings, value: number) => Partial<Settings>,
  note?: string,
): Line => ({
  label,
  unit: '%',
  ...(note ? { note } : {}),
  value: (settings) => String(Math.round(get(settings) * 1000) / 10),
  change: (settings) => (typed) => {
    const value = number(typed);
    return value === null ? 'A percentage like 19.' : set(settings, value / 100);
  },
});

const LINES: Line[] = [
  text('Name of the shop', 'shopName'),
  text('Address', 'address'),
  text('Telephone', 'phone'),
  amount('Labour per hour, net', 'labourPerHour'),
  amount('Inspection fee, net', 'inspectionFee'),
  share(
    'Tax',
    (settings) => settings.taxBasisPoints / 10_000,
    (_, value) => ({ taxBasisPoints: Math.round(value * 10_000) }),
  ),
  share(
    'On top of the purchase price of parts',
    (settings) => settings.partsMarkupBasisPoints / 10_000,
    (_, value) => ({ partsMarkupBasisPoints: Math.round(value * 10_000) }),
  ),
  share(
    'House rule: repair below this share of a new one',
    (settings) => settings.rules.shareOfNew,
    (settings, value) => ({ rules: { ...settings.rules, shareOfNew: value } }),
  ),
  {
    label: 'House rule: nothing over this age',
    unit: 'years',
    value: (settings) => String(settings.rules.maxAgeYears),
    change: (settings) => (typed) => {
      const value = number(typed);
      return value === null ? 'A number of years.' : { rules: { ...settings.rules, maxAgeYears: value } };
    },
  },
  amount('A day without the machine costs the customer', 'latePerDay'),
  amount('Each later failure costs the owner beside the bill', 'disruption', 'A visit, days without washing.'),
  share(
    'Interest: later money counts less, a year',
    (settings) => settings.rho,
    (_, value) => ({ rho: value }),
  ),
];

/** The shop's figures; each is saved when it is entered. */
export function SettingsForm({ settings }: { settings: Settings }) {
  return (
    <section aria-label="Settings" className="mt-6 border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">The shop’s figures</h2>
      <div className="mt-2 grid max-w-4xl gap-x-6 gap-y-3 sm:grid-cols-2">
        {LINES.map((line) => (
          <SettingField key={line.label} line={line} settings={settings} />
        ))}
        <Check
          label="The inspection fee is waived if the job goes ahead"
          on={settings.feeWaivedIfRepaired}
          set={(on) => saveSettings({ ...settings, feeWaivedIfRepaired: on })}
        />
        <Check
          label="This shop opens welded tubs"
          on={settings.opensWeldedTubs}
          set={(on) => saveSettings({ ...settings, opensWeldedTubs: on })}
        />
        <Check
          label="A mended component counts as new (else: as old as before)"
          on={settings.repairModel === 'renewal'}
          set={(on) => saveSettings({ ...settings, repairModel: on ? 'renewal' : 'minimal' })}
        />
      </div>
    </section>
  );
}

function SettingField({ line, settings }: { line: Line; settings: Settings }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const save = async () => {
    if (typed === null) return;
    const change = line.change(settings)(typed);
    const read = typeof change === 'string' ? null : settingsSchema.safeParse({ ...settings, ...change });
    if (!read?.success) {
      setWrong(typeof change === 'string' ? change : 'That is outside what makes sense here. The old value is kept.');
      return;
    }
    setWrong(null);
    await saveSettings(read.data);
    setTyped(null);
  };
  const isMoney = line.unit === undefined && /^\d+\.\d{2}$/.test(line.value(settings));
  return (
    <Field
      label={line.label}
      unit={line.unit ?? (isMoney ? symbolOf(settings.currency) : '')}
      value={typed ?? line.value(settings)}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => void save()}
      onKeyDown={(event) => event.key === 'Enter' && void save()}
      note={wrong ? <Mark tone="stop">{wrong}</Mark> : line.note}
    />
  );
}

function Check({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => Promise<void> }) {
  return (
    <label className="flex min-h-11 items-center gap-2.5">
      <input
        type="checkbox"
        className="size-6 accent-mark"
        checked={on}
        onChange={(event) => void set(event.target.checked)}
      />
      {label}
    </label>
  );
}
