import { defaultSettings, whatToKeep, type PossibleNeed } from '@/core/case';
import { partsOfCause } from '@/core/case/pricing';
import { partsOf } from '@/core/case/requirements';
import { knowledgeFor, type Cause, type Catalogue, type Model } from '@/core/catalogue';
import {
  createHighsSolver,
  orderHabits,
  planPurchases,
  type MilpSolver,
  supplierDelays,
  type PurchaseTicket,
  type ShelfWant,
} from '@/core/order';
import type { StockState, Use } from '@/core/stock';
import {
  addDays,
  asDay,
  asId,
  asInstant,
  daysBetween,
  defined,
  isoWeekday,
  money,
  seededRandom,
  sum,
  toMajor,
  zeroMoney,
  type LocalDate,
  type PartId,
  type SupplierId,
} from '@/core/units';
import { demoCatalogue } from '../../tests/support/demo';
import { table } from './report';

const START = asDay('2026-01-05');
const WARM_UP_DAYS = 364;
const DAYS = 364;
const PER_DAY = Number(process.env['MACHINES_A_DAY'] ?? 1.2);
const YES = 0.85;
/** How often an open machine's likeliest part is the one that it takes in the end. */
const GUESSED = 0.7;
const OUT_OF_STOCK = 0.08;
const DELAYED = 0.1;
/** What is left on the shelf at the end is worth of what it cost. */
const SALVAGE = 0.7;
const PLAN_MS = 400;

/** A machine as fate has it: the same for every policy. */
type Job = {
  id: string;
  comesOn: LocalDate;
  yesOn: LocalDate | null;
  needs: { id: string; quantity: number; alternatives: PurchaseTicket['requirements'][number]['alternatives'] }[];
  /** What the shop thinks meanwhile that it will take. */
  guess: PartId | null;
};

const POLICIES = [
  'order at once',
  'cheapest per line',
  'pooled plan',
  'pooled plan that may wait',
  'pooled plan and shelf',
  'pooled plan and shelf, may wait',
] as const;
type Policy = (typeof POLICIES)[number];

const isOpen = (day: LocalDate) => isoWeekday(day) <= 5;

/** Machines of two years: models as popular as the catalogue says, causes as the knowledge has them, parts as the application would choose them. */
function drawnJobs(catalogue: Catalogue, seed: number): Job[] {
  const random = seededRandom(seed);
  const settings = defaultSettings();
  const byPopularity = weights(catalogue.models.map(({ popularity }) => popularity ?? 0.1));
  const platforms = new Map(catalogue.platforms.map((platform) => [platform.id, platform]));
  const knowledge = new Map([...platforms].map(([id, platform]) => [id, knowledgeFor(catalogue, platform)]));
  const known = new Map<string, Job['needs']>();
  const needsOf = (model: Model, cause: Cause): Job['needs'] => {
    const key = `${model.id} ${cause.id}`;
    const found = known.get(key);
    if (found) return found;
    const question = { models: [{ modelId: model.id, probability: 1 }], serial: null, today: START };
    const { main, companions } = partsOfCause(catalogue, question, cause, settings);
    const needs = [...(main ? [main] : []), ...companions].flatMap((answer, at) => {
      const [lead] = answer.candidates;
      if (!lead?.cost) return [];
      return partsOf([{ answer, candidate: lead, companion: at > 0 }], cause.id).map(
        ({ bought, alternatives }, index) => ({
          id: `${at}.${index}`,
          quantity: bought.quantity,
          alternatives: [bought, ...alternatives].map(({ partId, adaptation }) => ({
            partId,
            adaptation: adaptation ?? zeroMoney(settings.currency),
          })),
        }),
      );
    });
    known.set(key, needs);
    return needs;
  };
  const jobs: Job[] = [];
  for (let day = START, at = 0; at < WARM_UP_DAYS + DAYS; at += 1, day = addDays(day, 1)) {
    if (!isOpen(day)) continue;
    for (let chance = Math.exp(-PER_DAY), left = random(), n = 0; left > chance && n < 12; n += 1) {
      left -= chance;
      chance *= PER_DAY / (n + 1);
      const model = defined(catalogue.models[byPopularity(random())], 'a model');
      const { causes } = defined(knowledge.get(model.platformId), 'its knowledge');
      const cause = defined(causes[weights(causes.map(({ weight }) => weight))(random())], 'a cause');
      const needs = needsOf(model, cause);
      const yes = random() < YES;
      const yesOn = addDays(day, 1 + Math.floor(3 * random()));
      const other = causes[Math.floor(random() * causes.length)];
      const guessed = random() < GUESSED ? needs : other ? needsOf(model, other) : [];
      jobs.push({
        id: `${at}-${n}`,
        comesOn: day,
        yesOn: yes ? yesOn : null,
        needs,
        guess: guessed[0]?.alternatives[0]?.partId ?? null,
      });
    }
  }
  return jobs;
}

