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
  /** How surely it fits by what the shop fitted itself; null where it never did. */
  fittedHere: number | null;
};
export type RoleParts = { roleId: RoleId; name: string; parts: ModelPart[] };

/**
 * A model's parts by role, as its catalogue lists them: its own fits and its platform's, each with the number sold today and how many offers in
 * stock that has. What the shop learned of a number that is listed anyway stands with its listing. Roles in the order of their names. O(fits of the platform × their components).
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
    return [{ fit, via, part, soldToday, soldAs, offers: Math.min(...counts), fittedHere: fit.probability ?? null }];
  });
  return [...groupBy(withLearned(listed), ({ fit }) => fit.roleId)]
    .map(([roleId, own]) => ({
      roleId,
      name: roles.get(roleId)?.name ?? roleId,
      parts: own.sort((a, b) => (a.fit.position < b.fit.position ? -1 : a.fit.position > b.fit.position ? 1 : 0)),
    }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** Listings of one model: a learned one goes into that which lists the same number there. */
function withLearned(all: readonly ModelPart[]): ModelPart[] {
  const learned = all.filter(({ fit }) => fit.probability !== undefined);
  const listed = all.filter(({ fit }) => fit.probability === undefined);
  return [
    ...listed.map((entry) => ({
      ...entry,
      fittedHere: learned.find(({ fit }) => isSameFit(fit, entry.fit))?.fittedHere ?? null,
    })),
    ...learned.filter(({ fit }) => !listed.some((entry) => isSameFit(fit, entry.fit))),
  ];
}

/** The same number in the same role and place. */
export const isSameFit = (one: Fit, other: Fit): boolean =>
  one.partId === other.partId &&
  one.roleId === other.roleId &&
  (one.position === other.position || one.position === 'any' || other.position === 'any');
