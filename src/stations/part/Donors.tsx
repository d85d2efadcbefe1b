'use client';
import type { PricedAnswer } from '@/core/case';
import { Mark, NumberText } from '@/ui';
import { formatPercent } from '@/words';
import type { StationProps } from '../shared/StationProps';
import { useDonors } from '../shared/useDonors';

/** Machines on the shelf that carry the same part: looked at before anything is bought. */
export function Donors({ state, answer }: Pick<StationProps, 'state'> & { answer: PricedAnswer }) {
  const [lead] = answer.candidates;
  const listed = [...new Set(answer.candidates.map(({ listedPartId }) => listedPartId))];
  const donors = useDonors(state, answer.roleId, lead?.position ?? 'any', listed);
  if (!donors?.length) return null;
  return (
    <section aria-label="On the shelf" className="text-[15px]">
      <h3 className="font-semibold">On the shelf</h3>
      <ul>
        {donors.slice(0, 3).map(({ donor, modelNumber, probability }) => (
          <li key={donor.ticketId} className="flex flex-wrap items-baseline gap-x-3 py-1">
            <span>
              Donor {donor.number}, <NumberText text={modelNumber} className="font-semibold" />: same platform, lists
              the same part, and did not fail of it.
            </span>
            <Mark tone={probability > 0.93 ? 'sound' : 'doubt'}>the same number: {formatPercent(probability)}</Mark>
          </li>
        ))}
      </ul>
      <p className="text-soft">
        Test a used part before it is fitted, and tell the customer that it is used. Take it at “Order”, once the number
        is decided.
      </p>
    </section>
  );
}
