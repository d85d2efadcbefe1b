'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { partsChosen, quoteGiven } from '@/core/case';
import { toMajor } from '@/core/units';
import { Button, cx, Mark, Why } from '@/ui';
import { formatDate, formatMinutes, formatMoney, formatPercent, formatRate, formatSince, formatYears } from '@/words';
import { printQuote } from './quotePdf';
import { RuleLines } from './RuleLines';

const LimitCurve = dynamic(() => import('./LimitCurve').then((module) => module.LimitCurve), { ssr: false });

export function WorthLine({ state, assessment, settings, at }: StationProps) {
  const range = assessment.quoteRange;
  const accepted = state.quoted?.options.find((option) => option.id === state.answer?.optionId);
  if (accepted)
    return (
      <>
        <strong>{formatMoney(accepted.gross)}</strong> · the customer said yes to “{accepted.title}”
      </>
    );
  if (state.answer?.answer === 'no') return <>the customer said no</>;
  if (state.quoted)
    return (
      <>
        offered {state.quoted.options.map((option) => formatMoney(option.gross)).join(' or ')} · waits since{' '}
        {formatSince(state.quoted.at, at.now, at.zone)}
      </>
    );
  const first = assessment.quote?.options[0];
  if (assessment.decided && first)
    return (
      <span className="text-soft">
        {formatMoney(first.gross)} repaired{first.readyOn ? `, ready ${formatDate(first.readyOn, at.today)}` : ''}
      </span>
    );
  if (!range) return <span className="text-soft">no price yet</span>;
  return (
    <span className="text-soft">
      between {formatRate(range.low, settings.currency)} and {formatRate(range.high, settings.currency)} while the cause
      is open
    </span>
  );
}

