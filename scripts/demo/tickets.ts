import { writeFileSync } from 'node:fs';
import { assess, defaultSettings, offerOf, settlementOf, speakable, type Settings, type Weighed } from '@/core/case';
import { chargedMinutes } from '@/core/quote';
import { knowledgeFor, type Catalogue, type Cause, type Knowledge, type Model } from '@/core/catalogue';
import { faultStatesOf, nextSteps, ONE_STEP, outcomesGiven, rankCauses } from '@/core/diagnose';
import { planWork } from '@/core/labour';
import { judgeReading } from '@/core/measure';
import { nothingLearned } from '@/core/learn';
import { ORDER_EVENT_VERSION, type OrderEvent, type OrderEventData } from '@/core/order';
import {
  answerOffer,
  applyEvents,
  chooseParts,
  evidenceOf,
  finishBench,
  offer,
  settleCause,
  TICKET_EVENT_VERSION,
  tickStep,
  type TicketDecision,
  type TicketEvent,
  type TicketEventData,
  type TicketEventOf,
} from '@/core/ticket';
import {
  addDays,
  defined,
  type Instant,
  type LocalDate,
  asInstant,
  asDay,
  type ModelId,
  type PlatformId,
  type RoleId,
  type CauseId,
  asId,
  type LineId,
  type Branded,
  type EventId,
  type OrderId,
  type TicketId,
} from '@/core/units';
import { demoLots } from './stock';
import { DEMO_FOLDER, dice, uuid, type Dice } from './files';

/** A Tuesday: the day on which the demo shop was written down. The loader shifts everything by whole weeks to today. */
const ANCHOR = asDay('2026-11-24');

const PLACES = [
  'Gull House, kitchen wing',
  'Harbour Street 4',
  'Sailing club, changing rooms',
  'Mole 12, second floor',
  'Lighthouse Lane 9',
  'Guest house Anker',
  'Netmakers Row 21',
  'Quay 3, ground floor',
  'Ferry Road 60',
  'Pilot Steps 2',
];
const NAMES = [
  'A. Holtmeier',
  'Gull House',
  'Sailing club',
  'P. Anders',
  'Mrs. Quint',
  'Guest house Anker',
  'J. Varga',
  'T. Okono',
  'Fam. Lindqvist',
  'R. Pelle',
  'Mr. Sandvik',
  'B. Marlow',
  'K. Teague',
  'I. Brandes',
  'Fam. Osei',
];

export const demoSettings = (): Settings => ({
  ...defaultSettings(),
  shopName: 'Hafenwasch Repairs',
  address: 'Slipway 7, Tolkenhafen',
  phone: '0555 010 204',
  zone: 'Europe/Berlin',
  instruments: ['multimeter 1, checked March 2026', 'insulation tester, checked March 2026'],
  // As the jobs of its morning show.
  opensWeldedTubs: true,
  collectionFee: { amountMinor: 2200, currency: 'EUR' },
  deliveryFee: { amountMinor: 2200, currency: 'EUR' },
  markupTiers: [{ from: { amountMinor: 12_000, currency: 'EUR' }, basisPoints: 2200 }],
});

/** Ids have a dice of their own: one event more changes no machine and no customer. */
const ids = dice(9173);

class Stream {
  readonly id: TicketId;
  readonly events: TicketEvent[] = [];
  constructor() {
    this.id = asId(uuid(ids.random));
  }
  add(at: Instant, ...data: readonly TicketEventData[]): this {
    const groupId = uuid(ids.random);
    for (const entry of data)
      this.events.push({
        id: asId<EventId>(uuid(ids.random)),
        stream: `ticket:${this.id}`,
        sequence: this.events.length + 1,
        version: TICKET_EVENT_VERSION,
        at,
        groupId,
        data: entry,
      });
    return this;
  }
  /** Through the same decisions as the application's. */
  decide(at: Instant, decision: TicketDecision): this {
    const decided = decision(applyEvents(this.events), {
      at,
      newId: <Id extends Branded<string>>() => asId<Id>(uuid(ids.random)),
    });
    if (!decided.ok) throw new Error(`ticket ${this.id}: ${JSON.stringify(decided.error)}`);
    return this.add(at, ...decided.value);
  }
}

const instant = (date: LocalDate, hour: number, minute = 0): Instant =>
  asInstant(`${date}T${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}:00.000Z`);

