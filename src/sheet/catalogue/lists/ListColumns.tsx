'use client';
import { fieldsOf, isComplete, KIND_FIELDS, SHEET_KINDS, type SheetKind, type SheetMapping } from '@/core/sheets';
import type { SheetHabit } from '@/store';
import { Button, Field, Mark, Select } from '@/ui';
import { formatNumber, SHEET_FIELD_WORDS, SHEET_KIND_WORDS } from '@/words';
import { sheetsWorker, type OpenedSheet } from '@/workers';
import { SampleTable } from '../SampleTable';

/** What can be read in two ways and nobody has said yet. */
export type Asked = { marks: boolean; dates: boolean };
type Habit = Omit<SheetHabit, 'kind'> & { kind: SheetKind | null };
type Props = {
  list: Extract<OpenedSheet, { kind: 'table' }>;
  habit: Habit;
  asked: Asked;
  onChange: (habit: Habit, asked: Asked) => void;
  onCheck: () => void;
};

/** What a list is of, whose it is, and which of its columns is what, with its first rows under it. */
export function ListColumns({ list, habit, asked, onChange, onCheck }: Props) {
  const { kind, mapping, style } = habit;
  const options = list.header.map((name) => ({ value: name, text: name }));
  const choose = async (next: SheetKind) => {
    const proposed = await sheetsWorker.get().propose(next);
    const { decimalComma, dayFirst } = proposed;
    onChange(
      { ...habit, kind: next, mapping: proposed.mapping, style: { ...style, decimalComma, dayFirst } },
      proposed.ambiguity,
    );
  };
  const map = async (next: SheetMapping) =>
    onChange({ ...habit, mapping: next }, await sheetsWorker.get().ambiguity(next));
  const ready =
    kind !== null && isComplete(kind, mapping) && habit.source.trim() !== '' && !asked.marks && !asked.dates;
  return (
    <div className="flex flex-col gap-3">
      <p className="text-[15px]">
        {formatNumber(list.rows)} rows.{' '}
        {list.remembered
          ? 'A list with these columns was read before: it is read the same way.'
          : 'This is what it looks like; change what is not so.'}
      </p>
      {list.notes.map((note) => (
        <Mark key={note} tone="doubt">
          {note}
        </Mark>
      ))}
      <div className="grid gap-2.5 sm:grid-cols-2 lg:grid-cols-4">
        <Select
          label="It is a list of"
          value={kind ?? ''}
          empty="choose"
          options={SHEET_KINDS.map((value) => ({ value, text: SHEET_KIND_WORDS[value] }))}
          onChange={(value) => {
            const next = SHEET_KINDS.find((one) => one === value);
            if (next) void choose(next);
          }}
        />
        <Field
          label={kind === 'prices' ? 'Supplier' : 'Whose list it is'}
          value={habit.source}
          maxLength={80}
          onChange={(event) => onChange({ ...habit, source: event.target.value }, asked)}
        />
        {kind === null
          ? null
          : fieldsOf(kind).map((field) => (
              <Select
                key={field}
                label={SHEET_FIELD_WORDS[field]}
                value={mapping[field] ?? ''}
                empty={KIND_FIELDS[kind].needs.includes(field) ? 'choose a column' : 'not in the list'}
                options={options}
                onChange={(name) => void map({ ...mapping, [field]: name || undefined })}
              />
            ))}
        {mapping.price === undefined && mapping.capacity === undefined ? null : (
          <Select
            label="Decimal mark"
            value={asked.marks ? '' : style.decimalComma ? 'comma' : 'point'}
            empty="say which it is"
            options={[
              { value: 'point', text: '1,234.50: the full stop' },
              { value: 'comma', text: '1.234,50: the comma' },
            ]}
            onChange={(mark) =>
              onChange(
                { ...habit, style: { ...style, decimalComma: mark === 'comma' } },
                { ...asked, marks: mark === '' },
              )
            }
          />
        )}
        {mapping.from === undefined && mapping.to === undefined ? null : (
          <Select
            label="Order of dates"
            value={asked.dates ? '' : style.dayFirst ? 'day' : 'month'}
            empty="say which it is"
            options={[
              { value: 'day', text: '31/12/2019: the day first' },
              { value: 'month', text: '12/31/2019: the month first' },
            ]}
            onChange={(order) =>
              onChange({ ...habit, style: { ...style, dayFirst: order === 'day' } }, { ...asked, dates: order === '' })
            }
          />
        )}
      </div>
      {asked.marks || asked.dates ? (
        <Mark tone="doubt">
          {asked.marks ? 'Figures like 1,234 can be read in two ways. ' : ''}
          {asked.dates ? 'Dates like 03/04/2019 can be read in two ways. ' : ''}
          Say which it is above; nothing is guessed here.
        </Mark>
      ) : null}
      <SampleTable header={list.header} sample={list.sample} />
      <Button tone="main" className="self-start" disabled={!ready} onClick={onCheck}>
        Read the rows
      </Button>
    </div>
  );
}
