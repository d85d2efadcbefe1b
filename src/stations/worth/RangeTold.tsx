'use client';
import { speakable } from '@/core/case';
import { acceptedOption, note } from '@/core/ticket';
import { Button, Mark, Why } from '@/ui';
import { formatMoment, formatMoney, formatMoneyRange } from '@/words';
import type { WorthProps } from './WorthProps';

/** What the customer was told while the cause was open, and whether the offer keeps to it; until then, one touch notes that it was told. */
export function RangeTold({ state, causes, range, offer: made, settings: { currency }, ask, at }: WorthProps) {
  const told = state.rangeTold;
  const open = !causes.decided && range !== null && !state.round.offer;
  if (!told && !open) return null;
  const said = range && speakable(range, currency);
  const priced =
    acceptedOption(state.round)?.gross ?? state.round.offer?.options[0]?.gross ?? made?.quote.options[0]?.gross;
  const isDearer =
    told &&
    causes.decided &&
    priced &&
    priced.currency === told.high.currency &&
    priced.amountMinor > told.high.amountMinor;
  const isSame =
    told && said && told.low.amountMinor === said.low.amountMinor && told.high.amountMinor === said.high.amountMinor;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 text-[15px]">
      {told ? (
        <p>
          Told {formatMoment(told.at, at.now, at.zone)}: {formatMoneyRange(told.low, told.high)}.{' '}
          {isDearer ? <Mark tone="doubt">It comes to {formatMoney(priced)}: say so before anything else.</Mark> : null}
        </p>
      ) : null}
      {open && said && !isSame ? (
        <>
          <Button onClick={() => void ask(note({ type: 'range-told', ...said }))}>
            Told the customer: {formatMoneyRange(said.low, said.high)}
          </Button>
          <Why
            label="What telling the range is for"
            because="Eight in ten repairs should come to a price between these. What is told is kept: the offer says when it comes to more, and Records show how often it held."
          >
            Why note it
          </Why>
        </>
      ) : null}
    </div>
  );
}
