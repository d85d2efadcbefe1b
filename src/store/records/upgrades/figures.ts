import { count, inTable, isPlain, plain, type Plain, type PlainTables, type Upgraded } from './plain';

/** Offers and price lists say of what their price is and in what they count: 'price' and 'stock' become those of a pack. */
export function inPacks(row: Plain): Plain {
  if (!('price' in row)) return row;
  const { price, stock, ...rest } = row;
  return { ...rest, packPrice: price, stockPacks: stock };
}

/** A price list's stock was read in pieces. */
export const pricesInPacks = (tables: PlainTables): Upgraded => ({
  aside: [],
  tables: inTable(tables, 'prices', (row) => {
    const stock = typeof row['stock'] === 'number' ? row['stock'] : 1;
    const packs = Math.floor(stock / count(row['packQuantity']));
    return 'price' in row ? inPacks({ ...row, stock: stock > 0 ? Math.max(1, packs) : 0 }) : row;
  }),
});

/** The reserve is a share in hundredths of a percent, as every other share of money is. */
export const reserveInBasisPoints = (tables: PlainTables): Upgraded => ({
  aside: [],
  tables: inTable(tables, 'settings', (row) => {
    if (row['key'] !== 'shop' || !isPlain(row['value'])) return row;
    const { reserveShare, ...value } = plain(row['value']);
    return typeof reserveShare === 'number'
      ? { ...row, value: { ...value, reserveBasisPoints: Math.round(reserveShare * 10_000) } }
      : row;
  }),
});
