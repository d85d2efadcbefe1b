import { emptyCatalogue, POSITIONS, type Catalogue, type Part, type Position, type Role, type Row } from '../catalogue';
import {
  designsBy,
  kindText,
  namedMaker,
  namedSupplier,
  normaliseNumber,
  typedPart,
  UNKNOWN_MAKE,
  unlistedModel,
  type KindAnswers,
} from '../identify';
import {
  asDay,
  asId,
  defined,
  zeroMoney,
  type LocalDate,
  type ModelId,
  type PartId,
  type PlatformId,
  type RoleId,
  type SupplierId,
} from '../units';
import { SHELF } from '../stock';
import type { SheetKind } from './kinds';
import type { SheetRow } from './readRow';

/** A part of which nobody said what it is. */
export const UNSORTED_ROLE = asId<RoleId>('unsorted');

/** What the layers below know of the numbers that a list names. */
export type SheetWorld = Pick<
  Catalogue,
  'roles' | 'designs' | 'kind_questions' | 'kind_answers' | 'kind_likelihoods' | 'makers' | 'badges' | 'suppliers'
> & {
  /** By normalised number. */
  models: ReadonlyMap<string, { id: ModelId; platformId: PlatformId }>;
  parts: ReadonlyMap<string, Pick<Part, 'id' | 'roleId'>>;
};

export type SheetWords = {
  /** Whose list it is. */
  source: string;
  today: LocalDate;
  currency: string;
  /** What the names of parts mean: by the name as it stands in the list; missing: not said. */
  roles: Readonly<Record<string, RoleId | null>>;
};

const SAID: readonly { question: string; answer: string; words: RegExp }[] = [
  { question: 'loading', answer: 'front', words: /front|hublot/i },
  { question: 'loading', answer: 'top', words: /top|ob(en|erlad)|dessus/i },
  { question: 'drive', answer: 'belt', words: /belt|riemen|courroie/i },
  { question: 'drive', answer: 'direct', words: /direct/i },
  { question: 'drive', answer: 'gearbox-coupled', words: /coupl/i },
  { question: 'motor', answer: 'inverter', words: /inverter|brushless/i },
  { question: 'motor', answer: 'brushed', words: /brushed|b[üu]rsten|charbons/i },
  { question: 'control', answer: 'timer', words: /\btimer\b|programmateur|schaltwerk/i },
];

/** "Front loader, belt" as answers to the kind questions: what a list says of how its machines are built. */
export function kindOfText(text: string): KindAnswers {
  const answers: Record<string, string> = {};
  for (const { question, answer, words } of SAID) if (words.test(text)) answers[question] ??= answer;
  // A word for brushless holds "brush", too.
  if (/brushless/i.test(text)) answers['motor'] = 'inverter';
  return answers;
}

/** Other words for what a role is called, in small letters. */
const ALSO: Readonly<Record<string, readonly string[]>> = {
  pump: ['drain pump', 'pump', 'laugenpumpe', 'ablaufpumpe', 'pompe de vidange'],
  belt: ['belt', 'drive belt', 'keilriemen', 'riemen', 'courroie'],
  brushes: ['carbon brush', 'brushes', 'brush', 'kohlen', 'motorkohlen', 'charbons'],
  'door-seal': ['door seal', 'gasket', 'bellow', 'manschette', 'türmanschette', 'joint de hublot'],
  lock: ['door lock', 'interlock', 'türschloss', 'verriegelung', 'sécurité de porte'],
  element: ['heater', 'heating element', 'heizung', 'heizstab', 'résistance'],
  'bearing-drum': ['bearing', 'drum bearing', 'lager', 'trommellager', 'roulement'],
  'shaft-seal': ['shaft seal', 'wellendichtring', 'simmerring', 'joint spi'],
  'inlet-valve': ['inlet valve', 'water valve', 'magnetventil', 'électrovanne'],
  damper: ['damper', 'shock absorber', 'stoßdämpfer', 'dämpfer', 'amortisseur'],
  'level-sensor': ['pressure switch', 'level sensor', 'druckschalter', 'pressostat'],
  board: ['control board', 'module', 'elektronik', 'carte électronique'],
};

/** The role that a name of a part means, by its own name or another word for it: the longest that the text contains. null where none does. O(roles). */
export function roleOfName(text: string, roles: readonly Role[]): RoleId | null {
  const plain = text.toLowerCase();
  const found = roles
    .flatMap(({ id, name }) => [name.toLowerCase(), ...(ALSO[id] ?? [])].map((word) => ({ id, word })))
    .filter(({ word }) => plain.includes(word))
    .sort((a, b) => b.word.length - a.word.length);
  return found[0]?.id ?? null;
}

