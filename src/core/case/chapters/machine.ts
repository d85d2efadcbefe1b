import type { Model, Platform } from '../../catalogue';
import {
  designsBy,
  isUnlistedModel,
  kindBeside,
  kindFrom,
  kindSeen,
  nextKindQuestion,
  readSerial,
  tubSeen,
  unlistedModel,
  type DesignShare,
  type KindAnswers,
  type KindAsked,
  type KindSeen,
  type SerialReading,
} from '../../identify';
import type { Catalogue } from '../../catalogue';
import type { TicketState } from '../../ticket';
import {
  addDays,
  asId,
  sum,
  unique,
  yearsBetween,
  type LocalDate,
  type MakerId,
  type ModelId,
  type PlatformId,
} from '../../units';
import type { Chapter } from '../chapter';

export type Machine = {
  model: Model;
  platform: Platform;
  /** What it may be, with its probability. */
  candidates: readonly { modelId: ModelId; probability: number }[];
  /** Designs that a machine may be of that no catalogue lists, likeliest first; empty for one that is listed. */
  designs: readonly DesignShare[];
  /** What to look at next to tell its design; null when that is known well enough, or from the catalogue. */
  ask: KindAsked | null;
  /** What was answered, to be changed. */
  seen: readonly KindSeen[];
};

type KindTables = Pick<Catalogue, 'designs' | 'kind_questions' | 'kind_answers' | 'kind_likelihoods'>;

/** Designs below this share are left out: their causes and ways would only crowd the rest. */
const DESIGN_AT_LEAST = 0.02;
/** Between these ages most machines come to the bench, where nobody knows. */
const USUAL_AGE = { from: 3, to: 15 };

/** What the shop itself knows of a machine that no catalogue lists: nothing, the first time. */
type Remembered = { model: Model; platform: Platform } | null;

/**
 * A machine that nobody listed, as far as it can be told by looking: every design that it may be of takes part. What was seen of it on an earlier ticket counts,
 * and what fitted there fits here.
 */
function unlisted(
  tables: KindTables,
  number: string,
  remembered: Remembered,
  judged: KindAnswers,
  today: LocalDate,
): Omit<Machine, 'candidates'> | null {
  const kind = { ...kindFrom(remembered?.platform.seen), ...judged };
  const all = designsBy(tables, kind);
  const kept = all.filter(({ probability }) => probability >= DESIGN_AT_LEAST);
  const total = kept.reduce((sum, { probability }) => sum + probability, 0);
  const designs = kept.map((share) => ({ ...share, probability: share.probability / total }));
  const [lead] = designs;
  if (!lead) return null;
  const id = remembered?.model.id ?? unlistedModel(number);
  const makerId = remembered?.model.makerId ?? asId<MakerId>('unlisted');
  const platformId = asId<PlatformId>(id);
  return {
    model: remembered?.model ?? {
      id,
      modelNumber: number,
      badgeId: '',
      makerId,
      platformId,
      popularity: 0,
      producedFrom: addDays(today, -Math.round(USUAL_AGE.to * 365.25)),
      producedTo: addDays(today, -Math.round(USUAL_AGE.from * 365.25)),
      capacityKg: 0,
      spinRpm: 0,
    },
    platform: {
      id: platformId,
      makerId,
      name: '',
      design: lead.design.id,
      tags: unique(designs.flatMap(({ design }) => design.tags)),
      loading: lead.design.loading,
      tub: tubSeen(tables, kind) ?? (lead.design.tags.includes('welded') ? 'welded' : 'bolted'),
      description: lead.design.name,
      serviceMode: undefined,
    },
    designs,
    ask: nextKindQuestion(tables, kind),
    seen: [...kindSeen(tables, kind), ...kindBeside(tables, kind)],
  };
}

/** A machine that is taken for a sister of a listed one: on its platform, with its years, and its parts as surely as it is one. */
function sisterOf(
  relative: TicketState['relative'],
  { models, platforms }: Pick<Catalogue, 'models' | 'platforms'>,
  id: ModelId,
  modelNumber: string,
): Pick<Machine, 'model' | 'platform' | 'candidates'> | null {
  const near = models.find((model) => model.id === relative?.modelId);
  const platform = platforms.find((entry) => entry.id === relative?.platformId);
  if (!relative || !near || !platform) return null;
  return {
    model: { ...near, id, modelNumber },
    platform,
    candidates: [{ modelId: near.id, probability: relative.probability }],
  };
}