function serialFor(catalogue: Catalogue, model: Model, roll: Dice): string {
  const scheme = defined(
    catalogue.serial_schemes.find((entry) => entry.makerId === model.makerId),
    'every demo maker has a scheme',
  );
  const width = (scheme.pattern.match(/Y/g) ?? []).length;
  const year = Math.min(
    Number((model.producedTo ?? '2025').slice(0, 4)),
    Number(model.producedFrom.slice(0, 4)) + roll.whole(0, 2),
  );
  const cycle = scheme.yearSymbols.length / width;
  const index = (((year - scheme.firstYear) % cycle) + cycle) % cycle;
  const symbol = scheme.yearSymbols.slice(index * width, index * width + width);
  const week = String(roll.whole(8, 44)).padStart(2, '0');
  let y = 0;
  let w = 0;
  let digits = 0;
  const plain = [...scheme.pattern].map((letter) => {
    const character =
      letter === 'Y'
        ? symbol.charAt(y++)
        : letter === 'W'
          ? week.charAt(w++)
          : letter === 'P'
            ? roll.pick(['K', 'M', 'T'])
            : letter === '#'
              ? String(roll.whole(0, 9))
              : letter === 'C'
                ? String(digits % 10)
                : letter;
    if (letter !== 'C' && /\d/.test(character)) digits += Number(character);
    return character;
  });
  return plain.join('');
}

/** A finding that nobody has told in those years. */
const NEVER_TOLD: readonly string[] = ['wet-electrics', 'brittle'];
/** Causes that this shop has not met in its three years. */
const NEVER_MET: readonly string[] = ['motor-front', 'heater-connector', 'inlet-valve-both'];

type Case = { stream: Stream; model: Model; cause: Cause; openedOn: LocalDate };

/** Opens a ticket on a model with a cause, and notes findings drawn from the cause's own likelihoods. */
function begin(
  catalogue: Catalogue,
  roll: Dice,
  number: number,
  openedOn: LocalDate,
  model: Model,
  causeId: CauseId | null,
  complaint: string | null,
  findingIds: readonly string[] = [],
): Case {
  const platform = defined(
    catalogue.platforms.find((entry) => entry.id === model.platformId),
    'the model has a platform',
  );
  const knowledge = knowledgeFor(catalogue, platform);
  const met = knowledge.causes.filter(({ id }) => !NEVER_MET.includes(id));
  const cause = knowledge.causes.find((entry) => entry.id === causeId) ?? weighted(met, roll);
  const stream = new Stream();
  const person = roll.whole(0, NAMES.length - 1);
  const at = (minute: number) => instant(openedOn, 8, minute);
  stream.add(at(0), { type: 'opened', number, customerId: null, machineId: uuid(ids.random) });
  stream.add(at(1), {
    type: 'customer-noted',
    customerId: `c-${String(person + 1).padStart(3, '0')}`,
    name: NAMES[person] ?? '',
    phone: `0555 0${roll.whole(10, 99)} ${roll.whole(100, 999)}`,
    place: PLACES[person % PLACES.length] ?? '',
  });
  const badge = catalogue.badges.find((entry) => entry.id === model.badgeId)?.name ?? '';
  stream.add(at(2), {
    type: 'plate-read',
    text: model.modelNumber,
    modelId: model.id,
    modelNumber: model.modelNumber,
    makerId: model.makerId,
    platformId: model.platformId,
    badge,
    probability: 0.99,
    others: [],
    confirmed: true,
  });
  stream.add(at(3), { type: 'serial-noted', serial: serialFor(catalogue, model, roll) });
  const shown = knowledge.findings.filter(
    (finding) =>
      finding.group !== 'Displayed code' &&
      !NEVER_TOLD.includes(finding.id) &&
      roll.chance(knowledge.findingLikelihood(cause.id, finding.id) - 0.03),
  );
  const told = knowledge.findings.filter((finding) => findingIds.includes(finding.id));
  const findings = told.length
    ? told
    : shown.length
      ? shown.slice(0, 3)
      : knowledge.findings.filter((finding) => knowledge.findingLikelihood(cause.id, finding.id) > 0.5).slice(0, 1);
  findings.forEach((finding, at3) =>
    stream.add(at(5 + at3), {
      type: 'finding-noted',
      findingId: finding.id,
      answer: 'yes',
      threeWords: finding.threeWords,
    }),
  );
  if (complaint) stream.add(at(9), { type: 'complaint-noted', text: complaint });
  return { stream, model, cause, openedOn };
}

