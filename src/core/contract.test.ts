import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import * as bench from './bench';
import * as kase from './case';
import * as pkg from './package';
import * as diagnose from './diagnose';
import * as fit from './fit';
import * as identify from './identify';
import * as labour from './labour';
import * as learn from './learn';
import * as measure from './measure';
import * as order from './order';
import * as quote from './quote';
import * as ticket from './ticket';
import * as worth from './worth';

/** The names of the core's entry points are a contract: others write against them. */
const CONTRACT: [string, object, string[]][] = [
  ['package', pkg, ['readPackage', 'createPackageReader']],
  ['identify', identify, ['buildModelIndex', 'readPlate', 'readSerial', 'sortInput']],
  ['measure', measure, ['judgeReading', 'findBearing']],
  ['labour', labour, ['planWork']],
  ['diagnose', diagnose, ['rankCauses', 'nextSteps', 'nextAction']],
  ['fit', fit, ['partsFor', 'crossReference', 'compareParts', 'findBearing']],
  ['worth', worth, ['compareRepairReplace', 'repairLimit', 'decideMachine']],
  ['quote', quote, ['buildQuote']],
  ['order', order, ['planPurchases', 'planOrder', 'createHighsSolver', 'InfeasibleOrder']],
  ['bench', bench, ['buildWorkSheet']],
  ['ticket', ticket, ['applyEvents', 'waitsFor']],
  ['learn', learn, ['learnFrom']],
  ['case', kase, ['assess']],
];

const textOf = (folder: string) => readFileSync(path.join(import.meta.dirname, folder, 'README.md'), 'utf8');

describe('the contract of the core', () => {
  it.each(CONTRACT)('%s exports its entry points, and its README names them', (folder, exports, names) => {
    for (const name of names) {
      expect(typeof Reflect.get(exports, name), name).toBe('function');
      expect(textOf(folder), name).toContain(`\`${name}\``);
    }
  });
});

describe('the READMEs of the core', () => {
  const here = (...names: string[]) => path.join(import.meta.dirname, ...names);
  const folders = readdirSync(here()).filter((name) => existsSync(here(name, 'README.md')));
  it.each(folders)('%s: every name in it is a name in its code', (folder) => {
    const code = readdirSync(here(folder), { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.ts'))
      .map((file) => readFileSync(here(folder, file), 'utf8'))
      .join('\n');
    const named = [...textOf(folder).matchAll(/`([a-z]+[A-Z]\w*)`/g)].map(([, name]) => name ?? '');
    expect(named.filter((name) => !new RegExp(`\\b${name}\\b`).test(code))).toEqual([]);
    const files = readdirSync(here(folder), { recursive: true, encoding: 'utf8' }).map((file) => path.basename(file));
    const filesNamed = [...textOf(folder).matchAll(/`([a-z]\w*\.ts)`/g)].map(([, name]) => name ?? '');
    expect(filesNamed.filter((name) => !files.includes(name))).toEqual([]);
  });
});
