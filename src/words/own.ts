import type { LearnedChange, LearnedFrom } from '@/core/learn';
import { localDateOf } from '@/core/units';
import { capital, formatFullDate, formatMinutes, formatNumber, formatPercent, plural } from './format';

type About = {
  model: string | null;
  part: string | null;
  other: string | null;
  supplier: string | null;
  role: string | null;
};
type Row = { table: string; cells: Readonly<Record<string, string>>; about: About };

/** What a row of the shop's own says, in one line. */
export function ownRowWords({ table, cells, about }: Row): string {
  const cell = (column: string) => cells[column] ?? '';
  switch (table) {
    case 'models':
      return `Model ${cell('modelNumber')}, seen ${plural(Number(cell('popularity')), 'time')}`;
    case 'platforms':
      return `How ${cell('name')} is built: most likely ${cell('description').toLowerCase()}`;
    case 'makers':
    case 'badges':
      return `${table === 'makers' ? 'Maker' : 'Name on the machine'}: ${cell('name')}`;
    case 'parts':
      return `${cell('partNumber')}: ${cell('description')}${cell('status') === 'discontinued' ? ', replaced by another number' : ''}`;
    case 'part_properties':
      return `${about.part ?? cell('partId')}: ${cell('property')} ${cell('value')}`;
    case 'fits':
      return `${about.part ?? cell('partId')} fits ${about.model ?? cell('modelId')}${about.role ? ` as ${about.role.toLowerCase()}` : ''}: ${formatPercent(Number(cell('probability') || 1))}`;
    case 'relations':
      return `${about.part ?? cell('fromPartId')} is now ${about.other ?? cell('toPartId')}, says ${cell('source')}`;
    case 'suppliers':
      return `Supplier ${cell('name')}`;
    case 'shipping_modes':
      return `${about.supplier ?? cell('supplierId')} sends: ${cell('name').toLowerCase()}`;
    case 'economics':
      return `What a new machine costs here (${cell('design')}): ${cell('newPrice')}`;
    case 'offers':
      return `${about.part ?? cell('partId')} from ${about.supplier ?? cell('supplierId')}: ${cell('packPrice')}, in ${plural(Number(cell('handlingDays')), 'day')}`;
    default:
      return capital(table);
  }
}

/** Where it was learned: "ticket 12, 3 Mar 2026, and 2 more". */
export function learnedFromWords(from: readonly LearnedFrom[], zone: string): string {
  const last = from.at(-1);
  if (!last) return 'typed in by the shop';
  const what = last.kind === 'ticket' ? `ticket ${last.number}` : `order ${last.number}`;
  const more = from.length > 1 ? `, and ${from.length - 1} more` : '';
  return `${what}, ${formatFullDate(localDateOf(last.at, zone))}${more}`;
}

/** "Front loader, belt: 24 jobs, minutes of the list times 1.09." `causes`: names by id. */
export function learnedChangeWords({
  change,
  design,
  causes,
}: {
  change: LearnedChange;
  design: string | null;
  causes: Readonly<Record<string, string>>;
}): string {
  const of = (count: number, one: string) => plural(count, one);
  switch (change.kind) {
    case 'causes': {
      const moved = change.moved.map(
        ({ causeId, before, after }) =>
          `${(causes[causeId] ?? causeId).toLowerCase()} ${formatPercent(before)} → ${formatPercent(after)}`,
      );
      return `${capital(design ?? '')}: causes of ${of(change.cases, 'machine')}. ${moved.join('; ')}`;
    }
    case 'lives': {
      const moved = change.moved.map(
        ({ name, failed, expected, factor }) =>
          `${name.toLowerCase()} life times ${formatNumber(factor, 2)} (${failed} failed, ${formatNumber(expected, 1)} to be expected beside the others)`,
      );
      return `${capital(design ?? '')}: at which age ${of(change.cases, 'machine')} failed. ${moved.join('; ')}`;
    }
    case 'minutes':
      return `${capital(design ?? '')}: times of ${of(change.cases, 'job')}, ${formatMinutes(change.taken)} taken against ${formatMinutes(change.listed)} by the list. Its minutes times ${formatNumber(change.factor, 2)}`;
    case 'models':
      return `Which models come in: ${of(change.cases, 'machine')}. A plate that is hard to read is read as what is common here`;
    case 'steps':
      return `Steps by the clock: ${of(change.cases, 'step')}. Each step’s own minutes`;
    case 'rescues':
      return `What would not come: ${of(change.rescued, 'time')} in ${of(change.cases, 'step')}. How likely each rescue is`;
  }
}
