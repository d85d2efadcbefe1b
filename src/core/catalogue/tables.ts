import type { CauseId, MakerId, ModelId, PartId, PlatformId, RoleId, SupplierId } from '../units';
import * as z from '../units/zod';
import {
  choice,
  day,
  id,
  ids,
  later,
  list,
  maybeChoice,
  maybeDay,
  maybeId,
  maybeNumber,
  maybePrice,
  maybeText,
  needs,
  number,
  partNumber,
  price,
  pieces,
  quantities,
  sentences,
  share,
  text,
} from './columns';

/** Tags of a design by which knowledge is addressed; a platform carries several (F, F-BB …). */
export const POSITIONS = ['any', 'front', 'rear', 'left', 'right', 'hot', 'cold'] as const;
/** How a cause is mended: another part, a part of it, all that holds it, several together; mended, set right, or without any part. */
export const FIX_KINDS = ['replace', 'sub-part', 'assembly', 'set', 'repair', 'adjust', 'no-part'] as const;
/** Who else mends it, or what is had in its place. */
export const ROUTE_KINDS = ['maker-service', 'part-sold', 'used-machine', 'new-machine'] as const;
export const STATE_FEATURES = ['power', 'water', 'posture'] as const;
const POWER = ['on', 'off'] as const;
const WATER = ['open', 'shut'] as const;
const POSTURES = ['upright', 'leaning', 'back', 'face'] as const;
const STATES = [...POWER, ...WATER, ...POSTURES] as const;
/** As a machine stands when it comes in, and as it must stand to be run. */
export const AT_REST = { power: 'on', water: 'open', posture: 'upright' } as const;
export const MACHINE_STATES = ['isolated', 'energised'] as const;
/** ask: a question for the customer, free on the phone; service: one item of the platform's service mode. */
export const CHECK_KINDS = ['ask', 'look', 'listen', 'measure', 'run', 'service'] as const;

type TableSpec = {
  columns: z.ZodObject;
  key: readonly string[];
  refs: Record<string, string>;
  /** Words that stand in a referring column beside ids. */
  words?: Record<string, readonly string[]>;
  /** Columns that name a row only together with another column: [that one, this one] is the key of the table. */
  pairs?: Record<string, { with: string; table: string }>;
  /** Columns that a file may leave out: they came after the first packages. */
  optional?: readonly string[];
  /** What a column was called in older packages. */
  aliases?: Record<string, string>;
};

/**
 * One entry per file of the data package: its columns, its key, which columns point into which table.
 * `refs` values: the table whose `id` is meant. Lists, needs and quantities are checked entry by entry.
 */
