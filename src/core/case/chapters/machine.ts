import type { Model, Platform } from '../../catalogue';
import {
  designsBy,
  kindSeen,
  nextKindQuestion,
  readSerial,
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
  /** What it may be, with its probability. Empty for a machine that no catalogue lists. */
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

/** A machine that nobody listed, as far as it can be told by looking: every design that it may be of takes part. */
function unlisted(tables: KindTables, number: string, kind: KindAnswers, today: LocalDate): Machine | null {
  const all = designsBy(tables, kind);
  const kept = all.filter(({ probability }) => probability >= DESIGN_AT_LEAST);
  const total = kept.reduce((sum, { probability }) => sum + probability, 0);
  const designs = kept.map((share) => ({ ...share, probability: share.probability / total }));
  const [lead] = designs;
  if (!lead) return null;
  const [id, makerId] = [asId<ModelId>('unlisted'), asId<MakerId>('unlisted')];
  const platformId = asId<PlatformId>('unlisted');
  return {
    model: {
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
      tub: lead.design.tags.includes('welded') ? 'welded' : 'bolted',
      description: lead.design.name,
      serviceMode: undefined,
    },
    candidates: [],
    designs,
    ask: nextKindQuestion(tables, kind),
    seen: kindSeen(tables, kind),
  };
}

/** Which machine it is, as far as the catalogue knows it. */
export const machineChapter: Chapter<
  'machine',
  Pick<Catalogue, 'models' | 'platforms'> &
    KindTables &
    Pick<TicketState, 'plate' | 'plateNotListed' | 'kind'> & { today: LocalDate },
  Machine | null
> = {
  name: 'machine',
  byContent: ['plate', 'kind'],
  answer: ({ models, platforms, plate, plateNotListed, kind, today, ...tables }) => {
    if (!plate) return plateNotListed === null ? null : unlisted(tables, plateNotListed, kind, today);
    const model = models.find((candidate) => candidate.id === plate.modelId);
    const platform = platforms.find((candidate) => candidate.id === plate.platformId);
    if (!model || !platform) return null;
    const candidates = plate.confirmed
      ? [{ modelId: plate.modelId, probability: 1 }]
      : [plate, ...plate.others].map(({ modelId, probability }) => ({ modelId, probability }));
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

/** How old it is: by the receipt, else by what the owner says, else by the serial, else by the years in which the model was made. */
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
    if (guessedYears !== null) {
      const off = Math.max(1, guessedYears * OWNERS_ARE_OFF);
      return {
        years: guessedYears,
        from: Math.max(0, guessedYears - off),
        to: guessedYears + off,
        source: 'owner',
        serial: null,
      };
    }
    const { producedFrom, producedTo } = model;
    const serial =
      noted && listed ? readSerial(serial_schemes, model.makerId, noted, { producedFrom, producedTo, today }) : null;
    const windows = serial?.candidates.length
      ? serial.candidates
      : [{ builtFrom: producedFrom, builtTo: producedTo ?? today, probability: 1 }];
    const ages = windows.map((window) => ({
      from: yearsBetween(window.builtTo, today),
      to: yearsBetween(window.builtFrom, today),
      p: window.probability,
    }));
    const years = ages.reduce((sum, entry) => sum + (entry.p * (entry.from + entry.to)) / 2, 0);
    return {
      years: Math.max(0, years),
      from: Math.max(0, Math.min(...ages.map((entry) => entry.from))),
      to: Math.max(0, ...ages.map((entry) => entry.to)),
      source: serial?.candidates.length ? 'serial' : listed ? 'production' : 'unknown',
      serial,
    };
  },
};
