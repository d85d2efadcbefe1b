import type { Platform } from '@/core/catalogue';
import type { Cells, Dice } from './files';

type Grammar = { badgeId: string; make: (dice: Dice) => string };

const digits = (dice: Dice, count: number) => Array.from({ length: count }, () => dice.whole(0, 9)).join('');

/** How each badge writes its numbers on a platform. */
const GRAMMARS: Record<string, Grammar[]> = {
  'fj-a1': [
    { badgeId: 'vessby', make: (dice) => `VB 61-${dice.whole(4, 5)}${digits(dice, 2)}/${dice.whole(1, 3)}` },
    { badgeId: 'norrund', make: (dice) => `NR 1${dice.whole(0, 4)}${digits(dice, 2)} B` },
  ],
  'fj-a2': [
    { badgeId: 'vessby', make: (dice) => `VB 48-${dice.whole(1, 3)}${digits(dice, 2)}/${dice.whole(1, 2)}` },
    { badgeId: 'norrund', make: (dice) => `NR 12${digits(dice, 2)} W` },
  ],
  'fj-i4': [{ badgeId: 'vessby', make: (dice) => `VI 84-${dice.whole(6, 8)}${digits(dice, 2)}/${dice.whole(1, 3)}` }],
  'qu-m1': [
    { badgeId: 'quillon', make: (dice) => `QM10${digits(dice, 2)}${dice.pick(['B', 'D', '8', 'W'])}` },
    { badgeId: 'pellaro', make: (dice) => `PLR 7${digits(dice, 3)} S` },
  ],
  'qu-m3': [
    { badgeId: 'quillon', make: (dice) => `QM30${digits(dice, 2)}${dice.pick(['B', 'D', 'X'])}` },
    { badgeId: 'pellaro', make: (dice) => `PLR 8${digits(dice, 3)} S` },
  ],
  'qu-d5': [{ badgeId: 'quillon', make: (dice) => `QD50${digits(dice, 2)}${dice.pick(['G', 'B', 'Z'])}` }],
  'mw-b2': [
    {
      badgeId: 'marwick',
      make: (dice) => `MB2-1${dice.whole(0, 4)}00 ${dice.pick(['E', 'F', 'S'])}${dice.whole(1, 9)}`,
    },
  ],
  'mw-c6': [
    {
      badgeId: 'marwick',
      make: (dice) => `MC6-1${dice.whole(2, 6)}00 ${dice.pick(['E', 'S', 'Z'])}${dice.whole(1, 9)}`,
    },
  ],
  'mw-t1': [{ badgeId: 'marwick', make: (dice) => `MT1-${dice.whole(70, 98)}0 ${dice.pick(['T', 'U', 'V'])}` }],
  'os-t4': [
    { badgeId: 'ostra', make: (dice) => `OT4${digits(dice, 3)}XW${dice.whole(0, 3)}` },
    { badgeId: 'tidelan', make: (dice) => `TDL4${digits(dice, 3)}Q${dice.whole(0, 3)}` },
  ],
  'os-t6': [
    { badgeId: 'ostra', make: (dice) => `OT6${digits(dice, 3)}XW${dice.whole(0, 3)}` },
    { badgeId: 'tidelan', make: (dice) => `TDL6${digits(dice, 3)}Q${dice.whole(0, 3)}` },
  ],
  'os-r8': [{ badgeId: 'ostra', make: (dice) => `OR8${digits(dice, 3)}XR${dice.whole(0, 3)}` }],
};

const YEARS: Record<string, [number, number]> = {
  'fj-a1': [2009, 2019],
  'fj-a2': [2013, 2021],
  'fj-i4': [2016, 2026],
  'qu-m1': [2010, 2018],
  'qu-m3': [2015, 2024],
  'qu-d5': [2014, 2026],
  'mw-b2': [2008, 2017],
  'mw-c6': [2013, 2026],
  'mw-t1': [2008, 2016],
  'os-t4': [2007, 2018],
  'os-t6': [2012, 2024],
  'os-r8': [2014, 2026],
};

/** Changes one character as makers do between siblings, keeping letter or digit. */
function sibling(number: string, dice: Dice): string {
  const places = [...number]
    .map((character, index) => ({ character, at: index }))
    .filter(({ character, at: index }) => /\d/.test(character) && index >= 3);
  const { character, at: index } = dice.pick(places);
  const other = dice.pick([...'0123456789'].filter((digit) => digit !== character));
  return number.slice(0, index) + other + number.slice(index + 1);
}

const PER_PLATFORM = 35;

/** 35 models a platform, half of them siblings of another one, popularity falling as 1/rank. */
export function makeModels(platforms: readonly Platform[], dice: Dice): Cells[] {
  const taken = new Set<string>();
  const models: Cells[] = [];
  for (const platform of platforms) {
    const grammars = GRAMMARS[platform.id] ?? [];
    const [from, to] = YEARS[platform.id] ?? [2010, 2020];
    const own: { number: string; badgeId: string }[] = [];
    while (own.length < PER_PLATFORM) {
      const grammar = dice.pick(grammars);
      const family = own.filter((entry) => entry.badgeId === grammar.badgeId);
      const number =
        family.length > 2 && dice.chance(0.5) ? sibling(dice.pick(family).number, dice) : grammar.make(dice);
      if (taken.has(number)) continue;
      taken.add(number);
      own.push({ number, badgeId: grammar.badgeId });
    }
    own.forEach(({ number, badgeId }, rank) => {
      const start = dice.whole(from, Math.max(from, to - 4));
      const end = Math.min(to, start + dice.whole(2, 6));
      models.push({
        id: `m-${platform.id}-${String(rank + 1).padStart(2, '0')}`,
        modelNumber: number,
        badgeId,
        makerId: platform.makerId,
        platformId: platform.id,
        popularity: Math.round(1000 / (rank + 1)) / 10,
        producedFrom: `${start}-01-01`,
        producedTo: end >= 2026 ? '' : `${end}-12-31`,
        capacityKg: dice.pick(platform.loading === 'front' ? [5, 6, 7, 8] : [6, 7, 9]),
        spinRpm: dice.pick(platform.loading === 'front' ? [1000, 1200, 1400] : [640, 700, 850]),
      });
    });
  }
  return models;
}
