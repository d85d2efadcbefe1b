/**
 * Photographs made-up plates and has them read by the text reader that ships with the application: numbers set in ten typefaces, degraded by blur, noise, tilt,
 * dim light, scratches, low resolution and JPEG. `npm run readings:make`, with Debian's packages fonts-liberation, fonts-freefont-ttf, fonts-lato,
 * fonts-roboto-slab, fonts-firacode, fonts-inconsolata, fonts-urw-base35, fonts-crosextra-carlito and fonts-dejavu. COUNT readings, LANES at a
 * time; what is there already is kept. A reading in which the junk of a bad photograph spells the name of a real maker is taken out by hand.
 */
import { execFileSync } from 'node:child_process';
import { appendFileSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { createWorker, OEM } from 'tesseract.js';
import { evenOut, plateText, sureness } from '@/core/identify';
import { seededRandom, type Random } from '@/core/units';
import { prepareReader, recognisedLines } from '@/workers/recognise';
import { plateNumbers } from './plateNumbers';

export const READINGS = 'scripts/bench/identify/photographs/readings.jsonl';
const SEED = 4004;
const COUNT = Number(process.env['COUNT'] ?? 2040);
const TYPEFACES = [
  'DejaVu Sans',
  'DejaVu Sans Condensed',
  'Liberation Sans',
  'Liberation Sans Narrow',
  'FreeSans',
  'Lato',
  'Roboto Slab',
  'Fira Code',
  'Inconsolata',
  'Nimbus Mono PS',
  'Carlito',
];
const one = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const digits = (random: Random, count: number) =>
  Array.from({ length: count }, () => Math.floor(random() * 10)).join('');

type Plate = {
  number: string;
  listed: boolean;
  typeface: string;
  size: number;
  weight: number;
  lines: { text: string; number: boolean }[];
  harm: Harm;
};
/** How it was photographed. Lengths are shares of the picture's width. */
type Harm = {
  level: 'good' | 'fair' | 'poor';
  tilt: number;
  shear: number;
  light: number;
  contrast: number;
  blur: number;
  noise: number;
  scratches: number;
  width: number;
  quality: number;
  seed: number;
};

function harm(random: Random): Harm {
  const level = one(random, ['good', 'good', 'fair', 'fair', 'poor'] as const);
  const force = { good: 0.25, fair: 0.6, poor: 1 }[level];
  const some = (most: number) => random() * most * force;
  return {
    level,
    tilt: (random() - 0.5) * 6 * force,
    shear: (random() - 0.5) * 0.16 * force,
    light: 1 - some(0.55),
    contrast: 1 - some(0.5),
    blur: some(1.9),
    noise: some(16),
    scratches: Math.floor(some(18)),
    width: Math.round(1100 - some(560)),
    quality: 0.9 - some(0.6),
    seed: Math.floor(random() * 1e9),
  };
}

function plates(count: number): Plate[] {
  const { listed, missing } = plateNumbers(50_000, SEED);
  const random = seededRandom(SEED + 1);
  const total = listed.reduce((sum, model) => sum + model.popularity, 0);
  const byPopularity = () => {
    let left = random() * total;
    return listed.find((model) => (left -= model.popularity) < 0) ?? listed[0];
  };
  return Array.from({ length: count }, () => {
    const isListed = random() < 0.8;
    const number = isListed ? (byPopularity()?.modelNumber ?? '') : one(random, missing);
    const label = one(random, ['MODEL ', 'Mod. ', 'TYPE ', 'Model: ', '']);
    const about = [
      one(random, ['220-240 V~ 50 Hz', '230 V 50 Hz', '120 V 60 Hz']),
      `${one(random, ['1850', '2050', '2200', '500'])} W 10 A`,
      `S/N ${one(random, ['A', 'K', 'T', 'H', ''])}${digits(random, 8)}`,
      `${one(random, ['5', '6', '7', '8'])} kg ${one(random, ['1000', '1200', '1400'])} /min`,
    ];
    // Two in three are taken from close by: the number's own line.
    const close = random() < 0.67;
    const lines = [
      { text: close ? '' : one(random, ['Automatic washing machine', 'WASHER', 'Washing machine', '']), number: false },
      { text: label + number, number: true },
      ...about.slice(0, close ? 0 : 1 + Math.floor(random() * 3)).map((text) => ({ text, number: false })),
    ].filter(({ text }) => text !== '');
    return {
      number,
      listed: isListed,
      typeface: one(random, TYPEFACES),
      size: 28 + Math.floor(random() * 26),
      weight: random() < 0.4 ? 700 : 400,
      lines,
      harm: harm(random),
    };
  });
}

/** Runs in the page: the photograph, as grey bytes at the width at which it is read. */
async function photograph(plate: Plate): Promise<{ width: number; height: number; base64: string }> {
  const { typeface, size, weight, lines, harm } = plate;
  let state = harm.seed + 1;
  const random = () => {
    state = (state * 1664525 + 1013904223) % 4294967296;
    return state / 4294967296;
  };
  await document.fonts.load(`${weight} ${size}px "${typeface}"`);
  const tall = lines.length === 1 ? 180 : 430;
  const sheet = new OffscreenCanvas(1100, tall);
  const draw = sheet.getContext('2d');
  if (!draw) throw new Error('no canvas');
  draw.fillStyle = '#4b4f50';
  draw.fillRect(0, 0, 1100, tall);
  draw.setTransform(1, Math.tan((harm.tilt * Math.PI) / 180), harm.shear, 1, 60 - harm.shear * 200, 36);
  draw.fillStyle = '#d2d5d3';
  draw.fillRect(0, 0, 980, tall - 70);
  draw.fillStyle = `rgb(${30 + 150 * (1 - harm.contrast)}, ${34 + 150 * (1 - harm.contrast)}, ${33 + 150 * (1 - harm.contrast)})`;
  let y = 66;
  for (const line of lines) {
    const own = line.number ? size : Math.round(size * 0.72);
    draw.font = `${line.number ? weight : 400} ${own}px "${typeface}"`;
    draw.fillText(line.text, 46, y);
    y += own * 1.7;
  }
  for (let index = 0; index < harm.scratches; index += 1) {
    draw.strokeStyle = random() < 0.6 ? '#d2d5d3' : '#8b8f8d';
    draw.lineWidth = 0.6 + random() * 2.4;
    const [x, top] = [random() * 900, random() * (tall - 90)];
    draw.beginPath();
    draw.moveTo(x, top);
    draw.quadraticCurveTo(x + random() * 120, top + random() * 40 - 20, x + random() * 240, top + random() * 70 - 35);
    draw.stroke();
  }
  const height = Math.round((harm.width * tall) / 1100);
  const small = new OffscreenCanvas(harm.width, height);
  const lens = small.getContext('2d');
  if (!lens) throw new Error('no canvas');
  lens.filter = `blur(${(harm.blur * harm.width) / 1100}px) brightness(${harm.light})`;
  lens.drawImage(sheet, 0, 0, harm.width, height);
  const pixels = lens.getImageData(0, 0, harm.width, height);
  for (let index = 0; index < pixels.data.length; index += 4) {
    const grain = (random() + random() + random() - 1.5) * harm.noise;
    for (let channel = 0; channel < 3; channel += 1)
      pixels.data[index + channel] = (pixels.data[index + channel] ?? 0) + grain;
  }
  lens.putImageData(pixels, 0, 0);
  const jpeg = await small.convertToBlob({ type: 'image/jpeg', quality: harm.quality });
  const bitmap = await createImageBitmap(jpeg);
  const read = new OffscreenCanvas(2000, Math.round((2000 * bitmap.height) / bitmap.width));
  const context = read.getContext('2d');
  if (!context) throw new Error('no canvas');
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, read.width, read.height);
  const { data } = context.getImageData(0, 0, read.width, read.height);
  // As the application makes it grey (ITU-R BT.601).
  const bytes = new Uint8Array(data.length / 4);
  for (let index = 0; index < bytes.length; index += 1)
    bytes[index] = Math.round(
      0.299 * (data[index * 4] ?? 0) + 0.587 * (data[index * 4 + 1] ?? 0) + 0.114 * (data[index * 4 + 2] ?? 0),
    );
  let text = '';
  for (let from = 0; from < bytes.length; from += 32_768)
    text += String.fromCharCode(...bytes.subarray(from, from + 32_768));
  return { width: read.width, height: read.height, base64: btoa(text) };
}

