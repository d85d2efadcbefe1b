import type { Model, Platform } from '../../catalogue';
import { readSerial, type SerialReading } from '../../identify';
import type { Catalogue } from '../../catalogue';
import type { TicketState } from '../../ticket';
import { yearsBetween, type LocalDate, type ModelId } from '../../units';
import type { Chapter } from '../chapter';

export type Machine = {
  model: Model;
  platform: Platform;
  /** What it may be, with its probability. */
  candidates: readonly { modelId: ModelId; probability: number }[];
};

/** Which machine it is, as far as the catalogue knows it. */
export const machineChapter: Chapter<
  'machine',
  Pick<Catalogue, 'models' | 'platforms'> & { plate: TicketState['plate'] },
  Machine | null
> = {
  name: 'machine',
  byContent: ['plate'],
  answer: ({ models, platforms, plate }) => {
    if (!plate) return null;
    const model = models.find((candidate) => candidate.id === plate.modelId);
    const platform = platforms.find((candidate) => candidate.id === plate.platformId);
    if (!model || !platform) return null;
    const candidates = plate.confirmed
      ? [{ modelId: plate.modelId, probability: 1 }]
      : [plate, ...plate.others].map(({ modelId, probability }) => ({ modelId, probability }));
    return { model, platform, candidates };
  },
};

export type Age = {
  years: number;
  from: number;
  to: number;
  source: 'serial' | 'receipt' | 'production';
  serial: SerialReading | null;
};

/** How old it is: by the receipt, else by the serial, else by the years in which the model was made. */
export const ageChapter: Chapter<
  'age',
  Pick<Catalogue, 'serial_schemes'> & Pick<TicketState, 'serial' | 'boughtOn'> & { model: Model; today: LocalDate },
  Age
> = {
  name: 'age',
  answer: ({ serial_schemes, model, serial: noted, boughtOn, today }) => {
    if (boughtOn) {
      const years = Math.max(0, yearsBetween(boughtOn, today));
      return { years, from: years, to: years, source: 'receipt', serial: null };
    }
    const { producedFrom, producedTo } = model;
    const serial = noted ? readSerial(serial_schemes, model.makerId, noted, { producedFrom, producedTo, today }) : null;
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
      source: serial?.candidates.length ? 'serial' : 'production',
      serial,
    };
  },
};