function weighted(causes: readonly Cause[], roll: Dice): Cause {
  const total = causes.reduce((sum, cause) => sum + cause.weight, 0);
  let index = roll.random() * total;
  for (const cause of causes) {
    index -= cause.weight;
    if (index <= 0) return cause;
  }
  return defined(causes.at(-1), 'a design has causes');
}

function modelOf(catalogue: Catalogue, platformId: PlatformId, roll: Dice): Model {
  const own = catalogue.models.filter((model) => model.platformId === platformId);
  return defined(own[Math.min(own.length - 1, Math.floor(roll.random() ** 2 * own.length))], 'a platform has models');
}

const CLOSED = 200;
const CLOSED_WEIGHTS: [string, number][] = [
  ['fj-a1', 22],
  ['fj-a2', 18],
  ['fj-i4', 8],
  ['qu-m1', 16],
  ['qu-m3', 7],
  ['qu-d5', 5],
  ['mw-b2', 9],
  ['mw-c6', 5],
  ['mw-t1', 3],
  ['os-t4', 8],
  ['os-t6', 5],
  ['os-r8', 4],
];

/** What the application says of a ticket at a moment; null before its machine is known. */
function assessedAt(catalogue: Catalogue, stream: Stream, at: Instant): Weighed | null {
  const assessed = assess(catalogue, applyEvents(stream.events), demoSettings(), nothingLearned(), at);
  return assessed.kind === 'unread' ? null : assessed;
}

/** The advice on a price other than the computed one: what speaks for repairing is a straight line in the price. */
function adviceAt(assessed: Weighed | null, quote: number): TicketEventOf<'quoted'>['worth'] {
  const worth = (assessed && offerOf(assessed)?.worth) ?? null;
  if (!assessed || !worth?.told) return null;
  const advantage = worth.told.advantage + worth.told.quote - quote;
  const rules = assessed.tips?.rules.map(({ id, limit }) => ({ id, saysRepair: quote <= limit })) ?? [];
  return { ...worth, told: { ...worth.told, quote, advantage, repair: advantage > 0, rules } };
}

