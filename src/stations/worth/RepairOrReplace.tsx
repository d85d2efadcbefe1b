'use client';
import dynamic from 'next/dynamic';
import type { Settings } from '@/core/case';
import { note } from '@/core/ticket';
import { guessMoney, moneyToDecimal } from '@/core/units';
import { CommitField } from '../shared/CommitField';
import { NotYours } from '../shared/NotYours';
import { Mark, Why } from '@/ui';
import {
  capital,
  formatPercent,
  formatRate,
  formatTimes,
  formatYears,
  listOf,
  outOfHundred,
  spreadWords,
  tippingWords,
  UNKNOWN_WORDS,
} from '@/words';
import { NewMachine } from './NewMachine';
import { RuleLines } from './RuleLines';
import { WaysOut } from './WaysOut';
import type { WorthProps } from './WorthProps';

const WORTH_FIGURES = ['disruption', 'latePerDay', 'rho', 'rules'] as const;
/** Knowing something that saves less than this on average, in units of money, is not worth a word. */
const WORTH_A_WORD = 1;

const LimitCurve = dynamic(() => import('./LimitCurve').then((module) => module.LimitCurve), { ssr: false });

/** The phone question: one sentence for the customer, the figures behind it for the shop, and what would turn the answer. */
export function RepairOrReplace(props: WorthProps & { quote: number }) {
  const { worth, tips, causes, machine, age, market, conditions, settings, defaults, quote, state, ask } = props;
  const { currency } = settings;
  if (!worth) return null;
  const moves = tips?.unknowns.find(({ worth: saves }) => saves >= WORTH_A_WORD);
  return (
    <section aria-label="Repair or replace" className="flex flex-col gap-3 border-t border-line pt-3">
      <h3 className="text-[15px] font-semibold">Repair or replace</h3>
      <div className="grid gap-4 lg:grid-cols-[1fr_18rem]">
        <div className="flex flex-col gap-1.5 text-[15px]">
          <p>
            <Why label="In how many draws" because={drawsBecause(worth.draws, causes.decided)}>
              In {outOfHundred(worth.probabilityRepair)} repair is cheaper
            </Why>
            {worth.spread[1] < 0 ? '; else dearer, ' : ', '}
            <Why
              label="How wide"
              because="10 to 90 % of the draws lie between these: how long parts last, what they cost, what a new one costs, and while it is open the cause."
            >
              {spreadWords(worth.spread, currency)}
            </Why>
            {worth.rho > 0 ? <PerYear {...props} /> : <>. Later money counts in full.</>}
          </p>
          {tips ? <p data-testid="tipping">{capital(tippingWords(worth, tips, currency).join('; '))}.</p> : null}
          {moves ? (
            <p>
              What could be known and moves it most: {UNKNOWN_WORDS[moves.id].what}. To know it would save{' '}
              <Why
                label="Worth of knowing"
                because="The expected value of perfect information: how much better one decides on average when this is known beforehand, all else as expected."
              >
                {formatRate(moves.worth, currency)} on average
              </Why>
              : {UNKNOWN_WORDS[moves.id].how}.
            </p>
          ) : null}
          <Conditions conditions={conditions} />
          {machine.designs.length > 0 ? (
            <Mark tone="doubt">
              Lives, and the usual prices of parts that nobody named, are defaults of the trade, not yours.
            </Mark>
          ) : null}
          <CommitField
            label="A day without a machine costs this customer"
            unit={currency}
            inputMode="decimal"
            autoComplete="off"
            className="max-w-72"
            draftKey={`day-without ${state.ticketId}`}
            committed={state.dayWithout ? moneyToDecimal(state.dayWithout) : ''}
            commit={async (text) => {
              const read = guessMoney(text, currency);
              if (text !== '' && (!read.ok || read.value.amountMinor < 0)) return false;
              return ask(note({ type: 'day-without-noted', perDay: text !== '' && read.ok ? read.value : null }));
            }}
            note={
              state.dayWithout
                ? 'As they say it. Empty: as the shop counts.'
                : `Counted is ${dayCounted(settings)}, until it washes again.`
            }
          />
          <NotYours settings={settings} defaults={defaults} of={WORTH_FIGURES} />
        </div>
        <LimitCurve worth={worth} ageYears={worth.readAtAge} quote={quote} currency={currency} />
      </div>
      <WaysOut {...props} />
      {market ? <NewMachine key={JSON.stringify(market)} market={market} settings={settings} /> : null}
      {tips ? <RuleLines tips={tips} worth={worth} settings={settings} ageYears={age.years} /> : null}
    </section>
  );
}

const dayCounted = ({ latePerDay, currency }: Settings): string => `${moneyToDecimal(latePerDay)} ${currency}`;

const drawsBecause = (draws: number, decided: boolean): string =>
  `The life data and prices are drawn ${draws} times within their uncertainty; this is the share of draws in which repairing is not dearer. ${decided ? 'The offer itself is firm.' : 'While the cause is open, each that is likely counts by its chance with its own price.'}`;

function PerYear({ worth, settings, age }: WorthProps) {
  if (!worth) return null;
  const { currency, rho } = settings;
  const spread = ([low, high]: [number, number]) => `${formatRate(low, currency)} and ${formatRate(high, currency)}`;
  return (
    <>
      .{' '}
      <Why
        label="Repair, per year"
        because={`Present value of paying this offer now and owning the machine on by the best policy, times ${formatPercent(rho)} a year. 10 to 90 % of the draws lie between ${spread(worth.spreadRepair)}.`}
      >
        <strong>{formatRate(worth.annualRepair, currency)} a year repaired</strong>
      </Why>
      {', '}
      <Why
        label="Replace, per year"
        because={`The same for a new machine, delivered, the old one taken away, replaced again and again. 10 to 90 %: between ${spread(worth.spreadReplace)}.`}
      >
        <strong>{formatRate(worth.annualReplace, currency)} a year new</strong>
      </Why>
      . Now {formatYears(age.years)} old, it may be kept{' '}
      <Why
        label="Years left"
        because={`Expected, by the best policy of repairing and replacing, from today. A new one is kept ${formatYears(worth.yearsNew)}.`}
      >
        {formatYears(worth.yearsLeft)} more
      </Why>
      .
    </>
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
