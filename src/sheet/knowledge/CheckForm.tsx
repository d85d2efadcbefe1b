'use client';
import { useState } from 'react';
import type { NewCheck } from '@/core/learn';
import { Button, Field, Folded, Select } from '@/ui';

const EMPTY = { title: '', how: '', minutes: '', state: 'isolated', seen: '', p: '90', otherwise: '', background: '5' };

const number = (text: string, most: number): number | null => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(value) && value >= 0 && value <= most ? value : null;
};

/** A check of the shop's own that tells this cause apart. */
export function CheckForm({ take }: { take: (check: NewCheck) => Promise<string | null> }) {
  const [cells, setCells] = useState(EMPTY);
  const [said, setSaid] = useState<string | null>(null);
  const set = (column: keyof typeof EMPTY) => (text: string) => setCells({ ...cells, [column]: text });
  const minutes = number(cells.minutes, 600);
  const p = number(cells.p, 100);
  const background = number(cells.background, 100);
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
        <Field label="What to do, in a few words" value={cells.title} onChange={(event) => set('title')(event.target.value)} />
        <Field label="How it is done" value={cells.how} onChange={(event) => set('how')(event.target.value)} />
        <div className="flex flex-wrap gap-2">
          <Field
            label="It takes"
            unit="min"
            inputMode="decimal"
            className="w-28"
            value={cells.minutes}
            onChange={(event) => set('minutes')(event.target.value)}
          />
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
          <Field
            label="Seen when it is this cause"
            className="min-w-56 flex-1"
            value={cells.seen}
            onChange={(event) => set('seen')(event.target.value)}
          />
          <Field
            label="How often then"
            unit="%"
            inputMode="decimal"
            className="w-32"
            value={cells.p}
            onChange={(event) => set('p')(event.target.value)}
          />
          <Field
            label="How often otherwise"
            unit="%"
            inputMode="decimal"
            className="w-40"
            value={cells.background}
            onChange={(event) => set('background')(event.target.value)}
          />
        </div>
        <Field
          label="Seen otherwise"
          value={cells.otherwise}
          onChange={(event) => set('otherwise')(event.target.value)}
        />
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
