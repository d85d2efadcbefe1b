'use client';
import { isNoPlate } from '@/core/identify';
import { note } from '@/core/ticket';
import { Button, NumberText, useNewest, Why } from '@/ui';
import { formatPercent } from '@/words';
import { searchWorker } from '@/workers';
import type { StationProps } from '../shared/StationProps';

/** Listed models whose number is close by: probably the same platform, offered as a guess and never taken by itself. */
export function Relatives({ state, ask }: Pick<StationProps, 'state' | 'ask'>) {
  const number = state.plateNotListed === null || isNoPlate(state.plateNotListed) ? null : state.plateNotListed;
  const { answer, of } = useNewest(number, () => searchWorker.get().relatives(number ?? ''));
  if (number === null) return null;
  if (state.relative)
    return (
      <p className="flex flex-wrap items-center gap-x-3">
        <span>
          Taken for a sister of <NumberText text={state.relative.modelNumber} className="font-semibold" />,{' '}
          {formatPercent(state.relative.probability)} sure: its parts are as sure as that, compare them in the hand.
        </span>
        <Button onClick={() => void ask(note({ type: 'relative-judged', relative: null }))}>It is none</Button>
      </p>
    );
  if (of !== number || !answer?.length) return null;
  return (
    <ul aria-label="Probably a sister of" className="flex flex-col gap-2">
      {answer.map(({ badge, platform, ...relative }) => (
        <li key={relative.modelId} className="flex flex-wrap items-center gap-x-3">
          <span>
            Probably (
            <Why
              label="Probably the platform of"
              because="As often as listed numbers that begin alike this far stand on one platform, counted in the catalogue itself."
            >
              {formatPercent(relative.probability)}
            </Why>
            ) the platform of {badge} <NumberText text={relative.modelNumber} className="font-semibold" />: {platform}
          </span>
          <Button onClick={() => void ask(note({ type: 'relative-judged', relative }))}>Go on as its sister</Button>
        </li>
      ))}
    </ul>
  );
}
