'use client';
import { useState } from 'react';
import type { FailingRun as Run } from '@/core/catalogue';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { typedNumber } from '@/core/units';
import { Button, Field, Folded, Select } from '@/ui';
import { runWords } from '@/words';
import type { FindingsProps } from './FindingsProps';

/** The run in which it fails: kept, so that the proof is the same run again. */
export function FailingRun({ state, lore, ask }: FindingsProps) {
  const noted = state.failingRun;
  return (
    <Folded title="The run in which it fails" aside={noted ? runWords(noted) : 'not noted; the proof repeats it'}>
      <RunForm
        key={noted?.at ?? ''}
        runs={lore.runs}
        noted={noted}
        take={(run) => ask(note({ type: 'failing-run-noted', ...run }))}
      />
    </Folded>
  );
}

type Noted = NonNullable<FindingsProps['state']['failingRun']>;

function RunForm({
  runs,
  noted,
  take,
}: {
  runs: readonly Run[];
  noted: Noted | null;
  take: (run: Omit<Noted, 'at'>) => Promise<boolean>;
}) {
  const [runId, setRunId] = useState(noted?.runId ?? '');
  const [load, setLoad] = useState(noted ? String(noted.loadKg) : '');
  const [rpm, setRpm] = useState(noted ? String(noted.rpm) : '');
  const [minute, setMinute] = useState(noted?.minute == null ? '' : String(noted.minute));
  const [seen, setSeen] = useState(noted?.seen ?? '');
  const run = runs.find(({ id }) => id === runId);
  const pick = (id: string) => {
    const picked = runs.find((entry) => entry.id === id);
    setRunId(id);
    if (!picked) return;
    setLoad(String(picked.loadKg));
    setRpm(String(picked.rpm));
  };
  const loadKg = typedNumber(load, 0, 30);
  const speed = typedNumber(rpm, 0, 3000);
  const failedAt = typedNumber(minute, 0, 600);
  const sound = run !== undefined && loadKg !== null && speed !== null && (minute.trim() === '' || failedAt !== null);
  const figure = (label: string, unit: string, value: string, set: (text: string) => void) => (
    <Field
      label={label}
      unit={unit}
      inputMode="decimal"
      className="w-36"
      value={value}
      onChange={(event) => set(event.target.value)}
    />
  );
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!sound) return;
        void take({
          runId: run.id,
          title: run.title,
          loadKg,
          rpm: speed,
          minute: failedAt,
          seen: seen.trim(),
        });
      }}
    >
      <Select
        label="Programme or item"
        className="max-w-md"
        value={runId}
        onChange={pick}
        empty="choose the run"
        options={runs.map(({ id, title }) => ({ value: id, text: title }))}
      />
      {run ? (
        <>
          <p className="text-[15px] text-soft">Of a sound machine: {run.shouldSee}</p>
          <div className="flex flex-wrap items-end gap-2">
            {figure('Load', 'kg', load, setLoad)}
            {figure('Speed', 'rpm', rpm, setRpm)}
            {figure('Failed in minute', 'min', minute, setMinute)}
            <Field
              label="What was seen"
              className="min-w-48 flex-1"
              maxLength={TEXT_LIMITS.note}
              value={seen}
              onChange={(event) => setSeen(event.target.value)}
            />
          </div>
          <Button type="submit" className="self-start" disabled={!sound}>
            Note the run
          </Button>
          {sound ? null : (
            <p className="text-[15px] text-soft">
              Load up to 30 kg, speed up to 3,000 rpm, minute up to 600 or left empty.
            </p>
          )}
        </>
      ) : null}
    </form>
  );
}