/** Draws an index by its weight. */
function weights(of: readonly number[]): (u: number) => number {
  const all = sum(of);
  return (u) => {
    let left = u * all;
    const found = of.findIndex((weight) => (left -= weight) <= 0);
    return found < 0 ? of.length - 1 : found;
  };
}

type Figures = {
  goods: number;
  shipping: number;
  held: number;
  leftAt: number;
  waited: number[];
  parcels: number;
  fromShelf: number;
};

/** One policy through two years; the second is counted. */
async function live(
  catalogue: Catalogue,
  jobs: readonly Job[],
  policy: Policy,
  solver: MilpSolver,
  seed: number,
): Promise<Figures> {
  const settings = defaultSettings();
  const figures: Figures = { goods: 0, shipping: 0, held: 0, leftAt: 0, waited: [], parcels: 0, fromShelf: 0 };
  const shelf = new Map<PartId, { units: number; cost: number }>();
  const coming: { on: LocalDate; partId: PartId; units: number; cost: number }[] = [];
  const open: { job: Job; arrives: LocalDate; left: Job['needs'] }[] = [];
  const uses: Use[] = [];
  const made: { supplierId: SupplierId; on: LocalDate }[] = [];
  const came: { supplierId: SupplierId; dueOn: LocalDate; cameOn: LocalDate }[] = [];
  const from = addDays(START, WARM_UP_DAYS);
  const until = addDays(from, DAYS);
  const { calendar, currency } = { calendar: settings, currency: settings.currency };
  const marketOn = (day: LocalDate) => ({
    suppliers: catalogue.suppliers,
    modes: catalogue.shipping_modes,
    relations: catalogue.relations,
    // What is out of stock on a day is so for everybody.
    offers: catalogue.offers.filter(({ id }) => seededRandom(seed + hash(`${id} ${day}`))() >= OUT_OF_STOCK),
  });
  const lotsNow = (): StockState[] =>
    [...shelf].map(([partId, { units, cost }]) => ({
      stockId: asId(partId),
      partId,
      partNumber: partId,
      description: '',
      place: '',
      unitCost: money(Math.round(cost), currency),
      used: false,
      works: null,
      origin: { kind: 'by-hand' },
      since: asInstant(`${START}T08:00:00.000Z`),
      lastAt: asInstant(`${START}T08:00:00.000Z`),
      units,
      free: units,
      reserved: [],
      movements: [],
    }));
  const wantsOn = (day: LocalDate): ShelfWant[] => {
    const needs: PossibleNeed[] = jobs.flatMap(({ id, comesOn, yesOn, guess }) =>
      guess !== null && comesOn <= day && (yesOn ?? addDays(comesOn, 3)) > day
        ? [{ partId: guess, ticketId: asId(id), number: 0, chance: GUESSED * YES }]
        : [],
    );
    const under = new Map<PartId, number>();
    for (const one of coming) under.set(one.partId, (under.get(one.partId) ?? 0) + one.units);
    const keep = whatToKeep({
      catalogue,
      lots: lotsNow(),
      uses,
      needs,
      coming: under,
      from: START,
      today: day,
      settings,
    });
    return keep.flatMap(({ partId, packs, packSize, unitCost, gain }) =>
      packs > 0 && gain > 0
        ? [{ partId, pieces: packs * packSize, later: money(packs * packSize * unitCost.amountMinor + gain, currency) }]
        : [],
    );
  };

  for (let day = START; day < until; day = addDays(day, 1)) {
    const counts = day >= from;
    for (const parcel of coming.splice(0).filter((one) => one.on > day || !stock(one))) coming.push(parcel);
    if (counts)
      figures.held +=
        (sum([...shelf.values()].map(({ units, cost }) => units * cost)) * settings.holdingBasisPoints) / 10_000 / 365;
    if (!isOpen(day)) continue;
    for (const job of jobs)
      if (job.yesOn === day || (job.yesOn && !isOpen(job.yesOn) && isFirstOpenAfter(job.yesOn, day)))
        open.push({ job, arrives: day, left: job.needs });
    // What lies there is taken first.
    for (const one of open)
      one.left = one.left.filter((need) => {
        const lot = need.alternatives.find(({ partId }) => (shelf.get(partId)?.units ?? 0) >= need.quantity);
        if (!lot) return true;
        take(lot.partId, need.quantity);
        uses.push({ partId: lot.partId, units: need.quantity, at: day });
        if (counts) figures.fromShelf += 1;
        return false;
      });
    const tickets = open
      .filter(({ left }) => left.length > 0)
      .map(({ job, left }): PurchaseTicket => ({
        ticketId: asId(job.id),
        needBy: addDays(defined(job.yesOn ?? undefined, 'a yes'), settings.promiseDays - 1),
        latePerDay: settings.latePerDay,
        requirements: left.map(({ id, quantity, alternatives }) => ({
          id: asId(`${job.id} ${id}`),
          quantity,
          alternatives,
        })),
      }));
    const wants = policy.includes('shelf') && isoWeekday(day) === 1 ? wantsOn(day) : [];
    const groups =
      policy === 'order at once'
        ? tickets.map((ticket) => [ticket])
        : tickets.length + wants.length > 0
          ? [tickets]
          : [];
    const today = marketOn(day);
    for (const group of groups) {
      const market = policy === 'cheapest per line' ? cheapest(group, today) : today;
      const plan = await planPurchases(group, market, solver, {
        today: day,
        currency,
        oneMode: false,
        calendar,
        budgetMs: PLAN_MS,
        clock: () => performance.now(),
        ...(wants.length ? { shelf: wants } : {}),
        mayWait: policy.includes('may wait'),
        seen: {
          habits: orderHabits(
            made,
            catalogue.suppliers.map(({ id }) => id),
            day,
          ),
          delays: supplierDelays(came.filter(({ cameOn }) => cameOn <= day)),
        },
      });
      const cannot = new Set([...plan.cannotBuy, ...plan.waits].map(({ requirementId }) => String(requirementId)));
      made.push(...plan.orders.map(({ supplierId }) => ({ supplierId, on: day })));
      if (counts) {
        figures.goods += toMajor(plan.goods);
        figures.shipping += toMajor(plan.shipping);
        figures.parcels += plan.orders.length;
      }
      for (const order of plan.orders) {
        const late = seededRandom(seed + hash(`${order.supplierId} ${day}`));
        const on = late() < DELAYED ? addDays(order.arrivesOn, 1 + Math.floor(4 * late())) : order.arrivesOn;
        came.push({ supplierId: order.supplierId, dueOn: order.arrivesOn, cameOn: on });
        for (const line of order.lines) {
          const each = line.linePrice.amountMinor / (line.packs * line.packSize);
          if (line.spare > 0) coming.push({ on, partId: line.partId, units: line.spare, cost: each });
          for (const { ticketId, requirementId, partId, units } of line.for) {
            const one = open.find(({ job }) => job.id === ticketId);
            const need = one?.left.find(({ id }) => `${ticketId} ${id}` === requirementId);
            if (!one || !need) continue;
            if (on > one.arrives) one.arrives = on;
            uses.push({ partId, units, at: day });
          }
        }
      }
      for (const one of open)
        if (group.some(({ ticketId }) => ticketId === one.job.id))
          one.left = one.left.filter(({ id }) => cannot.has(`${one.job.id} ${id}`));
    }
    for (const one of open.splice(0))
      if (one.left.length > 0) open.push(one);
      else if (one.job.needs.length > 0 && (one.job.yesOn ?? START) >= from)
        figures.waited.push(daysBetween(defined(one.job.yesOn ?? undefined, 'a yes'), one.arrives));
  }
  figures.leftAt = sum([...shelf.values()].map(({ units, cost }) => units * cost)) / 100;
  figures.held /= 100;
  return figures;

  function stock({ partId, units, cost }: { partId: PartId; units: number; cost: number }): true {
    const lot = shelf.get(partId) ?? { units: 0, cost };
    shelf.set(partId, { units: lot.units + units, cost: (lot.units * lot.cost + units * cost) / (lot.units + units) });
    return true;
  }
  function take(partId: PartId, units: number): void {
    const lot = defined(shelf.get(partId), 'a lot');
    if (lot.units === units) shelf.delete(partId);
    else lot.units -= units;
  }
}

