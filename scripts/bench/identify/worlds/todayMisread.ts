import type { Random } from '@/core/units';

/**
 * How readings go wrong in the bench. Written down before and apart from the resolver's own table: who types hits a neighbouring key (any of the eight
 * around it, on the letter block or the number row), doubles, drops or swaps; a camera confuses by its own list; a worn plate loses characters and edges.
 */
export type Kind = 'clean' | 'typed' | 'camera' | 'worn' | 'suffix' | 'buried';
export const KINDS: readonly Kind[] = ['clean', 'typed', 'camera', 'worn', 'suffix', 'buried'];

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

const BOARD = ['1234567890', 'QWERTYUIOP', 'ASDFGHJKL', 'ZXCVBNM'];
const around = (key: string): string[] => {
  const y = BOARD.findIndex((row) => row.includes(key));
  const x = BOARD[y]?.indexOf(key) ?? 0;
  return [-1, 0, 1]
    .flatMap((dy) => [-1, 0, 1].flatMap((dx) => (dx === 0 && dy === 0 ? [] : [BOARD[y + dy]?.charAt(x + dx) ?? ''])))
    .filter(Boolean);
};

/** True → read, with how often it happens to that character. */
const CAMERA: Record<string, [string, number][]> = {
  O: [
    ['0', 0.22],
    ['Q', 0.03],
    ['D', 0.02],
  ],
  '0': [
    ['O', 0.08],
    ['D', 0.02],
    ['Q', 0.01],
  ],
  '8': [
    ['B', 0.05],
    ['3', 0.02],
  ],
  B: [
    ['8', 0.04],
    ['3', 0.01],
  ],
  S: [['5', 0.05]],
  '5': [
    ['S', 0.03],
    ['6', 0.01],
  ],
  I: [
    ['1', 0.06],
    ['L', 0.02],
  ],
  '1': [
    ['I', 0.03],
    ['7', 0.02],
    ['L', 0.01],
  ],
  L: [
    ['1', 0.02],
    ['I', 0.02],
  ],
  '7': [
    ['1', 0.02],
    ['Z', 0.005],
  ],
  Z: [
    ['2', 0.04],
    ['7', 0.02],
  ],
  '2': [['Z', 0.03]],
  G: [
    ['6', 0.03],
    ['C', 0.01],
  ],
  '6': [
    ['G', 0.02],
    ['8', 0.01],
  ],
  D: [
    ['0', 0.03],
    ['O', 0.02],
  ],
  Q: [
    ['0', 0.04],
    ['O', 0.03],
  ],
  U: [['V', 0.02]],
  V: [
    ['U', 0.02],
    ['Y', 0.01],
  ],
  '3': [['8', 0.015]],
  M: [['N', 0.01]],
  N: [['M', 0.01]],
  E: [['F', 0.015]],
  F: [
    ['E', 0.01],
    ['P', 0.01],
  ],
};

const plain = (number: string) => number.replace(/[^A-Z0-9?]/g, '');

function typed(number: string, random: Random): string {
  let out = '';
  for (let i = 0; i < number.length; i += 1) {
    const character = number.charAt(i);
    const roll = random();
    if (roll < 0.012) out += pick(random, around(character));
    else if (roll < 0.02) continue;
    else if (roll < 0.028) out += character + character;
    else if (roll < 0.036 && i + 1 < number.length) {
      out += number.charAt(i + 1) + character;
      i += 1;
    } else out += character;
  }
  return random() < 0.5 ? out.toLowerCase() : out;
}

function camera(number: string, random: Random): string {
  let out = '';
  for (const character of number) {
    let roll = random();
    let read = character;
    for (const [other, p] of CAMERA[character] ?? []) {
      if (roll < p) {
        read = other;
        break;
      }
      roll -= p;
    }
    if (character === 'J' && random() < 0.08) continue;
    if (random() < 0.002) read = pick(random, [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789']);
    out += read;
  }
  out = random() < 0.3 ? out.replace(/RN/, 'M') : out;
  if (random() < 0.02) out = random() < 0.5 ? out.slice(1) : out.slice(0, -1);
  return out;
}

function worn(number: string, random: Random): string {
  let out = [...camera(number, random)].map((character) => (random() < 0.07 ? '?' : character)).join('');
  if (random() < 0.2) {
    const lost = random() < 0.75 ? 1 : 2;
    out = random() < 0.5 ? out.slice(lost) : out.slice(0, -lost);
  }
  return out;
}

const WORDS = [
  'WASHING MACHINE',
  'AUTOMATIC WASHER',
  'MADE IN PORT',
  'IPX4',
  'CLASS I',
  'HARBOUR WORKS LTD',
  'DO NOT REMOVE',
];

/** The whole text of a plate with the number on one of its lines, the label sometimes missing, other numbers around it. */
function buried(number: string, random: Random): string {
  const digits = (count: number) => Array.from({ length: count }, () => Math.floor(random() * 10)).join('');
  const label = pick(random, ['MOD. ', 'MODEL ', 'Model: ', 'TYPE ', 'Type No. ', '', '']);
  const lines = [
    `${label}${number}`,
    pick(random, ['230V~ 50Hz', '220-240V 50 Hz', '120V 60Hz']),
    `${pick(random, ['2100', '2000', '1850', '500'])}W`,
    `S/N ${pick(random, ['A', 'K', 'T', ''])}${digits(9)}`,
    `PNC ${digits(9)}`,
    pick(random, WORDS),
    `max ${pick(random, ['5', '6', '7'])} kg`,
  ];
  for (let i = lines.length - 1; i > 0; i -= 1) {
    const j = Math.floor(random() * (i + 1));
    [lines[i], lines[j]] = [lines[j] ?? '', lines[i] ?? ''];
  }
  return lines.slice(0, 7).join('\n');
}

/** One reading of a number in one of the kinds. */
export function misread(number: string, kind: Kind, random: Random): string {
  switch (kind) {
    case 'clean':
      return random() < 0.5 ? number : plain(number).toLowerCase();
    case 'typed':
      return typed(plain(number), random);
    case 'camera':
      return camera(plain(number), random);
    case 'worn':
      return worn(plain(number), random);
    case 'suffix':
      return number.includes('/') ? number.slice(0, number.indexOf('/')) : number;
    case 'buried':
      return buried(number, random);
  }
}