export function WorthStation(props: StationProps) {
  const { state, assessment, settings, record, at } = props;
  const [picked, setPicked] = useState<string>('best-fit');
  const { quote, worth } = assessment;
  if (!quote)
    return (
      <Question
        title="There is nothing to price yet"
        why="Once the machine is known there is a first range, wide as it is."
      />
    );
  const option = quote.options.find((entry) => entry.id === picked) ?? quote.options[0];
  const given = quoteGiven(assessment);
  const answer = async (yes: 'yes' | 'no' | 'thinking') => {
    const repair = assessment.options.find((entry) => entry.id === option?.id);
    const causeId = assessment.cause?.id;
    const events = [
      { type: 'customer-answered' as const, answer: yes, optionId: yes === 'yes' ? (option?.id ?? null) : null },
    ];
    if (yes === 'yes' && repair && causeId && repair.id !== 'best-fit')
      await record(partsChosen(repair, causeId), ...events);
    else await record(...events);
  };
  return (
    <div className="flex flex-col gap-4">
      <Question
        title={
          state.quoted ? 'What does the customer say?' : assessment.decided ? 'The offer' : 'What can be said so far'
        }
        why={
          assessment.decided
            ? undefined
            : assessment.quoteRange
              ? `The cause is open: between ${formatRate(assessment.quoteRange.low, settings.currency)} and ${formatRate(assessment.quoteRange.high, settings.currency)}, tax included. Below: if it is ${assessment.cause?.name.toLowerCase() ?? ''}.`
              : undefined
        }
      />
      <div role="radiogroup" aria-label="Ways to offer" className="grid gap-2.5 xl:grid-cols-3">
        {quote.options.map((entry) => (
          <button
            key={entry.id}
            type="button"
            role="radio"
            aria-checked={entry === option}
            onClick={() => setPicked(entry.id)}
            className={cx(
              'flex min-h-11 flex-col rounded-sm border-[1.5px] bg-sheet px-3 py-2 text-left',
              entry === option ? 'border-mark pl-4 shadow-[inset_5px_0_0_var(--mark)]' : 'border-line',
            )}
          >
            <span className="text-lg font-semibold">{formatMoney(entry.gross)}</span>
            <span className="text-[15px]">{entry.title}</span>
            {entry.readyOn ? (
              <span className="mt-auto pt-1 text-[15px] text-soft">ready {formatDate(entry.readyOn, at.today)}</span>
            ) : null}
          </button>
        ))}
      </div>
      {option ? (
        <QuoteTable option={option} minutes={option.handsOnMinutes} planned={assessment.plan?.separateMinutes ?? 0} />
      ) : null}
      <div className="flex flex-wrap gap-2.5">
        {state.quoted ? null : (
          <Button tone="main" hint="d" disabled={!given} onClick={() => given && void record(given)} {...DO_NEXT}>
            Offer this to the customer
          </Button>
        )}
        {state.quoted && state.answer?.answer !== 'yes' ? (
          <>
            <Button tone="main" hint="d" onClick={() => void answer('yes')} {...DO_NEXT}>
              Yes, to “{option?.title}”
            </Button>
            <Button onClick={() => void answer('thinking')}>Thinking about it</Button>
            <Button tone="stop" onClick={() => void answer('no')}>
              No
            </Button>
          </>
        ) : null}
        <Button onClick={() => void printQuote(props, quote)}>Print the offer (PDF)</Button>
      </div>
      {worth ? (
        <div className="grid gap-4 lg:grid-cols-[1fr_18rem]">
          <div className="text-[15px]">
            <h3 className="font-semibold">Repair or replace</h3>
            <p>
              <Why
                label="Repair, per year"
                because={`Present value of paying this offer now and owning the machine on by the best policy, times ${formatPercent(settings.rho)} a year. 10 to 90 % of the draws lie between ${formatRate(worth.spreadRepair[0], settings.currency)} and ${formatRate(worth.spreadRepair[1], settings.currency)}.`}
              >
                <strong>{formatRate(worth.annualRepair, settings.currency)} a year repaired</strong>
              </Why>
              {', '}
              <Why
                label="Replace, per year"
                because={`The same for a new machine, delivered, the old one taken away, replaced again and again. 10 to 90 %: ${formatRate(worth.spreadReplace[0], settings.currency)} to ${formatRate(worth.spreadReplace[1], settings.currency)}.`}
              >
                <strong>{formatRate(worth.annualReplace, settings.currency)} a year new</strong>
              </Why>
              . At {formatYears(assessment.age?.years ?? 0)} a repair may cost up to{' '}
              <strong>{worth.limit > 0 ? formatRate(worth.limit, settings.currency) : 'nothing'}</strong>. In{' '}
              {formatPercent(worth.probabilityRepair)} of the draws repairing is cheaper.
            </p>
            <RuleLines worth={worth} currency={settings.currency} />
            {assessment.platform?.tub === 'welded' &&
            assessment.cause?.operations.some((id) => ['swap-bearings', 'swap-spider'].includes(id)) ? (
              <Mark tone={settings.opensWeldedTubs ? 'doubt' : 'stop'}>
                {settings.opensWeldedTubs
                  ? 'The tub is welded: it is cut open and bolted together again. Long, and it needs a cure.'
                  : 'The tub is welded and this shop does not open welded tubs (Shop settings).'}
              </Mark>
            ) : null}
          </div>
          <LimitCurve
            worth={worth}
            ageYears={worth.readAtAge}
            quote={option ? toMajor(option.gross) : 0}
            currency={settings.currency}
          />
        </div>
      ) : null}
    </div>
  );
}

function QuoteTable({
  option,
  minutes,
  planned,
}: {
  option: NonNullable<StationProps['assessment']['quote']>['options'][number];
  minutes: number;
  planned: number;
}) {
  return (
    <table className="w-full text-[15px]">
      <tbody>
        {option.lines.map((line, at) => (
          <tr key={at} className="border-b border-line">
            <td className="py-1 pr-3">
              {line.quantity > 1 ? `${line.quantity} × ` : ''}
              {line.text} {line.partNumber ? <span className="font-mono text-soft">{line.partNumber}</span> : null}
            </td>
            <td className="py-1 text-right whitespace-nowrap">{formatMoney(line.net)}</td>
          </tr>
        ))}
        <tr className="border-b border-line text-soft">
          <td className="py-1">tax</td>
          <td className="py-1 text-right">{formatMoney(option.tax)}</td>
        </tr>
        <tr className="text-lg font-bold">
          <td className="py-1">
            to pay{' '}
            <span className="text-[15px] font-normal text-soft">
              {formatMinutes(minutes)} hands-on
              {planned - minutes > 1 ? `, ${formatMinutes(planned - minutes)} saved by a shared way in` : ''}
            </span>
          </td>
          <td className="py-1 text-right whitespace-nowrap">{formatMoney(option.gross)}</td>
        </tr>
      </tbody>
    </table>
  );
}