/** The first open day after a closed one. */
const isFirstOpenAfter = (closed: LocalDate, day: LocalDate): boolean =>
  day > closed &&
  Array.from({ length: daysBetween(closed, day) }, (_, at) => addDays(closed, at)).every((before) => !isOpen(before));

/** Each line where its piece costs least, in the cheapest mode of that supplier: what one does who looks at prices alone. */
function cheapest(
  tickets: readonly PurchaseTicket[],
  market: Pick<Catalogue, 'suppliers' | 'offers' | 'relations'> & { modes: Catalogue['shipping_modes'] },
) {
  const wanted = tickets.flatMap(({ requirements }) => requirements);
  const chosen = new Set(
    wanted.flatMap(({ alternatives, quantity }) => {
      const ids = new Set<string>(alternatives.map(({ partId }) => partId));
      const own = market.offers.filter(
        ({ partId, stockPacks, packQuantity }) => ids.has(partId) && stockPacks * packQuantity >= quantity,
      );
      const price = ({ packPrice, packQuantity }: (typeof own)[number]) =>
        Math.ceil(quantity / packQuantity) * packPrice.amountMinor;
      const [first] = [...own].sort((a, b) => price(a) - price(b));
      return first ? [first.id] : [];
    }),
  );
  const modes = market.suppliers.flatMap(({ id }) => {
    const [first] = market.modes
      .filter(({ supplierId }) => supplierId === id)
      .sort((a, b) => a.fee.amountMinor - b.fee.amountMinor);
    return first ? [first] : [];
  });
  return { ...market, modes, offers: market.offers.filter(({ id }) => chosen.has(id)) };
}

