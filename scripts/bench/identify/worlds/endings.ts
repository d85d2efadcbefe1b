import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';
import { drawByPopularity, pick, plain, upTo, type Case, type World } from './world';

/*
 * (b) Families: one machine under many endings (country, colour, revision), written after a dash, a space or nothing, one to four characters, at times two
 * of them. Popularity is a share: all sum to one, with a long tail. People leave endings off.
 */
const LETTERS = [...'ABCDEFGHJKLMNPRSTUVWXYZ'];
const word = (random: Random, length: number) => Array.from({ length }, () => pick(random, LETTERS)).join('');

type Ending = { join: string; marks: string[] };
type Number = { stem: string; endings: string[] };
const textOf = ({ stem, endings }: Number): string => stem + endings.join('');

function maker(random: Random) {
  const heads = Array.from({ length: 1 + upTo(random, 2) }, () => word(random, 1 + upTo(random, 3)));
  const inner = random() < 0.4 ? Array.from({ length: 3 }, () => word(random, 1)) : [''];
  const digits = 3 + upTo(random, 2);
  const kinds = ['country', 'colour', 'revision'].filter(() => random() < 0.6).slice(0, 2);
  const endings = (kinds.length ? kinds : ['country']).map((kind): Ending => ({
    join: pick(random, ['', '', '-', ' ']),
    marks:
      kind === 'revision'
        ? Array.from({ length: 2 + upTo(random, 4) }, (_, at) => (random() < 0.5 ? String(at + 1) : `0${at + 1}`))
        : Array.from({ length: 3 + upTo(random, 6) }, () =>
            word(random, kind === 'colour' ? 1 + upTo(random, 1) : 1 + upTo(random, 3)),
          ),
  }));
  return () => ({
    stem: pick(random, heads) + Array.from({ length: digits }, () => upTo(random, 9)).join('') + pick(random, inner),
    endings,
  });
}

/** Mistaken for each other by the eye. */
const EYE = ['O0Q', 'D0', 'I1', 'L1', 'B8', 'S5', 'Z2', 'G6', 'VU', 'MN', 'T7', 'EF', 'PR', '38', 'CG'];

function lookalikes(random: Random, text: string, count: number): string {
  const out = [...text];
  const places = out.map((_, at) => at).filter((at) => EYE.some((set) => set.includes(out[at] ?? '')));
  for (let left = count; left > 0 && places.length > 0; left -= 1) {
    const [at = 0] = places.splice(upTo(random, places.length - 1), 1);
    const set = pick(
      random,
      EYE.filter((one) => one.includes(out[at] ?? '')),
    );
    out[at] = pick(
      random,
      [...set].filter((other) => other !== out[at]),
    );
  }
  return out.join('');
}

const missed = (random: Random, text: string): string => {
  const at = upTo(random, text.length - 1);
  switch (upTo(random, 2)) {
    case 0:
      return text.slice(0, at) + text.slice(at + 1);
    case 1:
      return text.slice(0, at) + text.charAt(at) + text.slice(at);
    default:
      return at + 1 < text.length
        ? text.slice(0, at) + text.charAt(at + 1) + text.charAt(at) + text.slice(at + 2)
        : text;
  }
};

export const endings: World = {
  name: 'b: endings',
  about: 'families with endings of every form, popularity as shares; tuned on',
  make(size, seed) {
    const random = seededRandom(51_000 + size + seed);
    const families: { numbers: Number[]; weight: number; listed: boolean }[] = [];
    const stems = new Set<string>();
    let count = 0;
    while (count < size) {
      const next = maker(random);
      const fame = Math.log(random()) ** 2;
      for (let many = 80 + upTo(random, 700); many > 0 && count < size; many -= 1) {
        const { stem, endings: forms } = next();
        if (stems.has(plain(stem))) continue;
        stems.add(plain(stem));
        const seen = new Set<string>();
        const numbers: Number[] = [];
        for (let tries = 1 + upTo(random, 5); tries > 0; tries -= 1) {
          const number = { stem, endings: forms.map(({ join, marks }) => join + pick(random, marks)) };
          if (random() < 0.12) number.endings = number.endings.slice(0, -1);
          if (seen.has(plain(textOf(number)))) continue;
          seen.add(plain(textOf(number)));
          numbers.push(number);
        }
        const listed = random() > 0.1;
        families.push({ numbers, weight: fame * random() ** 3 + 1e-4, listed });
        if (listed) count += numbers.length;
      }
    }
    const all: { number: Number; model: ModelRecord }[] = [];
    const lost: Number[] = [];
    const texts = new Set<string>();
    for (const { numbers, weight, listed } of families)
      for (const [at, number] of numbers.entries()) {
        const key = plain(textOf(number));
        // A brother that is not listed, though its family is.
        if (!listed || (numbers.length > 2 && at === numbers.length - 1 && random() < 0.1)) {
          if (!texts.has(key)) lost.push(number);
          continue;
        }
        if (texts.has(key)) continue;
        texts.add(key);
        all.push({
          number,
          model: {
            id: asId(`b${all.length}`),
            modelNumber: textOf(number),
            makerId: asId('m'),
            platformId: asId('p'),
            popularity: weight / (at + 1),
          },
        });
      }
    const total = all.reduce((sum, { model }) => sum + model.popularity, 0);
    const listed = all.map(({ model }) => ({ ...model, popularity: model.popularity / total }));
    const byId = new Map(all.map(({ number, model }) => [String(model.id), number]));
    const draw = drawByPopularity(listed, random);
    const cases: Case[] = [];
    const readings: Record<string, (number: Number) => string> = {
      whole: textOf,
      'one lookalike': (number) => lookalikes(random, plain(textOf(number)), 1),
      'two or three lookalikes': (number) => lookalikes(random, plain(textOf(number)), 2 + upTo(random, 1)),
      'one miss': (number) => missed(random, plain(textOf(number))),
      'miss and lookalike': (number) => lookalikes(random, missed(random, plain(textOf(number))), 1),
      'ending left off': ({ stem, endings: own }) => stem + own.slice(0, -1).join(''),
      'all endings left off': ({ stem }) => stem,
      'ending left off and a lookalike': ({ stem, endings: own }) =>
        lookalikes(random, plain(stem + own.slice(0, -1).join('')), 1),
      'edge torn': (number) => {
        const text = plain(textOf(number));
        const gone = 1 + upTo(random, Math.max(0, Math.floor(text.length * 0.4) - 1));
        return random() < 0.5 ? text.slice(gone) : text.slice(0, text.length - gone);
      },
    };
    for (const [kind, read] of Object.entries(readings))
      for (let i = 0; i < 400; i += 1) {
        let model = draw();
        while (kind.includes('left off') && !byId.get(model.id)?.endings.length) model = draw();
        const number = byId.get(model.id);
        if (number) cases.push({ kind, text: read(number), truth: model.id });
      }
    const slip = (text: string) =>
      random() < 0.5 ? text : random() < 0.5 ? lookalikes(random, plain(text), 1) : missed(random, plain(text));
    const unlisted = lost.filter((number) => !texts.has(plain(textOf(number))));
    for (let i = 0; i < 300; i += 1)
      cases.push({ kind: 'missing family or brother', text: slip(textOf(pick(random, unlisted))), truth: null });
    const strange = maker(random);
    for (let i = 0; i < 100; i += 1) {
      const { stem } = strange();
      if (!texts.has(plain(stem)))
        cases.push({ kind: 'unknown maker', text: slip(`${stem}${word(random, 2)}`), truth: null });
    }
    return { listed, cases };
  },
};
