'use client';
import { Fragment, useMemo, useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT } from '../shared/StationProps';
import { ReadingField } from '../shared/ReadingField';
import { WhyItFailed } from '../shared/WhyItFailed';
import { cureOf, finishBench, sameStep } from '@/core/ticket';
import type { Instant } from '@/core/units';
import type { SheetSection } from '@/core/bench';
import { Button, Folded, Mark, Select, useBell } from '@/ui';
import {
  formatHours,
  formatMinutes,
  formatMoment,
  listOf,
  plural,
  measuredWords,
  shakenWords,
  verdictWords,
} from '@/words';
import { saveCure } from './cureCalendar';
import { Beforehand } from './Beforehand';
import { BeyondAgreed } from './BeyondAgreed';
import { CountHome } from './CountHome';
import { Helpers } from './Helpers';
import { LoosePictures } from './LoosePictures';
import { Parked } from './Parked';
import { StateStrip } from './StateStrip';
import { StepRow } from './StepRow';
import { WayDrawn } from './WayDrawn';
import { Worker } from './Worker';
import type { BenchProps, Shown } from './BenchProps';

export type { BenchProps } from './BenchProps';

const SECTION_NAMES = {
  strip: 'Strip down, in this order',
  work: 'The job',
  refit: 'Refit, in this order',
} as const;

const DONE_NAMES = { strip: 'Stripped down', work: 'The job: done', refit: 'Back together' } as const;

/** Until when a joint of this round cures, if it still does. */
const curingUntil = ({ state, at }: Pick<BenchProps, 'state' | 'at'>): Instant | null => {
  const until = cureOf(state.round)?.waitUntil ?? null;
  return until !== null && until > at.now ? until : null;
};

export function BenchLine({ state, bench, at }: BenchProps) {
  const { finished, parked } = state.round;
  if (finished) return <>done {formatMoment(finished.at, at.now, at.zone)}</>;
  if (!bench) return <span className="text-soft">no work sheet yet</span>;
  const { sheet, plan } = bench;
  const until = curingUntil({ state, at });
  if (sheet.done > 0)
    return (
      <>
        {sheet.done} of {plural(sheet.total, 'step')} · {formatMinutes(sheet.remainingMinutes)} left
        {parked ? ' · parked, open' : ''}
        {until ? ` · cures until ${formatMoment(until, at.now, at.zone)}` : ''}
      </>
    );
  return (
    <span className="text-soft">
      {plural(sheet.total, 'step')}, {formatMinutes(plan.expectedMinutes)} hands-on, 9 in 10 under{' '}
      {formatMinutes(plan.ninetyPercentMinutes)}
      {plan.elapsedHours > 0 ? `, then ${formatHours(plan.elapsedHours)} for the joint` : ''}
      {sheet.people > 1 ? ` · ${sheet.people} people` : ''}
    </span>
  );
}

export function BenchStation(props: BenchProps) {
  const { bench } = props;
  if (!bench) return <Question title="No work sheet yet" why="It follows from the cause." />;
  return <Sheet {...props} bench={bench} />;
}

