'use client';
import { useState } from 'react';
import { Question } from '../shared/Station';
import {
  cameBack,
  closeTicket,
  fixIdOf,
  handOver,
  noteProof,
  openAgain,
  repairDidNotHelp,
  tellReady,
  TEXT_LIMITS,
} from '@/core/ticket';
import { DO_NEXT } from '../shared/StationProps';
import { Button, Caution, cx, Field, Mark } from '@/ui';
import { formatMinutes, formatMoment, listOf, plural, measuredWords, PROOF_BARS, verdictWords } from '@/words';
import { ReadingField } from '../shared/ReadingField';
import { Pages } from './Pages';
import { RunAgain } from './RunAgain';
import { stepsBehind, type DueProof } from '@/core/bench';

const STAGES = { open: 'While it is open', closed: 'Closed', handover: 'Put back' } as const;

import type { ProofProps } from './ProofProps';

export type { ProofProps } from './ProofProps';

export function ProofLine({ state, bench, at }: ProofProps) {
  const proofs = bench?.proofs ?? [];
  if (state.closed)
    return (
      <>
        closed {formatMoment(state.closed.at, at.now, at.zone)}: {state.closed.outcome.replaceAll('-', ' ')}
      </>
    );
  const passed = proofs.filter((entry) => entry.passed === true).length;
  if (proofs.length === 0) return <span className="text-soft">what must be tested follows from what is disturbed</span>;
  return (
    <span className={passed ? '' : 'text-soft'}>
      {passed ? `${passed} of ` : ''}
      {plural(proofs.length, 'proof')}:{' '}
      {proofs
        .map(({ proof }) => proof.title.toLowerCase())
        .slice(0, 3)
        .join(', ')}{' '}
      …
    </span>
  );
}

export function ProofStation(props: ProofProps) {
  const { state, bench, barred, lore } = props;
  const live = barred.find((entry) => entry.kind === 'live');
  const { round } = state;
  const proofs = bench?.proofs ?? [];
  const open = proofs.filter((entry) => entry.passed !== true);
  const declined = round.answer?.answer === 'no';
  return (
    <div className="flex flex-col gap-4">
      {declined ? (
        <Question title="The customer said no" why="Put it back as it was and hand it over." />
      ) : (
        <Question
          title={open.length ? `${plural(open.length, 'proof')} to pass` : 'Proved mended'}
          why="What was disturbed decides what must be tested; the run that failed is repeated the same way."
        />
      )}
      {live?.kind === 'live' && !declined && open.length ? (
        <Caution>
          {live.why} Nothing is run live before that is mended, and found to be so:{' '}
          {live.liftedBy
            ? (lore.checks.find(({ id }) => id === live.liftedBy?.checkId)?.title.toLowerCase() ?? '')
            : 'look at it again under Findings'}
          .
        </Caution>
      ) : null}
      {declined
        ? null
        : (['open', 'closed', 'handover'] as const).map((stage) => {
            const own = proofs.filter(({ proof }) => proof.stage === stage);
            return own.length ? (
              <div key={stage}>
                <h3 className="mb-1 font-semibold">
                  {STAGES[stage]}
                  {stage === 'closed' && !round.finished ? (
                    <span className="font-normal text-soft">: once the sheet at the bench is finished</span>
                  ) : null}
                </h3>
                <ul>
                  {own.map((due) => (
                    <Proof key={due.proof.id} {...props} due={due} isNext={open[0]?.proof.id === due.proof.id} />
                  ))}
                </ul>
              </div>
            ) : null;
          })}
      {declined || !round.finished ? null : <Pages {...props} />}
      <HandOver {...props} ready={declined || (open.length === 0 && round.finished !== null)} declined={declined} />
    </div>
  );
}

