'use client';
import type { PricedCandidate } from '@/core/case';
import { cx, Mark, NumberText } from '@/ui';
import { dimensionWords, FIT_WORDS, fitReasonWords, formatMoney, formatPercent, plural, ROUTE_WORDS } from '@/words';
import type { Names } from './useNames';

/** Positions at which two numbers differ, where they have the same length. */
export const differingPositions = (text: string, other: string): number[] =>
  text.length === other.length && text !== other
    ? [...text].flatMap((character, index) => (character === other.charAt(index) ? [] : [index]))
    : [];

type Props = {
  candidate: PricedCandidate;
  names: Names;
  picked: boolean;
  lead: PricedCandidate | undefined;
  onPick: () => void;
};

/** One number that would do: price, chain of reasons, how sure. */
export function CandidateCard({ candidate, names, picked, lead, onPick }: Props) {
  const number = candidate.parts.map(({ part }) => part.partNumber).join(' + ');
  const leading = lead?.parts.map(({ part }) => part.partNumber).join(' + ') ?? '';
  const misfit = candidate.comparison?.verdict === 'does-not-fit';
  const quantity = candidate.buy[0]?.quantity ?? 1;
  const differing = candidate === lead ? [] : differingPositions(number, leading);
  return (
    <button
      type="button"
      aria-pressed={picked}
      onClick={onPick}
      className={cx(
        'flex h-full w-full flex-col gap-1 rounded-sm border-[1.5px] bg-sheet px-3 py-2.5 text-left',
        picked ? 'border-mark shadow-[inset_5px_0_0_var(--mark)] pl-4' : 'border-line',
      )}
    >
      <span className="flex flex-wrap items-baseline justify-between gap-x-3">
        <NumberText text={number} marked={differing.length <= 3 ? differing : []} className="text-xl font-semibold" />
        <strong className="text-lg whitespace-nowrap">
          {candidate.sellingPrice ? formatMoney(candidate.sellingPrice) : 'ask'}
        </strong>
      </span>
      <span className="text-[15px]">
        {candidate.parts.map(({ part }) => part.description).join(' and ')} · {ROUTE_WORDS[candidate.route]}
        {quantity > 1 ? ` · ${quantity} pieces` : ''}
        {candidate.days !== null ? ` · ${plural(candidate.days, 'day')}` : ''}
      </span>
      <span className="text-sm text-soft">
        {candidate.reasons.map((reason) => fitReasonWords(reason, names)).join(' → ')}
      </span>
      {candidate.comparison ? (
        <span className="text-sm">
          <strong>{FIT_WORDS[candidate.comparison.verdict]}</strong>
          {candidate.comparison.dimensions
            .filter((dimension) => dimension.verdict !== 'fits')
            .slice(0, 3)
            .map((dimension) => ` · ${dimension.label.toLowerCase()}: ${dimensionWords(dimension)}`)}
        </span>
      ) : null}
      {candidate.route === 'typed' ? (
        <Mark tone="doubt">no list says whether it fits: compare in the hand</Mark>
      ) : (
        <Mark
          tone={
            misfit ? 'stop' : candidate.probability > 0.93 ? 'sound' : candidate.probability > 0.5 ? 'doubt' : 'stop'
          }
        >
          {candidate.cost === null ? 'no offer in stock · ' : ''}
          {misfit ? 'by the lists it should fit' : 'fits'}: {formatPercent(candidate.probability)}
        </Mark>
      )}
    </button>
  );
}
