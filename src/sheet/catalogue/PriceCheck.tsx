'use client';
import { Button, Mark, NumberText } from '@/ui';
import { formatNumber, plural, PRICE_FIELD_WORDS } from '@/words';
import type { CheckedList } from '@/workers';

const LISTED = 100;

/** What a price list would change, and which of its rows cannot be used. */
export function PriceCheck({ checked, onApply }: { checked: CheckedList; onApply: () => void }) {
  const { problems, unknown, otherMaker, ambiguous, doubled, changes } = checked;
  return (
    <div className="flex flex-col gap-2 border-l-4 border-mark pl-3">
      <p className="font-semibold">
        {plural(checked.rows, 'price')} can be used, and not in use yet; against today’s of this supplier:
      </p>
      <p className="flex flex-wrap gap-x-5 text-[15px]">
        <span>{formatNumber(checked.dearer)} dearer</span>
        <span>{formatNumber(checked.cheaper)} cheaper</span>
        <span>{formatNumber(checked.same)} as before</span>
        <span>{formatNumber(checked.added)} new</span>
        <span>{formatNumber(checked.gone)} no longer in the list</span>
      </p>
      {changes.length > 0 ? (
        <details>
          <summary className="flex min-h-11 cursor-pointer items-center text-[15px]">The greatest changes</summary>
          <ul className="max-h-64 overflow-y-auto text-sm" tabIndex={0} aria-label="The greatest changes">
            {changes.map((change) => (
              <li key={`${change.number} ${change.after}`} className="border-t border-line py-0.5">
                <NumberText text={change.number} className="mr-3 font-semibold" />
                {change.before} → {change.after}, {change.kind}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      <Left what="whose number no part of the catalogue has" numbers={unknown} />
      <Left what="whose number the catalogue has, but not of the maker that they name" numbers={otherMaker} />
      <Left what="whose number stands for parts of several makers: map the maker’s column" numbers={ambiguous} />
      <Left what="that stand in the list twice: the last one counts" numbers={doubled} />
      {problems.length > 0 ? (
        <div className="border-l-4 border-stop bg-stop-wash p-2.5">
          <p className="font-semibold">
            {plural(problems.length, 'fault')}. These rows are left out; the others can be used.
          </p>
          <ol className="max-h-64 overflow-y-auto text-sm" tabIndex={0} aria-label="Faults of the list">
            {problems.slice(0, LISTED).map((problem) => (
              <li key={`${problem.row} ${problem.field}`} className="border-t border-line py-0.5">
                row {problem.row} · {PRICE_FIELD_WORDS[problem.field].toLowerCase()}
                {problem.value ? ` · “${problem.value}”` : ''} · {problem.why}
              </li>
            ))}
            {problems.length > LISTED ? <li>and {problems.length - LISTED} more</li> : null}
          </ol>
        </div>
      ) : null}
      <Button tone="main" className="self-start" onClick={onApply} disabled={checked.rows === 0}>
        Use these prices
      </Button>
    </div>
  );
}

function Left({ what, numbers }: { what: string; numbers: readonly string[] }) {
  if (numbers.length === 0) return null;
  return (
    <details className="text-[15px]">
      <summary className="flex min-h-11 cursor-pointer items-center">
        <Mark tone="doubt">
          {plural(numbers.length, 'row')} {what}
        </Mark>
      </summary>
      <p className="max-h-32 overflow-y-auto font-mono text-sm">
        {numbers.slice(0, LISTED).join(', ')}
        {numbers.length > LISTED ? ` and ${formatNumber(numbers.length - LISTED)} more` : ''}
      </p>
    </details>
  );
}