/** A proof that failed: put right what it tests and test again, open it again, or look for another cause with what the proof says. */
function Failed({ state, bench, lore, ask, due: { proof } }: ProofProps & { due: DueProof }) {
  const { round } = state;
  const { cause } = round;
  if (!bench || !cause) return null;
  const failed = bench.proofs.filter((entry) => entry.passed === false);
  const byAnotherWay = fixIdOf(round) !== null;
  const steps = stepsBehind(proof, bench.plan);
  const titles = new Map(bench.plan.refit.map(({ operationId, title }) => [operationId, title]));
  const tested = bench.plan.strip.filter(({ operationId }) => proof.disturbedBy.includes(operationId));
  const seen = failed.flatMap((one) => lore.findings.filter(({ id }) => id === one.proof.saysFindingId));
  const another = repairDidNotHelp(
    cause.causeId,
    undefined,
    seen.map(({ id, threeWords }) => ({ findingId: id, answer: 'yes', threeWords })),
  );
  return (
    <div className="my-2 flex flex-col gap-2 border-l-4 border-stop bg-stop-wash p-3">
      <p>
        It failed. Either something is not put together right
        {tested.length ? `; it tests: ${listOf(tested.map(({ title }) => title.toLowerCase()))}` : ''}. Mend that and
        test again. Or{' '}
        {byAnotherWay ? 'mending it this way did not help, or the cause was another one' : 'the cause was another one'}.
      </p>
      <div className="flex flex-wrap gap-2">
        {steps.length && round.finished ? (
          <Button onClick={() => void ask(openAgain(steps))}>
            Open it again, down to “{titles.get(steps[0]?.operationId ?? '')?.toLowerCase()}”
          </Button>
        ) : null}
        <Button onClick={() => void ask(another)}>
          {byAnotherWay ? 'It did not help: back to the findings' : 'It was another cause: back to the findings'}
        </Button>
      </div>
      {seen.length ? (
        <p className="text-[15px] text-soft">
          Goes with it as found: {listOf(seen.map(({ text }) => text.toLowerCase()))}.
        </p>
      ) : null}
    </div>
  );
}

/** One proof: how, its figure judged against the limit, why it may not be passed yet, and its two answers. */
function Proof({ due, isNext, ...props }: ProofProps & { due: DueProof; isNext: boolean }) {
  const { state, lore, why, ask } = props;
  const { proof, passed, barred, figure } = due;
  const limit = lore.limits.find(({ id }) => id === proof.limitId);
  const reading = state.readings.find(({ limitId }) => limitId === proof.limitId);
  const before = state.readingsBefore.find(({ limitId }) => limitId === proof.limitId);
  const note = (answer: boolean) => ask(noteProof(proof.id, proof.title, answer, barred));
  return (
    <li className={cx('border-b border-line py-1.5', passed === null && isNext && 'bg-mark-wash px-2')}>
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1.5">
        <span className="min-w-0 flex-1 basis-64">
          <strong>{proof.title}</strong> <span className="text-sm text-soft">{formatMinutes(proof.minutes)}</span>
          <span className="block text-[15px] text-soft">{proof.how}</span>
          {proof.id === 'root-cause' && why?.told ? (
            <span className="block text-[15px]">
              {why.signId === undefined
                ? 'Why it failed, most likely; nobody looked at the dead part: '
                : 'Why it failed: '}
              {why.told.name.toLowerCase()}
            </span>
          ) : null}
          {proof.id === 'faults-cleared' && lore.service?.clearFaults ? (
            <span className="block text-[15px]">{lore.service.clearFaults}</span>
          ) : null}
          {figure && reading ? (
            <span className="block text-[15px]">
              Measured <strong>{measuredWords(reading)}</strong>. {verdictWords(reading, reading.unit)}.
              {before ? ` Before: ${measuredWords(before)}.` : ''}
            </span>
          ) : null}
          {barred && barred !== 'not-closed' && passed !== true ? (
            <span className="block text-[15px]">
              <Mark tone="doubt">Not yet: {PROOF_BARS[barred]}.</Mark>
            </span>
          ) : null}
        </span>
        {passed === true ? (
          <Mark tone="sound">passed</Mark>
        ) : (
          <span className="flex gap-2">
            <Button
              tone={isNext ? 'main' : 'plain'}
              aria-label={`Passed: ${proof.title}`}
              aria-disabled={barred !== null}
              className={barred ? 'opacity-55' : ''}
              onClick={() => void note(true)}
              {...(isNext && state.round.finished ? DO_NEXT : {})}
            >
              Passed
            </Button>
            <Button tone="stop" aria-label={`Failed: ${proof.title}`} onClick={() => void note(false)}>
              {passed === false ? 'Failed again' : 'Failed'}
            </Button>
          </span>
        )}
      </div>
      {limit && passed !== true && (isNext || figure) ? <ReadingField {...props} limit={limit} /> : null}
      {passed === false ? <Failed {...props} due={due} /> : null}
      {proof.id === 'failed-cycle' ? <RunAgain {...props} passed={passed === true} /> : null}
    </li>
  );
}

