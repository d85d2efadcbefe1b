import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (h) What customers send in a message. Every maker numbers in its own way (digits alone, a letter row and a size, blocks with strokes, a word and a year); popularity is how many a maker sold, by
 * maker first and by age then. Half of the messages give the number right; thumbs on a small keyboard, a word put right by the telephone, blocks parted or run together, a block or two
 * left away; some of it within a sentence. Not listed: this year's models of a maker, odd ones in between, and makers that nobody lists.
 */
const LETTERS = [...'ABCDEFGHIKLMNOPRSTUVWXYZ'];
const PADS = ['1234567890', 'QWERTYUIOP', 'ASDFGHJKL', 'ZXCVBNM'];

type Made = { text: string; year: number };
/** How a maker numbers: the next number of a year. */
type Way = (random: Random) => (year: number) => string;

const letters = (random: Random, count: number): string =>
  Array.from({ length: count }, () => pick(random, LETTERS)).join('');
const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => String(upTo(random, 9))).join('');

const WAYS: readonly Way[] = [
  (random) => {
    const [head, size] = [digits(random, 2), 2 + upTo(random, 2)];
    return (year) => `${head}${20 + year}${digits(random, size)}`;
  },
  (random) => {
    const rows = [letters(random, 2), letters(random, 2), letters(random, 3)];
    const joint = pick(random, ['', ' ', '-']);
    const marks = ['', '', letters(random, 1), letters(random, 2)];
    return (year) =>
      `${pick(random, rows)}${joint}${5 + upTo(random, 5)}${year}${digits(random, 2)}${pick(random, marks)}`;
  },
  (random) => {
    const [first, last] = [letters(random, 1), ['EU', 'GB', 'X', '01', '02', 'FR']];
    return (year) => `${first}${digits(random, 2)}-${10 + year}.${digits(random, 3)}/${pick(random, last)}`;
  },
  (random) => {
    const words = Array.from({ length: 4 }, () => letters(random, 1) + pick(random, [...'AEIOU']) + letters(random, 2));
    const kinds = ['S', 'L', 'XL', 'T', 'D'];
    return (year) =>
      `${pick(random, words)} ${(6 + upTo(random, 8)) * 100 + year * 3 + upTo(random, 2)}${pick(random, kinds)}`;
  },
];

const put = (text: string, at: number, by: string, gone = 1): string => text.slice(0, at) + by + text.slice(at + gone);

function beside(random: Random, key: string): string {
  const y = PADS.findIndex((row) => row.includes(key));
  const x = PADS[y]?.indexOf(key) ?? 0;
  const near = [PADS[y]?.[x - 1], PADS[y]?.[x + 1], PADS[y - 1]?.[x], PADS[y + 1]?.[x]].filter(
    (one) => one !== undefined,
  );
  return near.length > 0 ? pick(random, near) : key;
}

/** A thumb, or an eye, once. */
function thumbed(random: Random, text: string): string {
  const at = upTo(random, text.length - 1);
  const key = text.charAt(at);
  const roll = random();
  if (roll < 0.4) return put(text, at, beside(random, key));
  if (roll < 0.6) return put(text, at, '');
  if (roll < 0.7) return put(text, at, key + key);
  if (roll < 0.8) return at + 1 < text.length ? put(text, at, text.charAt(at + 1) + key, 2) : text;
  const alike: Record<string, string> = {
    '0': 'O',
    O: '0',
    '1': 'I',
    I: '1',
    L: '1',
    '5': 'S',
    S: '5',
    '8': 'B',
    B: '8',
    Z: '2',
  };
  return put(text, at, alike[key] ?? beside(random, key));
}

const SLIPS = [0, 0, 0, 0, 0, 1, 1, 1, 2, 3];
const misspelt = (random: Random, number: string, count = pick(random, SLIPS)): string =>
  Array.from({ length: count }).reduce((now: string) => thumbed(random, now), plain(number));

/** Parted where letters and digits meet, as people say it. */
const parted = (random: Random, text: string): string =>
  text.replace(/(?<=[A-Z])(?=\d)|(?<=\d)(?=[A-Z])/g, () => (random() < 0.6 ? ' ' : ''));

const SENTENCES = [
  (number: string) => `Hello, it says ${number} on the door`,
  (number: string) => `washing machine ${number} does not spin`,
  (number: string) => `${number}, bought 6 years ago`,
  (number: string) => `model ${number} and it leaks`,
  (number: string) => `my washer is the ${number}`,
];

const KINDS: Record<string, (random: Random, number: string) => string> = {
  'the number': (random, number) => {
    const text = misspelt(random, number);
    return random() < 0.5 ? text.toLowerCase() : text;
  },
  'in its blocks': (random, number) => parted(random, misspelt(random, number)),
  'a block left away': (random, number) => {
    const blocks = number
      .split(/[\s./-]/)
      .slice(0, -1)
      .join('');
    // Nobody sends what is left where only two letters stood before.
    return misspelt(random, blocks.length > 4 ? blocks : number.slice(0, -1), upTo(random, 1));
  },
  'in a sentence': (random, number) => pick(random, SENTENCES)(misspelt(random, number)),
};

export const messaged: World = {
  name: 'h: messages',
  about: 'every maker in its own way, out of the messages of customers; written when all else stood and never tuned on',
  make(size, seed) {
    const random = seededRandom(3_301_007 + size * 11 + seed);
    const listed: ModelRecord[] = [];
    const gone: string[] = [];
    const taken = new Set<string>();
    for (let maker = 0; listed.length < size; maker += 1) {
      const next = pick(random, WAYS)(random);
      const sold = 1 / (random() + 0.02);
      const unknown = random() < 0.02;
      const numbers: Made[] = [];
      for (let year = 0; year < 10; year += 1)
        for (let many = 5 + upTo(random, 60); many > 0; many -= 1) numbers.push({ text: next(year), year });
      for (const { text, year } of numbers) {
        if (taken.has(plain(text))) continue;
        taken.add(plain(text));
        if (unknown || (year === 9 && random() < 0.5) || random() < 0.05) gone.push(text);
        else if (listed.length < size)
          listed.push({
            id: asId(`h${listed.length}`),
            modelNumber: text,
            makerId: asId(`h${maker}`),
            platformId: asId('p'),
            popularity: Math.ceil(sold * (3 + year) * random() ** 2),
          });
      }
    }
    const draw = drawByPopularity(listed, random);
    const cases: Case[] = [];
    for (const [kind, send] of Object.entries(KINDS)) {
      for (let i = 0; i < 700; i += 1) {
        const model = draw();
        cases.push({ kind, text: send(random, model.modelNumber), truth: model.id });
      }
      for (let i = 0; i < 80; i += 1)
        cases.push({ kind: 'not listed', text: send(random, pick(random, gone)), truth: null });
    }
    return { listed, cases };
  },
};
