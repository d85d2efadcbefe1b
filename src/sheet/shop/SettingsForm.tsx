'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { guessMoney, moneyToDecimal, currencyDecimals, isDay, type Money } from '@/core/units';
import { changeSettings, saving, type ReadSettings, type SettingsChange } from '@/store';
import { Field, Mark, notice, Select, useNewest } from '@/ui';
import { listOf, notSavedWords, symbolOf, troubleWords } from '@/words';
import { searchWorker } from '@/workers';
import { currencyOptions, zoneOptions } from './places';
import { TickList, TOOLS_TEXT } from './TickList';

/** What was typed, as a change; or a word about what belongs there. */
type Change = SettingsChange | string;

type Line = {
  label: string;
  /** The field of the settings that it belongs to. */
  field: keyof Settings;
  unit?: string | ((settings: Settings) => string);
  value: (settings: Settings) => string;
  change: (typed: string, settings: Settings) => Change;
  note?: string;
};

const number = (text: string): number | null => {
  const value = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(value) ? value : null;
};

const text = (label: string, field: 'shopName' | 'address' | 'phone'): Line => ({
  label,
  field,
  value: (settings) => settings[field],
  change: (typed) => ({ [field]: typed }),
});
const amount = (
  label: string,
  field: 'labourPerHour' | 'inspectionFee' | 'latePerDay' | 'disruption',
  note?: string,
): Line => ({
  label,
  field,
  unit: (settings) => symbolOf(settings.currency),
  ...(note ? { note } : {}),
  value: (settings) => moneyToDecimal(settings[field]),
  change: (typed, { currency }) => {
    const read = guessMoney(typed, currency);
    return read.ok
      ? { [field]: read.value satisfies Money }
      : `An amount like ${(54).toFixed(currencyDecimals(currency))}.`;
  },
});
/** An amount that may be left empty: what is not done is not offered. */
const maybeAmount = (label: string, field: 'collectionFee' | 'deliveryFee', note: string): Line => ({
  label,
  field,
  unit: (settings) => symbolOf(settings.currency),
  note,
  value: (settings) => (settings[field] ? moneyToDecimal(settings[field]) : ''),
  change: (typed, { currency }) => {
    if (typed.trim() === '') return { [field]: null };
    const read = guessMoney(typed, currency);
    return read.ok ? { [field]: read.value satisfies Money } : 'An amount, or nothing.';
  },
});
/** A share that is kept in hundredths of a percent. */
const share = (
  label: string,
  field:
    | 'taxBasisPoints'
    | 'partsMarkupBasisPoints'
    | 'reserveBasisPoints'
    | 'depositBasisPoints'
    | 'usedPartsBasisPoints'
    | 'holdingBasisPoints',
  note?: string,
): Line => ({
  label,
  field,
  unit: '%',
  ...(note ? { note } : {}),
  value: (settings) => String(settings[field] / 100),
  change: (typed) => {
    const value = number(typed);
    return value === null ? 'A percentage like 19.' : { [field]: Math.round(value * 100) };
  },
});
const percent = (
  label: string,
  field: keyof Settings,
  get: (settings: Settings) => number,
  set: (value: number) => SettingsChange,
  note?: string,
): Line => ({
  label,
  field,
  unit: '%',
  ...(note ? { note } : {}),
  value: (settings) => String(Math.round(get(settings) * 1000) / 10),
  change: (typed) => {
    const value = number(typed);
    return value === null ? 'A percentage like 75.' : set(value / 100);
  },
});
const whole = (
  label: string,
  field: keyof Settings,
  unit: string,
  get: (settings: Settings) => number,
  set: (value: number) => SettingsChange,
  note?: string,
): Line => ({
  label,
  field,
  unit,
  ...(note ? { note } : {}),
  value: (settings) => String(get(settings)),
  change: (typed) => {
    const value = number(typed);
    return value === null ? `A number of ${unit}.` : set(value);
  },
});

const closesAt: Line = {
  label: 'It closes at',
  field: 'closesAt',
  note: 'Like 17:00: how much of the day is left follows.',
  value: (settings) => settings.closesAt,
  change: (typed) => {
    const time = typed.trim().padStart(5, '0');
    return /^([01]\d|2[0-3]):[0-5]\d$/.test(time) ? { closesAt: time } : 'A time like 17:00.';
  },
};

