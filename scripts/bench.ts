/** Prints figures and ratios against a named baseline, all in the same run. `npm run bench`, or `npm run bench -- worth order`. */
import { benchDesk } from './bench/desk';
import { benchDecisions, benchDiagnose } from './bench/diagnose';
import { benchPlans } from './bench/plans';
import { benchPlayed } from './bench/played';
import { benchGrowth } from './bench/growth';
import { benchIdentify } from './bench/identify';
import { benchImport } from './bench/import';
import { benchLayers } from './bench/layers';
import { benchOrders, benchPlanQuality } from './bench/order';
import { benchPromises } from './bench/promises';
import { benchSheets } from './bench/sheets';
import { benchUnlisted } from './bench/unlisted';
import { benchWorth } from './bench/worth';
import { benchYear } from './bench/year';

const all: Record<string, () => void | Promise<void>> = {
  identify: benchIdentify,
  diagnose: benchDiagnose,
  decisions: benchDecisions,
  plans: benchPlans,
  sheets: benchSheets,
  played: benchPlayed,
  unlisted: benchUnlisted,
  growth: benchGrowth,
  layers: benchLayers,
  worth: benchWorth,
  order: benchOrders,
  'order-quality': () => benchPlanQuality(Number(process.env['SEED'] ?? 1)),
  year: benchYear,
  import: benchImport,
  desk: benchDesk,
  promises: benchPromises,
};

const wanted = process.argv.slice(2).filter((name) => name in all);
for (const name of wanted.length ? wanted : Object.keys(all)) await all[name]?.();
