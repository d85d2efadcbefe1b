import type { Catalogue, Fit, Part } from '../catalogue';
import { groupBy, keyBy, type ModelId, type RoleId } from '../units';
import { crossReference, type SoldToday } from './crossReference';

/** One listed part of a model, and what is sold in its place today (null: nothing). */
export type ModelPart = {
  fit: Fit;
  via: 'model' | 'platform';
  part: Part;
  soldToday: SoldToday | null;
  /** Its numbers. */
  soldAs: string[];
  offers: number;
};
export type RoleParts = { roleId: RoleId; name: string; parts: ModelPart[] };

/**
 * A model's parts by role, as its catalogue lists them: its own fits and its platform's, each with the number sold today and how many offers in
 * stock that has. Roles in the order of their names. O(fits of the platform × their components).
 */
export function partsOfModel(catalogue: Catalogue, modelId: ModelId): RoleParts[] {
  const model = catalogue.models.find((entry) => entry.id === modelId);
  if (!model) return [];
  const parts = keyBy(catalogue.parts, (part) => part.id);
  const roles = keyBy(catalogue.roles, (role) => role.id);
  const offers = groupBy(
    catalogue.offers.filter((offer) => offer.stockPacks > 0),
    (offer) => offer.partId,
  );
  const listed = catalogue.fits.flatMap((fit): ModelPart[] => {
    const via = fit.modelId === modelId ? 'model' : fit.platformId === model.platformId ? 'platform' : null;
    const part = parts.get(fit.partId);
    if (via === null || !part) return [];
    const { soldToday } = crossReference(catalogue, part.id);
    // A split needs all of its parts: the scarcest counts.
    const counts = soldToday?.parts.map(({ partId }) => offers.get(partId)?.length ?? 0) ?? [0];
    const soldAs = (soldToday?.parts ?? []).map(({ partId }) => parts.get(partId)?.partNumber ?? partId);
    return [{ fit, via, part, soldToday, soldAs, offers: Math.min(...counts) }];
  });
  return [...groupBy(listed, ({ fit }) => fit.roleId)]
    .map(([roleId, own]) => ({
      roleId,
      name: roles.get(roleId)?.name ?? roleId,
      parts: own.sort((a, b) => (a.fit.position < b.fit.position ? -1 : a.fit.position > b.fit.position ? 1 : 0)),
    }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}
