'use client';
import { PRICE_FIELDS } from '@/core/prices';
import type { PriceHabit } from '@/store';
import { Mark, Select } from '@/ui';
import { formatNumber, PRICE_FIELD_WORDS } from '@/words';
import type { OpenedList } from '@/workers';

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
      <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label="First rows of the list">
        <table className="text-sm">
          <thead>
            <tr className="border-b border-ink text-left">
              {list.header.map((name) => (
                <th key={name} className="py-1 pr-4 font-semibold whitespace-nowrap">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {list.sample.map((row, index) => (
              <tr key={index} className="border-b border-line">
                {list.header.map((name, column) => (
                  <td key={name} className="max-w-60 truncate py-1 pr-4 font-mono">
                    {row[column] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}