const holidays: Line = {
  label: 'Holidays',
  field: 'holidays',
  note: 'Days like 2026-12-25, one after the other. Nobody works, packs or brings on them.',
  value: (settings) => settings.holidays.join(' '),
  change: (typed) => {
    const days = typed.split(/[\s,;]+/).filter(Boolean);
    const wrong = days.find((day) => !isDay(day));
    return wrong === undefined
      ? { holidays: [...new Set(days.filter(isDay))].sort() }
      : `“${wrong}” is no day like 2026-12-25.`;
  },
};

const instruments: Line = {
  label: 'Measured with',
  field: 'instruments',
  note: 'Instruments and when they were checked, one after the other with a semicolon. A reading can name one, and the safety record does.',
  value: (settings) => settings.instruments.join('; '),
  change: (typed) => ({
    instruments: [
      ...new Set(
        typed
          .split(';')
          .map((name) => name.trim())
          .filter(Boolean),
      ),
    ],
  }),
};

const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'];
const weekdays = (label: string, field: 'shopDays' | 'carrierDays' | 'supplierDays'): Line => ({
  label,
  field,
  note: 'As “Mo Tu We Th Fr”: the day on which it is ready follows.',
  value: (settings) => settings[field].map((day) => DAYS[day - 1] ?? '').join(' '),
  change: (typed) => {
    const named = typed.split(/[\s,;]+/).filter(Boolean);
    const days = named.map((name) => DAYS.findIndex((day) => name.toLowerCase().startsWith(day.toLowerCase())) + 1);
    return days.length === 0 || days.includes(0)
      ? 'Days like “Mo Tu We Th Fr”.'
      : { [field]: [...new Set(days)].sort() };
  },
});