export const tables = {
  makers: { columns: z.object({ id: id<MakerId>(), name: text() }), key: ['id'], refs: {} },
  badges: {
    columns: z.object({ id: text(), name: text(), makerId: id<MakerId>() }),
    key: ['id'],
    refs: { makerId: 'makers' },
  },
  serial_schemes: {
    columns: z.object({
      id: text(),
      makerId: id<MakerId>(),
      pattern: text(),
      yearSymbols: text(),
      firstYear: number({ whole: true, min: 1950, max: 2100 }),
      note: maybeText(),
    }),
    key: ['id'],
    refs: { makerId: 'makers' },
  },
  /** What a maker answers for, from the day of purchase. */
  warranties: {
    columns: z.object({
      id: text(),
      makerId: id<MakerId>(),
      /** One platform only; all of the maker where it is empty. */
      platformId: maybeId<PlatformId>(),
      months: number({ whole: true, min: 1, max: 600 }),
      covers: choice(['all', 'parts']),
      /** These parts only; all where it is empty. */
      roles: ids<RoleId>(),
    }),
    key: ['id'],
    refs: { makerId: 'makers', platformId: 'platforms', roles: 'roles' },
  },
  /** Machines that their maker calls back: by when they were built, and what for. */
  recalls: {
    columns: z.object({
      id: text(),
      platformId: id<PlatformId>(),
      builtFrom: day(),
      builtTo: day(),
      /** The causes that the maker mends for nothing. */
      causes: ids<CauseId>(),
      what: text(),
      remedy: text(),
    }),
    key: ['id'],
    refs: { platformId: 'platforms', causes: 'causes' },
  },
  platforms: {
    columns: z.object({
      id: id<PlatformId>(),
      makerId: id<MakerId>(),
      name: text(),
      design: text(),
      tags: list(),
      loading: choice(['front', 'top']),
      tub: choice(['bolted', 'welded']),
      description: text(),
      serviceMode: maybeText(),
      /** How it is built, as far as anybody looked: "loading=front drive=belt" (kind questions and answers). Its design is then the likeliest, not certain. */
      seen: later(maybeText()),
    }),
    key: ['id'],
    refs: { makerId: 'makers' },
    optional: ['seen'],
  },
  models: {
    columns: z.object({
      id: id<ModelId>(),
      modelNumber: partNumber(),
      badgeId: text(),
      makerId: id<MakerId>(),
      platformId: id<PlatformId>(),
      popularity: number({ min: 0 }),
      producedFrom: day(),
      producedTo: maybeDay(),
      capacityKg: number({ min: 0 }),
      spinRpm: number({ min: 0 }),
    }),
    key: ['id'],
    refs: { badgeId: 'badges', makerId: 'makers', platformId: 'platforms' },
  },
  roles: {
    columns: z.object({
      id: id<RoleId>(),
      name: text(),
      weighs: maybeText(),
      carryOver: sentences(),
      prepare: sentences(),
      /** What one piece costs a shop where nobody says: a default, in units of whatever money the shop counts in. */
      usualPrice: maybeNumber({ min: 0 }),
      /** One taken out of a donor: the chance that it works, its life as a share of a new one's, and how it is tried first. Empty: never fitted used. */
      usedWorks: maybeNumber({ min: 0, max: 1 }),
      usedLife: maybeNumber({ min: 0, max: 1 }),
      usedTestMinutes: maybeNumber({ min: 0 }),
      usedTest: maybeText(),
    }),
    key: ['id'],
    refs: {},
    optional: ['usualPrice', 'usedWorks', 'usedLife', 'usedTestMinutes', 'usedTest'],
  },
  role_properties: {
    columns: z.object({
      roleId: id<RoleId>(),
      property: text(),
      label: text(),
      kind: choice(['dimension', 'rating']),
      unit: text(),
      rule: choice(['within', 'at-least', 'at-most', 'same']),
      below: number({ min: 0 }),
      above: number({ min: 0 }),
      workaround: maybeText(),
      workBelow: number({ min: 0 }),
      workAbove: number({ min: 0 }),
      workMinutes: number({ min: 0 }),
      leaves: maybeText(),
    }),
    key: ['roleId', 'property'],
    refs: { roleId: 'roles' },
  },
  parts: {
    columns: z.object({
      id: id<PartId>(),
      partNumber: partNumber(),
      makerId: maybeId<MakerId>(),
      roleId: id<RoleId>(),
      description: text(),
      kind: choice(['maker', 'generic', 'standard', 'kit']),
      status: choice(['current', 'discontinued']),
    }),
    key: ['id'],
    refs: { makerId: 'makers', roleId: 'roles' },
  },
  part_properties: {
    columns: z.object({ partId: id<PartId>(), property: text(), value: text() }),
    key: ['partId', 'property'],
    refs: { partId: 'parts' },
  },
  fits: {
    columns: z.object({
      id: text(),
      modelId: maybeId<ModelId>(),
      platformId: maybeId<PlatformId>(),
      roleId: id<RoleId>(),
      partId: id<PartId>(),
      position: choice(POSITIONS),
      builtFrom: maybeDay(),
      builtTo: maybeDay(),
      quantity: number({ whole: true, min: 1 }),
      /** How surely it fits; a listing that says nothing is taken at its word. */
      probability: later(maybeNumber({ min: 0, max: 1 })),
    }),
    key: ['id'],
    refs: { modelId: 'models', platformId: 'platforms', roleId: 'roles', partId: 'parts' },
    optional: ['probability'],
  },
  relations: {
    columns: z.object({
      id: text(),
      fromPartId: id<PartId>(),
      toPartId: id<PartId>(),
      kind: choice(['superseded-by', 'interchangeable', 'sister', 'generic', 'contains']),
      quantity: number({ whole: true, min: 1 }),
      source: text(),
      note: maybeText(),
      /** The relation holds only for machines built in this window. */
      builtFrom: maybeDay(),
      builtTo: maybeDay(),
    }),
    key: ['id'],
    refs: { fromPartId: 'parts', toPartId: 'parts' },
    optional: ['builtFrom', 'builtTo'],
  },
  suppliers: {
    columns: z.object({
      id: id<SupplierId>(),
      name: text(),
      minimumOrder: price(),
      restocking: share(),
      note: maybeText(),
      /** online: takes orders over its interface. Empty: a person sends them, as a file or an e-mail, and types what they answer. */
      orders: later(maybeChoice(['online'])),
    }),
    key: ['id'],
    refs: {},
    optional: ['orders'],
  },
  shipping_modes: {
    columns: z.object({
      id: text(),
      supplierId: id<SupplierId>(),
      name: text(),
      fee: price(),
      freeOver: maybePrice(),
      transitDays: number({ whole: true, min: 0, max: 90 }),
    }),
    key: ['id'],
    refs: { supplierId: 'suppliers' },
  },
  offers: {
    columns: z.object({
      id: text(),
      supplierId: id<SupplierId>(),
      partId: id<PartId>(),
      supplierNumber: text(),
      /** Of one pack, and how many of them the supplier has. */
      packPrice: price(),
      packQuantity: number({ whole: true, min: 1 }),
      stockPacks: number({ whole: true, min: 0 }),
      handlingDays: number({ whole: true, min: 0, max: 365 }),
      /** The day of the price, where it is not today's: what was paid or said then. */
      asOf: later(maybeDay()),
    }),
    key: ['id'],
    refs: { supplierId: 'suppliers', partId: 'parts' },
    optional: ['asOf'],
    aliases: { packPrice: 'price', stockPacks: 'stock' },
  },
  operations: {
    columns: z.object({
      id: text(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      title: text(),
      refitTitle: maybeText(),
      kind: choice(['access', 'work']),
      needs: needs(),
      stripMinutes: number({ min: 0 }),
      refitMinutes: number({ min: 0 }),
      elapsedHours: number({ min: 0 }),
      tools: sentences(),
      consumables: quantities<RoleId>(),
      people: number({ whole: true, min: 1 }),
      cautions: sentences(),
      noReturn: maybeText(),
      rescue: maybeText(),
      rescueChance: share(),
      rescueMinutes: number({ min: 0 }),
      /** The state that it brings the machine to: its minutes, people, support and cautions are those of the changes. */
      power: later(maybeChoice(POWER)),
      water: later(maybeChoice(WATER)),
      posture: later(maybeChoice(POSTURES)),
      /** It opens the tub: of a welded one that is a matter of the shop. */
      opensTub: later(maybeChoice(['yes'])),
      /** Water comes out: it is done where the floor may get wet. */
      wet: later(maybeChoice(['yes'])),
    }),
    key: ['id', 'platformId'],
    refs: { platformId: 'platforms', needs: 'operations', consumables: 'roles' },
    optional: ['power', 'water', 'posture', 'opensTub', 'wet'],
  },
  /**
   * How an operation is done by hand, both ways: `id` names it. `connections`: what is pulled off before it comes away and is on before it closes. `screws`: "4 x M5x16 hex, rear
   * edge". `interlock`: with it off the machine has no lock or lid switch. `refitNeeds`: what must be back before this goes back; what is taken off after it is so in any case.
   */
  handling: {
    columns: z.object({
      id: text(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      how: maybeText(),
      connections: sentences(),
      screws: sentences(),
      leaveAlone: maybeText(),
      look: maybeText(),
      interlock: maybeChoice(['yes']),
      refitNeeds: list(),
      refitCautions: sentences(),
      pose: maybeText(),
      tightness: maybeText(),
      help: maybeText(),
      /** When the rescue of the operation is due, what it risks, and P(it helps). */
      rescueWhen: maybeText(),
      rescueRisk: maybeText(),
      rescueHelps: maybeNumber({ min: 0, max: 1 }),
    }),
    key: ['id', 'platformId'],
    refs: { id: 'operations', refitNeeds: 'operations', platformId: 'platforms' },
  },
  /** How an operation closes what holds water: `id` names it. It cures by depth: `mmPerDay` is the depth after the first day at 23 °C and 50 % humidity. */
  joints: {
    columns: z.object({
      id: text(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      kind: choice(['dry-gasket', 'gasket-and-bead', 'bead']),
      beadMm: maybeNumber({ min: 0 }),
      bolts: number({ whole: true, min: 0 }),
      size: text(),
      drillMm: maybeNumber({ min: 0 }),
      pattern: choice(['opposed', 'round']),
      passes: number({ whole: true, min: 1 }),
      tightness: text(),
      skinMinutes: maybeNumber({ min: 0 }),
      cureDepthMm: maybeNumber({ min: 0 }),
      mmPerDay: maybeNumber({ min: 0 }),
    }),
    key: ['id', 'platformId'],
    refs: { id: 'operations', platformId: 'platforms' },
  },
  /** What it takes to bring a machine from one state to another. It comes in `on`, its tap `open`, `upright`. */
  state_changes: {
    columns: z.object({
      id: text(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      feature: choice(STATE_FEATURES),
      from: choice(STATES),
      to: choice(STATES),
      minutes: number({ min: 0 }),
      people: number({ whole: true, min: 1 }),
      support: sentences(),
      cautions: sentences(),
    }),
    key: ['id', 'platformId'],
    refs: { platformId: 'platforms' },
  },
  causes: {
    columns: z.object({
      id: id<CauseId>(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      name: text(),
      weight: number({ min: 0 }),
      roleId: maybeId<RoleId>(),
      position: choice(POSITIONS),
      operations: list(),
      companions: pieces<RoleId, Position>(POSITIONS),
      cure: share(),
      ask: maybeText(),
      advice: maybeText(),
    }),
    key: ['id', 'platformId'],
    refs: { roleId: 'roles', operations: 'operations', companions: 'roles', platformId: 'platforms' },
  },
  /**
   * Other ways of mending a cause than the part that its own row names. `cure`: P(it mends the cause); `lifeShare`: how long it lasts, as a share of a new part's life.
   * `name` goes on from the cause's: 'Inlet valve: opened, cleaned and reseated'. `sets`: how much of what the lists give for the place is bought; half of a pair is one piece.
   */
  fixes: {
    columns: z.object({
      id: text(),
      causeId: id<CauseId>(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      kind: choice(FIX_KINDS),
      name: text(),
      roleId: maybeId<RoleId>(),
      position: choice(POSITIONS),
      operations: list(),
      companions: pieces<RoleId, Position>(POSITIONS),
      cure: share(),
      lifeShare: share(),
      sets: later(maybeNumber({ min: 0, max: 1 })),
    }),
    key: ['id', 'platformId'],
    optional: ['sets'],
    refs: {
      causeId: 'causes',
      platformId: 'platforms',
      roleId: 'roles',
      operations: 'operations',
      companions: 'roles',
    },
  },
  findings: {
    columns: z.object({
      id: text(),
      designs: list(),
      group: text(),
      text: text(),
      threeWords: text(),
      background: share(),
    }),
    key: ['id'],
    refs: {},
  },
  likelihoods: {
    columns: z.object({ causeId: id<CauseId>(), findingId: text(), p: share() }),
    key: ['causeId', 'findingId'],
    refs: { causeId: 'causes', findingId: 'findings' },
  },
  /** How customers say a finding: words that stand in their sentence, in any order. */
  phrases: {
    columns: z.object({ findingId: text(), words: text() }),
    key: ['findingId', 'words'],
    refs: { findingId: 'findings' },
  },
  /** How customers answer a question before it is asked: words that stand in their sentence. */
  answer_phrases: {
    columns: z.object({ checkId: text(), outcomeId: text(), words: text() }),
    key: ['checkId', 'outcomeId', 'words'],
    refs: { checkId: 'checks' },
    pairs: { outcomeId: { with: 'checkId', table: 'outcomes' } },
  },
  codes: {
    columns: z.object({ id: text(), makerId: id<MakerId>(), code: text(), findingId: text(), meaning: text() }),
    key: ['id'],
    refs: { makerId: 'makers', findingId: 'findings' },
  },
  checks: {
    columns: z.object({
      id: text(),
      designs: list(),
      title: text(),
      minutes: number({ min: 0 }),
      operations: needs(),
      state: choice(MACHINE_STATES),
      why: text(),
      how: text(),
      cautions: sentences(),
      mustBeOn: list(),
      kind: later(maybeChoice(CHECK_KINDS)),
    }),
    key: ['id'],
    refs: { operations: 'operations', mustBeOn: 'operations' },
    optional: ['mustBeOn', 'kind'],
  },
  outcomes: {
    columns: z.object({ checkId: text(), id: text(), text: text(), background: share() }),
    key: ['checkId', 'id'],
    refs: { checkId: 'checks' },
  },
  outcome_likelihoods: {
    columns: z.object({ causeId: id<CauseId>(), checkId: text(), outcomeId: text(), p: share() }),
    key: ['causeId', 'checkId', 'outcomeId'],
    refs: { causeId: 'causes', checkId: 'checks' },
    words: { causeId: ['other'] },
    pairs: { outcomeId: { with: 'checkId', table: 'outcomes' } },
  },
  /** A cause that breaks, or dirties, something else with it: both are present then. `hides`: findings of the first that the second does not let one see. */
  brings: {
    columns: z.object({
      causeId: id<CauseId>(),
      bringsId: id<CauseId>(),
      p: share(),
      hides: list(),
      why: text(),
    }),
    key: ['causeId', 'bringsId'],
    refs: { causeId: 'causes', bringsId: 'causes', hides: 'findings' },
  },
  /** Why a cause came about. `weight`: how often, on any scale; `raisesId`: a cause that is then the likelier by a factor. */
  root_causes: {
    columns: z.object({
      id: text(),
      causeId: id<CauseId>(),
      name: text(),
      weight: number({ min: 0 }),
      advice: text(),
      checkId: maybeText(),
      proofId: maybeText(),
      raisesId: maybeId<CauseId>(),
      raisesBy: number({ min: 1, max: 100 }),
    }),
    key: ['id'],
    refs: { causeId: 'causes', checkId: 'checks', proofId: 'proofs', raisesId: 'causes' },
  },
  /** What the dead part looks like, and how surely that tells why. */
  wreck_signs: {
    columns: z.object({ id: text(), causeId: id<CauseId>(), text: text(), rootId: text(), surely: share() }),
    key: ['id'],
    refs: { causeId: 'causes', rootId: 'root_causes' },
  },
  /** Runs in which machines fail, and in which they are proved. */
  runs: {
    columns: z.object({
      id: text(),
      designs: list(),
      title: text(),
      loadKg: number({ min: 0, max: 30 }),
      rpm: number({ min: 0, max: 3000 }),
      minutes: number({ min: 0, max: 600 }),
      water: choice(['none', 'low', 'high']),
      shouldSee: text(),
    }),
    key: ['id'],
    refs: {},
  },
  /** How the service mode of a platform is entered and left, and its stored faults read and cleared. */
  service_modes: {
    columns: z.object({
      platformId: id<PlatformId>(),
      enter: text(),
      leave: text(),
      readFaults: maybeText(),
      clearFaults: maybeText(),
    }),
    key: ['platformId'],
    refs: { platformId: 'platforms' },
  },
  /** What the service mode drives, one by one; `checkId`: the check that it answers. */
  service_items: {
    columns: z.object({
      platformId: id<PlatformId>(),
      id: text(),
      drives: text(),
      should: text(),
      checkId: maybeText(),
    }),
    key: ['platformId', 'id'],
    refs: { platformId: 'platforms', checkId: 'checks' },
  },
  /** A finding, or an outcome of a check, with which no machine is run live; and the outcome after which it may be again. */
  live_bars: {
    columns: z.object({
      id: text(),
      designs: list(),
      findingId: maybeText(),
      checkId: maybeText(),
      outcomeId: maybeText(),
      why: text(),
      liftedByCheckId: maybeText(),
      liftedByOutcomeId: maybeText(),
    }),
    key: ['id'],
    refs: { findingId: 'findings', checkId: 'checks', liftedByCheckId: 'checks' },
    pairs: {
      outcomeId: { with: 'checkId', table: 'outcomes' },
      liftedByOutcomeId: { with: 'liftedByCheckId', table: 'outcomes' },
    },
  },
  limits: {
    columns: z.object({
      id: text(),
      designs: list(),
      platformId: maybeId<PlatformId>(),
      label: text(),
      unit: text(),
      law: choice(['range', 'element', 'ntc', 'spread', 'column']),
      low: maybeNumber(),
      high: maybeNumber(),
      powerW: maybeNumber(),
      voltageV: maybeNumber(),
      r25Ohm: maybeNumber(),
      betaK: maybeNumber(),
      tolerance: share(),
      checkId: maybeText(),
      below: maybeText(),
      within: maybeText(),
      above: maybeText(),
      open: maybeText(),
      /** Law `column`: what a level sensor gives without water, and what each millimetre of water adds to it. */
      atZero: later(maybeNumber()),
      perMm: later(maybeNumber()),
    }),
    key: ['id', 'platformId'],
    refs: { checkId: 'checks', platformId: 'platforms' },
    pairs: {
      below: { with: 'checkId', table: 'outcomes' },
      within: { with: 'checkId', table: 'outcomes' },
      above: { with: 'checkId', table: 'outcomes' },
      open: { with: 'checkId', table: 'outcomes' },
    },
    optional: ['atZero', 'perMm'],
  },
  /** Kinds of machine, by how they are built: what is known of a machine that no catalogue lists. */
  designs: {
    columns: z.object({
      id: text(),
      name: text(),
      tags: list(),
      loading: choice(['front', 'top']),
      /** How many of the machines that come in are of this design; any scale. */
      weight: number({ min: 0 }),
    }),
    key: ['id'],
    refs: {},
  },
  /** What anybody can see of a machine and what tells its design: asked in this order. */
  kind_questions: {
    columns: z.object({
      id: text(),
      text: text(),
      why: text(),
      step: number({ whole: true, min: 1 }),
      /** tub: it tells how the tub is closed, and nothing of the design; it may be answered, and is not asked. */
      settles: later(maybeChoice(['tub'])),
    }),
    key: ['id'],
    refs: {},
    optional: ['settles'],
  },
  kind_answers: {
    columns: z.object({ questionId: text(), id: text(), text: text(), drawing: maybeText() }),
    key: ['questionId', 'id'],
    refs: { questionId: 'kind_questions' },
  },
  /** P(answer | design); what is left of one is spread evenly over the answers not named. */
  kind_likelihoods: {
    columns: z.object({ designId: text(), questionId: text(), answerId: text(), p: share() }),
    key: ['designId', 'questionId', 'answerId'],
    refs: { designId: 'designs', questionId: 'kind_questions' },
    pairs: { answerId: { with: 'questionId', table: 'kind_answers' } },
  },
  /** Tools that not every shop has, by the word for them in `operations`. */
  tools: {
    columns: z.object({ id: text(), name: text(), usual: choice(['yes', 'no']) }),
    key: ['id'],
    refs: {},
  },
  /** What a machine's place, use or state does to its lives (factor on their scale; of all causes where none is named) and to what will not come apart. */
  conditions: {
    columns: z.object({
      id: text(),
      designs: list(),
      name: text(),
      /** By which it is known: a finding, or an outcome of a check. */
      findingId: maybeText(),
      checkId: maybeText(),
      outcomeId: maybeText(),
      causes: ids<CauseId>(),
      lifeFactor: number({ min: 0.1, max: 2 }),
      rescueFactor: number({ min: 1, max: 5 }),
      /** A new machine in the same place would have it too. */
      staysWithHouse: choice(['yes', 'no']),
    }),
    key: ['id'],
    refs: { findingId: 'findings', checkId: 'checks', causes: 'causes' },
    pairs: { outcomeId: { with: 'checkId', table: 'outcomes' } },
  },
  economics: {
    columns: z.object({
      id: text(),
      design: text(),
      newPrice: price(),
      usedPrice: price(),
      delivery: price(),
      disposal: price(),
      expectedYears: number({ min: 0.5, max: 60 }),
      daysToReplace: number({ whole: true, min: 0, max: 90 }),
      /** What a new one saves in energy and water per year, for each year of the old one's age. */
      runningSaved: later(maybePrice()),
    }),
    key: ['id'],
    refs: {},
    optional: ['runningSaved'],
  },
  /** Ways out of a failure beside a repair here: who else mends it and for what, and what may be had in its place. */
  routes: {
    columns: z.object({
      id: text(),
      name: text(),
      kind: choice(ROUTE_KINDS),
      /** A visit's or handling fee, before tax, and whether it is waived where it comes to a repair. */
      fee: maybePrice(),
      feeWaived: maybeChoice(['yes', 'no']),
      labourPerHour: maybePrice(),
      /** Its parts against ours. */
      partFactor: maybeNumber({ min: 0.1, max: 10 }),
      /** Until it runs again, beside what is waited for. */
      days: maybeNumber({ whole: true, min: 0, max: 120 }),
      /** Chance that it does run then; without it, it is certain. */
      cure: maybeNumber({ min: 0, max: 1 }),
      warrantyMonths: number({ whole: true, min: 0, max: 240 }),
      /** A used one: as worn as a machine of this age, and how unsure that is (a share, one standard deviation). */
      usedAgeYears: maybeNumber({ min: 0, max: 40 }),
      usedDoubt: maybeNumber({ min: 0, max: 2 }),
    }),
    key: ['id'],
    refs: {},
  },
  lives: {
    columns: z.object({
      design: text(),
      component: text(),
      name: text(),
      causeId: maybeId<CauseId>(),
      shape: number({ min: 0.5, max: 12 }),
      scaleYears: number({ min: 0.1, max: 200 }),
      cost: price(),
      costVariation: number({ min: 0, max: 3 }),
      /** A platform of which its makers' parts last longer or shorter: in the place of the design's row. */
      platformId: later(maybeId<PlatformId>()),
    }),
    key: ['design', 'component', 'platformId'],
    refs: { causeId: 'causes', platformId: 'platforms' },
    optional: ['platformId'],
  },
  proofs: {
    columns: z.object({
      id: text(),
      designs: list(),
      title: text(),
      how: text(),
      minutes: number({ min: 0 }),
      stage: choice(['open', 'closed', 'handover']),
      disturbedBy: list(),
      causes: ids<CauseId>(),
      /** The reading that judges it, and whether it is run under power. */
      limitId: later(maybeText()),
      live: later(maybeChoice(['yes'])),
      /** What is found when it fails. */
      saysFindingId: later(maybeText()),
    }),
    key: ['id'],
    refs: { disturbedBy: 'operations', causes: 'causes', limitId: 'limits', saysFindingId: 'findings' },
    words: { disturbedBy: ['always'] },
    optional: ['limitId', 'live', 'saysFindingId'],
  },
} as const satisfies Record<string, TableSpec>;

export type TableName = keyof typeof tables;

/** What the trade knows of every machine, by design and not by maker: it ships with the application (`knowledge/`). A package may add to it, and its rows win. */
export const KNOWLEDGE_TABLES = [
  'roles',
  'role_properties',
  'operations',
  'handling',
  'joints',
  'state_changes',
  'causes',
  'fixes',
  'findings',
  'likelihoods',
  'phrases',
  'answer_phrases',
  'checks',
  'outcomes',
  'outcome_likelihoods',
  'brings',
  'root_causes',
  'wreck_signs',
  'runs',
  'live_bars',
  'limits',
  'designs',
  'kind_questions',
  'kind_answers',
  'kind_likelihoods',
  'tools',
  'conditions',
  'economics',
  'routes',
  'lives',
  'proofs',
] as const satisfies readonly TableName[];
export type KnowledgeTable = (typeof KNOWLEDGE_TABLES)[number];
export const isKnowledge = (name: TableName): name is KnowledgeTable =>
  KNOWLEDGE_TABLES.some((table) => table === name);

export type Row<T extends TableName> = z.output<(typeof tables)[T]['columns']>;

export const tableNames = Object.keys(tables).filter((name): name is TableName => name in tables);
export const isTableName = (name: string): name is TableName => Object.hasOwn(tables, name);

/** A part of the catalogue as a plain value: only what was loaded for the question at hand. */
export type Catalogue = { readonly [T in TableName]: readonly Row<T>[] };

export type Maker = Row<'makers'>;
export type Platform = Row<'platforms'>;
export type Model = Row<'models'>;
export type Role = Row<'roles'>;
export type RoleProperty = Row<'role_properties'>;
export type Part = Row<'parts'>;
export type Fit = Row<'fits'>;
export type Relation = Row<'relations'>;
export type Supplier = Row<'suppliers'>;
export type ShippingMode = Row<'shipping_modes'>;
export type Offer = Row<'offers'>;
export type Operation = Row<'operations'>;
export type Handling = Row<'handling'>;
export type Joint = Row<'joints'>;
export type StateChange = Row<'state_changes'>;
export type Cause = Row<'causes'>;
export type Fix = Row<'fixes'>;
export type Finding = Row<'findings'>;
export type Check = Row<'checks'>;
export type Outcome = Row<'outcomes'>;
export type LiveBar = Row<'live_bars'>;
export type Brings = Row<'brings'>;
export type RootCause = Row<'root_causes'>;
export type WreckSign = Row<'wreck_signs'>;
export type FailingRun = Row<'runs'>;
export type ServiceMode = Row<'service_modes'>;
export type ServiceItem = Row<'service_items'>;
export type Phrase = Row<'phrases'>;
export type AnswerPhrase = Row<'answer_phrases'>;
export type Limit = Row<'limits'>;
export type Design = Row<'designs'>;
export type KindQuestion = Row<'kind_questions'>;
export type KindAnswer = Row<'kind_answers'>;
export type Tool = Row<'tools'>;
export type Condition = Row<'conditions'>;
export type Economics = Row<'economics'>;
export type Recall = Row<'recalls'>;
export type Route = Row<'routes'>;
export type Warranty = Row<'warranties'>;
export type Life = Row<'lives'>;
export type Proof = Row<'proofs'>;
export type SerialScheme = Row<'serial_schemes'>;
export type CodeMeaning = Row<'codes'>;
export type Position = (typeof POSITIONS)[number];

export const emptyCatalogue = (): { [T in TableName]: Row<T>[] } => ({
  makers: [],
  badges: [],
  serial_schemes: [],
  warranties: [],
  recalls: [],
  platforms: [],
  models: [],
  roles: [],
  role_properties: [],
  parts: [],
  part_properties: [],
  fits: [],
  relations: [],
  suppliers: [],
  shipping_modes: [],
  offers: [],
  operations: [],
  handling: [],
  joints: [],
  state_changes: [],
  causes: [],
  fixes: [],
  findings: [],
  likelihoods: [],
  phrases: [],
  answer_phrases: [],
  codes: [],
  checks: [],
  outcomes: [],
  outcome_likelihoods: [],
  brings: [],
  root_causes: [],
  wreck_signs: [],
  runs: [],
  service_modes: [],
  service_items: [],
  live_bars: [],
  limits: [],
  designs: [],
  kind_questions: [],
  kind_answers: [],
  kind_likelihoods: [],
  tools: [],
  conditions: [],
  economics: [],
  routes: [],
  lives: [],
  proofs: [],
});