const POSITION_WORDS: readonly [RegExp, Position][] = [
  [/front|vorn|avant/i, 'front'],
  [/rear|back|hint|arri[èe]re/i, 'rear'],
  [/left|link|gauche/i, 'left'],
  [/right|recht|droite/i, 'right'],
  [/hot|hei[sß]|warm|chaud/i, 'hot'],
  [/cold|kalt|froid/i, 'cold'],
];
const positionOf = (text: string | undefined): Position =>
  POSITIONS.find((position) => position === text?.toLowerCase()) ??
  POSITION_WORDS.find(([words]) => words.test(text ?? ''))?.[1] ??
  'any';

const EARLIEST = asDay('1990-01-01');

/** Makes rows of the good rows of a list; a row of the same key, the last one counts. */
class Making {
  readonly tables = new Map<keyof Catalogue, Map<string, unknown>>();
  /** Platforms of listed models that fits name. */
  readonly platformOf = new Map<string, PlatformId>();
  private listedRoles: Map<PartId, RoleId> | null = null;
  private readonly world: SheetWorld;
  private readonly words: SheetWords;
  constructor(world: SheetWorld, words: SheetWords) {
    this.world = world;
    this.words = words;
  }

  put<T extends keyof Catalogue>(table: T, key: string, row: Row<T>): void {
    const rows = this.tables.get(table) ?? new Map<string, unknown>();
    this.tables.set(table, rows);
    rows.set(key, row);
  }

  private has(table: keyof Catalogue, key: string): boolean {
    return this.tables.get(table)?.has(key) ?? false;
  }

  part(number: string, name: string | undefined, status: Part['status'] = 'current'): PartId {
    const known = this.world.parts.get(normaliseNumber(number));
    const role = name === undefined ? null : (this.words.roles[name] ?? null);
    if (known && known.roleId !== UNSORTED_ROLE) return known.id;
    const id = known?.id ?? typedPart(number);
    // What one row says of a number, another that says less does not unsay.
    if (role === null && status === 'current' && this.has('parts', id)) return id;
    const before = this.tables.get('parts')?.get(id) as Part | undefined;
    this.put('parts', id, {
      id,
      partNumber: number,
      makerId: undefined,
      roleId: role ?? before?.roleId ?? UNSORTED_ROLE,
      description: name ?? before?.description ?? 'part not sorted yet',
      kind: 'maker',
      status: status === 'discontinued' ? status : (before?.status ?? status),
    });
    return id;
  }

  roleOf(partId: PartId, name: string | undefined): RoleId {
    const own = this.tables.get('parts')?.get(partId) as Part | undefined;
    const said = name === undefined ? null : (this.words.roles[name] ?? null);
    this.listedRoles ??= new Map([...this.world.parts.values()].map(({ id, roleId }) => [id, roleId]));
    return said ?? own?.roleId ?? this.listedRoles.get(partId) ?? UNSORTED_ROLE;
  }

  private make(name: string | undefined): { makerId: Row<'makers'>['id']; badgeId: string } {
    const said = name?.trim() ?? '';
    const same = (other: string) => other.trim().toLowerCase() === said.toLowerCase();
    const badge = this.world.badges.find((entry) => same(entry.name));
    if (said !== '' && badge) return { makerId: badge.makerId, badgeId: badge.id };
    const maker = said === '' ? undefined : this.world.makers.find((entry) => same(entry.name));
    const makerId = said === '' ? UNKNOWN_MAKE.makerId : (maker?.id ?? namedMaker(said));
    const badgeId = said === '' ? UNKNOWN_MAKE.badgeId : `badge:${makerId}`;
    this.put('makers', makerId, { id: makerId, name: said || UNKNOWN_MAKE.name });
    this.put('badges', badgeId, { id: badgeId, name: said || UNKNOWN_MAKE.name, makerId });
    return { makerId, badgeId };
  }

