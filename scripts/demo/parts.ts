import { findBearing } from '@/core/measure';
import { knowledgeFor, type Catalogue, type Platform } from '@/core/catalogue';
import { unique, asId } from '@/core/units';
import { dice as diceOf, type Cells, type Dice } from './files';

/** Purchase price in euros a maker's part of a role starts from. */
export const PRICES: Record<string, number> = {
  pump: 28,
  'pump-driven': 31,
  'pump-gasket': 3.2,
  'hose-clamp': 1.4,
  'level-sensor': 16,
  'inlet-valve': 19,
  lock: 23,
  'lid-switch': 17,
  belt: 13,
  brushes: 17,
  transistor: 6.5,
  'insulating-pad': 0.9,
  'motor-board': 92,
  board: 118,
  'shaft-seal': 11,
  'bearing-drum': 14,
  'bearing-pulley': 11,
  'tub-gasket': 12,
  sealant: 8.5,
  spider: 74,
  'spider-bolts': 6,
  damper: 16,
  springs: 21,
  'friction-ring': 24,
  pulley: 29,
  'drain-hose': 12,
  'tub-hose': 14,
  'supply-lead': 15,
  'filter-board': 22,
  'door-seal': 44,
  'weight-bolts': 5,
  element: 26,
  'temp-sensor': 8,
  harness: 32,
  rotor: 88,
  'position-sensor': 24,
  stator: 112,
  'thread-locker': 7,
  coupler: 12,
  tensioner: 19,
  'thrust-kit': 34,
  rods: 48,
  'brake-kit': 46,
  'clutch-kit': 52,
  'motor-top': 98,
  'motor-front': 84,
  capacitor: 11,
  timer: 64,
  gearbox: 184,
  'tub-seal': 21,
  'hose-washers': 0.6,
  // A pack of a hundred.
  'cable-ties': 7,
};

/** Roles that any trade shop has, without a maker's number. */
const TRADE_ROLES = ['hose-clamp', 'sealant', 'insulating-pad', 'thread-locker', 'hose-washers', 'cable-ties'];
const GENERIC_ROLES = [
  'pump',
  'inlet-valve',
  'belt',
  'brushes',
  'shaft-seal',
  'damper',
  'element',
  'capacitor',
  'transistor',
  'coupler',
  'drain-hose',
  'temp-sensor',
];
/** Roles that came later: their numbers are made after all others, so that those stay as they are. */
const LATER_ROLES = ['motor-front'];
/** Roles whose number depends on the model, not only on the platform. */
const BY_MODEL = ['brushes', 'board', 'door-seal', 'lock', 'timer'];
const BEARINGS: Record<string, [string, string]> = {
  'fj-a1': ['6206', '6205'],
  'fj-a2': ['6305', '6204'],
  'fj-i4': ['6207', '6206'],
  'qu-m1': ['6205', '6204'],
  'qu-m3': ['6306', '6205'],
  'qu-d5': ['6307', '6206'],
  'mw-b2': ['6204', '6203'],
  'mw-c6': ['6307', '6305'],
};

export type PartSet = {
  parts: Cells[];
  properties: Cells[];
  fits: Cells[];
  relations: Cells[];
  base: Map<string, number>;
};

type Maker = { next: () => string };

function numberMakers(dice: Dice): Record<string, Maker> {
  const taken = new Set<string>();
  const unused = (make: () => string): string => {
    for (;;) {
      const number = make();
      if (!taken.has(number)) {
        taken.add(number);
        return number;
      }
    }
  };
  const digits = (count: number) => Array.from({ length: count }, () => dice.whole(0, 9)).join('');
  return {
    fjordal: { next: () => unused(() => `FJ-${digits(4)}-${digits(2)}`) },
    quillon: { next: () => unused(() => `Q${dice.whole(20, 29)}.${digits(4)}.${dice.whole(1, 9)}`) },
    marwick: {
      next: () =>
        unused(() => `M${dice.whole(0, 1)}-${digits(4)}-${dice.pick(['A', 'B', 'D', 'S'])}${dice.whole(1, 9)}`),
    },
    ostra: { next: () => unused(() => `OS ${digits(2)} ${digits(4)} ${dice.pick(['A', 'B', 'C', 'K'])}`) },
    generic: { next: () => unused(() => `TR-${digits(5)}`) },
    sister: { next: () => unused(() => `${dice.pick(['N', 'P', 'T'])}${digits(6)}`) },
  };
}