function closedTicket(catalogue: Catalogue, roll: Dice, number: number): Stream {
  const opened = addDays(ANCHOR, -Math.round(20 + ((CLOSED - number) / CLOSED) * 1060 + roll.whole(0, 6)));
  let index = roll.random() * CLOSED_WEIGHTS.reduce((sum, [, weight]) => sum + weight, 0);
  const platformId = CLOSED_WEIGHTS.find(([, weight]) => (index -= weight) <= 0)?.[0] ?? 'fj-a1';
  const { stream, cause, model } = begin(
    catalogue,
    roll,
    number,
    opened,
    modelOf(catalogue, asId(platformId), roll),
    null,
    null,
  );
  const platform = defined(
    catalogue.platforms.find((entry) => entry.id === model.platformId),
    'platform',
  );
  const knowledge = knowledgeFor(catalogue, platform);
  const planned = planWork(knowledge.operations, cause.operations);
  const said = lookedFor(stream, knowledge, cause, opened, number);
  // On dice of its own, so that nothing else of the demo moves.
  const asked = dice(71_000 + number);
  const before = asked.chance(0.6) ? assessedAt(catalogue, stream, instant(opened, 8, 58)) : null;
  if (before?.range)
    stream.add(instant(opened, 8, 58), {
      type: 'range-told',
      ...speakable(before.range, 'EUR'),
    });
  stream.decide(instant(opened, 9), settled(cause, said));
  const money = (minor: number) => ({ amountMinor: minor, currency: 'EUR' });
  const net = chargedLabour(planned.expectedMinutes) + (cause.roleId ? roll.whole(1800, 9000) : 0);
  const labour = chargedLabour(planned.expectedMinutes);
  // What the application would ask; now and then another number, or more than that, was agreed.
  const decided = assessedAt(catalogue, stream, instant(opened, 10));
  const listed = decided?.offer?.quote.options[0]?.net.amountMinor ?? net;
  // The parts as the application would have chosen them that day.
  const chosen = decided?.offer?.options[0]?.parts ?? [];
  if (chosen.length) stream.decide(instant(opened, 9, 30), chooseParts(cause.id, chosen));
  // Numbers that the list names for this model: another would teach the shop a fit of its own, and the demo's catalogue is to be as it was shipped.
  const named = chosen.every(({ bought }) =>
    catalogue.fits.some(
      ({ partId, modelId, platformId: on }) =>
        partId === bought.partId && (modelId === model.id || on === model.platformId),
    ),
  );
  const goods = Math.max(0, Math.round(listed * (asked.chance(0.15) ? 0.75 + 0.55 * asked.random() : 1)) - labour);
  const line = (kind: 'labour' | 'part', amount: number, minutes: number | null) => ({
    kind,
    description: kind === 'part' ? cause.name : '',
    partId: null,
    partNumber: null,
    quantity: 1,
    minutes,
    amounts: {
      net: money(amount),
      tax: money(Math.round(amount * 0.19)),
      gross: money(amount + Math.round(amount * 0.19)),
    },
  });
  const lines = [
    line('labour', labour, chargedMinutes(planned.expectedMinutes)),
    ...(goods > 0 ? [line('part', goods, null)] : []),
  ];
  const gross = lines.reduce((sum, { amounts }) => sum + amounts.gross.amountMinor, 0);
  const netSum = lines.reduce((sum, { amounts }) => sum + amounts.net.amountMinor, 0);
  stream.decide(
    instant(opened, 10),
    offer({
      causeId: cause.id,
      fee: { gross: money(4165), waived: true },
      worth: adviceAt(decided, gross / 100),
      options: [
        {
          id: 'best-fit',
          kind: 'best-fit',
          causeIds: [cause.id],
          causeNames: [cause.name],
          net: money(netSum),
          tax: money(gross - netSum),
          gross: money(gross),
          handsOnMinutes: Math.round(planned.handsOnMinutes),
          readyOn: addDays(opened, 7),
          lines,
          parts: named ? [...chosen] : [],
        },
      ],
    }),
  );
  const yes = roll.chance(net > 22_000 ? 0.55 : 0.92);
  stream.decide(instant(addDays(opened, 1), 9), answerOffer(yes ? 'yes' : 'no', yes ? 'best-fit' : null));
  const done = addDays(opened, roll.whole(3, 9));
  if (yes) {
    stream.add(
      instant(addDays(opened, 2), 15),
      ...applyEvents(stream.events).round.parts.map(({ requirementId, bought }): TicketEventData => ({
        type: 'part-received',
        requirementId,
        from: { kind: 'shelf' },
        units: bought.quantity,
        partNumber: bought.partNumber,
        verdict: 'as-ordered',
      })),
    );
    stream.add(instant(done, 10), {
      type: 'bench-finished',
      operationIds: planned.strip.map((step) => step.operationId),
      proofIds: ['failed-cycle'],
    });
    stream.add(instant(done, 11), {
      type: 'proof-noted',
      proofId: 'failed-cycle',
      title: 'The cycle that failed, run the same way',
      passed: true,
    });
    stream.add(instant(done, 12), { type: 'ready-told', how: 'phone' });
  }
  stream.add(instant(addDays(done, 1), 9), { type: 'handed-over', advice: cause.advice ?? '' });
  const factor = 0.85 + roll.random() * 0.5;
  stream.add(instant(addDays(done, 1), 9, 5), {
    type: 'closed',
    outcome: yes ? 'repaired' : 'declined',
    takenMinutes: yes ? Math.round(planned.handsOnMinutes * factor) : null,
    listMinutes: yes ? Math.round(planned.handsOnMinutes) : null,
    rightFirstTime: yes && cause.roleId ? roll.chance(0.88) : null,
    // The youngest that were declined stand on the shelf.
    ...(!yes && number > CLOSED - 60 ? { keptAsDonor: true } : {}),
  });
  return stream;
}

const SEARCH_COSTS = { perMinute: 0.9, escalate: 400, open: [] };
const MOST_CHECKS = 5;

/**
 * How the cause of a closed ticket was found: the shown advice followed, its answers drawn from what is true, on dice of their own, so that nothing else of the demo moves. Three of
 * four tickets have it, with how likely the cause was when the advice came to it; some were mended in vain before, in some the run was noted, and what the dead part looked like.
 */
