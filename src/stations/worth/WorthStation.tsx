'use client';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT } from '../shared/StationProps';
import { offerOf, type Choice } from '@/core/case';
import { acceptedOption, offer, type OfferedLine, type OfferedOption } from '@/core/ticket';
import { toMajor, type Money } from '@/core/units';
import { NotYours } from '../shared/NotYours';
import { WhoPays } from '../shared/WhoPays';
import { ShakenNote } from '../shared/Shaken';
import { Button, cx, Mark, notice, Why } from '@/ui';
import {
  capital,
  choiceBecause,
  choiceWords,
  customerWords,
  formatDate,
  formatMinutes,
  formatMoney,
  formatRange,
  formatSince,
  lineAmountWords,
  chargedWords,
  lineWords,
  missingTypeWords,
  optionWords,
  promiseWords,
  plural,
  troubleWords,
} from '@/words';
import { choicesShown, otherWords } from './choicesShown';
import { printQuote } from './quotePdf';
import type { WorthProps } from './WorthProps';
import { CustomerAnswer } from './CustomerAnswer';
import { NotAmongThem } from './NotAmongThem';
import { RangeTold } from './RangeTold';
import { RepairOrReplace } from './RepairOrReplace';
import { Terms } from './Terms';
import { WhileOpen } from './WhileOpen';

/** The shop's figures behind an offer. */
const OFFER_FIGURES = [
  'labourPerHour',
  'partsMarkupBasisPoints',
  'reserveBasisPoints',
  'taxBasisPoints',
  'inspectionFee',
] as const;

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
    <span className="text-soft">{formatRange(range.low, range.high, settings.currency)} while the cause is open</span>
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
  const { state, causes, offer: made, range, bench, next, worth, settings, defaults, ask, at } = props;
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
  const choices = choicesShown(props.choices, options);
  const choiceOf = (id: string) => choices.find((choice) => choice.id === id);
  const picking = option && choiceOf(option.id);
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
              ? `The cause is open: ${formatRange(range.low, range.high, settings.currency)}, tax included. Below: if it is ${cause?.name.toLowerCase() ?? ''}.`
              : undefined
        }
      />
      <RangeTold {...props} />
      {accepted ? null : <WhoPays {...props} />}
      {worth && !accepted ? (
        <p className="max-w-3xl text-xl leading-snug font-semibold" data-testid="to-the-customer">
          {customerWords(worth, causes.decided, settings.currency)}{' '}
          {otherWords(props.choices, options, settings.currency)}
        </p>
      ) : null}
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
            <Against choice={choiceOf(entry.id)} currency={settings.currency} />
            {entry.readyOn ? (
              <span className="mt-auto pt-1 text-[15px] text-soft">ready {formatDate(entry.readyOn, at.today)}</span>
            ) : null}
          </button>
        ))}
      </div>
      {picking ? (
        <p className="text-[15px]">
          <Why label="This way against a new one" because={choiceBecause(picking, settings.currency)}>
            {capital(choiceWords(picking, settings.currency))}
          </Why>
          , in the long run
        </p>
      ) : null}
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
      {round.offer && !accepted ? (
        <CustomerAnswer
          option={option ? { id: option.id, name: option } : null}
          isShaken={shaken.length > 0}
          ask={ask}
        />
      ) : null}
      <div className="flex flex-wrap gap-2.5">
        {round.offer && !shaken.length ? null : (
          <Button tone="main" hint="d" disabled={!draft} onClick={give} {...DO_NEXT}>
            {round.offer ? 'Offer anew, at today’s prices' : 'Offer this to the customer'}
          </Button>
        )}
        {round.offer && !shaken.length && !accepted ? (
          <Button onClick={give}>Offer anew, at today’s prices</Button>
        ) : null}
        <Button onClick={() => void print(props)}>Print the offer (PDF)</Button>
      </div>
      <Terms {...props} optionId={option?.id ?? null} />
      {accepted ? null : <WhileOpen {...props} />}
      <RepairOrReplace {...props} quote={option ? toMajor(option.gross) : 0} />
    </div>
  );
}

function Against({ choice, currency }: { choice: Choice | undefined; currency: string }) {
  return choice ? <span className="text-[15px] font-medium">{choiceWords(choice, currency)}</span> : null;
}

type ShownOption = Pick<
  OfferedOption,
  'id' | 'kind' | 'fixName' | 'cure' | 'lifeShare' | 'net' | 'tax' | 'gross' | 'deposit' | 'handsOnMinutes' | 'readyOn'
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
        {option.deposit ? (
          <tr className="border-b border-line text-soft">
            <td className="py-1">of it before the parts are ordered</td>
            <td className="py-1 text-right">{formatMoney(option.deposit)}</td>
          </tr>
        ) : null}
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
