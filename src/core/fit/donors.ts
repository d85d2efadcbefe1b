import type { CauseId, LocalDate, ModelId, PartId, PlatformId, RoleId, TicketId } from '../units';
import type { Catalogue } from '../catalogue';
import { partsFor } from './partsFor';

/** A machine on the shelf, kept for its parts. */
export type Donor = {
  ticketId: TicketId;
  number: number;
  modelId: ModelId;
  platformId: PlatformId;
  /** What it failed of. */
  causeId: CauseId | null;
  taken: readonly { roleId: RoleId; position: string; forTicket?: number | null }[];
};

export type DonorMatch = {
  donor: Donor;
  modelNumber: string;
  /** The number that it carries, one of those asked for, and P(it does). */
  partId: PartId;
  probability: number;
};

export type DonorQuestion = {
  roleId: RoleId;
  position: string;
  /** Numbers that are listed or sold for the machine on the bench: the donor must carry one of them. */
  listedPartIds: readonly PartId[];
  platformId: PlatformId;
  today: LocalDate;
};

/** Below this a donor is not worth the walk to the shelf. */
const WORTH_A_LOOK = 0.5;

/**
 * Donors that carry a part: of the same platform, by their own lists the same number at the same position, not yet taken, and not what they failed of
 * themselves (neither the part nor what its cause wears with it). What an operation uses up (sealant, gaskets, clamps) is never taken from one. Likeliest
 * first. O(donors × fits of the platform).
 */
export function donorsFor(catalogue: Catalogue, donors: readonly Donor[], question: DonorQuestion): DonorMatch[] {
  const { roleId, position, platformId, today } = question;
  const listed = new Set(question.listedPartIds);
  const samePlace = (other: string) => position === 'any' || other === 'any' || other === position;
  if (catalogue.operations.some(({ consumables }) => consumables.some(({ id }) => id === roleId))) return [];
  return donors
    .filter((donor) => donor.platformId === platformId)
    .filter((donor) => !donor.taken.some((entry) => entry.roleId === roleId && samePlace(entry.position)))
    .filter((donor) => !failedOf(catalogue, donor).has(roleId))
    .flatMap((donor): DonorMatch[] => {
      const model = catalogue.models.find(({ id }) => id === donor.modelId);
      if (!model) return [];
      const { candidates } = partsFor(catalogue, {
        models: [{ modelId: donor.modelId, probability: 1 }],
        roleId,
        today,
      });
      const [carried] = candidates
        .filter(
          (candidate) =>
            samePlace(candidate.position) &&
            // What a generic stands in for is not what the donor carries.
            (candidate.route === 'maker' || candidate.route === 'sister') &&
            (listed.has(candidate.listedPartId) || candidate.buy.some(({ partId }) => listed.has(partId))),
        )
        .sort((a, b) => b.probability - a.probability);
      if (!carried || carried.probability < WORTH_A_LOOK) return [];
      const { probability, listedPartId, buy } = carried;
      const partId = listed.has(listedPartId) ? listedPartId : (buy[0]?.partId ?? listedPartId);
      return [{ donor, modelNumber: model.modelNumber, partId, probability }];
    })
    .sort((a, b) => b.probability - a.probability || b.donor.number - a.donor.number);
}

function failedOf(catalogue: Catalogue, donor: Donor): Set<string> {
  const causes = catalogue.causes.filter(({ id }) => id === donor.causeId);
  return new Set(causes.flatMap((cause) => [cause.roleId ?? '', ...cause.companions.map(({ id }) => id)]));
}