function lookedFor(
  stream: Stream,
  knowledge: Knowledge,
  cause: Cause,
  opened: LocalDate,
  number: number,
): number | null {
  const roll = dice(61_000 + number);
  if (roll.chance(0.22)) return null;
  let said: number | null = null;
  const state = defined(
    faultStatesOf(knowledge).find((entry) => entry.causeId === cause.id && entry.brought === null),
    'every cause is a state',
  );
  const parts = (causeId: CauseId) => (knowledge.causes.find(({ id }) => id === causeId)?.roleId ? 40 : 4);
  let minute = 15;
  const next = () => instant(opened, 8, (minute += 2));
  if (roll.chance(0.5)) {
    const run = roll.pick(knowledge.runs);
    const failsIn = Math.max(1, Math.round(run.minutes * roll.random()));
    const { id: runId, title, loadKg, rpm } = run;
    stream.add(next(), { type: 'failing-run-noted', runId, title, loadKg, rpm, minute: failsIn, seen: '' });
  }
  for (let done = 0; done < MOST_CHECKS; done += 1) {
    const evidence = evidenceOf(applyEvents(stream.events));
    const [best] = nextSteps(knowledge, evidence, { ...SEARCH_COSTS, parts }, undefined, ONE_STEP);
    if (!best || best.kind === 'escalate') break;
    if (best.kind === 'fix') {
      if (best.id === cause.id) {
        said = chanceOf(stream, knowledge, cause);
        break;
      }
      // What was likelier is settled on and mended first, and it does not help.
      const mended = defined(
        knowledge.causes.find(({ id }) => id === best.id),
        'a fix names a cause',
      );
      stream.decide(next(), settled(mended, chanceOf(stream, knowledge, mended)));
      stream.add(next(), { type: 'fix-failed', causeId: best.id });
      continue;
    }
    const check = defined(
      knowledge.checks.find(({ id }) => id === best.id),
      'a step names a check',
    );
    const given = outcomesGiven(knowledge, state, check);
    let rest = roll.random();
    const outcome = check.outcomes.find((_, index) => (rest -= given[index] ?? 0) <= 0) ?? check.outcomes[0];
    if (!outcome) break;
    const reading = drawnReading(knowledge, check.id, outcome.id, roll);
    stream.add(
      next(),
      reading ?? {
        type: 'check-done',
        checkId: check.id,
        outcomeId: outcome.id,
        title: check.title,
        outcome: outcome.text,
      },
    );
  }
  const signs = knowledge.wreckSigns.filter(({ causeId }) => causeId === cause.id);
  if (signs.length && roll.chance(0.6)) {
    const { id: signId, text } = roll.pick(signs);
    stream.add(instant(opened, 8, 58), { type: 'wreck-read', causeId: cause.id, signId, text });
  }
  return said;
}

/** A reading that gives this outcome, where the check has a plain limit. */
function drawnReading(
  { limits }: Knowledge,
  checkId: string,
  outcomeId: string,
  roll: Dice,
): TicketEventOf<'reading-noted'> | null {
  const limit = limits.find((entry) => entry.checkId === checkId && entry.law === 'range');
  if (!limit) return null;
  const { low, high } = limit;
  const middle = low !== undefined && high !== undefined ? (low + high) / 2 : (low ?? high ?? 1);
  const value =
    outcomeId === limit.within
      ? low !== undefined && high !== undefined
        ? middle
        : low !== undefined
          ? low * (1.1 + roll.random())
          : middle * (0.3 + 0.6 * roll.random())
      : outcomeId === limit.above
        ? (high ?? middle) * (1.2 + roll.random())
        : outcomeId === limit.below
          ? (low ?? middle) * (0.2 + 0.5 * roll.random())
          : null;
  if (value === null) return null;
  const shown = Number(value.toPrecision(3));
  const judged = judgeReading(limit, { value: shown });
  if (judged.verdict === 'cannot-judge' || limit[judged.verdict] !== outcomeId) return null;
  return {
    type: 'reading-noted',
    limitId: limit.id,
    label: limit.label,
    unit: limit.unit,
    value: shown,
    ambientCelsius: null,
    verdict: judged.verdict,
    low: judged.low,
    high: judged.high,
    checkId,
    outcomeId,
  };
}

type Live = {
  platformId: PlatformId;
  causeId: CauseId;
  daysAgo: number;
  until:
    | 'plate'
    | 'findings'
    | 'cause'
    | 'part'
    | 'quoted'
    | 'accepted'
    | 'ordered'
    | 'received'
    | 'bench'
    | 'cure'
    | 'proof'
    | 'told';
  complaint: string;
  findings: string[];
  /** Given where the demo must have two machines alike; otherwise drawn. */
  modelId?: ModelId;
};

