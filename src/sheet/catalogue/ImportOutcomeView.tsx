'use client';
import { Button, Mark } from '@/ui';
import { formatNumber, listOf, noticeWords, plural, problemWords, tableWords } from '@/words';
import type { ReadEdition, ShownChanges } from '@/store';
import type { ImportOutcome } from '@/workers';

const LISTED = 200;

export type ShownOutcome =
  | ImportOutcome
  | { kind: 'failed'; why: string }
  | { kind: 'discarded' }
  /** What waited was dropped with the shop that it belonged to, or rests on a catalogue that is another one now. */
  | { kind: 'gone'; read: ReadEdition };
type Props = { outcome: ShownOutcome; onApply: (read: ReadEdition) => void; onDiscard: (read: ReadEdition) => void };

/** What became of an import: applied, waiting with its changes, refused with every problem. */
export function ImportOutcomeView({ outcome, onApply, onDiscard }: Props) {
  switch (outcome.kind) {
    case 'failed':
      return <Mark tone="stop">The import stopped: {outcome.why}. The catalogue in use was not changed.</Mark>;
    case 'gone':
      return (
        <Mark tone="stop">
          {outcome.read.title} was not put to use: the shop or its catalogue was replaced since it was read, perhaps in
          another tab. What is in use now was not changed. Import it again to see what it would change.
        </Mark>
      );
    case 'cancelled':
      return <Mark tone="doubt">Stopped. The catalogue in use was not changed.</Mark>;
    case 'discarded':
      return <Mark tone="doubt">Discarded. The catalogue in use was not changed.</Mark>;
    case 'nothing-new':
      return <Mark tone="sound">Nothing differs: {outcome.title} holds all of it already, and stays in use.</Mark>;
    case 'checked':
      return (
        <div className="flex flex-col gap-2">
          <Mark tone="sound">
            {outcome.read.title}: every row is good. It can be imported as it is; nothing of it was kept.
          </Mark>
          <p className="text-[15px]">
            {Object.entries(outcome.read.counts)
              .filter(([, count]) => count > 0)
              .map(([table, count]) => `${tableWords(table)} ${formatNumber(count)}`)
              .join(' · ')}
          </p>
          <Notices read={outcome.read} />
        </div>
      );
    case 'applied':
      return (
        <div className="flex flex-col gap-2">
          <Mark tone="sound">
            {outcome.read.title} is in use: {formatNumber(outcome.read.counts['models'] ?? 0)} models,{' '}
            {formatNumber(outcome.read.counts['parts'] ?? 0)} parts.
          </Mark>
          <Notices read={outcome.read} />
        </div>
      );
    case 'waiting':
      return (
        <div className="flex flex-col gap-2.5 border-l-4 border-mark pl-3">
          <p className="font-semibold">
            {outcome.read.title}
            {outcome.read.version ? `, version ${outcome.read.version},` : ''} is read and every row is good. It is not
            in use yet.
          </p>
          {outcome.read.changes ? (
            <>
              <p>It takes the place of {outcome.read.renews}; this is what it changes:</p>
              <Changes changes={outcome.read.changes} />
            </>
          ) : (
            <p>
              It comes beside {listOf(outcome.read.beside)}: {formatNumber(outcome.read.counts['models'] ?? 0)} models,{' '}
              {formatNumber(outcome.read.counts['parts'] ?? 0)} parts.
            </p>
          )}
          {outcome.read.overrides.map(({ title, changes }) => (
            <div key={title}>
              <p>
                Of the same things {title || 'the trade’s knowledge'} says something else. What this package says is
                believed from then on:
              </p>
              <Changes changes={changes} only="changed" />
            </div>
          ))}
          <Notices read={outcome.read} />
          <div className="flex flex-wrap gap-2.5">
            <Button tone="main" onClick={() => onApply(outcome.read)}>
              Put it to use
            </Button>
            <Button onClick={() => onDiscard(outcome.read)}>Discard it</Button>
          </div>
        </div>
      );
    case 'problems':
      return (
        <div className="border-l-4 border-stop bg-stop-wash p-3">
          <p className="font-semibold">
            {plural(outcome.problems.length, 'problem')}. Nothing was applied; the catalogue is as it was. Mend these
            and import again.
          </p>
          <ol className="mt-1 max-h-96 overflow-y-auto text-[15px]" tabIndex={0} aria-label="Problems">
            {outcome.problems.slice(0, LISTED).map((problem, index) => (
              <li key={index} className="border-t border-line py-1">
                {problemWords(problem)}
              </li>
            ))}
          </ol>
          {outcome.problems.length > LISTED ? <p>and {outcome.problems.length - LISTED} more</p> : null}
        </div>
      );
  }
}

function Notices({ read }: { read: ReadEdition }) {
  return read.notices.map((notice) => (
    <details key={notice.kind} className="text-[15px]">
      <summary className="flex min-h-11 cursor-pointer items-center">
        <Mark tone="doubt">{noticeWords(notice)}</Mark>
      </summary>
      <p className="max-h-40 overflow-y-auto font-mono text-sm">
        {notice.partIds.join(', ')}
        {notice.count > notice.partIds.length ? ` and ${formatNumber(notice.count - notice.partIds.length)} more` : ''}
      </p>
    </details>
  ));
}

/** `only`: rows that two layers say differently; nothing comes or goes there. */
function Changes({ changes, only }: { changes: readonly ShownChanges[]; only?: 'changed' }) {
  return (
    <ul className="text-[15px]">
      {changes.map((change) => (
        <li key={change.table} className="border-t border-line">
          <details>
            <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-4">
              <strong className="min-w-32">{tableWords(change.table)}</strong>
              {only ? (
                <span>{formatNumber(change.changed)} said differently</span>
              ) : (
                <>
                  <span>{formatNumber(change.added)} added</span>
                  <span>{formatNumber(change.changed)} changed</span>
                  <span>{formatNumber(change.gone)} gone</span>
                  <span className="text-soft">{formatNumber(change.same)} as before</span>
                </>
              )}
            </summary>
            <ul
              className="mb-2 max-h-64 overflow-y-auto pl-4 text-sm"
              tabIndex={0}
              aria-label={tableWords(change.table)}
            >
              {change.rows.map((row) => (
                <li key={`${row.kind} ${row.label}`} className="py-0.5">
                  <strong>{row.kind}</strong> {row.label}
                  {row.columns.map(({ column, before, after }) => (
                    <span key={column} className="text-soft">
                      {' '}
                      · {column}: {before || 'empty'} → <span className="text-ink">{after || 'empty'}</span>
                    </span>
                  ))}
                </li>
              ))}
              {differing(change, only) > change.rows.length ? (
                <li className="py-0.5 text-soft">
                  The first {change.rows.length} of {formatNumber(differing(change, only))}.
                </li>
              ) : null}
            </ul>
          </details>
        </li>
      ))}
    </ul>
  );
}

const differing = ({ added, changed, gone }: ShownChanges, only?: 'changed'): number =>
  only ? changed : added + changed + gone;
