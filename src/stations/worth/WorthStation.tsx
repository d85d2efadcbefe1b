'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT } from '../shared/StationProps';
import { offerOf } from '@/core/case';
import { acceptedOption, answerOffer, offer, type OfferedLine, type OfferedOption } from '@/core/ticket';
import { toMajor, type Money } from '@/core/units';
import { NotYours } from '../shared/NotYours';
import { ShakenNote } from '../shared/Shaken';
import { Button, cx, Mark, notice, Why } from '@/ui';
import {
  formatDate,
  formatMinutes,
  formatMoney,
  formatPercent,
  formatRate,
  formatSince,
  formatTimes,
  formatYears,
  listOf,
  lineAmountWords,
  chargedWords,
  lineWords,
  missingTypeWords,
  optionWords,
  promiseWords,
  plural,
  troubleWords,
} from '@/words';
import { NewMachine } from './NewMachine';
import { printQuote } from './quotePdf';
import type { WorthProps } from './WorthProps';
import { NotAmongThem } from './NotAmongThem';
import { RuleLines } from './RuleLines';

/** The shop's figures behind an offer, and behind repair against replace. */
const OFFER_FIGURES = [
  'labourPerHour',
  'partsMarkupBasisPoints',
  'reserveBasisPoints',
  'taxBasisPoints',
  'inspectionFee',
] as const;
const WORTH_FIGURES = ['disruption', 'rho', 'rules'] as const;

const LimitCurve = dynamic(() => import('./LimitCurve').then((module) => module.LimitCurve), { ssr: false });

