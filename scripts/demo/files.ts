import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import Papa from 'papaparse';
import { tables, type TableName } from '@/core/catalogue';
import { seededRandom, type Random } from '@/core/units';

export const DEMO_FOLDER = fileURLToPath(new URL('../../demo-shop/', import.meta.url));
export const CATALOGUE_FOLDER = `${DEMO_FOLDER}catalogue/`;
export const KNOWLEDGE_FOLDER = fileURLToPath(new URL('../../knowledge/', import.meta.url));

export type Cells = Record<string, string | number>;

/** A table's rows as they stand in the files: those of the knowledge, then the demo's own. */
export const readTable = (name: string): Record<string, string>[] =>
  [KNOWLEDGE_FOLDER, CATALOGUE_FOLDER]
    .map((folder) => `${folder}${name}.csv`)
    .filter((file) => existsSync(file))
    .flatMap(
      (file) =>
        Papa.parse<Record<string, string>>(readFileSync(file, 'utf8'), { header: true, skipEmptyLines: true }).data,
    );

export function writeTable(name: TableName, rows: readonly Cells[]): void {
  const columns = Object.keys(tables[name].columns.shape);
  const whole = rows.map((row) => columns.map((column) => row[column] ?? ''));
  writeFileSync(`${CATALOGUE_FOLDER}${name}.csv`, `${Papa.unparse([columns, ...whole], { newline: '\n' })}\n`);
}

export type Dice = {
  random: Random;
  pick: <T>(from: readonly T[]) => T;
  chance: (p: number) => boolean;
  whole: (low: number, high: number) => number;
};

export function dice(seed: number): Dice {
  const random = seededRandom(seed);
  const pick = <T>(from: readonly T[]): T => {
    const found = from[Math.floor(random() * from.length)];
    if (found === undefined) throw new Error('Bug: picking from nothing');
    return found;
  };
  return {
    random,
    pick,
    chance: (p) => random() < p,
    whole: (low, high) => low + Math.floor(random() * (high - low + 1)),
  };
}

/** A version 4 UUID from the dice, so that the files stay the same. */
export function uuid(random: Random): string {
  const hex = Array.from({ length: 32 }, () => Math.floor(random() * 16).toString(16));
  hex[12] = '4';
  hex[16] = '89ab'.charAt(Math.floor(random() * 4));
  const text = hex.join('');
  return `${text.slice(0, 8)}-${text.slice(8, 12)}-${text.slice(12, 16)}-${text.slice(16, 20)}-${text.slice(20)}`;
}
