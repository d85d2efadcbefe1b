import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (e) Product codes of digits alone, a run of them for each plant and year, with a check digit behind some; popularity as units sold, in millions. Read by eye off
 * displays, receipts and stickers, and typed on a keypad: digits alike in seven strokes, groups turned round, a run of equal digits miscounted, the next label run in.
 */
const STROKES: Record<string, string> = {
  '0': '8',
  '1': '7',
  '2': '3',
  '3': '98',
  '4': '9',
  '5': '69',
  '6': '58',
  '7': '1',
  '8': '0693',
  '9': '834',
};
const PAD = ['789', '456', '123', '0'];

const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => String(upTo(random, 9))).join('');
const check = (text: string): string =>
  String((10 - ([...text].reduce((sum, digit, at) => sum + Number(digit) * (at % 2 ? 3 : 1), 0) % 10)) % 10);

function beside(key: string): string {
  const row = PAD.findIndex((keys) => keys.includes(key));
  const at = PAD[row]?.indexOf(key) ?? 0;
  return [PAD[row]?.[at - 1], PAD[row]?.[at + 1], PAD[row - 1]?.[at], PAD[row + 1]?.[at]].filter(Boolean).join('');
}
const put = (text: string, at: number, by: string, gone = 1): string => text.slice(0, at) + by + text.slice(at + gone);

const slips: Record<string, (random: Random, text: string) => string> = {
  strokes: (random, text) => {
    const at = upTo(random, text.length - 1);
    return put(text, at, pick(random, [...(STROKES[text.charAt(at)] ?? text.charAt(at))]));
  },
  keypad: (random, text) => {
    const at = upTo(random, text.length - 1);
    return put(text, at, pick(random, [...(beside(text.charAt(at)) || '5')]));
  },
  turned: (random, text) => {
    const at = upTo(random, text.length - 2);
    return put(text, at, text.charAt(at + 1) + text.charAt(at), 2);
  },
  miscounted: (random, text) => {
    const run = [...text.matchAll(/(\d)\1+/g)];
    const one = run.length > 0 ? pick(random, run) : null;
    if (!one) return put(text, upTo(random, text.length - 1), '');
    return random() < 0.6 ? put(text, one.index, '') : put(text, one.index, one[0].charAt(0).repeat(2));
  },
  dimmed: (random, text) => {
    const at = upTo(random, text.length - 2);
    return put(text, at, random() < 0.5 ? '?' : '??', 2);
  },
};

export const serials: World = {
  name: 'e: digits',
  about:
    'product codes of digits alone, popularity in millions sold; never tuned on; one fault that it showed was mended',
  make(size, seed) {
    const random = seededRandom(881_003 + size * 7 + seed);
    const listed: ModelRecord[] = [];
    const gone: string[] = [];
    const taken = new Set<string>();
    while (listed.length < size) {
      const plant = digits(random, 2 + upTo(random, 2));
      const tail = 1 + upTo(random, 1);
      const checked = random() < 0.4;
      const gap = pick(random, ['', ' ', '-', '.']);
      for (let year = upTo(random, 6); year < 10 && listed.length < size; year += 1) {
        let counter = upTo(random, 5000);
        const fame = -Math.log(random() + 1e-6);
        for (let many = 20 + upTo(random, 160); many > 0; many -= 1) {
          counter += 1 + (random() < 0.35 ? upTo(random, 40) : 0);
          const body = `${plant}${year}${String(counter % 10_000).padStart(4, '0')}${digits(random, tail)}`;
          const number = `${body.slice(0, 4)}${gap}${body.slice(4)}${checked ? check(body) : ''}`;
          if (taken.has(plain(number))) continue;
          taken.add(plain(number));
          if (random() < 0.13) gone.push(number);
          else if (listed.length < size)
            listed.push({
              id: asId(`e${listed.length}`),
              modelNumber: number,
              makerId: asId(`p${plant}`),
              platformId: asId('p'),
              popularity: fame * (0.0002 + random() ** 4 * 0.08),
            });
        }
      }
    }
    const draw = drawByPopularity(listed, random);
    const one = (text: string) => (slips[pick(random, Object.keys(slips))] ?? slips['keypad'])?.(random, text) ?? text;
    const readings: Record<string, (number: string) => string> = {
      copied: (number) => number,
      'one slip': (number) => one(plain(number)),
      'two slips': (number) => one(one(plain(number))),
      'the next label run in': (number) => `${number} ${pick(random, ['230V', '50 Hz', '7 kg', 'IPX4', '2100W'])}`,
      'the end cut off': (number) => plain(number).slice(0, -1 - upTo(random, 1)),
    };
    const cases: Case[] = [];
    for (const [kind, read] of Object.entries(readings))
      for (let i = 0; i < 500; i += 1) {
        const model = draw();
        cases.push({ kind, text: read(model.modelNumber), truth: model.id });
      }
    for (let i = 0; i < 220; i += 1) {
      const number = pick(random, gone);
      cases.push({ kind: 'not listed', text: random() < 0.6 ? number : one(plain(number)), truth: null });
    }
    for (let i = 0; i < 60; i += 1) {
      const number = digits(random, 7 + upTo(random, 6));
      if (!taken.has(number)) cases.push({ kind: 'some other number', text: number, truth: null });
    }
    return { listed, cases };
  },
};
