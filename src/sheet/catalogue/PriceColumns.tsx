'use client';
import { PRICE_FIELDS } from '@/core/prices';
import type { PriceHabit } from '@/store';
import { Mark, Select } from '@/ui';
import { formatNumber, PRICE_FIELD_WORDS } from '@/words';
import type { OpenedList } from '@/workers';
import { SampleTable } from './SampleTable';

type Props = {
  list: Extract<OpenedList, { kind: 'table' }>;
  habit: PriceHabit;
  onChange: (habit: PriceHabit) => void;
};

/** Which column of the supplier's table is what, with its first rows under it. */
export function PriceColumns({ list, habit, onChange }: Props) {
  const options = list.header.map((name) => ({ value: name, text: name }));
  return (
    <div className="flex flex-col gap-3">
      <p className="text-[15px]">
        {formatNumber(list.rows)} rows.{' '}
        {list.remembered
          ? 'The columns are read as the last time.'
          : 'Say which column is what; it is remembered for this supplier.'}
      </p>
      {list.notes.map((note) => (
        <Mark key={note} tone="doubt">
          {note}
        </Mark>
      ))}
      <div className="grid gap-2.5 sm:grid-cols-2 lg:grid-cols-4">
        {PRICE_FIELDS.map((field) => (
          <Select
            key={field}
            label={PRICE_FIELD_WORDS[field]}
            value={habit.mapping[field] ?? ''}
            empty={field === 'partNumber' || field === 'price' ? 'choose a column' : 'not in the list'}
            options={options}
            onChange={(name) => onChange({ ...habit, mapping: { ...habit.mapping, [field]: name || undefined } })}
          />
        ))}
        <Select
          label="Decimal mark of the prices"
          value={habit.style.decimalComma ? 'comma' : 'point'}
          empty="choose"
          options={[
            { value: 'point', text: '12.50' },
            { value: 'comma', text: '12,50' },
          ]}
          onChange={(mark) => onChange({ ...habit, style: { ...habit.style, decimalComma: mark === 'comma' } })}
        />
      </div>
      <SampleTable header={list.header} sample={list.sample} />
    </div>
  );
}
