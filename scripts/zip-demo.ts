/** Puts the demo shop's open files and the template of a package into public/, as the application fetches them. Same files, same bytes. */
import { cpSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync, type Zippable } from 'fflate';
import { DEMO_FOLDER } from './demo/files';
import { readKnowledge } from './knowledge';

/** The smallest package that imports: what a wholesaler begins with. */
const TEMPLATE = 'docs/smallest-package';

const add = (files: Zippable, folder: string, prefix: string) => {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    // The sample plates are fetched one by one.
    if (entry.isDirectory() && entry.name === 'plates') continue;
    if (entry.isDirectory()) add(files, path.join(folder, entry.name), `${prefix}${entry.name}/`);
    else
      files[`${prefix}${entry.name}`] = [readFileSync(path.join(folder, entry.name)), { mtime: new Date(2000, 0, 1) }];
  }
};
const files: Zippable = {};
add(files, DEMO_FOLDER, '');
mkdirSync('public', { recursive: true });
writeFileSync('public/demo-shop.zip', zipSync(files, { level: 6 }));
cpSync(path.join(DEMO_FOLDER, 'plates'), 'public/plates', { recursive: true });
console.log(`public/demo-shop.zip: ${Object.keys(files).length} files`);

const template: Zippable = {};
add(template, TEMPLATE, '');
writeFileSync('public/package-template.zip', zipSync(template, { level: 6 }));

// What the trade knows ships as parsed rows: read and checked here, by the importer itself.
writeFileSync('public/knowledge.json', JSON.stringify(readKnowledge()));
