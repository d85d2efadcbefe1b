import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (c) People who hurry. Numbers are a class of two letters, a size, a run of steps and a country; popularity is how often a shop saw the model, most never.
 * They are typed on a keyboard of the German order or told over the telephone, with one to four slips.
 */
const KEYS = ['1234567890', 'QWERTZUIOP', 'ASDFGHJKL', 'YXCVBNM'];
const beside = (key: string): string[] => {
  const row = KEYS.findIndex((keys) => keys.includes(key));
  const at = KEYS[row]?.indexOf(key) ?? 0;
  return [
    [row, at - 1],
    [row, at + 1],
    [row - 1, at],
    [row - 1, at + 1],
    [row + 1, at],
    [row + 1, at - 1],
  ]
    .map(([r = -1, a = -1]) => KEYS[r]?.[a] ?? '')
    .filter((found) => found !== '');
};
/** Heard for each other over the telephone. */
const HEARD: Record<string, string> = {
  B: 'PDE',
  P: 'BT',
  D: 'TB',
  T: 'DP',
  M: 'N',
  N: 'M',
  F: 'S',
  S: 'F',
  C: 'ZE',
  Z: 'C',
  E: 'IB',
  I: 'EY',
  '5': '9',
  '9': '5',
  A: 'HK',
  K: 'A',
  '2': '3',
  '3': '2',
};

function slip(random: Random, text: string): string {
  const at = upTo(random, text.length - 1);
  const key = text.charAt(at);
  const roll = random();
  if (roll < 0.4) return text.slice(0, at) + (pick(random, beside(key)) || key) + text.slice(at + 1);
  if (roll < 0.6) return text.slice(0, at) + text.slice(at + 1);
  if (roll < 0.72) return text.slice(0, at) + key + text.slice(at);
  if (roll < 0.78) return text.slice(0, at) + (pick(random, beside(key)) || key) + text.slice(at);
  if (at + 1 < text.length) return text.slice(0, at) + text.charAt(at + 1) + key + text.slice(at + 2);
  return text;
}
const heard = (random: Random, text: string): string =>
  [...text].map((key) => (random() < 0.12 && HEARD[key] ? pick(random, [...(HEARD[key] ?? '')]) : key)).join('');
const times = (random: Random, count: number, text: string): string =>
  Array.from({ length: count }).reduce((now: string) => slip(random, now), text);

const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

export const hurried: World = {
  name: 'c: hurried',
  about:
    'typed and told in a hurry, one to four slips, popularity as counts, most of them nought; looked at three times, and its faults were mended: burnt',
  make(size, seed) {
    const random = seededRandom(77_000 + size * 3 + seed);
    const listed: ModelRecord[] = [];
    const gone: string[] = [];
    const taken = new Set<string>();
    while (listed.length < size) {
      const classes = Array.from({ length: 3 }, () => pick(random, LETTERS) + pick(random, LETTERS));
      const sizes = Array.from({ length: 3 }, () => String(5 + upTo(random, 7)).padStart(random() < 0.5 ? 2 : 1, '0'));
      const tails = [
        '',
        ...Array.from({ length: 4 }, () => pick(random, LETTERS) + (random() < 0.5 ? pick(random, LETTERS) : '')),
      ];
      const joint = pick(random, ['', '.', '-']);
      for (let many = 50 + upTo(random, 1200); many > 0; many -= 1) {
        const number = `${pick(random, classes)}${pick(random, sizes)}${joint}${String(upTo(random, 899) + 100)}${random() < 0.4 ? upTo(random, 9) : ''}${pick(random, tails)}`;
        const key = plain(number);
        if (key.length < 5 || taken.has(key)) continue;
        taken.add(key);
        if (random() < 0.1) gone.push(number);
        else if (listed.length < size)
          listed.push({
            id: asId(`c${listed.length}`),
            modelNumber: number,
            makerId: asId('m'),
            platformId: asId('p'),
            popularity: random() < 0.7 ? 0 : Math.floor(1 / (random() + 0.004)),
          });
      }
    }
    // Those never seen come in too, now and then.
    const draw = drawByPopularity(listed, random);
    const any = () => (random() < 0.15 ? pick(random, listed) : draw());
    const readings: Record<string, (number: string) => string> = {
      'as printed': (number) => (random() < 0.5 ? number : plain(number).toLowerCase()),
      'one slip': (number) => times(random, 1, plain(number)),
      'two slips': (number) => times(random, 2, plain(number)),
      'three or four slips': (number) => times(random, 3 + upTo(random, 1), plain(number)),
      'told over the telephone': (number) => heard(random, plain(number)),
      'told and typed': (number) => times(random, 1, heard(random, plain(number))),
    };
    const cases: Case[] = [];
    for (const [kind, read] of Object.entries(readings))
      for (let i = 0; i < 500; i += 1) {
        const model = any();
        cases.push({ kind, text: read(model.modelNumber), truth: model.id });
      }
    for (let i = 0; i < 300; i += 1) {
      const number = plain(pick(random, gone));
      cases.push({ kind: 'not listed', text: times(random, upTo(random, 2), number), truth: null });
    }
    for (let i = 0; i < 80; i += 1) {
      const number =
        Array.from({ length: 3 }, () => pick(random, LETTERS)).join('') +
        String(upTo(random, 99_999)) +
        pick(random, LETTERS);
      if (!taken.has(number))
        cases.push({ kind: 'another maker', text: times(random, upTo(random, 1), number), truth: null });
    }
    return { listed, cases };
  },
};
