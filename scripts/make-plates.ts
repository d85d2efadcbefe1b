/** Draws the sample plates in demo-shop/plates with Chromium: the same plates, photographed well and badly. `npm run plates:make`. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import bwipjs from 'bwip-js/node';
import { DEMO_FOLDER } from './demo/files';

type Plate = {
  file: string;
  title: string;
  badge: string;
  modelNumber: string;
  serial: string;
  product: string;
  ratings: string[];
  code: { kind: 'code128' | 'qrcode' | 'datamatrix'; text: string } | null;
  /** CSS on the plate and on the whole picture: how it was photographed. */
  plateStyle: string;
  pictureStyle: string;
  /** What lies over the plate: scratches, dirt, shadow. */
  over: string;
};

const scratches = (count: number, seed: number): string => {
  let state = seed;
  const next = () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
  const lines = Array.from({ length: count }, () => {
    const [x, y, length, turn] = [next() * 900, next() * 520, 60 + next() * 260, next() * 50 - 25];
    return `<path d="M${x} ${y} q${length / 2} ${turn} ${length} ${turn / 2}" stroke="#cfd2d0" stroke-width="${1 + next() * 3}" fill="none" opacity="${0.5 + next() * 0.5}"/>`;
  });
  return `<svg viewBox="0 0 900 520" class="over">${lines.join('')}</svg>`;
};
const smear = (x: number, y: number, width: number, height: number): string =>
  `<div class="over" style="left:${x}px;top:${y}px;width:${width}px;height:${height}px;background:radial-gradient(closest-side, rgba(198,201,199,.97) 55%, transparent)"></div>`;

const PLATES: Plate[] = [
  {
    file: 'clean.jpg',
    title: 'A clean plate, photographed straight on',
    badge: 'VESSBY',
    modelNumber: 'VB 61-407/2',
    serial: 'K23P04711',
    product: '9151 2040 07',
    ratings: ['220-240 V~  50 Hz', '2050 W  10 A', '7 kg  1400 /min'],
    code: { kind: 'code128', text: 'K23P04711' },
    plateStyle: '',
    pictureStyle: '',
    over: '',
  },
  {
    file: 'skewed.jpg',
    title: 'Photographed from the side',
    badge: 'NORRUND',
    modelNumber: 'NR 1165 B',
    serial: 'H14P11830',
    product: '9152 1165 11',
    ratings: ['220-240 V~  50 Hz', '1950 W  10 A', '5 kg  1200 /min'],
    code: { kind: 'qrcode', text: 'NR 1165 B;H14P11830' },
    plateStyle: 'transform: perspective(1500px) rotateY(17deg) rotateZ(-4.5deg) rotateX(6deg)',
    pictureStyle: '',
    over: '',
  },
  {
    file: 'worn.jpg',
    title: 'Worn by twelve years of wiping',
    badge: 'VESSBY',
    modelNumber: 'VB 61-407/2',
    serial: 'J08P20517',
    product: '9151 2040 07',
    ratings: ['220-240 V~  50 Hz', '2050 W  10 A', '7 kg  1400 /min'],
    code: null,
    plateStyle: 'color: #6d716f; filter: blur(.7px)',
    pictureStyle: 'filter: contrast(.72) brightness(1.06)',
    over: scratches(26, 5) + smear(300, 205, 34, 40),
  },
  {
    file: 'dim.jpg',
    title: 'In a cellar, by the light of the phone',
    badge: 'NORRUND',
    modelNumber: 'NR 1165 B',
    serial: 'H14P11830',
    product: '9152 1165 11',
    ratings: ['220-240 V~  50 Hz', '1950 W  10 A', '5 kg  1200 /min'],
    code: { kind: 'datamatrix', text: 'H14P11830' },
    plateStyle: 'filter: blur(.5px)',
    pictureStyle: 'filter: brightness(.34) contrast(.85) sepia(.5)',
    over: '<div class="over" style="inset:0;background:radial-gradient(circle at 30% 40%, transparent 25%, rgba(0,0,0,.55) 75%)"></div>',
  },
  {
    file: 'code-only.jpg',
    title: 'The text is gone, the square code is not',
    badge: 'VESSBY',
    modelNumber: 'VB 61-407/2',
    serial: 'K33P00964',
    product: '9151 2040 07',
    ratings: ['220-240 V~  50 Hz', '2050 W  10 A', '7 kg  1400 /min'],
    code: { kind: 'datamatrix', text: 'VB 61-407/2 K33P00964' },
    plateStyle: '',
    pictureStyle: '',
    over: smear(10, 90, 560, 190) + smear(60, 120, 520, 170) + smear(0, 250, 500, 200),
  },
  {
    file: 'not-listed.jpg',
    title: 'A machine that is in no catalogue',
    badge: 'HALVERT',
    modelNumber: 'HK 9250 TX',
    serial: '44-018273',
    product: '77 120 9',
    ratings: ['230 V~  50 Hz', '2200 W  10 A', '8 kg  1400 /min'],
    code: null,
    plateStyle: '',
    pictureStyle: '',
    over: '',
  },
];

