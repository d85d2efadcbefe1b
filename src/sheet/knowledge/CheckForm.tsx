'use client';
import { useState } from 'react';
import type { NewCheck } from '@/core/learn';
import { typedNumber } from '@/core/units';
import { Button, Field, Folded, Select } from '@/ui';

const EMPTY = { title: '', how: '', minutes: '', state: 'isolated', seen: '', p: '90', otherwise: '', background: '5' };

/** A check of the shop's own that tells this cause apart. */
export function CheckForm({ take }: { take: (check: NewCheck) => Promise<string | null> }) {
  const [cells, setCells] = useState(EMPTY);
  const [said, setSaid] = useState<string | null>(null);
  const set = (column: keyof typeof EMPTY) => (text: string) => setCells({ ...cells, [column]: text });
  const text = (label: string, column: keyof typeof EMPTY, className = '') => (
    <Field
      label={label}
      className={className}
      value={cells[column]}
      onChange={(event) => set(column)(event.target.value)}
    />
  );
  const figure = (label: string, unit: string, column: keyof typeof EMPTY) => (
    <Field
      label={label}
      unit={unit}
      inputMode="decimal"
      className="w-40"
      value={cells[column]}
      onChange={(event) => set(column)(event.target.value)}
    />
  );
  const minutes = typedNumber(cells.minutes, 0, 600);
  const p = typedNumber(cells.p, 0, 100);
  const background = typedNumber(cells.background, 0, 100);
  const texts = [cells.title, cells.how, cells.seen, cells.otherwise].every((text) => text.trim() !== '');
  const sound = texts && minutes !== null && p !== null && background !== null;
  return (
    <Folded title="Add a check of your own">
      <form
        className="flex max-w-xl flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!sound) return;
          void take({
            title: cells.title.trim(),
            how: cells.how.trim(),
            minutes,
            state: cells.state === 'energised' ? 'energised' : 'isolated',
            seen: cells.seen.trim(),
            p: p / 100,
            otherwise: cells.otherwise.trim(),
            background: background / 100,
          }).then((why) => {
            setSaid(why ?? 'It is kept, and asked for from now on where it pays.');
            if (why === null) setCells(EMPTY);
          });
        }}
      >
{text('What to do, in a few words', 'title')}
{text('How it is done', 'how')}
        <div className="flex flex-wrap gap-2">
{figure('It takes', 'min', 'minutes')}
          <Select
            label="The machine is"
            className="w-44"
            value={cells.state}
            onChange={set('state')}
            empty="choose"
            options={[
              { value: 'isolated', text: 'unplugged' },
              { value: 'energised', text: 'live' },
            ]}
          />
        </div>
        <div className="flex flex-wrap gap-2">
{text('Seen when it is this cause', 'seen', 'min-w-56 flex-1')}
{figure('How often then', '%', 'p')}
{figure('How often otherwise', '%', 'background')}
        </div>
{text('Seen otherwise', 'otherwise')}
        <Button type="submit" className="self-start" disabled={!sound}>
          Add the check
        </Button>
        <p aria-live="polite" className="text-[15px] text-soft">
          {said ?? (sound ? '' : 'All fields are wanted; percent from 0 to 100.')}
        </p>
      </form>
    </Folded>
  );
}