/** Twelve machines in the shop, one or more at every station. */
const LIVE: Live[] = [
  {
    platformId: asId('fj-a1'),
    modelId: asId('m-fj-a1-13'),
    causeId: asId('drain-pump'),
    daysAgo: 0,
    until: 'findings',
    complaint: 'Stopped with the water in it. Sheets inside.',
    findings: ['stands-full', 'hums'],
  },
  {
    platformId: asId('qu-m1'),
    causeId: asId('brushes'),
    daysAgo: 0,
    until: 'plate',
    complaint: 'Just brought in, plate is greasy.',
    findings: [],
  },
  {
    platformId: asId('fj-a2'),
    modelId: asId('m-fj-a2-01'),
    causeId: asId('bearings'),
    daysAgo: 2,
    until: 'cause',
    complaint: 'As loud as a plane in spin.',
    findings: ['roars', 'drum-play', 'rust-run'],
  },
  {
    platformId: asId('os-t4'),
    modelId: asId('m-os-t4-21'),
    causeId: asId('coupler'),
    daysAgo: 1,
    until: 'part',
    complaint: 'Fills, then only a rattle.',
    findings: ['motor-runs-drum-stands', 'no-agitation'],
  },
  {
    platformId: asId('qu-m1'),
    modelId: asId('m-qu-m1-22'),
    causeId: asId('element'),
    daysAgo: 3,
    until: 'quoted',
    complaint: 'Towels come out cold.',
    findings: ['cold-wash', 'long-heating'],
  },
  {
    platformId: asId('mw-b2'),
    modelId: asId('m-mw-b2-09'),
    causeId: asId('friction-ring'),
    daysAgo: 4,
    until: 'quoted',
    complaint: 'Walks through the kitchen.',
    findings: ['walks', 'bangs'],
  },
  {
    platformId: asId('fj-a1'),
    causeId: asId('brushes'),
    daysAgo: 3,
    until: 'accepted',
    complaint: 'Drum does not turn any more.',
    findings: ['drum-stands', 'belt-dust'],
    // A donor of this very model stands on the shelf.
    modelId: asId('m-fj-a1-02'),
  },
  {
    platformId: asId('qu-d5'),
    modelId: asId('m-qu-d5-20'),
    causeId: asId('position-sensor'),
    daysAgo: 4,
    until: 'accepted',
    complaint: 'Shows F12 and stops.',
    findings: ['hums', 'will-not-spin'],
  },
  {
    platformId: asId('fj-i4'),
    modelId: asId('m-fj-i4-03'),
    causeId: asId('door-seal'),
    daysAgo: 5,
    until: 'ordered',
    complaint: 'Puddle in front after each wash.',
    findings: ['leaks-front'],
  },
  {
    platformId: asId('fj-a1'),
    modelId: asId('m-fj-a1-01'),
    causeId: asId('inlet-valve'),
    daysAgo: 6,
    until: 'received',
    complaint: 'Takes an hour to fill.',
    findings: ['no-fill'],
  },
  {
    platformId: asId('fj-a1'),
    modelId: asId('m-fj-a1-17'),
    causeId: asId('bearings'),
    daysAgo: 8,
    until: 'cure',
    complaint: 'Roars; rust at the back.',
    findings: ['roars', 'rust-run'],
  },
  {
    platformId: asId('os-t6'),
    modelId: asId('m-os-t6-26'),
    causeId: asId('pump-driven'),
    daysAgo: 7,
    until: 'told',
    complaint: 'Drains for ever.',
    findings: ['drains-slowly'],
  },
];

const STAGES: Live['until'][] = [
  'plate',
  'findings',
  'cause',
  'part',
  'quoted',
  'accepted',
  'ordered',
  'received',
  'bench',
  'cure',
  'proof',
  'told',
];

