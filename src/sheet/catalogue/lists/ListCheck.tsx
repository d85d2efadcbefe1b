'use client';
import type { SheetRow } from '@/core/sheets';
import type { SheetHabit } from '@/store';
import { Button, download, Mark, Select, useNewest } from '@/ui';
import { formatMoney, formatNumber, plural, SHEET_FIELD_WORDS, sheetProblemWords, tableWords } from '@/words';
import { searchWorker, sheetsWorker, type CheckedSheet, type NamedPart } from '@/workers';

/** What a person asks about; makes and ways of sending come along. */
const COUNTED = ['models', 'parts', 'fits', 'relations', 'offers'] as const;
const LISTED = 100;
const NAMES = 24;

type Props = {
  habit: SheetHabit;
  checked: CheckedSheet;
  onRoles: (roles: SheetHabit['roles']) => void;
  onBack: () => void;
  onTake: () => void;
};

/** What a list would bring: its good rows as they are read, what its names of parts mean, and the rows that cannot be read. */
export function ListCheck({ habit, checked, onRoles, onBack, onTake }: Props) {
  const { good, badRows, problems, names, read, counts, known, changes } = checked;
  const save = async () => download('rows-to-mend.csv', 'text/csv', await sheetsWorker.get().badRows());
  return (
    <div className="flex flex-col gap-3 border-l-4 border-mark pl-3">
      <p className="font-semibold">
        {plural(good, 'row')} can be taken{badRows ? `, ${formatNumber(badRows)} cannot` : ''}. Nothing is taken yet.
      </p>
      {COUNTED.some((table) => (counts[table] ?? 0) > 0) ? (
        <p className="flex flex-wrap gap-x-5 text-[15px]">
          {COUNTED.filter((table) => (counts[table] ?? 0) > 0).map((table) => (
            <span key={table}>
              {tableWords(table)}: {formatNumber(counts[table] ?? 0)}
            </span>
          ))}
          {known.models ? <span>{plural(known.models, 'model')} that is listed already</span> : null}
          {known.parts ? <span>{plural(known.parts, 'number')} that is listed already</span> : null}
        </p>
      ) : null}
      {changes ? (
        <p className="text-[15px]">
          Against the last list of this source: {formatNumber(changes.added)} rows added,{' '}
          {formatNumber(changes.changed)} changed, {formatNumber(changes.gone)} gone, {formatNumber(changes.same)} as
          before.
        </p>
      ) : null}
      <FirstRows rows={read} />
      {names.length ? <Names names={names} said={habit.roles} onRoles={onRoles} /> : null}
      {badRows > 0 ? (
        <div className="border-l-4 border-stop bg-stop-wash p-2.5">
          <p className="font-semibold">{plural(badRows, 'row')} cannot be read and would be left out:</p>
          <ol className="max-h-64 overflow-y-auto text-sm" tabIndex={0} aria-label="Faults of the list">
            {problems.slice(0, LISTED).map((problem) => (
              <li key={`${problem.row} ${problem.field}`} className="border-t border-line py-0.5">
                {sheetProblemWords(problem)}
              </li>
            ))}
            {problems.length > LISTED ? <li>and more: the file has them all</li> : null}
          </ol>
          <Button className="mt-1.5" onClick={() => void save()}>
            Download these rows, with what is wrong
          </Button>
        </div>
      ) : null}
      <div className="flex flex-wrap gap-2.5">
        <Button tone="main" disabled={good === 0} onClick={onTake}>
          {badRows ? `Take the ${formatNumber(good)} good rows` : `Take ${plural(good, 'row')}`}
        </Button>
        <Button onClick={onBack}>Back to the columns</Button>
      </div>
    </div>
  );
}

const cellsOf = ({ texts, numbers, from, to, price }: SheetRow): [string, string][] => [
  ...Object.entries(texts).map(([field, text]): [string, string] => [field, text]),
  ...Object.entries(numbers).map(([field, number]): [string, string] => [
    field,
    formatNumber(number, Number.isInteger(number) ? 0 : 1),
  ]),
  ...(from ? [['from', from] as [string, string]] : []),
  ...(to ? [['to', to] as [string, string]] : []),
  ...(price ? [['price', formatMoney(price)] as [string, string]] : []),
];

const isField = (name: string): name is keyof typeof SHEET_FIELD_WORDS => name in SHEET_FIELD_WORDS;

function FirstRows({ rows }: { rows: readonly SheetRow[] }) {
  if (rows.length === 0) return null;
  return (
    <div>
      <h3 className="font-semibold">The first rows, as they are read</h3>
      <ul className="text-[15px]">
        {rows.map((row) => (
          <li key={row.row} className="flex flex-wrap gap-x-4 border-t border-line py-1">
            {cellsOf(row).map(([field, text]) => (
              <span key={field}>
                <span className="text-soft">{isField(field) ? SHEET_FIELD_WORDS[field].toLowerCase() : field}</span>{' '}
                {text}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </div>
  );
}

type NamesProps = { names: readonly NamedPart[]; said: SheetHabit['roles']; onRoles: Props['onRoles'] };

/** What the names of parts in the list mean; a name that nobody sorts is kept as it is, and can be typed to a job later. */
function Names({ names, said, onRoles }: NamesProps) {
  const { answer } = useNewest('roles', () => searchWorker.get().roles());
  const options = (answer ?? []).map(({ id, name }) => ({ value: String(id), text: name }));
  return (
    <details open={names.some(({ name, roleId }) => (said[name] ?? roleId) === null)}>
      <summary className="min-h-11 cursor-pointer content-center font-semibold">
        What the parts are: {plural(names.length, 'name')}
      </summary>
      <div className="grid gap-2.5 sm:grid-cols-2 lg:grid-cols-3">
        {names.slice(0, NAMES).map(({ name, rows, roleId }) => (
          <Select
            key={name}
            label={`${name} (${plural(rows, 'row')})`}
            value={String((said[name] === undefined ? roleId : said[name]) ?? '')}
            empty="not sorted"
            options={options}
            onChange={(value) => onRoles({ ...said, [name]: answer?.find(({ id }) => id === value)?.id ?? null })}
          />
        ))}
      </div>
      {names.length > NAMES ? (
        <p className="mt-1 text-[15px]">
          <Mark tone="soft">and {names.length - NAMES} rarer names, as their words say</Mark>
        </p>
      ) : null}
    </details>
  );
}
