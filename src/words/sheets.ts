import type { SheetField, SheetKind, SheetProblem } from '@/core/sheets';

export const SHEET_KIND_WORDS: Record<SheetKind, string> = {
  models: 'models',
  parts: 'parts of models',
  replaced: 'old and new numbers',
  equal: 'numbers that are equal',
  prices: 'prices of a supplier',
  stock: 'parts on our own shelf',
  customers: 'customers',
};

export const SHEET_FIELD_WORDS: Record<SheetField, string> = {
  model: 'Model number',
  make: 'Make',
  built: 'How it is built',
  from: 'Made from',
  to: 'Made until',
  capacity: 'Load, kg',
  spin: 'Spin, rpm',
  part: 'Part number',
  partName: 'What the part is',
  position: 'Where it sits',
  quantity: 'Pieces in a machine',
  newPart: 'The other number',
  price: 'Price of a pack, net',
  pack: 'Pieces in a pack',
  stock: 'Stock, pieces',
  days: 'Days until it leaves',
  supplierNumber: 'Supplier’s number',
  name: 'Name',
  phone: 'Telephone',
  place: 'Address or place',
};

export const sheetProblemWords = ({ row, field, value, why }: SheetProblem): string =>
  [`row ${row}`, SHEET_FIELD_WORDS[field].toLowerCase(), value ? `“${value}”` : '', why].filter(Boolean).join(' · ');
