import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (g) Numbers as they come out of other people's tables: a family word or two letters, capacity and speed, a year's letter, a version. Popularity as orders of a small
 * trader. Read off lists, forms and the backs of delivery notes: noughts in front lost, letter O for nought all through, cells cut at their width, two cells run
 * together, a version from the next line, a typing error or two on top. What is not listed: versions, whole years and whole families.
 */
const LETTERS = [...'ABCDEFGHJKLMNPRSTUVWX'];
const ROWS = ['1234567890', 'QWERTYUIOP', 'ASDFGHJKL', 'ZXCVBNM'];

const put = (text: string, at: number, by: string, gone = 1): string => text.slice(0, at) + by + text.slice(at + gone);

function typedBeside(key: string): string {
  const row = ROWS.find((keys) => keys.includes(key)) ?? key;
  const at = row.indexOf(key);
  return [row[at - 1], row[at + 1]].filter(Boolean).join('') || key;
}

function mistyped(random: Random, text: string): string {
  const at = upTo(random, text.length - 1);
  const roll = random();
  if (roll < 0.45) return put(text, at, pick(random, [...typedBeside(text.charAt(at))]));
  if (roll < 0.6) return put(text, at, '');
  if (roll < 0.75) return put(text, at, text.charAt(at).repeat(2));
  return at + 1 < text.length ? put(text, at, text.charAt(at + 1) + text.charAt(at), 2) : text;
}
const times = (random: Random, count: number, text: string): string =>
  Array.from({ length: count }).reduce((now: string) => mistyped(random, now), text);

const KINDS: Record<string, (random: Random, number: string) => string> = {
  'as in the table': (random, number) => (random() < 0.4 ? number.toLowerCase() : plain(number)),
  'O for nought': (_, number) => plain(number).replace(/0/g, 'O'),
  'noughts in front lost': (_, number) => number.replace(/(?<=[^0-9]|^)0+(?=\d)/g, ''),
  'cell too narrow': (random, number) => plain(number).slice(0, -1 - upTo(random, 2)),
  'next cell run in': (random, number) => `${number} ${pick(random, ['7 kg', 'white', 'B', '2019', 'pcs 1', 'EUR'])}`,
  'one typing error': (random, number) => times(random, 1, plain(number)),
  'two typing errors': (random, number) => times(random, 2, plain(number)),
  'narrow and mistyped': (random, number) => times(random, 1, plain(number).slice(0, -1 - upTo(random, 1))),
};

type Numbered = { text: string; maker: string; year: string };

function family(random: Random, maker: string): Numbered[] {
  const word = Array.from({ length: 2 + upTo(random, 1) }, () => pick(random, LETTERS)).join('');
  const loads = Array.from({ length: 3 }, () => String(5 + upTo(random, 9)).padStart(2, '0'));
  const speeds = ['08', '10', '12', '14', '16'].slice(upTo(random, 2));
  const joint = pick(random, ['-', '', ' ', '/']);
  const years = Array.from({ length: 2 + upTo(random, 3) }, () => pick(random, LETTERS));
  const versions = ['', 'N', 'V2', pick(random, LETTERS), String(upTo(random, 9)), `0${upTo(random, 9)}`];
  const serial = random() < 0.5;
  return loads.flatMap((load) =>
    speeds.flatMap((speed) =>
      years.flatMap((year) =>
        versions
          .filter(() => random() < 0.6)
          .map((version) => ({
            text: `${word}${load}${speed}${joint}${year}${serial ? String(upTo(random, 999)).padStart(3, '0') : ''}${version}`,
            maker,
            year,
          })),
      ),
    ),
  );
}

export const tabulated: World = {
  name: 'g: tables',
  about: 'family, load, speed, year and version, out of other people’s tables; written last and never tuned on',
  make(size, seed) {
    const random = seededRandom(990_331 + size * 7 + seed);
    const listed: ModelRecord[] = [];
    const gone: string[] = [];
    const taken = new Set<string>();
    for (let made = 0; listed.length < size; made += 1) {
      const numbers = family(random, `g${made % 90}`);
      const noFamily = random() < 0.04;
      const noYear = random() < 0.2 ? numbers[0]?.year : null;
      for (const { text, maker, year } of numbers) {
        if (taken.has(plain(text))) continue;
        taken.add(plain(text));
        if (noFamily || year === noYear || random() < 0.04) gone.push(text);
        else if (listed.length < size)
          listed.push({
            id: asId(`g${listed.length}`),
            modelNumber: text,
            makerId: asId(maker),
            platformId: asId('p'),
            popularity: Math.round(3 / (random() + 0.02)),
          });
      }
    }
    const draw = drawByPopularity(listed, random);
    const cases: Case[] = [];
    for (const [kind, read] of Object.entries(KINDS))
      for (let i = 0; i < 350; i += 1) {
        const model = draw();
        cases.push({ kind, text: read(random, model.modelNumber), truth: model.id });
      }
    const kinds = Object.values(KINDS);
    for (let i = 0; i < 300; i += 1)
      cases.push({ kind: 'not listed', text: pick(random, kinds)(random, pick(random, gone)), truth: null });
    return { listed, cases };
  },
};