function liveTicket(catalogue: Catalogue, roll: Dice, number: number, live: Live, orders: OrderEvent[]): Stream {
  const opened = addDays(ANCHOR, -live.daysAgo);
  const reach = STAGES.indexOf(live.until);
  const drawn = modelOf(catalogue, live.platformId, roll);
  const { stream, cause } = begin(
    catalogue,
    roll,
    number,
    opened,
    catalogue.models.find(({ id }) => id === live.modelId) ?? drawn,
    live.causeId,
    live.complaint,
    live.findings,
  );
  const settings = demoSettings();
  const now = (): Weighed => {
    const assessment = assess(catalogue, applyEvents(stream.events), settings, nothingLearned(), instant(ANCHOR, 8));
    if (assessment.kind === 'unread') throw new Error(`demo ticket ${number} has no plate`);
    return assessment;
  };
  if (live.until === 'plate') {
    const keep = stream.events.filter((event) =>
      ['opened', 'customer-noted', 'complaint-noted'].includes(event.data.type),
    );
    stream.events.splice(0, stream.events.length, ...keep.map((event, index) => ({ ...event, sequence: index + 1 })));
    return stream;
  }
  if (reach < STAGES.indexOf('cause')) return stream;
  const day = (after: number) => addDays(opened, Math.min(live.daysAgo, after));
  stream.decide(instant(day(0), 9), settled(cause));
  if (reach < STAGES.indexOf('part')) return stream;
  const option = defined(now().offer?.options[0], 'a decided cause has an option');
  stream.decide(instant(day(0), 9, 20), chooseParts(cause.id, option.parts));
  if (reach < STAGES.indexOf('quoted')) return stream;
  stream.decide(instant(day(0), 10), offer(defined(offerOf(now()), 'a decided cause has an offer')));
  if (reach < STAGES.indexOf('accepted')) return stream;
  stream.decide(instant(day(1), 9), answerOffer('yes', 'best-fit'));
  if (reach < STAGES.indexOf('ordered')) return stream;
  const due = addDays(ANCHOR, live.until === 'ordered' ? 1 : -1);
  orders.push(...placeOrder(catalogue, roll, stream, day(2), due, live.until === 'ordered' ? null : day(4)));
  if (reach < STAGES.indexOf('bench')) return stream;
  const waits = live.until === 'cure';
  tickUntil(now(), stream, waits ? 'refit tub-split' : null, waits ? instant(ANCHOR, 6) : instant(day(6), 13));
  if (waits) return stream;
  const bench = defined(now().bench, 'a decided cause has a work sheet');
  stream.decide(
    instant(day(6), 14),
    finishBench(
      bench.plan.strip.map((step) => step.operationId),
      bench.proofs.map(({ proof }) => proof.id),
    ),
  );
  if (live.until === 'proof') return stream;
  for (const { proof } of bench.proofs)
    stream.add(instant(day(6), 15), { type: 'proof-noted', proofId: proof.id, title: proof.title, passed: true });
  return stream.add(instant(ANCHOR, 7), { type: 'ready-told', how: 'phone' });
}

const settled = (cause: Cause, said: number | null = null): TicketDecision =>
  settleCause(settlementOf(cause, null, said));

/** How likely it is that cause by what the ticket says so far. */
const chanceOf = (stream: Stream, knowledge: Knowledge, cause: Cause): number | null =>
  rankCauses(knowledge, evidenceOf(applyEvents(stream.events))).causes.find(({ cause: one }) => one?.id === cause.id)
    ?.probability ?? null;

/** Minor units, at the demo's rate of 54.00 an hour. */
const chargedLabour = (minutes: number): number => Math.round((chargedMinutes(minutes) / 60) * 5400);

/** Ticks the work sheet up to and including a step (all when null). */
function tickUntil({ bench }: Weighed, stream: Stream, last: string | null, at: Instant): void {
  for (const { step, title, waitHours } of bench?.sheet.sections.flatMap((section) => section.steps) ?? []) {
    stream.decide(at, tickStep(step, title, waitHours));
    if (`${step.phase} ${step.operationId}` === last) return;
  }
}

let orderCounter = 40;

