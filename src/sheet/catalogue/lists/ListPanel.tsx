'use client';
import { proxy } from 'comlink';
import { useRef, useState } from 'react';
import type { SheetKind } from '@/core/sheets';
import { loadSettings, saving, type SheetHabit } from '@/store';
import { useMoment, useSettings } from '@/store/react';
import { Button, FileInput, Mark, Progress } from '@/ui';
import { formatNumber, SHEET_KIND_WORDS, troubleWords } from '@/words';
import { sheetsWorker, type CheckedSheet, type OpenedSheet } from '@/workers';
import { ListCheck } from './ListCheck';
import { ListColumns, type Asked } from './ListColumns';

type Table = Extract<OpenedSheet, { kind: 'table' }>;
/** `asked`: what can be read in two ways and nobody has said yet. */
type Open = { name: string; list: Table; habit: Omit<SheetHabit, 'kind'> & { kind: SheetKind | null }; asked: Asked };
type Step =
  | { kind: 'none' }
  | { kind: 'busy'; what: string; done: number; total: number }
  | ({ kind: 'opened' } & Open)
  | { kind: 'checked'; open: Open; habit: SheetHabit; checked: CheckedSheet }
  | { kind: 'applied'; what: string; rows: number }
  | { kind: 'failed'; why: string };

/** Other people's spreadsheets as they are: what it is a list of, which column is what, what cannot be read, and the good rows taken. */
export function ListPanel() {
  const settings = useSettings();
  const at = useMoment(settings);
  const file = useRef<HTMLInputElement>(null);
  const [step, setStep] = useState<Step>({ kind: 'none' });
  const attempt = async (what: string, work: () => Promise<Step>) => {
    setStep({ kind: 'busy', what, done: 0, total: 0 });
    try {
      setStep(await work());
    } catch (error) {
      setStep({
        kind: 'failed',
        why: `${troubleWords(error)}. Nothing was taken; the file is as it was.`,
      });
    }
  };
  const say = (done: number, total: number) => setStep((now) => (now.kind === 'busy' ? { ...now, done, total } : now));
  const open = (picked: File | undefined) => {
    if (!picked) return;
    void attempt('Opening the list', async () => {
      // A file may be given before the page has its figures.
      const { currency } = settings ?? (await loadSettings());
      const list = await sheetsWorker.get().open(picked, currency, proxy(say));
      if (list.kind === 'unreadable') return { kind: 'failed', why: list.why };
      const asked =
        list.remembered || !list.habit.kind
          ? { marks: false, dates: false }
          : await sheetsWorker.get().ambiguity(list.habit.mapping);
      return { kind: 'opened', name: picked.name, list, habit: list.habit, asked };
    });
  };
  const check = (opened: Open) => {
    const { kind } = opened.habit;
    if (!kind) return;
    const habit: SheetHabit = { ...opened.habit, kind };
    void attempt('Reading every row', async () => {
      const checked = await sheetsWorker.get().check(habit, at.today, proxy(say));
      return checked ? { kind: 'checked', open: opened, habit, checked } : { kind: 'opened', ...opened };
    });
  };
  const take = (habit: SheetHabit) =>
    void attempt('Taking the good rows', async () => {
      const rows = await saving.keep(() => sheetsWorker.get().apply(habit, at.today));
      return { kind: 'applied', what: `${habit.source}: ${SHEET_KIND_WORDS[habit.kind]}`, rows };
    });
  return (
    <section aria-label="Lists" className="mt-5 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">Lists as they are</h2>
      <p className="max-w-prose text-[15px] text-soft">
        A spreadsheet of models, of the parts of models, of old and new numbers, of equal numbers, prices, your own
        shelf, or customers: CSV or XLSX with any columns, up to 100,000 rows. You say which column is what; it is
        remembered.
      </p>
      <div className="mt-2 flex flex-wrap gap-2.5">
        <Button onClick={() => file.current?.click()} disabled={step.kind === 'busy'}>
          Choose a list
        </Button>
        {step.kind === 'busy' ? <Button onClick={() => void sheetsWorker.get().cancel()}>Stop</Button> : null}
      </div>
      <FileInput ref={file} accept=".csv,.txt,.tsv,.xlsx,text/csv" label="List" onFile={(picked) => open(picked)} />
      <div aria-live="polite" className="mt-3 flex flex-col gap-3">
        {step.kind === 'busy' ? <Progress label={step.what} done={step.done} total={step.total} /> : null}
        {step.kind === 'failed' ? <Mark tone="stop">{step.why}</Mark> : null}
        {step.kind === 'applied' ? (
          <Mark tone="sound">
            {step.what} is in use: {formatNumber(step.rows)} rows.
          </Mark>
        ) : null}
        {step.kind === 'opened' ? (
          <ListColumns
            list={step.list}
            habit={step.habit}
            asked={step.asked}
            onChange={(habit, asked) => setStep({ ...step, habit, asked })}
            onCheck={() => check(step)}
          />
        ) : null}
        {step.kind === 'checked' ? (
          <ListCheck
            habit={step.habit}
            checked={step.checked}
            onRoles={(roles) => setStep({ ...step, habit: { ...step.habit, roles } })}
            onBack={() => setStep({ kind: 'opened', ...step.open })}
            onTake={() => take(step.habit)}
          />
        ) : null}
      </div>
    </section>
  );
}
