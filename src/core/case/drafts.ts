import type { Cause } from '../catalogue';
import type { OfferDraft, TicketState } from '../ticket';
import type { Weighed } from './assessment';

/** What is decided of a cause: whether it needs a part goes with it, how likely it was said to be, and what is mended with it. */
export const settlementOf = (
  { id, name, roleId, companions }: Cause,
  fixId: string | null = null,
  probability: number | null = null,
  also: Pick<Cause, 'id' | 'name'> | null = null,
) => ({
  ...(also ? { also: { causeId: also.id, name: also.name } } : {}),
  ...(probability === null ? {} : { probability }),
  causeId: id,
  fixId,
  name,
  needsPart: roleId !== undefined || companions.length > 0,
});

/** The decided number of the cause's own role (a split: its numbers, joined by +); null while nothing is decided for this cause. */
export function chosenKey({ round }: TicketState, cause: Pick<Cause, 'id' | 'roleId'> | null): string | null {
  if (!cause || round.partsOn?.causeId !== cause.id) return null;
  const own = round.parts.filter((part) => part.roleId === cause.roleId && !part.companion);
  return own.length ? own.map(({ bought }) => bought.partId).join('+') : null;
}

/** By the years in which a model was made nobody knows how old one of them is. */
const MOST_DOUBT_YEARS = 5;
const isNearlyKnown = ({ source, from, to }: Weighed['age']): boolean =>
  source !== 'production' && source !== 'unknown' && to - from <= MOST_DOUBT_YEARS;

/** The offer to the customer as it stands today: what is printed, accepted and bought. null when there is nothing to price yet. */
export function offerOf({
  offer,
  worth,
  tips,
  age,
}: Pick<Weighed, 'offer' | 'worth' | 'tips' | 'age'>): OfferDraft | null {
  const causeId = offer?.options[0]?.causeIds[0];
  if (!offer || causeId === undefined) return null;
  const { quote, options } = offer;
  return {
    causeId,
    ...offer.terms,
    fee: { gross: quote.feeGross, waived: quote.feeWaivedIfRepaired },
    worth: worth && {
      annualRepair: worth.annualRepair,
      annualReplace: worth.annualReplace,
      probabilityRepair: worth.probabilityRepair,
      told: {
        repair: worth.repair,
        quote: worth.quote,
        advantage: worth.advantage,
        replacePrice: worth.replacePrice,
        rho: worth.rho,
        spreadRepair: worth.spreadRepair,
        spreadReplace: worth.spreadReplace,
        ...(isNearlyKnown(age) ? { ageYears: Math.min(99, age.years) } : {}),
        rules: (tips?.rules ?? []).map(({ id, saysRepair }) => ({ id, saysRepair })),
      },
    },
    options: quote.options.flatMap(
      ({ id, kind, causeNames, fixId, fixName, lines, deposit, net, tax, gross, handsOnMinutes, readyOn }) => {
        const option = options.find((candidate) => candidate.id === id);
        return option
          ? [
              {
                id,
                kind,
                causeIds: option.causeIds,
                causeNames: [...causeNames],
                fixId,
                fixName,
                cure: option.cure,
                lifeShare: option.lifeShare,
                net,
                tax,
                gross,
                handsOnMinutes: Math.round(handsOnMinutes),
                takes: option.takes,
                readyOn,
                lines,
                deposit,
                parts: option.parts,
              },
            ]
          : [];
      },
    ),
  };
}