async function html(plate: Plate): Promise<string> {
  const code = plate.code
    ? await bwipjs.toBuffer({
        bcid: plate.code.kind,
        text: plate.code.text,
        scale: plate.code.kind === 'code128' ? 2 : 4,
        ...(plate.code.kind === 'code128' ? { height: 10 } : {}),
        backgroundcolor: 'ffffff',
        paddingwidth: 6,
        paddingheight: 6,
      })
    : null;
  return `<!doctype html><style>
  body { margin: 0; background: #4b4f50; font-family: 'DejaVu Sans Condensed', 'DejaVu Sans', sans-serif; }
  #picture { position: relative; width: 1000px; height: 620px; display: grid; place-items: center; background: linear-gradient(160deg,#585c5d,#3f4344); ${plate.pictureStyle} }
  #plate { position: relative; width: 900px; height: 520px; box-sizing: border-box; padding: 26px 34px; border-radius: 14px; background: linear-gradient(100deg,#d6d9d7,#c2c6c4 45%,#dcdfdd); color: #1f2322; ${plate.plateStyle} }
  .badge { font-size: 46px; font-weight: 700; letter-spacing: 6px; } .small { font-size: 22px; } .row { display: flex; gap: 26px; align-items: baseline; margin-top: 14px; font-size: 27px; }
  .key { font-size: 19px; width: 132px; } .number { font-family: 'DejaVu Sans Mono'; font-size: 40px; font-weight: 700; letter-spacing: 1px; } .code { position: absolute; right: 34px; bottom: 30px; }
  .over { position: absolute; inset: 0; width: 900px; height: 520px; }
  </style><div id="picture"><div id="plate"><div class="badge">${plate.badge}</div><div class="small">Automatic washing machine</div>
  <div class="row" style="margin-top:24px"><span class="key">MODEL</span><span class="number">${plate.modelNumber}</span></div>
  <div class="row"><span class="key">SERIAL NO.</span><span class="number" style="font-size:32px">${plate.serial}</span></div>
  <div class="row"><span class="key">PROD. NO.</span><span>${plate.product}</span></div>
  ${plate.ratings.map((text) => `<div class="row" style="margin-top:9px"><span>${text.replaceAll('  ', ' &nbsp; ')}</span></div>`).join('')}
  ${code ? `<img class="code" src="data:image/png;base64,${code.toString('base64')}">` : ''}${plate.over}</div></div>`;
}

const browser = await chromium.launch({
  executablePath: execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim(),
  args: ['--no-sandbox', '--disable-gpu'],
});
const page = await browser.newPage({ viewport: { width: 1000, height: 620 } });
mkdirSync(`${DEMO_FOLDER}plates`, { recursive: true });
for (const plate of PLATES) {
  await page.setContent(await html(plate));
  await page.screenshot({ path: `${DEMO_FOLDER}plates/${plate.file}`, type: 'jpeg', quality: 78 });
}
await browser.close();
const samples = PLATES.map(({ file, title, badge, modelNumber, serial, code }) => ({
  file,
  title,
  badge,
  modelNumber,
  serial,
  code,
}));
writeFileSync(`${DEMO_FOLDER}plates/plates.json`, `${JSON.stringify(samples, null, 1)}\n`);
console.log(`${samples.length} plates`);
