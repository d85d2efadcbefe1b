import type { Catalogue, RoleProperty } from '../../catalogue';
import { crossReference, LIKELY, partsFor } from '../../fit';
import { normaliseNumber, numbersIn } from '../../identify';
import { UNSORTED_ROLE } from '../../sheets';
import type { Round, TicketState } from '../../ticket';
import type { Instant, LocalDate, PartId, RoleId } from '../../units';
import type { Chapter } from '../chapter';
import { candidateKey } from '../options';
import type { CauseParts } from '../pricing';
import type { Machine } from './machine';

/** The numbers for the leading cause, with what is needed to compare old and new at the bench. */
export type PartShown = {
  parts: CauseParts | null;
  /** Of what goes with the part: roles that are kept and taken by the piece. */
  kept: readonly RoleId[];
  /** For a plate in doubt: whether the probable models need different numbers for this job. null when the plate is settled. */
  doubtMatters: boolean | null;
  /** Which number it is depends on the build date, and that is open. */
  serialMatters: boolean;
  /** The old part's number was read after the part was chosen, and nothing leads from it to that part. */
  oldDiffers: boolean;
  roleProperties: readonly RoleProperty[];
  partProperties: Readonly<Record<string, Readonly<Record<string, string>>>>;
  /** Numbers that a list names for this model without saying what they are: one of them may be this part. */
  unsorted: readonly { partNumber: string; description: string }[];
  /** Part numbers by id, for the chains of reasons. */
  partNumbers: Readonly<Record<string, string>>;
};

type In = {
  catalogue: Catalogue;
  machine: Machine;
  parts: CauseParts | null;
  kept: readonly RoleId[];
  serial: TicketState['serial'];
  today: LocalDate;
  oldNumbers: TicketState['oldNumbers'];
  chosen: Chosen | null;
};

type Chosen = { parts: readonly { partId: PartId; partNumber: string }[]; at: Instant };

/** The number decided on, and when; null before that, and once it is fitted. */
export const chosenParts = ({ parts, partsOn, finished }: Round): Chosen | null =>
  partsOn && !finished
    ? {
        parts: parts
          .filter(({ companion }) => !companion)
          .map(({ bought: { partId, partNumber } }) => ({ partId, partNumber })),
        at: partsOn.at,
      }
    : null;

export const partChapter: Chapter<'part', In, PartShown> = {
  name: 'part',
  byContent: ['oldNumbers', 'chosen', 'kept'],
  answer: (input) => {
    const { catalogue, parts } = input;
    const named = new Set(numbersNamed(parts));
    return {
      parts,
      kept: input.kept,
      doubtMatters: doubtMatters(input),
      serialMatters: serialMatters(parts),
      oldDiffers: oldDiffers(input),
      ...comparables(catalogue, parts),
      unsorted: unsortedOf(input),
      partNumbers: Object.fromEntries(
        catalogue.parts.flatMap((part) => (named.has(part.id) ? [[part.id, part.partNumber]] : [])),
      ),
    };
  },
};

function unsortedOf({ catalogue, machine, parts }: In): PartShown['unsorted'] {
  if (parts?.main?.candidates.length !== 0) return [];
  const models = new Set<string>(machine.candidates.map(({ modelId }) => modelId));
  const listed = new Set<string>(
    catalogue.fits.flatMap((fit) =>
      fit.roleId === UNSORTED_ROLE && fit.modelId !== undefined && models.has(fit.modelId) ? [fit.partId] : [],
    ),
  );
  return catalogue.parts
    .filter(({ id }) => listed.has(id))
    .map(({ partNumber, description }) => ({ partNumber, description }));
}

/** Every id that a reason or a problem of these parts names. */
function numbersNamed(parts: CauseParts | null): string[] {
  const answers = [...(parts?.main ? [parts.main] : []), ...(parts?.companions ?? [])];
  return answers.flatMap(({ candidates, problems }) => [
    ...candidates.flatMap((candidate) => [
      candidate.listedPartId,
      ...candidate.buy.map(({ partId }) => partId),
      ...candidate.reasons.flatMap((reason) =>
        reason.kind === 'superseded' ? [reason.fromPartId, reason.toPartId] : 'partId' in reason ? [reason.partId] : [],
      ),
    ]),
    ...problems.flatMap((problem) =>
      'partIds' in problem ? problem.partIds : [problem.partId, ...('successors' in problem ? problem.successors : [])],
    ),
  ]);
}

/** The likeliest number fits only machines of some dates, and another may well be the one. */
function serialMatters(parts: CauseParts | null): boolean {
  const lead = parts?.main?.candidates[0];
  return (
    lead !== undefined && lead.probability < SAME_ENOUGH && lead.reasons.some(({ kind }) => kind === 'serial-open')
  );
}

function oldDiffers({ catalogue, parts, oldNumbers, chosen }: In): boolean {
  const old = parts?.main?.old;
  const readAt = parts?.main && oldNumbers[parts.main.roleId]?.at;
  if (!old || !chosen || !readAt || chosen.parts.length === 0 || readAt <= chosen.at) return false;
  const [lead] = old.candidates;
  // A number that no list has may be the very one that was typed and chosen.
  const read = numbersIn(old.text);
  if (chosen.parts.some(({ partNumber }) => read.includes(normaliseNumber(partNumber)))) return false;
  if (!lead || lead.probability < LIKELY) return old.unknown >= LIKELY;
  const near = new Set(crossReference(catalogue, lead.part.id).parts.map(({ id }) => id));
  return !chosen.parts.some(({ partId }) => near.has(partId));
}

/** Share of the probable models that must take the same number before a doubtful plate does not matter for this job. */
const SAME_ENOUGH = 0.98;

/**
 * Whether it matters for this job which of the models it is; null where the plate is settled. Each model is asked by itself: a build date that is open
 * for all of them alike is another doubt, and no better look at the model number settles it.
 */
function doubtMatters({ catalogue, machine, parts, serial, today }: In): boolean | null {
  if (machine.candidates.length < 2) return null;
  if (!parts) return true;
  if (!parts.main) return false;
  const [lead] = parts.main.candidates;
  if (!lead) return true;
  if (lead.probability >= SAME_ENOUGH) return false;
  const { roleId } = parts.main;
  const fits = machine.candidates.map(({ modelId }) => {
    const models = [{ modelId, probability: 1 }];
    const answer = partsFor(catalogue, { models, roleId, serial: serial ?? undefined, today });
    const same = answer.candidates.filter(
      (candidate) => candidate.position === lead.position && candidateKey(candidate) === candidateKey(lead),
    );
    return Math.max(0, ...same.map(({ probability }) => probability));
  });
  return Math.min(...fits) < SAME_ENOUGH * Math.max(...fits);
}

function comparables(
  catalogue: Catalogue,
  parts: CauseParts | null,
): Pick<PartShown, 'roleProperties' | 'partProperties'> {
  const main = parts?.main;
  if (!main) return { roleProperties: [], partProperties: {} };
  const ids = new Set(main.candidates.flatMap((candidate) => [candidate.listedPartId, candidate.part.id]));
  const partProperties: Record<string, Record<string, string>> = {};
  for (const { partId, property, value } of catalogue.part_properties)
    if (ids.has(partId)) (partProperties[partId] ??= {})[property] = value;
  return {
    roleProperties: catalogue.role_properties.filter((property) => property.roleId === main.roleId),
    partProperties,
  };
}
