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

describe('the contract of the core', () => {
  it.each(CONTRACT)('%s exports its entry points', (_folder, exports, names) => {
    for (const name of names) expect(typeof Reflect.get(exports, name), name).toBe('function');
  });
});
