import type { Catalogue } from '@/core/catalogue';

let known: Promise<Catalogue> | null = null;

/**
 * What the trade knows, as it ships with the application (`knowledge/`, read by the importer when the application was built): the lowest layer, under
 * whatever catalogue there is or is not. Fetched once per page or worker; a fetch that fails is tried again at the next question.
 */
export function shippedKnowledge(): Promise<Catalogue> {
  known ??= fetch('/knowledge.json')
    .then((response) => {
      if (!response.ok) throw new Error(`the knowledge could not be loaded (${response.status}): reload the page`);
      return response.json() as Promise<Catalogue>;
    })
    .catch((error: unknown) => {
      known = null;
      throw error;
    });
  return known;
}