function propertiesOf(roleId: string, platform: Platform, dice: Dice): Record<string, string | number> {
  const pair = BEARINGS[platform.id];
  const bearing = (designation: string | undefined) => {
    const series = designation?.slice(0, 2) ?? '62';
    const bore = Number(designation?.slice(2)) * 5 || 17;
    const known = findBearing({
      bore: designation?.endsWith('03') ? 17 : bore,
      outside: 0,
      width: 0,
      tolerance: 1000,
    }).find((entry) => entry.designation === designation);
    return known
      ? {
          boreMm: known.bore,
          outsideMm: known.outside,
          widthMm: known.width,
          designation: `${known.designation}-2RS C3`,
        }
      : { designation: series };
  };
  switch (roleId) {
    case 'pump':
      return {
        voltageV: 230,
        powerW: dice.pick([25, 30, 34, 40]),
        outletMm: dice.pick([22, 24, 26]),
        screws: dice.pick(['3', '4', 'bayonet']),
      };
    case 'inlet-valve':
      return {
        voltageV: 230,
        flowLpm: dice.pick([7, 8, 10]),
        outlets: dice.pick([1, 2, 3]),
        spoutMm: dice.pick([10.5, 11, 12]),
      };
    case 'belt':
      return { lengthMm: 1150 + 5 * dice.whole(0, 30), ribs: dice.pick([4, 5, 6]) };
    case 'shaft-seal':
      return {
        shaftMm: dice.pick([25, 30, 35]),
        housingMm: dice.pick([47, 50.5, 52, 56]),
        widthMm: dice.pick([8, 10, 12]),
      };
    case 'bearing-drum':
      return bearing(pair?.[0]);
    case 'bearing-pulley':
      return bearing(pair?.[1]);
    case 'damper':
      return { forceN: dice.pick([80, 100, 120]), lengthMm: dice.pick([170, 185, 200]), pinMm: dice.pick([8, 10]) };
    case 'element':
      return { powerW: dice.pick([1850, 2000]), voltageV: 230, lengthMm: dice.pick([175, 186, 205]) };
    case 'capacitor':
      return { capacityUf: 40, voltageV: 450 };
    case 'transistor':
      return { voltageV: 800, currentA: dice.pick([16, 24]), case: dice.pick(['TO-220', 'TO-247']) };
    case 'brushes':
      return {
        lengthMm: dice.pick([33, 36]),
        widthMm: dice.pick([12.5, 13.5]),
        holder: dice.pick(['sandwich', 'plain']),
      };
    default:
      return {};
  }
}

