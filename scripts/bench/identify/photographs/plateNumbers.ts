import type { ModelRecord } from '@/core/identify';
import { asId, seededRandom, type Random } from '@/core/units';

/**
 * Numbers as they stand on the made-up plates that are photographed. Written apart from the other worlds: makers give a series, a load or speed class that is
 * counted in steps, a version letter, and marks of the country behind a space, a dash or nothing.
 */
const one = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const CONSONANTS = [...'BCDFGHJKLMNPQRSTVWXZ'];
const ANY = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

type House = {
  series: string[];
  joint: string;
  steps: number[];
  tails: string[];
  versions: string[];
  countries: string[];
};

function house(random: Random): House {
  const begin = one(random, CONSONANTS);
  const series = Array.from(
    { length: 1 + Math.floor(random() * 3) },
    () => begin + (random() < 0.7 ? one(random, ANY) : '') + (random() < 0.25 ? one(random, ANY) : ''),
  );
  const wide = random() < 0.5;
  const steps = Array.from({ length: 6 + Math.floor(random() * 30) }, () =>
    wide ? 1000 + Math.floor(random() * 900) * 10 : 100 + Math.floor(random() * 900),
  );
  const countries =
    random() < 0.65
      ? Array.from(
          { length: 2 + Math.floor(random() * 4) },
          () => one(random, ANY) + (random() < 0.6 ? one(random, ANY) : ''),
        )
      : [''];
  return {
    series,
    joint: one(random, ['', '', ' ', '-']),
    steps,
    tails:
      random() < 0.5
        ? ['']
        : Array.from({ length: 2 + Math.floor(random() * 5) }, () =>
            String(Math.floor(random() * 100)).padStart(2, '0'),
          ),
    versions: random() < 0.6 ? Array.from({ length: 1 + Math.floor(random() * 4) }, () => one(random, ANY)) : [''],
    countries: countries.map((mark) => (mark ? one(random, [' ', '-', '']) + mark : '')),
  };
}

/** The first `size` numbers of an endless row of houses; one in nine is left out of the catalogue. The same seed with a greater size begins alike. */
export function plateNumbers(size: number, seed: number): { listed: ModelRecord[]; missing: string[] } {
  const random = seededRandom(seed);
  const listed: ModelRecord[] = [];
  const missing: string[] = [];
  const taken = new Set<string>();
  for (let maker = 0; listed.length < size; maker += 1) {
    const { series, joint, steps, tails, versions, countries } = house(random);
    const fame = Math.exp(random() * 3);
    const wanted = 60 + Math.floor(random() * 900);
    for (let tries = 0, made = 0; made < wanted && tries < wanted * 4; tries += 1) {
      const tail = one(random, tails);
      const number = `${one(random, series)}${joint}${one(random, steps) + Math.floor(random() * 4)}${tail ? `-${tail}` : ''}${one(random, versions)}${one(random, countries)}`;
      const plain = number.replace(/[^A-Z0-9]/g, '');
      const fate = random();
      if (plain.length < 5 || taken.has(plain)) continue;
      taken.add(plain);
      made += 1;
      if (fate < 0.11) missing.push(number);
      else if (listed.length < size)
        listed.push({
          id: asId(`d${listed.length}`),
          modelNumber: number,
          makerId: asId(`house${maker}`),
          platformId: asId('p'),
          popularity: (fame * 40) / (made + 3) ** 0.8,
        });
    }
  }
  return { listed, missing };
}
