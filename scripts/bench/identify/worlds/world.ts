import type { ModelRecord } from '@/core/identify';
import type { Random } from '@/core/units';

/** One reading and what was really on the plate: a listed model's id, or null for a number that is not listed. `sure`: of a photograph, how sure its reader was of the text. */
export type Case = { kind: string; text: string; truth: string | null; sure?: number };

export type Catalogue = { listed: ModelRecord[]; cases: Case[] };

/** A world: how its makers number, how popular their models are, and how its people and cameras misread. Each is written apart from the resolver. */
export type World = {
  name: string;
  about: string;
  make: (size: number, seed: number) => Catalogue;
};

export const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
export const upTo = (random: Random, most: number): number => Math.floor(random() * (most + 1));

/** Draws models as often as they are popular. */
export function drawByPopularity(models: readonly ModelRecord[], random: Random): () => ModelRecord {
  const sums = new Float64Array(models.length);
  let total = 0;
  models.forEach((model, index) => (sums[index] = total += model.popularity));
  return () => {
    const wanted = random() * total;
    let low = 0;
    let high = models.length - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((sums[middle] ?? 0) < wanted) low = middle + 1;
      else high = middle;
    }
    return models[low] as ModelRecord;
  };
}

export const plain = (number: string): string => number.toUpperCase().replace(/[^A-Z0-9?]/g, '');