export function WorthLine({ state, causes, offer: made, range, next, settings, at }: WorthProps) {
  const { offer, answer } = state.round;
  const accepted = acceptedOption(state.round);
  const again = next.shaken.some(({ decision }) => decision === 'offer') ? (
    <>
      {' '}
      <Mark tone="doubt">look again</Mark>
    </>
  ) : null;
  if (accepted)
    return (
      <>
        <strong>{formatMoney(accepted.gross)}</strong> · the customer said yes to “{optionWords(accepted)}”{again}
      </>
    );
  if (answer?.answer === 'no') return <>the customer said no</>;
  if (offer)
    return (
      <>
        offered {offer.options.map((option) => formatMoney(option.gross)).join(' or ')} · waits since{' '}
        {formatSince(offer.at, at.now, at.zone)}
        {again}
      </>
    );
  const first = made?.quote.options[0];
  if (causes.decided && first)
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

/** What was offered, and what stands in its place today: the offer is what is accepted and printed. */
function shownOptions({ state, offer: made }: WorthProps): { options: ShownOption[]; today: ShownOption[] } {
  const today = made?.quote.options ?? [];
  const offered = state.round.offer?.options;
  return { options: offered ? [...offered] : [...today], today: [...today] };
}

/** Makes the PDF, and says what of it the device cannot write. */
async function print(props: WorthProps): Promise<void> {
  try {
    const missing = await printQuote(props);
    if (missing.length) notice(missingTypeWords(missing));
  } catch (error) {
    notice(`No PDF was made: ${troubleWords(error)}. The offer is as it was.`);
  }
}

export function WorthStation(props: WorthProps) {
  const {
    state,
    causes,
    offer: made,
    range,
    machine,
    age,
    bench,
    next,
    market,
    conditions,
    worth,
    settings,
    defaults,
    ask,
    at,
  } = props;
  const { round } = state;
  const [picked, setPicked] = useState<string>('best-fit');
  const { options, today } = shownOptions(props);
  const cause = causes.lead?.way.cause;
  if (!made || options.length === 0)
    return (
      <Question
        title="There is nothing to price yet"
        why="Once the machine is known there is a first range, wide as it is."
      />
    );
  const accepted = acceptedOption(round);
  const option = options.find((entry) => entry.id === (accepted?.id ?? picked)) ?? options[0];
  const chosenWay = made.options.find(({ id }) => id === option?.id);
  // Of an offer that was made, as it was made.
  const promiseOf = (entry: ShownOption) =>
    promiseWords({ ...made.options.find(({ id }) => id === entry.id), ...entry });
  const draft = offerOf(props);
  const shaken = next.shaken.filter(({ decision }) => decision === 'offer');
  const give = () => draft && void ask(offer(draft));
  const differs = round.offer && option ? differenceToday(option, today) : null;
  return (
    <div className="flex flex-col gap-4">
      <Question
        title={
          accepted
            ? 'What was agreed'
            : round.offer
              ? 'What does the customer say?'
              : causes.decided
                ? 'The offer'
                : 'What can be said so far'
        }
        why={
          causes.decided
            ? undefined
            : range
              ? `The cause is open: between ${formatRate(range.low, settings.currency)} and ${formatRate(range.high, settings.currency)}, tax included. Below: if it is ${cause?.name.toLowerCase() ?? ''}.`
              : undefined
        }
      />
      <ShakenNote shaken={shaken} of="offer" ask={ask} />
      <div role="radiogroup" aria-label="Ways to offer" className="grid gap-2.5 xl:grid-cols-3">
        {options.map((entry) => (
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
            <span className="text-[15px]">{optionWords(entry)}</span>
            {promiseOf(entry) ? <span className="text-[15px] text-soft">{promiseOf(entry)}</span> : null}
            {entry.readyOn ? (
              <span className="mt-auto pt-1 text-[15px] text-soft">ready {formatDate(entry.readyOn, at.today)}</span>
            ) : null}
          </button>
        ))}
      </div>
      {option ? (
        <QuoteTable option={option} minutes={option.handsOnMinutes} planned={bench?.plan.separateMinutes ?? 0} />
      ) : null}
      <NotYours settings={settings} defaults={defaults} of={OFFER_FIGURES} />
      {chosenWay?.weldedTub ? (
        <Mark tone={chosenWay.weldedTub === 'opened' ? 'doubt' : 'stop'}>
          {chosenWay.weldedTub === 'opened'
            ? 'The tub is welded: it is cut open and bolted together again. Long, and it needs a cure.'
            : 'The tub is welded and this shop does not open welded tubs (Shop settings).'}
        </Mark>
      ) : null}
      {accepted ? null : <NotAmongThem {...props} />}
      {differs ? (
        <p className="text-[15px] text-soft">
          Today this would be {formatMoney(differs)}: what was offered is what is paid
          {accepted ? '' : ', until it is offered again'}.
        </p>
      ) : null}
      <div className="flex flex-wrap gap-2.5">
        {round.offer && !shaken.length ? null : (
          <Button tone="main" hint="d" disabled={!draft} onClick={give} {...DO_NEXT}>
            {round.offer ? 'Offer anew, at today’s prices' : 'Offer this to the customer'}
          </Button>
        )}
        {round.offer && !accepted ? (
          <>
            <Button
              tone="main"
              hint="d"
              disabled={shaken.length > 0}
              onClick={() => void ask(answerOffer('yes', option?.id ?? null))}
              {...(shaken.length ? {} : DO_NEXT)}
            >
              Yes, to “{option ? optionWords(option) : ''}”
            </Button>
            <Button onClick={() => void ask(answerOffer('thinking', null))}>Thinking about it</Button>
            <Button tone="stop" onClick={() => void ask(answerOffer('no', null))}>
              No
            </Button>
          </>
        ) : null}
        {round.offer && !shaken.length && !accepted ? (
          <Button onClick={give}>Offer anew, at today’s prices</Button>
        ) : null}
        <Button onClick={() => void print(props)}>Print the offer (PDF)</Button>
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
              . At {formatYears(age.years)} a repair may cost up to{' '}
              <strong>{worth.limit > 0 ? formatRate(worth.limit, settings.currency) : 'nothing'}</strong>. In{' '}
              {formatPercent(worth.probabilityRepair)} of the draws repairing is cheaper.
            </p>
            <Conditions conditions={conditions} />
            {machine.designs.length > 0 ? (
              <Mark tone="doubt">
                Lives, and the usual prices of parts that nobody named, are defaults of the trade, not yours.
              </Mark>
            ) : null}
            {market ? <NewMachine key={JSON.stringify(market)} market={market} settings={settings} /> : null}
            <NotYours settings={settings} defaults={defaults} of={WORTH_FIGURES} />
            <RuleLines worth={worth} currency={settings.currency} />
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

/** What was seen of the machine and its place, and what that does to the figures. */
function Conditions({ conditions: { seen, rescues } }: Pick<WorthProps, 'conditions'>) {
  if (seen.length === 0) return null;
  return (
    <p>
      Seen:{' '}
      <Why
        label="What its condition does"
        because={
          <>
            {seen.map(({ id, name, lifeFactor, causes, staysWithHouse }) => (
              <span key={id} className="block">
                {name}: {causes.length ? 'some parts last' : 'everything lasts'} {formatPercent(lifeFactor)} as long
                {staysWithHouse === 'yes' ? ', in a new machine too' : ''}.
              </span>
            ))}
            {rescues > 1 ? `Something will not come ${formatTimes(rescues)} as often: it is in the minutes.` : ''}
          </>
        }
      >
        {listOf(seen.map(({ name }) => name))}
      </Why>
      : it is in these figures.
    </p>
  );
}

type ShownOption = Pick<
  OfferedOption,
  'id' | 'kind' | 'fixName' | 'cure' | 'lifeShare' | 'net' | 'tax' | 'gross' | 'handsOnMinutes' | 'readyOn'
> & {
  causeNames: readonly string[];
  lines: readonly OfferedLine[];
};

/** What the same option comes to today; null where it is the same, or there is none like it. */
function differenceToday(option: ShownOption, today: readonly ShownOption[]): Money | null {
  const now = today.find(({ id }) => id === option.id);
  return now && now.gross.amountMinor !== option.gross.amountMinor ? now.gross : null;
}

function QuoteTable({ option, minutes, planned }: { option: ShownOption; minutes: number; planned: number }) {
  const asked = option.lines.filter(({ amounts }) => amounts === null).length;
  return (
    <table className="w-full text-[15px]">
      <tbody>
        {option.lines.map((line, index) => (
          <tr key={index} className="border-b border-line">
            <td className="py-1 pr-3">
              {line.kind === 'labour' ? (
                <Why label={lineWords(line)} because={chargedWords(line.minutes ?? 0, minutes)}>
                  {lineWords(line)}
                </Why>
              ) : (
                lineWords(line)
              )}{' '}
              {line.partNumber ? <span className="font-mono text-soft">{line.partNumber}</span> : null}
            </td>
            <td className="py-1 text-right whitespace-nowrap">
              {line.amounts ? lineAmountWords(line) : <Mark tone="doubt">{lineAmountWords(line)}</Mark>}
            </td>
          </tr>
        ))}
        <tr className="border-b border-line text-soft">
          <td className="py-1">tax</td>
          <td className="py-1 text-right">{formatMoney(option.tax)}</td>
        </tr>
        <tr className="text-lg font-bold">
          <td className="py-1">
            {asked ? `to pay, without ${plural(asked, 'part')} to be asked` : 'to pay'}{' '}
            <span className="text-[15px] font-normal text-soft">
              {formatMinutes(minutes)} hands-on
              {planned - minutes > 1 ? `, ${formatMinutes(planned - minutes)} saved by a shared way in` : ''}
            </span>
          </td>
          <td className="py-1 text-right whitespace-nowrap" data-testid="to-pay">
            {formatMoney(option.gross)}
          </td>
        </tr>
      </tbody>
    </table>
  );
}