/** A grey picture as the plainest file that the reader takes (PGM). */
const asFile = ({ width, height, grey }: { width: number; height: number; grey: Uint8Array }): Buffer =>
  Buffer.concat([Buffer.from(`P5\n${width} ${height}\n255\n`), Buffer.from(grey)]);

async function readAll(page: Page, wanted: readonly { at: number; plate: Plate }[]): Promise<void> {
  const reader = await createWorker('eng', OEM.LSTM_ONLY, {
    langPath: 'public/readers',
    gzip: true,
    cacheMethod: 'none',
  });
  await prepareReader(reader);
  for (const { at, plate } of wanted) {
    const { width, height, base64 } = await page.evaluate(photograph, plate);
    const even = evenOut({ width, height, grey: new Uint8Array(Buffer.from(base64, 'base64')) });
    const lines = await recognisedLines(reader, asFile(even));
    const sure = sureness(lines.map(({ text, confidence }) => ({ text, confidence: confidence / 100 })));
    const {
      number,
      listed,
      typeface,
      size,
      harm: { level },
    } = plate;
    appendFileSync(
      READINGS,
      `${JSON.stringify({ at, number, listed, typeface, size, level, text: plateText(lines), sure: Math.round(sure * 1000) / 1000 })}\n`,
    );
  }
  await reader.terminate();
}

const done = existsSync(READINGS)
  ? readFileSync(READINGS, 'utf8')
      .trim()
      .split('\n')
      .map((line) => (JSON.parse(line) as { at: number }).at)
  : [];
const wanted = plates(COUNT)
  .map((plate, at) => ({ at, plate }))
  .filter(({ at }) => !done.includes(at));
if (done.length === 0) writeFileSync(READINGS, '');
const browser = await chromium.launch({
  executablePath: execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim(),
  args: ['--no-sandbox', '--disable-gpu'],
});
const lanes = Number(process.env['LANES'] ?? 2);
await Promise.all(
  Array.from({ length: lanes }, async (_, lane) => {
    const page = await browser.newPage();
    await page.addInitScript('globalThis.__name = (named) => named;');
    await page.goto('about:blank');
    await readAll(
      page,
      wanted.filter((_, index) => index % lanes === lane),
    );
  }),
);
await browser.close();
const lines = readFileSync(READINGS, 'utf8').trim().split('\n');
lines.sort((a, b) => (JSON.parse(a) as { at: number }).at - (JSON.parse(b) as { at: number }).at);
writeFileSync(READINGS, `${lines.join('\n')}\n`);
console.log(`${lines.length} readings`);
