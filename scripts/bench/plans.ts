import { knowledgeFor, waysToMend } from '@/core/catalogue';
import { planWork } from '@/core/labour';
import { unique } from '@/core/units';
import { demoCatalogue } from '../../tests/support/demo';
import { percent, quantileOf, table } from './report';

/** Hands-on minutes that the trade names for a practised technician, way in included; `from`: at least so many, the way in comes on top. */
const TRADE: Readonly<Record<string, number | { from: number }>> = {
  'filter-blocked': 15,
  'hose-kinked': 10,
  'drain-pump': 25,
  'pump-driven': 25,
  'level-tube': 10,
  'level-sensor': 10,
  'inlet-screen': 10,
  'inlet-valve': 20,
  'inlet-valve-hot': 20,
  'inlet-valve-cold': 20,
  'inlet-valve-both': 20,
  lock: 20,
  'lid-switch': 20,
  belt: 25,
  'belt-top': 25,
  'motor-front': 50,
  brushes: 40,
  coupler: 25,
  'rotor-splines': 30,
  'position-sensor': 30,
  harness: 20,
  stator: 45,
  transistor: 60,
  board: 45,
  bearings: { from: 180 },
  spider: { from: 200 },
  'damper-front': 60,
  'damper-rear': 60,
  rods: 60,
  thrust: 60,
  tensioner: 20,
  'clutch-drags': 90,
  'brake-drags-top': 90,
  'brake-worn': 90,
  'motor-top': 60,
  timer: 40,
  springs: 60,
  'friction-ring': 60,
  pulley: 20,
  'rotor-magnet': 30,
  'hose-leak': 30,
  object: 40,
  supply: 20,
  gearbox: 150,
  'tub-seal': 120,
  'door-seal': 60,
  weight: 30,
  'heater-connector': 15,
  element: 45,
  'temp-sensor': 15,
  load: 15,
};

/** The demo's plans beside the minutes of the trade, and for how many causes there is more than one way. */
export function benchPlans(): void {
  const catalogue = demoCatalogue();
  const rows = new Map<string, { minutes: number[]; ways: number }>();
  for (const platform of catalogue.platforms) {
    const knowledge = knowledgeFor(catalogue, platform);
    for (const cause of knowledge.causes) {
      const row = rows.get(cause.id) ?? { minutes: [], ways: 0 };
      // A welded tub is cut open: that is no plan of the trade's list.
      const plan = planWork(knowledge.operations, cause.operations);
      if (!(platform.tub === 'welded' && plan.opensTub)) row.minutes.push(Math.round(plan.handsOnMinutes));
      row.ways = Math.max(row.ways, waysToMend(knowledge, cause).length);
      rows.set(cause.id, row);
    }
  }
  const shown = [...rows].flatMap(([id, { minutes, ways }]) => {
    const trade = TRADE[id];
    if (trade === undefined) return [];
    const own = unique(minutes).sort((a, b) => a - b);
    const off = typeof trade === 'number' ? Math.max(...own.map((one) => Math.max(one / trade, trade / one))) : null;
    return [{ id, own, trade, ways, off }];
  });
  table(
    'Plans of the demo beside the minutes of the trade',
    ['cause', 'minutes, by platform', 'the trade', 'off by at most', 'ways'],
    shown.map(({ id, own, trade, ways, off }) => [
      id,
      own.join(', '),
      typeof trade === 'number' ? String(trade) : `${trade.from} and the way in`,
      off === null ? '' : `${off.toFixed(2)} x`,
      String(ways),
    ]),
  );
  const factors = shown.flatMap(({ off }) => off ?? []);
  table(
    'All of them',
    ['causes', 'median off', '95 %', 'most', 'with two ways at least'],
    [
      [
        String(rows.size),
        `${quantileOf(factors, 0.5).toFixed(2)} x`,
        `${quantileOf(factors, 0.95).toFixed(2)} x`,
        `${Math.max(...factors).toFixed(2)} x`,
        percent([...rows.values()].filter(({ ways }) => ways > 1).length / rows.size),
      ],
    ],
  );
}
