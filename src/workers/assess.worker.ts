import { expose } from 'comlink';
import { assess, type Assessment, type Settings } from '@/core/case';
import type { Catalogue } from '@/core/catalogue';
import { donorsFor, type Donor, type DonorMatch, type DonorQuestion } from '@/core/fit';
import type { Learned } from '@/core/learn';
import type { TicketState } from '@/core/ticket';
import { activeEdition, database, EditionReader, loadLearned, pricesVersion } from '@/store';

let reader: EditionReader | null = null;
let cached: { key: string; catalogue: Catalogue } | null = null;
let learned: { closed: number; value: Learned } | null = null;

async function readerOfToday(): Promise<EditionReader | null> {
  const edition = await activeEdition(database());
  if (!edition) return null;
  if (reader?.edition.id !== edition.id) {
    reader = new EditionReader(database(), edition);
    cached = null;
    learned = null;
  }
  return reader;
}

async function catalogueFor(state: TicketState, from: EditionReader): Promise<Catalogue> {
  const models = [...(state.plate ? [state.plate.modelId, ...state.plate.others.map((other) => other.modelId)] : [])];
  const key = `${from.edition.id} ${await pricesVersion(database())} ${state.plate?.platformId ?? ''} ${models.join(' ')}`;
  if (cached?.key !== key) cached = { key, catalogue: await from.forMachine(state.plate?.platformId ?? null, models) };
  return cached.catalogue;
}

async function learnedOf(catalogue: Catalogue): Promise<Learned> {
  const db = database();
  const closed = await db.summaries.where('[kind+open]').equals(['ticket', 0]).count();
  if (learned?.closed !== closed)
    learned = {
      closed,
      value: await loadLearned(db, new Map(catalogue.platforms.map((platform) => [platform.id, platform.design]))),
    };
  return learned.value;
}

/** Closed machines that were kept for their parts. */
async function donorsOnShelf(): Promise<Donor[]> {
  const closed = await database().summaries.where('[kind+open]').equals(['ticket', 0]).toArray();
  return closed.flatMap((record): Donor[] => {
    if (record.kind !== 'ticket' || !record.summary.donor) return [];
    const { ticketId, number, modelId, platformId, causeId, donor } = record.summary;
    return modelId && platformId ? [{ ticketId, number, modelId, platformId, causeId, taken: donor.taken }] : [];
  });
}

const api = {
  /** Donors that carry a part of this machine. */
  async donors(
    state: TicketState,
    wanted: Pick<DonorQuestion, 'roleId' | 'position' | 'listedPartIds'>,
    today: string,
  ): Promise<DonorMatch[]> {
    const [from, donors] = [await readerOfToday(), await donorsOnShelf()];
    const platformId = state.plate?.platformId;
    if (!from || !platformId || donors.length === 0) return [];
    return donorsFor(await catalogueFor(state, from), donors, { ...wanted, platformId, today });
  },

  /** null when there is no catalogue yet. */
  async assess(state: TicketState, settings: Settings, now: string): Promise<Assessment | null> {
    const from = await readerOfToday();
    if (!from) return null;
    const catalogue = await catalogueFor(state, from);
    return assess(catalogue, state, settings, await learnedOf(catalogue), now);
  },
};

export type AssessApi = typeof api;
expose(api);