  model(number: string, row: SheetRow | null): ModelId {
    const known = this.world.models.get(normaliseNumber(number));
    if (known) {
      this.platformOf.set(known.id, known.platformId);
      return known.id;
    }
    const id = unlistedModel(number);
    if (row === null && this.has('models', id)) return id;
    const { makerId, badgeId } = this.make(row?.texts.make);
    const kind = kindOfText(row?.texts.built ?? '');
    const { design } = defined(designsBy(this.world, kind)[0], 'the knowledge has designs');
    const platformId = asId<PlatformId>(id);
    this.put('platforms', platformId, {
      id: platformId,
      makerId,
      name: number,
      design: design.id,
      tags: design.tags,
      loading: design.loading,
      tub: design.tags.includes('welded') ? 'welded' : 'bolted',
      description: design.name,
      serviceMode: undefined,
      seen: kindText(kind) || undefined,
    });
    this.put('models', id, {
      id,
      modelNumber: number,
      badgeId,
      makerId,
      platformId,
      popularity: 1,
      producedFrom: row?.from ?? EARLIEST,
      producedTo: row?.to ?? this.words.today,
      capacityKg: row?.numbers.capacity ?? 0,
      spinRpm: row?.numbers.spin ?? 0,
    });
    return id;
  }

  supplier(name: string, id: SupplierId): SupplierId {
    const listed = this.world.suppliers.find((entry) => entry.name.trim().toLowerCase() === name.trim().toLowerCase());
    if (listed) return listed.id;
    const none = zeroMoney(this.words.currency);
    this.put('suppliers', id, { id, name, minimumOrder: none, restocking: 0, note: undefined, orders: undefined });
    this.put('shipping_modes', `mode ${id}`, {
      id: `mode ${id}`,
      supplierId: id,
      name: id === SHELF.id ? 'At hand' : 'As agreed',
      fee: none,
      freeOver: undefined,
      transitDays: 0,
    });
    return id;
  }
}

/**
 * The good rows of a list as rows of the catalogue, and the platforms of listed models that they name. Numbers and models that a layer below lists keep its ids; others
 * are named by their number, as a typed one is: the same number is the same thing wherever it comes from. A part that no row says the meaning of is not sorted yet.
 * Customers are no catalogue. O(rows).
 */
export function sheetCatalogue(
  kind: Exclude<SheetKind, 'customers'>,
  rows: readonly SheetRow[],
  words: SheetWords,
  world: SheetWorld,
): { catalogue: Catalogue; platformOf: ReadonlyMap<string, PlatformId> } {
  const making = new Making(world, words);
  for (const row of rows) add(making, kind, row, words);
  const catalogue = emptyCatalogue();
  for (const [table, made] of making.tables) (catalogue[table] as unknown[]).push(...made.values());
  return { catalogue, platformOf: making.platformOf };
}

function add(making: Making, kind: Exclude<SheetKind, 'customers'>, row: SheetRow, words: SheetWords): void {
  const { texts, numbers, price } = row;
  const { model = '', part = '', newPart = '', partName } = texts;
  switch (kind) {
    case 'models':
      making.model(model, row);
      return;
    case 'parts': {
      const modelId = making.model(model, null);
      const partId = making.part(part, partName);
      const roleId = making.roleOf(partId, partName);
      const position = positionOf(texts.position ?? partName);
      const id = `${modelId} ${roleId} ${position} ${partId}`;
      making.put('fits', id, {
        id,
        modelId,
        platformId: undefined,
        roleId,
        partId,
        position,
        builtFrom: undefined,
        builtTo: undefined,
        quantity: numbers.quantity ?? 1,
      });
      return;
    }
    case 'replaced':
    case 'equal': {
      const fromPartId = making.part(part, partName, kind === 'replaced' ? 'discontinued' : 'current');
      const toPartId = making.part(newPart, partName);
      if (fromPartId === toPartId) return;
      const id = `${fromPartId} ${toPartId}`;
      making.put('relations', id, {
        id,
        fromPartId,
        toPartId,
        kind: kind === 'replaced' ? 'superseded-by' : 'interchangeable',
        quantity: numbers.quantity ?? 1,
        source: words.source,
        note: undefined,
        builtFrom: undefined,
        builtTo: undefined,
      });
      return;
    }
    case 'prices':
    case 'stock': {
      const isShelf = kind === 'stock';
      const supplierId = isShelf
        ? making.supplier(SHELF.name, SHELF.id)
        : making.supplier(words.source, namedSupplier(words.source));
      const partId = making.part(part, partName);
      const pack = numbers.pack ?? 1;
      const id = `${supplierId} ${partId}`;
      making.put('offers', id, {
        id,
        supplierId,
        partId,
        supplierNumber: texts.supplierNumber ?? part,
        packPrice: price ?? zeroMoney(words.currency),
        packQuantity: pack,
        // Without a count the list says that they sell it.
        stockPacks: numbers.stock === undefined ? 999 : Math.floor(numbers.stock / pack),
        handlingDays: isShelf ? 0 : (numbers.days ?? 1),
        asOf: words.today,
      });
    }
  }
}