export function makeParts(catalogue: Catalogue, models: readonly Cells[], dice: Dice): PartSet {
  const set: PartSet = { parts: [], properties: [], fits: [], relations: [], base: new Map() };
  const numbers = numberMakers(dice);
  const roleNames = new Map(catalogue.roles.map((role) => [role.id, role.name]));
  let counter = 0;
  const addPart = (
    makerId: string,
    roleId: string,
    kind: string,
    price: number,
    extra = '',
    status = 'current',
    number?: string,
  ): string => {
    counter += 1;
    const id = `p-${String(counter).padStart(4, '0')}`;
    const family = kind === 'generic' || kind === 'standard' ? 'generic' : makerId;
    const name = roleNames.get(asId(roleId)) ?? roleId;
    set.parts.push({
      id,
      partNumber: number ?? numbers[family]?.next() ?? id,
      makerId: kind === 'generic' || kind === 'standard' ? '' : makerId,
      roleId,
      description: `${name.charAt(0).toUpperCase()}${name.slice(1)}${extra}`,
      kind,
      status,
    });
    set.base.set(id, price);
    return id;
  };
  const describe = (partId: string, properties: Record<string, string | number>) =>
    Object.entries(properties).forEach(([property, value]) => set.properties.push({ partId, property, value }));
  const relate = (fromPartId: string, toPartId: string, kind: string, source: string, quantity = 1, note = '') =>
    set.relations.push({
      id: `x-${String(set.relations.length + 1).padStart(4, '0')}`,
      fromPartId,
      toPartId,
      kind,
      quantity,
      source,
      note,
      builtFrom: '',
      builtTo: '',
    });
  const fit = (
    scope: { modelId?: string; platformId?: string },
    roleId: string,
    partId: string,
    position = 'any',
    builtFrom = '',
    builtTo = '',
    quantity = 1,
  ) =>
    set.fits.push({
      id: `f-${String(set.fits.length + 1).padStart(5, '0')}`,
      modelId: scope.modelId ?? '',
      platformId: scope.platformId ?? '',
      roleId,
      partId,
      position,
      builtFrom,
      builtTo,
      quantity,
    });

  const trade = new Map(TRADE_ROLES.map((roleId) => [roleId, addPart('', roleId, 'generic', PRICES[roleId] ?? 5)]));
  const standards = new Map(
    unique(Object.values(BEARINGS).flat()).map((designation) => [
      designation,
      addPart(
        '',
        'bearing-drum',
        'standard',
        6 + dice.random() * 6,
        ` ${designation}`,
        'current',
        `${designation}-2RS C3`,
      ),
    ]),
  );
  const generics = new Map<string, string[]>();

  /** A number as listed in the parts book, with the chain that leads to what is sold today. */
  const listedWithChain = (
    makerId: string,
    roleId: string,
    price: number,
    properties: Record<string, string | number>,
    extra: string,
  ): string => {
    const length = dice.pick([0, 0, 0, 1, 1, 2, 3]);
    const source = `${makerId} parts list`;
    const chain = Array.from({ length: length + 1 }, (_, index) =>
      addPart(makerId, roleId, 'maker', price * (1 + 0.04 * index), extra),
    );
    chain.forEach((partId, index) => {
      describe(partId, properties);
      const next = chain[index + 1];
      if (next) relate(partId, next, 'superseded-by', source);
    });
    const first = chain[0] ?? '';
    const today = chain.at(-1) ?? first;
    if (dice.chance(0.22)) {
      const twin = addPart(
        makerId,
        roleId,
        'maker',
        price * 0.95,
        `${extra}, sister badge`,
        'current',
        numbers['sister']?.next(),
      );
      describe(twin, properties);
      relate(today, twin, 'sister', `${makerId} badge list`);
    }
    if (GENERIC_ROLES.includes(roleId) && dice.chance(0.75)) {
      const known = generics.get(roleId) ?? [];
      const generic = addPart('', roleId, 'generic', price * 0.58, ', generic');
      describe(generic, properties);
      generics.set(roleId, [...known, generic]);
      relate(
        today,
        generic,
        'generic',
        'trade cross-reference',
        1,
        dice.chance(0.3) ? 'Bracket holes differ: compare before fitting.' : '',
      );
    }
    return first;
  };

  for (const platform of catalogue.platforms) {
    const knowledge = knowledgeFor(catalogue, platform);
    const roles = unique([
      ...knowledge.causes.flatMap((cause) => [
        ...(cause.roleId ? [cause.roleId] : []),
        ...cause.companions.map(({ id }) => id),
      ]),
      ...knowledge.operations.flatMap((operation) => operation.consumables.map(({ id }) => id)),
    ]).filter((roleId) => !LATER_ROLES.includes(roleId));
    const own = models.filter((model) => model['platformId'] === platform.id);
    const scope = { platformId: platform.id };
    for (const roleId of roles) {
      const tradePart = trade.get(roleId);
      if (tradePart) {
        fit(scope, roleId, tradePart);
        continue;
      }
      const price = (PRICES[roleId] ?? 20) * (0.85 + dice.random() * 0.45);
      const extra = ` ${platform.name}`;
      const make = (note = '') =>
        listedWithChain(platform.makerId, roleId, price, propertiesOf(roleId, platform, dice), extra + note);
      if (roleId === 'damper') {
        fit(scope, roleId, make(' front'), 'front', '', '', 2);
        fit(scope, roleId, make(' rear'), 'rear', '', '', 2);
      } else if (roleId === 'inlet-valve' && platform.loading === 'top') {
        fit(scope, roleId, make(' hot'), 'hot');
        fit(scope, roleId, make(' cold'), 'cold');
      } else if (BY_MODEL.includes(roleId)) {
        const variants = Array.from({ length: dice.whole(2, 4) }, (_, index) => make(` type ${index + 1}`));
        // Some models are missing from the list: their sisters tell.
        for (const model of own)
          if (!dice.chance(0.06)) fit({ modelId: String(model['id']) }, roleId, dice.pick(variants));
      } else if (['shaft-seal', 'pump', 'coupler'].includes(roleId) && dice.chance(0.7)) {
        const years = own.map((model) => Number(String(model['producedFrom']).slice(0, 4)));
        const turn = `${Math.round(years.reduce((sum, year) => sum + year, 0) / Math.max(1, years.length)) + 2}-06-01`;
        fit(scope, roleId, make(' first series'), 'any', '', turn);
        fit(scope, roleId, make(' second series'), 'any', `${turn.slice(0, 8)}02`, '');
      } else {
        const listed = make();
        fit(scope, roleId, listed);
        if (roleId.startsWith('bearing-')) {
          const designation = BEARINGS[platform.id]?.[roleId === 'bearing-drum' ? 0 : 1];
          const standard = designation ? standards.get(designation) : undefined;
          if (standard) relate(listed, standard, 'generic', 'ISO 15 dimensions');
        }
      }
    }
    addKits(platform, set, addPart, relate);
  }
  addDeadEnd(set);
  for (const [designation, partId] of standards) {
    const known = findBearing({ bore: 0, outside: 0, width: 0, tolerance: 1000 }).find(
      (entry) => entry.designation === designation,
    );
    if (known)
      describe(partId, {
        boreMm: known.bore,
        outsideMm: known.outside,
        widthMm: known.width,
        designation: `${designation}-2RS C3`,
      });
  }
  addSplitAndMerge(set, addPart, relate);
  addSecondSources(set, addPart, relate);
  shareANumber(set);
  // Numbers from dice of their own: the offers, drawn next, stay as they are.
  const later = numberMakers(diceOf(20261127));
  for (const platform of catalogue.platforms)
    for (const roleId of LATER_ROLES)
      if (knowledgeFor(catalogue, platform).causes.some((cause) => cause.roleId === roleId))
        fit(
          { platformId: platform.id },
          roleId,
          addPart(
            platform.makerId,
            roleId,
            'maker',
            PRICES[roleId] ?? 20,
            ` ${platform.name}`,
            'current',
            later[platform.makerId]?.next(),
          ),
        );
  return set;
}

