import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (f) Names and numbers of many small makers, written down by hand on a slip of paper and read again by someone else. A made-up series word, a size, marks for
 * steps, drive and market; popularity falls off by rank over all. Handwriting takes letters for others, runs them together, blots them; the end is often left away.
 */
const HAND: Record<string, string> = {
  '1': '7I',
  '7': '1',
  '4': '9',
  '9': '4G',
  '0': '6O',
  '6': '0B',
  '5': 'S',
  '2': 'Z',
  '3': '8',
  '8': '3B',
  A: 'H',
  B: '8R',
  D: 'O0',
  E: 'F',
  F: 'E',
  G: '6C',
  H: 'AN',
  I: '1L',
  K: 'H',
  L: 'I',
  M: 'N',
  N: 'MH',
  O: '0D',
  P: 'D',
  R: 'K',
  S: '5',
  T: 'I7',
  U: 'V',
  V: 'U',
  W: 'M',
  Y: 'V',
  Z: '2',
};
const SYLLABLES = ['LA', 'VO', 'RI', 'TEN', 'MAR', 'SO', 'BEL', 'NI', 'KOR', 'DA', 'PU', 'ZE', 'FLO', 'GRA', 'HU'];

const read = (random: Random, text: string): string => {
  const at = upTo(random, text.length - 1);
  const key = text.charAt(at);
  const roll = random();
  if (roll < 0.7) return text.slice(0, at) + pick(random, [...(HAND[key] ?? key)]) + text.slice(at + 1);
  if (roll < 0.82) return `${text.slice(0, at)}?${text.slice(at + 1)}`;
  return text.slice(0, at) + text.slice(at + 1);
};
const times = (random: Random, count: number, text: string): string =>
  Array.from({ length: count }).reduce((now: string) => read(random, now), text);

export const written: World = {
  name: 'f: handwriting',
  about: 'series words and sizes of many small makers, handed on in writing; never tuned on',
  make(size, seed) {
    const random = seededRandom(440_917 + size * 5 + seed);
    const numbers: { text: string; short: string; maker: string; gone: boolean }[] = [];
    const taken = new Set<string>();
    let listedCount = 0;
    for (let maker = 0; listedCount < size; maker += 1) {
      const series = Array.from({ length: 1 + upTo(random, 3) }, () =>
        random() < 0.6
          ? Array.from({ length: 1 + upTo(random, 1) }, () => pick(random, SYLLABLES)).join('')
          : pick(random, SYLLABLES).slice(0, 2),
      );
      const step = pick(random, [1, 2, 5, 10]);
      const base = 100 * (1 + upTo(random, 14));
      const marks = ['', ...Array.from({ length: 3 }, () => pick(random, [...'ABCDEGLPSTVWX']))];
      const markets = ['', pick(random, ['EU', 'UK', 'N', 'S2', 'R']), pick(random, ['CH', 'II', '3', 'B'])];
      for (let many = 15 + upTo(random, 380); many > 0 && listedCount < size; many -= 1) {
        const short = `${pick(random, series)} ${base + step * upTo(random, 90)}${pick(random, marks)}`;
        const market = pick(random, markets);
        const text = market ? `${short} ${market}` : short;
        if (taken.has(plain(text))) continue;
        taken.add(plain(text));
        const gone = random() < 0.12;
        if (!gone) listedCount += 1;
        numbers.push({ text, short, maker: `w${maker}`, gone });
      }
    }
    const ranks = numbers.map((_, index) => index).sort(() => random() - 0.5);
    const listed: ModelRecord[] = [];
    const shortOf = new Map<string, string>();
    numbers.forEach(({ text, short, maker, gone }, index) => {
      if (gone) return;
      const id = `f${listed.length}`;
      shortOf.set(id, short);
      listed.push({
        id: asId(id),
        modelNumber: text,
        makerId: asId(maker),
        platformId: asId('p'),
        popularity: 40 / (1 + (ranks[index] ?? 0)) ** 0.8,
      });
    });
    const gone = numbers.filter((number) => number.gone);
    const draw = drawByPopularity(listed, random);
    const readings: Record<string, (number: string, short: string) => string> = {
      'read well': (number) => number.toLowerCase(),
      'one letter': (number) => times(random, 1, plain(number)),
      'two letters': (number) => times(random, 2, plain(number)),
      'three letters': (number) => times(random, 3, plain(number)),
      'the market left away': (_, short) => short,
      'left away, one letter': (_, short) => times(random, 1, plain(short)),
    };
    const cases: Case[] = [];
    for (const [kind, from] of Object.entries(readings))
      for (let i = 0; i < 400; i += 1) {
        const model = draw();
        cases.push({
          kind,
          text: from(model.modelNumber, shortOf.get(model.id) ?? model.modelNumber),
          truth: model.id,
        });
      }
    for (let i = 0; i < 240; i += 1)
      cases.push({
        kind: 'not listed',
        text: times(random, upTo(random, 1), plain(pick(random, gone).text)),
        truth: null,
      });
    for (let i = 0; i < 50; i += 1) {
      const text = `${pick(random, SYLLABLES)}${pick(random, SYLLABLES)}${upTo(random, 9999)}${pick(random, SYLLABLES)}`;
      if (!taken.has(text)) cases.push({ kind: 'another maker', text, truth: null });
    }
    return { listed, cases };
  },
};