function placeOrder(
  catalogue: Catalogue,
  roll: Dice,
  stream: Stream,
  on: LocalDate,
  due: LocalDate,
  receivedOn: LocalDate | null,
): OrderEvent[] {
  const { parts } = applyEvents(stream.events).round;
  const supplier = defined(catalogue.suppliers[0], 'there is a supplier');
  const orderId = asId<OrderId>(uuid(ids.random));
  orderCounter += 1;
  const number = `HW-${orderCounter}`;
  const lines = parts.flatMap(({ requirementId, bought }) => {
    const { partId, partNumber, description, quantity } = bought;
    const own = catalogue.offers.find((entry) => entry.partId === partId);
    if (!own) return [];
    const packs = Math.ceil(quantity / own.packQuantity);
    return [
      {
        lineId: asId<LineId>(uuid(ids.random)),
        partId,
        partNumber,
        description,
        supplierNumber: own.supplierNumber,
        packs,
        packPrice: own.packPrice,
        for: [{ ticketId: stream.id, requirementId, partId, units: quantity, perPack: own.packQuantity }],
      },
    ];
  });
  const events: OrderEvent[] = [];
  const add = (at: Instant, groupId: string, ...data: OrderEventData[]) => {
    for (const entry of data)
      events.push({
        id: asId<EventId>(uuid(ids.random)),
        stream: `order:${orderId}`,
        sequence: events.length + 1,
        version: ORDER_EVENT_VERSION,
        at,
        groupId,
        data: entry,
      });
  };
  add(instant(on, 12), uuid(ids.random), {
    type: 'order-made',
    number,
    supplierId: supplier.id,
    supplierName: supplier.name,
    modeId: 'nq-day',
    modeName: 'next day',
    lines,
    shipping: { amountMinor: 690, currency: 'EUR' },
    expectedOn: due,
  });
  add(
    instant(on, 12, 1),
    uuid(ids.random),
    { type: 'send-tried', attempt: 1 },
    {
      type: 'answered',
      answer: {
        reference: `NQ-${roll.whole(10000, 99999)}`,
        lines: lines.map(({ lineId, partId, partNumber, packPrice }) => ({
          lineId,
          status: 'accepted',
          partId,
          partNumber,
          packPrice,
          dueOn: due,
          note: null,
        })),
      },
    },
  );
  for (const { lineId, for: wanted } of lines)
    for (const { requirementId, units } of wanted)
      stream.add(instant(on, 12), {
        type: 'part-ordered',
        requirementId,
        orderId,
        lineId,
        units,
        orderNumber: number,
        supplierName: supplier.name,
        dueOn: due,
      });
  if (receivedOn !== null)
    for (const { lineId, partNumber, packs, for: wanted } of lines) {
      for (const { requirementId, units } of wanted)
        stream.add(instant(receivedOn, 11), {
          type: 'part-received',
          requirementId,
          from: { kind: 'order', orderId, lineId },
          units,
          partNumber,
          verdict: 'as-ordered',
        });
      add(instant(receivedOn, 11), stream.events.at(-1)?.groupId ?? '', {
        type: 'line-received',
        lineId,
        numberRead: partNumber,
        verdict: 'as-ordered',
        packs,
        measured: [],
      });
    }
  return events;
}

/** Tickets and orders as lines of events, and the shop's settings, beside the catalogue. */
export function writeDemoTickets(catalogue: Catalogue): void {
  // Each ticket has dice of its own: what changes in one moves no other.
  const diceOf = (number: number) => dice(5081 + 97 * number);
  const orders: OrderEvent[] = [];
  const closed = Array.from({ length: CLOSED }, (_, index) => closedTicket(catalogue, diceOf(index + 1), index + 1));
  const live = LIVE.map((entry, index) => {
    const number = CLOSED + 1 + index;
    return liveTicket(catalogue, diceOf(number), number, entry, orders);
  });
  const donor = defined(
    [...closed].reverse().find(({ events }) => applyEvents(events).donor),
    'a machine is kept for its parts',
  );
  const { number, plate } = applyEvents(donor.events);
  const roleId = asId<RoleId>('lock');
  donor.add(instant(addDays(ANCHOR, -9), 9, 30), {
    type: 'donor-part-taken',
    roleId,
    position: 'any',
    forTicket: null,
  });
  const lots = demoLots(
    catalogue,
    ids.random,
    ANCHOR,
    LIVE.map(({ platformId }) => platformId),
    {
      ticketId: donor.id,
      number,
      platformId: defined(plate?.platformId, 'its plate was read'),
      roleId,
      daysAgo: 9,
    },
  );
  const events = [...[...closed, ...live].flatMap((stream) => stream.events), ...orders, ...lots];
  writeFileSync(`${DEMO_FOLDER}events.jsonl`, `${events.map((event) => JSON.stringify(event)).join('\n')}\n`);
  writeFileSync(
    `${DEMO_FOLDER}shop.json`,
    `${JSON.stringify({ anchorDate: ANCHOR, settings: demoSettings() }, null, 1)}\n`,
  );
  console.log(`tickets ${closed.length} closed, ${live.length} live; events ${events.length}`);
}
