/** Copies the files of the text and code readers from their packages into public/readers, as the application fetches them without any network. */
import { copyFileSync, mkdirSync } from 'node:fs';
import path from 'node:path';

const OUT = 'public/readers';
const FILES = [
  'tesseract.js/dist/worker.min.js',
  'tesseract.js-core/tesseract-core-lstm.wasm.js',
  'tesseract.js-core/tesseract-core-simd-lstm.wasm.js',
  'tesseract.js-core/tesseract-core-relaxedsimd-lstm.wasm.js',
  '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz',
  'zxing-wasm/dist/reader/zxing_reader.wasm',
];

mkdirSync(OUT, { recursive: true });
for (const file of FILES) copyFileSync(path.join('node_modules', file), path.join(OUT, path.basename(file)));
console.log(`${OUT}: ${FILES.length} files`);