/** Which machine it is, as far as the catalogue knows it. */
export const machineChapter: Chapter<
  'machine',
  Pick<Catalogue, 'models' | 'platforms'> &
    KindTables &
    Pick<TicketState, 'plate' | 'plateNotListed' | 'kind' | 'relative'> & { today: LocalDate },
  Machine | null
> = {
  name: 'machine',
  byContent: ['plate', 'kind', 'relative'],
  answer: ({ models, platforms, plate, plateNotListed, kind, relative, today, ...tables }) => {
    const modelId = plate?.modelId ?? (plateNotListed === null ? null : unlistedModel(plateNotListed));
    if (modelId === null) return null;
    const model = models.find((candidate) => candidate.id === modelId);
    const platform = platforms.find((candidate) => candidate.id === (plate?.platformId ?? modelId));
    const remembered = model && platform ? { model, platform } : null;
    const candidates =
      !plate || plate.confirmed
        ? [{ modelId, probability: 1 }]
        : [plate, ...plate.others].map(({ modelId: id, probability }) => ({ modelId: id, probability }));
    // Once it is known to be a sister of listed ones it stands on their platform.
    const sister = remembered && !isUnlistedModel(remembered.platform.id) ? { ...remembered, candidates } : null;
    if (isUnlistedModel(modelId)) {
      const known = sister ?? sisterOf(relative, { models, platforms }, modelId, plateNotListed ?? '');
      if (known) return { ...known, designs: [], ask: null, seen: [] };
      const number = plate?.modelNumber ?? plateNotListed ?? '';
      const told = unlisted(tables, number, remembered, kind, today);
      return told && { ...told, candidates };
    }
    if (!plate || !model || !platform) return null;
    return { model, platform, candidates, designs: [], ask: null, seen: [] };
  },
};

export type Age = {
  years: number;
  from: number;
  to: number;
  source: 'serial' | 'receipt' | 'owner' | 'production' | 'unknown';
  serial: SerialReading | null;
};

/** Owners are off by a quarter, as often as not. */
const OWNERS_ARE_OFF = 0.25;
function saidAge(years: number): Pick<Age, 'years' | 'from' | 'to'> {
  const off = Math.max(1, years * OWNERS_ARE_OFF);
  return { years, from: Math.max(0, years - off), to: years + off };
}

/**
 * How old it is: by the receipt, else by the serial, else by what the owner says, else by the years in which the model was made. Where the serial leaves several windows
 * open, what the owner says tells which, if one of them is near it.
 */
export const ageChapter: Chapter<
  'age',
  Pick<Catalogue, 'serial_schemes'> &
    Pick<TicketState, 'serial' | 'boughtOn' | 'guessedYears'> & { model: Model; listed: boolean; today: LocalDate },
  Age
> = {
  name: 'age',
  answer: ({ serial_schemes, model, listed, serial: noted, boughtOn, guessedYears, today }) => {
    if (boughtOn) {
      const years = Math.max(0, yearsBetween(boughtOn, today));
      return { years, from: years, to: years, source: 'receipt', serial: null };
    }
    const { producedFrom, producedTo } = model;
    const said = guessedYears === null ? null : saidAge(guessedYears);
    const serial =
      noted && listed ? readSerial(serial_schemes, model.makerId, noted, { producedFrom, producedTo, today }) : null;
    if (said && !serial?.candidates.length) return { ...said, source: 'owner', serial: null };
    const windows = serial?.candidates.length
      ? serial.candidates
      : [{ builtFrom: producedFrom, builtTo: producedTo ?? today, probability: 1 }];
    const all = windows.map((window) => ({
      from: yearsBetween(window.builtTo, today),
      to: yearsBetween(window.builtFrom, today),
      p: window.probability,
    }));
    const near = said ? all.filter(({ from, to }) => from <= said.to && to >= said.from) : [];
    const ages = near.length ? near : all;
    const total = sum(ages.map(({ p }) => p));
    const years = sum(ages.map((entry) => (entry.p * (entry.from + entry.to)) / 2)) / total;
    return {
      years: Math.max(0, years),
      from: Math.max(0, Math.min(...ages.map((entry) => entry.from))),
      to: Math.max(0, ...ages.map((entry) => entry.to)),
      source: serial?.candidates.length ? 'serial' : listed ? 'production' : 'unknown',
      serial,
    };
  },
};