const LINES: Line[] = [
  text('Name of the shop', 'shopName'),
  text('Address', 'address'),
  text('Telephone', 'phone'),
  amount('Labour per hour, net', 'labourPerHour'),
  amount('Inspection fee, net', 'inspectionFee'),
  share('Tax', 'taxBasisPoints'),
  {
    label: 'Tax on work, where it differs',
    field: 'labourTaxBasisPoints',
    unit: '%',
    note: 'Empty: as on parts.',
    value: ({ labourTaxBasisPoints: rate }) => (rate === null ? '' : String(rate / 100)),
    change: (typed) => {
      if (typed.trim() === '') return { labourTaxBasisPoints: null };
      const value = number(typed);
      return value === null ? 'A percentage like 7, or nothing.' : { labourTaxBasisPoints: Math.round(value * 100) };
    },
  },
  share('On top of the purchase price of parts', 'partsMarkupBasisPoints'),
  {
    label: 'Other mark-ups, from a purchase price on',
    field: 'markupTiers',
    note: 'As “100: 20, 250: 12”: from 100 on 20 %, from 250 on 12 %. Empty: none.',
    value: ({ markupTiers }) =>
      markupTiers.map(({ from, basisPoints }) => `${Number(moneyToDecimal(from))}: ${basisPoints / 100}`).join(', '),
    change: (typed, { currency }) => {
      const tiers = typed.split(/[,;]/).flatMap((text) => {
        const [from = '', percent = ''] = text.split(':');
        return text.trim() === '' ? [] : [{ from: guessMoney(from.trim(), currency), percent: number(percent) }];
      });
      const read = tiers.flatMap(({ from, percent }) =>
        from.ok && percent !== null ? [{ from: from.value, basisPoints: Math.round(percent * 100) }] : [],
      );
      return read.length === tiers.length ? { markupTiers: read } : 'Prices and percentages like “100: 20, 250: 12”.';
    },
  },
  share(
    'At most put aside for work that comes back, of the labour',
    'reserveBasisPoints',
    'The chance that the mend does not hold, where that is less. A line of the offer.',
  ),
  share(
    'Used part out of a donor, of a new one’s price',
    'usedPartsBasisPoints',
    'Taking it out and testing it is in that price.',
  ),
  share(
    'What a part on the shelf costs in a year, of its price',
    'holdingBasisPoints',
    'Money, room, what gets old: how much is worth keeping follows from it.',
  ),
  whole(
    'To send something back to a supplier',
    'returnDays',
    'days',
    (settings) => settings.returnDays,
    (returnDays) => ({ returnDays }),
    'From the day on which it came.',
  ),
  share('Asked for before parts are ordered, of their price', 'depositBasisPoints', '0: nothing.'),
  maybeAmount('Fetching a machine', 'collectionFee', 'Empty: not done.'),
  maybeAmount('Bringing it back', 'deliveryFee', 'Empty: not done.'),
  whole(
    'Warranty on a repair',
    'warrantyMonths',
    'months',
    (settings) => settings.warrantyMonths,
    (warrantyMonths) => ({ warrantyMonths }),
  ),
  whole(
    'Until a bench is free, at least',
    'queueDays',
    'working days',
    (settings) => settings.queueDays,
    (queueDays) => ({ queueDays }),
    'What the other machines in the shop still need on the bench is reckoned: the longer of the two counts.',
  ),
  whole(
    'At the benches at the same time',
    'benches',
    'people',
    (settings) => settings.benches,
    (benches) => ({ benches }),
  ),
  instruments,
  whole(
    'Where joints cure it has about',
    'roomCelsius',
    '°C',
    (settings) => settings.roomCelsius,
    (roomCelsius) => ({ roomCelsius }),
    'Sealant cures by the moisture of the air: colder or drier is longer.',
  ),
  percent(
    'And a humidity of about',
    'roomHumidity',
    (settings) => settings.roomHumidity,
    (roomHumidity) => ({ roomHumidity }),
  ),
  weekdays('The shop is open on', 'shopDays'),
  weekdays('Carriers bring on', 'carrierDays'),
  closesAt,
  weekdays('Suppliers pack on', 'supplierDays'),
  holidays,
  whole(
    'An offer stands for',
    'validDays',
    'days',
    (settings) => settings.validDays,
    (validDays) => ({ validDays }),
  ),
  whole(
    'Promised: days from the yes to ready',
    'promiseDays',
    'days',
    (settings) => settings.promiseDays,
    (promiseDays) => ({ promiseDays }),
    'The order plan works towards it.',
  ),
  percent(
    'A cause counts as found from this chance on',
    'enoughCertainty',
    (settings) => settings.enoughCertainty,
    (enoughCertainty) => ({ enoughCertainty }),
    'Below it another check is proposed, if one pays; from it on only one that saves more than 5 minutes of labour.',
  ),
  percent(
    'House rule: repair below this share of a new one',
    'rules',
    (settings) => settings.rules.shareOfNew,
    (shareOfNew) => ({ rules: { shareOfNew } }),
  ),
  whole(
    'House rule: nothing over this age',
    'rules',
    'years',
    (settings) => settings.rules.maxAgeYears,
    (maxAgeYears) => ({ rules: { maxAgeYears } }),
  ),
  {
    label: 'House rule: age times quote, in new prices',
    field: 'rules',
    note: 'At 4, a machine of 8 years is mended for up to half a new one.',
    value: ({ rules }) => String(rules.ageTimesQuote),
    change: (typed) => {
      const ageTimesQuote = number(typed);
      return ageTimesQuote === null ? 'A number like 4.' : { rules: { ageTimesQuote } };
    },
  },
  amount('A day without the machine costs the customer', 'latePerDay'),
  amount('Each later failure costs the owner beside the bill', 'disruption', 'A visit, days without washing.'),
  percent(
    'Interest: later money counts less, a year',
    'rho',
    (settings) => settings.rho,
    (rho) => ({ rho }),
    '0: it counts in full.',
  ),
];

const TAX_STYLES = [
  { value: 'added', text: 'prices without tax, it comes on top' },
  { value: 'included', text: 'prices with tax in them' },
  { value: 'none', text: 'no tax is charged' },
] as const;