type AddPart = (makerId: string, roleId: string, kind: string, price: number, extra?: string) => string;
type Relate = (from: string, to: string, kind: string, source: string, quantity?: number, note?: string) => void;

const SECOND_SOURCES = 32;

/** Numbers are only a maker's own: the same one stands on another maker's part, and only the maker tells which is meant. */
function shareANumber(set: PartSet): void {
  const badged = set.parts.filter(({ partNumber }) => /^[NPT]\d{6}$/.test(String(partNumber)));
  const [first] = badged;
  const second = badged.find(({ makerId, roleId }) => makerId !== first?.['makerId'] && roleId !== first?.['roleId']);
  if (!first || !second) throw new Error('the demo has no two makers to share a number');
  second['partNumber'] = String(first['partNumber']);
}

/** The trade makes some common generics twice: another number for the same part, interchangeable with the first. */
function addSecondSources(set: PartSet, addPart: AddPart, relate: Relate): void {
  const generics = set.relations.filter(
    (entry) => entry['kind'] === 'generic' && entry['source'] === 'trade cross-reference',
  );
  for (const entry of generics.slice(0, SECOND_SOURCES)) {
    const first = String(entry['toPartId']);
    const roleId = String(set.parts.find((part) => part['id'] === first)?.['roleId'] ?? '');
    const second = addPart('', roleId, 'generic', (set.base.get(first) ?? 10) * 0.97, ', second source');
    for (const row of set.properties.filter((property) => property['partId'] === first))
      set.properties.push({ ...row, partId: second });
    relate(first, second, 'interchangeable', 'trade cross-reference');
  }
}

