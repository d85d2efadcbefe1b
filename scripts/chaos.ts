/**
 * Attacks, with seeds: `npm run chaos`, or `npm run chaos -- packages orders`. SEED is the first seed, COUNT how often (each subject has its own number
 * otherwise). PACKAGE, a package's zip, and ROWS, of a price list, are spoiled in place of small ones; ONLY=package, list or backup: of these in the browser. One line of figures per subject; ends with an error when something was lost, believed or let in.
 */
import { spoiledBackups, spoiledLists, spoiledPackages, type FileFigures } from './chaos/files';
import { spoiledInBrowser } from './chaos/inBrowser';
import { kills } from './chaos/kills';
import { ordersUnderLies } from './chaos/orders';
import { quota } from './chaos/quota';
import { hostileRequests } from './chaos/requests';
import { pairs, threeTabs } from './chaos/tabs';

const seed = Number(process.env['SEED'] ?? 1);
const what = {
  packagePath: process.env['PACKAGE'],
  rows: Number(process.env['ROWS'] ?? 12),
  only: process.env['ONLY'],
};
const counted = (usual: number) => Number(process.env['COUNT'] ?? usual);

/** A line of figures, and everything that should not have happened. */
type Outcome = { line: string; wrong: readonly string[] };

const wrongIn = ({ crashed, half, foreignWords }: FileFigures): Outcome['wrong'] => [
  ...crashed,
  ...half,
  ...foreignWords,
];
const cameOf = ({ refused, taken, crashed, half, foreignWords }: FileFigures): string =>
  `${refused} refused in words, ${taken} good all the same, ${crashed.length} broke off, ${half.length} half, ${foreignWords.length} in foreign words`;

const ofFiles = (figures: FileFigures): Outcome => ({
  line: `${figures.files} spoiled: ${cameOf(figures)}, slowest ${figures.slowest.toFixed(2)} s (per 10 MB inside, from 1 MB on)`,
  wrong: wrongIn(figures),
});

const subjects: Record<string, () => Promise<Outcome>> = {
  packages: async () => ofFiles(await spoiledPackages(seed, counted(10_000), what)),
  lists: async () => ofFiles(await spoiledLists(seed, counted(2000), what)),
  backups: async () => ofFiles(await spoiledBackups(seed, counted(2000), what)),
  browser: async () => ofFiles(await spoiledInBrowser(seed, counted(50), what)),
  orders: async () => {
    const { orders, faulty, lies, twice, lost, believed, crashed } = await ordersUnderLies(seed, counted(1000));
    return {
      line: `${orders} orders, ${faulty} faulty sendings, ${lies} lies: ${twice.length} twice, ${lost.length} lost, ${believed.length} lies without a word, ${crashed.length} broke off`,
      wrong: [...twice, ...lost, ...believed, ...crashed],
    };
  },
  requests: async () => {
    const { requests, classes, broken, bare, leaked, twice } = await hostileRequests(seed, counted(2500));
    const kinds = Object.entries(classes)
      .sort()
      .map(([kind, times]) => `${times} ${kind}`)
      .join(', ');
    return {
      line: `${requests} hostile requests (${kinds}): ${broken.length} broke the server, ${bare.length} without policy or framed, ${leaked.length} files outside, ${twice.length} orders twice or forgotten`,
      wrong: [...broken, ...bare, ...leaked, ...twice],
    };
  },
  kills: async () => {
    const { kills: killed, by, lost, broken } = await kills(seed, counted(200));
    const kinds = Object.entries(by)
      .sort()
      .map(([kind, times]) => `${times} ${kind}`)
      .join(', ');
    return {
      line: `${killed} kills (${kinds}): ${lost.length} lost what was called saved, ${broken.length} shops that do not open or are not whole`,
      wrong: [...lost, ...broken],
    };
  },
  tabs: async () => {
    const { events, lost, outOfOrder, fields, overwritten } = await threeTabs(seed, counted(500));
    return {
      line: `${events} events from three tabs: ${lost.length} lost, ${outOfOrder.length} streams out of order; ${fields} times two fields at once: ${overwritten.length} overwritten`,
      wrong: [...lost, ...outOfOrder, ...overwritten],
    };
  },
  pairs: async () => {
    const { pairs: done, by, broken } = await pairs(seed, counted(200));
    return {
      line: `${done} pairs in two tabs, ${Object.keys(by).length} kinds: ${broken.length} shops not whole`,
      wrong: broken,
    };
  },
  quota: async () => {
    const { tries, hit, unsaid, lost } = await quota(seed, counted(60));
    return {
      line: `${tries} times no room for a share of the writes, ${hit} met by it: ${unsaid.length} not said, ${lost.length} not saved when there was room again`,
      wrong: [...unsaid, ...lost],
    };
  },
};

const SHOWN = Number(process.env['SHOWN'] ?? 12);
const asked = process.argv.slice(2).filter((name) => name in subjects);
let failed = false;
for (const name of asked.length ? asked : Object.keys(subjects)) {
  const from = performance.now();
  const outcome = await subjects[name]?.();
  if (!outcome) continue;
  console.log(`${name.padEnd(10)} ${outcome.line} (seed ${seed}, ${Math.round((performance.now() - from) / 1000)} s)`);
  for (const wrong of outcome.wrong.slice(0, SHOWN)) console.log(`  ! ${wrong}`);
  if (outcome.wrong.length > SHOWN) console.log(`  ! and ${outcome.wrong.length - SHOWN} more`);
  failed ||= outcome.wrong.length > 0;
}
process.exit(failed ? 1 : 0);