/** The shop's figures; each is saved when it is entered, and only that one. */
export function SettingsForm({ row }: { row: ReadSettings }) {
  const { settings, unreadable } = row;
  const tools = useNewest('tools', () => searchWorker.get().tools()).answer ?? [];
  const sundries = useNewest('sundries', () => searchWorker.get().sundries()).answer ?? [];
  return (
    <section aria-label="Settings" className="mt-6 border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">The shop’s figures</h2>
      {unreadable.length ? (
        <p role="status" className="mt-1 border-l-4 border-doubt bg-well p-2 text-[15px]">
          <Mark tone="doubt">Some figures could not be read</Mark> and count as their defaults:{' '}
          {listOf(unreadable.map((field) => LINES.find((line) => line.field === field)?.label ?? field))}. What is
          stored is kept until they are entered anew.
        </p>
      ) : null}
      <div className="mt-2 grid max-w-4xl gap-x-6 gap-y-3 sm:grid-cols-2">
        {LINES.map((line) => (
          <SettingField
            key={line.label}
            line={line}
            settings={settings}
            isDefault={row.defaults.includes(line.field)}
          />
        ))}
        <Select
          label="Prices and tax"
          value={settings.taxStyle}
          empty="choose"
          options={TAX_STYLES}
          onChange={(value) => {
            const taxStyle = TAX_STYLES.find((style) => style.value === value)?.value;
            if (taxStyle) void setting({ taxStyle });
          }}
        />
        <Select
          label="Time zone of the shop"
          value={settings.zone}
          empty="choose"
          options={zoneOptions(settings.zone)}
          onChange={(zone) => void (zone && setting({ zone }))}
        />
        <Select
          label="Currency"
          value={settings.currency}
          empty="choose"
          options={currencyOptions()}
          onChange={(currency) => void (currency && setting({ currency }))}
        />
        <Check
          label="The inspection fee is waived if the job goes ahead"
          on={settings.feeWaivedIfRepaired}
          set={(feeWaivedIfRepaired) => setting({ feeWaivedIfRepaired })}
        />
        <Check
          label="This shop opens welded tubs"
          on={settings.opensWeldedTubs}
          set={(opensWeldedTubs) => setting({ opensWeldedTubs })}
        />
        <Check
          label="A mended component counts as new (else: as old as before)"
          on={settings.repairModel === 'renewal'}
          set={(on) => setting({ repairModel: on ? 'renewal' : 'minimal' })}
        />
      </div>
      {sundries.length ? (
        <div className="mt-3 max-w-4xl">
          <TickList
            legend="Which sundries do you keep on the shelf?"
            note="Those are charged by the piece; what is not ticked is bought for the job."
            entries={sundries}
            lacking={settings.lackingStock}
            onChange={(lackingStock) => void setting({ lackingStock })}
          />
        </div>
      ) : null}
      {tools.length ? (
        <div className="mt-3 max-w-4xl">
          <TickList
            {...TOOLS_TEXT}
            entries={tools}
            lacking={settings.lackingTools}
            onChange={(lackingTools) => void setting({ lackingTools })}
          />
        </div>
      ) : null}
    </section>
  );
}

/** Of a choice or a tick, which always makes sense; what could not be saved is said. */
const setting = (change: SettingsChange, confirmed?: readonly (keyof Settings)[]): Promise<boolean> =>
  saving
    .keep(() => changeSettings(change, confirmed))
    .catch((error: unknown) => {
      notice(notSavedWords(error));
      return false;
    });

const SENSELESS = 'That is outside what makes sense here. The old value is kept.';

function SettingField({ line, settings, isDefault }: { line: Line; settings: Settings; isDefault: boolean }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const save = async () => {
    if (typed === null) return;
    const change = line.change(typed, settings);
    if (typeof change === 'string') return setWrong(change);
    try {
      if (!(await saving.keep(() => changeSettings(change)))) return setWrong(SENSELESS);
    } catch (error) {
      return setWrong(`Not saved: ${troubleWords(error)}. The old value is kept.`);
    }
    setWrong(null);
    setTyped(null);
  };
  const { unit = '' } = line;
  return (
    <Field
      label={line.label}
      unit={typeof unit === 'string' ? unit : unit(settings)}
      value={typed ?? line.value(settings)}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => void save()}
      onKeyDown={(event) => event.key === 'Enter' && void save()}
      note={
        wrong ? (
          <Mark tone="stop">{wrong}</Mark>
        ) : isDefault ? (
          <>
            <Mark tone="doubt">a default, not yours</Mark> {line.note}{' '}
            <button
              type="button"
              className="min-h-11 underline underline-offset-4"
              aria-label={`Keep it: ${line.label}`}
              onClick={() => void setting({}, [line.field])}
            >
              Keep it
            </button>
          </>
        ) : (
          line.note
        )
      }
    />
  );
}

function Check({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => Promise<boolean> }) {
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