function HandOver({
  state,
  causes,
  why,
  bench,
  ask,
  ready,
  declined,
}: ProofProps & { ready: boolean; declined: boolean }) {
  const [advice, setAdvice] = useState<string | null>(null);
  const cause = causes.lead?.way.cause;
  const text = advice ?? why?.advice ?? cause?.advice ?? '';
  const { toldAt, handedOverAt } = state.round;
  if (state.closed) return <CameBack ask={ask} outcome={state.closed.outcome} />;
  if (!ready) return null;
  if (!declined && !toldAt)
    return (
      <Button tone="main" hint="d" className="self-start" onClick={() => void ask(tellReady())} {...DO_NEXT}>
        The customer knows that it is ready
      </Button>
    );
  if (!handedOverAt)
    return (
      <div className="flex flex-col gap-2.5">
        <Field
          label="How to avoid it, as told to the customer"
          value={text}
          maxLength={TEXT_LIMITS.note}
          onChange={(event) => setAdvice(event.target.value)}
        />
        <Button tone="main" hint="d" className="self-start" onClick={() => void ask(handOver(text))} {...DO_NEXT}>
          Handed over
        </Button>
      </div>
    );
  return <Close state={state} bench={bench} ask={ask} declined={declined} />;
}

/** A closed machine that is on the bench again: the attempt that is over stays readable, a new one begins. */
function CameBack({ ask, outcome }: Pick<ProofProps, 'ask'> & { outcome: string }) {
  return (
    <div className="flex flex-wrap gap-2.5">
      {outcome === 'repaired' ? (
        <Button onClick={() => void ask(cameBack(true))}>It came back with the same fault</Button>
      ) : null}
      <Button onClick={() => void ask(cameBack(false))}>It is here again, for something else</Button>
    </div>
  );
}

function Close({ state, bench, ask, declined }: Pick<ProofProps, 'state' | 'bench' | 'ask'> & { declined: boolean }) {
  const listed = bench?.listMinutes ?? null;
  const planned = bench?.plan.handsOnMinutes ?? null;
  const needed = state.round.parts.length > 0;
  // What the clock at the bench measured, where it was used.
  const clocked = Math.round(state.round.clock.minutes);
  const [minutes, setMinutes] = useState(clocked > 0 ? String(clocked) : '');
  const [right, setRight] = useState(true);
  const [kept, setKept] = useState(false);
  const taken = minutes.trim() === '' ? null : Number(minutes.replace(',', '.'));
  const wrong = taken !== null && !(Number.isFinite(taken) && taken >= 0);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong)
          void ask(
            closeTicket({
              outcome: declined ? 'declined' : 'repaired',
              takenMinutes: taken,
              listMinutes: declined ? null : listed,
              rightFirstTime: declined || !needed ? null : right,
              ...(declined && kept ? { keptAsDonor: true } : {}),
            }),
          );
      }}
    >
      {declined ? (
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-6 accent-mark"
            checked={kept}
            onChange={(event) => setKept(event.target.checked)}
          />
          The machine stays here as a donor of parts
        </label>
      ) : (
        <>
          <Field
            label={`Minutes it really took${planned === null ? '' : ` (planned ${Math.round(planned)})`}`}
            className="w-64"
            inputMode="decimal"
            unit="min"
            value={minutes}
            onChange={(event) => setMinutes(event.target.value)}
            note={wrong ? 'A number of minutes, for example 75.' : 'The next estimate learns from it.'}
          />
          {needed ? (
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-6 accent-mark"
                checked={right}
                onChange={(event) => setRight(event.target.checked)}
              />
              The part was right first time
            </label>
          ) : null}
        </>
      )}
      <Button tone="main" hint="d" type="submit" disabled={wrong} {...DO_NEXT}>
        Close the ticket
      </Button>
    </form>
  );
}