/** A bearing kit per front loader: seal, both bearings and gasket together, cheaper than apart. */
function addKits(platform: Platform, set: PartSet, addPart: AddPart, relate: Relate): void {
  if (platform.loading !== 'front') return;
  const wanted = ['shaft-seal', 'bearing-drum', 'bearing-pulley', 'tub-gasket'];
  const inside = wanted.flatMap((roleId) =>
    set.fits.filter((entry) => entry['platformId'] === platform.id && entry['roleId'] === roleId).slice(-1),
  );
  const price = inside.reduce((sum, entry) => sum + (set.base.get(String(entry['partId'])) ?? 0), 0) * 0.82;
  const kit = addPart(platform.makerId, 'shaft-seal', 'kit', price, `, bearing kit ${platform.name}`);
  for (const entry of inside) relate(kit, String(entry['partId']), 'contains', `${platform.makerId} parts list`);
}

/** A number that is not replaced by anything. */
function addDeadEnd(set: PartSet): void {
  const used = new Set(
    set.relations.flatMap((relation) => [String(relation['fromPartId']), String(relation['toPartId'])]),
  );
  const dead = ['gearbox', 'motor-top', 'stator']
    .map((roleId) =>
      set.parts.find((part) => part['roleId'] === roleId && part['kind'] === 'maker' && !used.has(String(part['id']))),
    )
    .find((part) => part !== undefined);
  if (dead) dead['status'] = 'discontinued';
}

/** One number that was split into two (both are needed), and two that were merged into one. */
function addSplitAndMerge(set: PartSet, addPart: AddPart, relate: Relate): void {
  const source = 'marwick parts list';
  /** What is sold today of a role on a platform, before anything is split or merged. */
  const soldToday = (platformId: string, roleId: string): string[] =>
    set.fits
      .filter((entry) => entry['platformId'] === platformId && entry['roleId'] === roleId)
      .map((entry) => {
        let id = String(entry['partId']);
        for (;;) {
          const next = set.relations.find((step) => step['fromPartId'] === id && step['kind'] === 'superseded-by');
          if (!next) return id;
          id = String(next['toPartId']);
        }
      });
  for (const id of soldToday('mw-b2', 'level-sensor').slice(0, 1))
    for (const extra of [', second design', ', adapter for its tube']) {
      const part = addPart('marwick', 'level-sensor', 'maker', (set.base.get(id) ?? 20) * 0.7, extra);
      relate(id, part, 'superseded-by', source, 1, 'Split: both are needed.');
    }
  const dampers = unique(soldToday('mw-c6', 'damper'));
  const both = addPart('marwick', 'damper', 'maker', set.base.get(dampers[0] ?? '') ?? 20, ' MC 6, front and rear');
  for (const row of set.properties.filter((property) => property['partId'] === dampers[0]))
    set.properties.push({ ...row, partId: both });
  for (const id of dampers) relate(id, both, 'superseded-by', source, 1, 'Merge: one for front and rear.');
  // From a serial on: machines built before it keep the older lock.
  const locks = new Set(set.parts.filter((part) => part['roleId'] === 'lock').map((part) => part['id']));
  const lock = set.relations.find((step) => step['kind'] === 'superseded-by' && locks.has(String(step['fromPartId'])));
  if (lock)
    Object.assign(lock, {
      builtFrom: '2013-06-01',
      note: 'From the build date on; older machines keep the older lock.',
    });
}
