import type { Notice, Problem } from '@/core/package';
import type { PriceField } from '@/core/prices';
import { capital, plural } from './format';

export const problemWords = (problem: Problem): string =>
  [
    problem.file,
    problem.row === null ? null : `row ${problem.row}`,
    problem.column,
    // The reason may name it already.
    problem.value === null || problem.value === '' || problem.why.includes(problem.value) ? null : `“${problem.value}”`,
    problem.why,
  ]
    .filter(Boolean)
    .join(' · ');

const NOTICE_WORDS: Record<Notice['kind'], (count: string) => string> = {
  'supersession-circle': (count) => `Not followed: supersessions that lead back to where they began (${count})`,
  'sources-disagree': (count) => `Sources name different successors; both are shown, the first is taken (${count})`,
  'dead-end': (count) => `No longer made, and nothing replaces it (${count})`,
};

/** What an import noticed: no fault of the file, but nothing to follow blindly. */
export const noticeWords = (notice: Notice): string => NOTICE_WORDS[notice.kind](plural(notice.count, 'part number'));

export const PRICE_FIELD_WORDS: Record<PriceField, string> = {
  partNumber: 'Part number',
  supplierNumber: 'Supplier’s number',
  price: 'Price, net',
  currency: 'Currency',
  packQuantity: 'Pieces in a pack',
  stock: 'Stock, pieces',
  handlingDays: 'Days until it leaves',
  maker: 'Maker',
};

/** A table of the data package as a person calls it: "part_properties" → "Part properties". */
export const tableWords = (table: string): string => capital(table.replaceAll('_', ' '));