function hash(text: string): number {
  let value = 0;
  for (const letter of text) value = (value * 31 + letter.charCodeAt(0)) % 1_000_003;
  return value;
}

/** A year of a shop by six ways of ordering, after a year in which the shelf learned what is asked for. */
export async function benchYear(): Promise<void> {
  const seed = Number(process.env['SEED'] ?? 1);
  const catalogue = demoCatalogue();
  const solver = await createHighsSolver();
  const jobs = drawnJobs(catalogue, seed);
  const perDay = toMajor(defaultSettings().latePerDay);
  const rows: (string | number)[][] = [];
  const promised = defaultSettings().promiseDays - 1;
  let base: number | null = null;
  let baseLate: number | null = null;
  for (const policy of POLICIES) {
    const found = await live(catalogue, jobs, policy, solver, seed);
    const repairs = found.waited.length;
    const days = sum(found.waited);
    const spent = found.goods + found.shipping + found.held - SALVAGE * found.leftAt;
    const all = spent + days * perDay;
    const late = sum(found.waited.map((waited) => Math.max(0, waited - promised)));
    const allLate = spent + late * perDay;
    base ??= all;
    baseLate ??= allLate;
    rows.push([
      policy === POLICIES[0] ? `baseline: ${policy}` : policy,
      String(repairs),
      (found.goods / repairs).toFixed(2),
      (found.shipping / repairs).toFixed(2),
      (found.held / repairs).toFixed(2),
      found.leftAt.toFixed(0),
      String(found.parcels),
      String(found.fromShelf),
      (days / repairs).toFixed(2),
      (all / repairs).toFixed(2),
      `${(100 * (all / base - 1)).toFixed(1)} %`,
      (late / repairs).toFixed(2),
      `${(100 * (allLate / baseLate - 1)).toFixed(1)} %`,
    ]);
  }
  table(
    `A year of a shop, ${PER_DAY} machines a day (seed ${seed}): per repair with parts; a day of waiting at ${perDay}`,
    [
      'policy',
      'repairs',
      'goods',
      'shipping',
      'holding',
      'left on shelf',
      'parcels',
      'off the shelf',
      'days waited',
      'all in all',
      'against it',
      'days late',
      'only late days counted',
    ],
    rows,
  );
}