function Sheet(props: BenchProps & { bench: Shown }) {
  const { bench, next, at } = props;
  const { sheet, plan } = bench;
  const until = curingUntil(props);
  const curing = until && formatMoment(until, at.now, at.zone);
  const skinUntil = props.state.round.bead?.skinUntil;
  useBell(
    useMemo(() => (skinUntil ? [skinUntil] : []), [skinUntil]),
    at.now,
  );
  const together = sheet.sections.flatMap(({ steps }) => steps).filter(({ people }) => people > 1);
  return (
    <div className="flex flex-col gap-4">
      <StateStrip sheet={sheet} curing={curing} />
      {until ? (
        <Button
          tone="quiet"
          className="self-start"
          onClick={() =>
            void saveCure(props.state.number, props.state.plate?.modelNumber ?? props.state.plateNotListed ?? '', until)
          }
        >
          The end of the cure into a calendar
        </Button>
      ) : null}
      <Parked {...props} curing={curing} />
      <Question
        title={
          sheet.next === null
            ? 'Everything is ticked'
            : `${formatMinutes(sheet.remainingMinutes)} to go, ${sheet.done} of ${plural(sheet.total, 'step')} done`
        }
        why={`Nine in ten such jobs take under ${formatMinutes(plan.ninetyPercentMinutes)}. Tools: ${listOf(sheet.tools) || 'none'}.${together.length ? ` Two people: ${listOf(together.map(({ title }) => title.toLowerCase()))}.` : ''}`}
      />
      <WayDrawn sheet={sheet} />
      <Worker {...props} />
      <Beforehand {...props} />
      <BeyondAgreed {...props} />
      {next.shaken.length ? <Mark tone="doubt">{shakenWords(next.shaken)}</Mark> : null}
      {plan.unreachable.length ? (
        <Mark tone="stop">The access graph of this platform does not reach: {listOf(plan.unreachable)}.</Mark>
      ) : null}
      {sheet.sections.map((section) =>
        section.steps.length ? <Section key={section.kind} {...props} section={section} /> : null,
      )}
      <LoosePictures {...props} />
      <WhyItFailed {...props} />
      <Helpers {...props} />
      <Measured {...props} />
      <Finish {...props} curing={curing !== null} />
    </div>
  );
}

/** The steps of one section; folded away once all of them are done. */
function Section({ section, ...props }: BenchProps & { bench: Shown; section: SheetSection }) {
  const { next, count } = props.bench.sheet;
  const { kind, steps } = section;
  const list = (
    <ol>
      {steps.map((step) => (
        <Fragment key={step.step.operationId}>
          {count && sameStep(count.closing, step.step) ? <CountHome {...props} count={count} /> : null}
          <StepRow {...props} step={step} isNext={next !== null && sameStep(step.step, next)} />
        </Fragment>
      ))}
    </ol>
  );
  if (steps.every(({ tickedAt }) => tickedAt !== null) && next !== null)
    return (
      <Folded title={DONE_NAMES[kind]} aside={plural(steps.length, 'step')}>
        {list}
      </Folded>
    );
  return (
    <div>
      <h3 className="mb-1 font-semibold">{SECTION_NAMES[kind]}</h3>
      {list}
    </div>
  );
}

function Measured(props: BenchProps) {
  const { state, lore } = props;
  const [limitId, setLimitId] = useState('');
  const limit = lore.limits.find((entry) => entry.id === limitId);
  return (
    <div className="flex flex-col gap-2 border-t border-line pt-3">
      <Select
        label="Note a reading"
        className="max-w-sm"
        value={limitId}
        onChange={setLimitId}
        empty="choose what was measured"
        options={lore.limits.map((entry) => ({ value: entry.id, text: `${entry.label} (${entry.unit})` }))}
      />
      {limit ? <ReadingField {...props} limit={limit} key={limit.id} /> : null}
      {state.readings.map((reading) => (
        <p key={reading.limitId} className="text-[15px]">
          {reading.label}: <strong>{measuredWords(reading)}</strong>. {verdictWords(reading, reading.unit)}.
        </p>
      ))}
    </div>
  );
}

/** All screws, connections and pieces are home before the sheet is left. */
function Finish({ state, bench, ask, curing }: BenchProps & { bench: Shown; curing: boolean }) {
  const { sheet, plan, proofs } = bench;
  if (state.round.finished) return null;
  const ready = sheet.next === null;
  const left = state.pieces.filter(({ home }) => !home);
  const finish = () =>
    ask(
      finishBench(
        plan.strip.map((step) => step.operationId),
        proofs.map(({ proof }) => proof.id),
      ),
    );
  return (
    <div className="flex flex-col gap-2">
      {left.length ? (
        <Mark tone="stop">Not home: {listOf(left.map(({ piece, text }) => `piece ${piece} (${text})`))}.</Mark>
      ) : null}
      <Button
        tone={ready ? 'main' : 'plain'}
        className="self-start"
        hint={ready ? 'd' : undefined}
        disabled={!ready || curing}
        onClick={() => void finish()}
        {...(ready ? DO_NEXT : {})}
      >
        Nothing left over: on to the proof
      </Button>
    </div>
  );
}
