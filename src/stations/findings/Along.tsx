'use client';
import { Folded } from '@/ui';
import { formatPercent, formatRate, listOf } from '@/words';
import type { FindingsProps } from './FindingsProps';

/** Going to the customer, or ordering: which parts pay to have beforehand, and which tools. */
export function Along({ along, lore, settings }: FindingsProps) {
  const { bring, tools, covered, orderWith } = along;
  const nameOf = (id: string) => lore.causes.find((cause) => cause.id === id)?.name.toLowerCase() ?? '';
  return (
    <Folded title="To take along, to order together" aside={`one trip is enough: ${formatPercent(covered)}`}>
      <div className="flex flex-col gap-2 text-[15px]">
        {bring.length ? (
          <>
            <p>Parts that pay to bring: the second trip costs more than giving them back.</p>
            <ul>
              {bring.map(({ causeId, probability, saves }) => (
                <li key={causeId} className="flex min-h-9 justify-between gap-3 border-b border-line py-1">
                  <span>for {nameOf(causeId)}</span>
                  <span className="whitespace-nowrap text-soft">
                    wanted {formatPercent(probability)} · saves {formatRate(saves, settings.currency)}
                  </span>
                </li>
              ))}
            </ul>
          </>
        ) : (
          <p>No part pays to bring: none is likely enough against what giving it back costs.</p>
        )}
        {tools.length ? <p>Tools: {listOf(tools)}.</p> : null}
        <p>
          {orderWith.length
            ? `Ordered with the first: ${listOf(
                orderWith.map(
                  ({ causeId, saves }) =>
                    `what ${nameOf(causeId)} needs (saves ${formatRate(saves, settings.currency)} on average)`,
                ),
              )}. A second wait costs more than giving it back.`
            : 'Nothing pays to order with the first part: a second wait costs less than giving it back.'}
        </p>
      </div>
    </Folded>
  );
}
