'use client';
import { settlementOf } from '@/core/case';
import { repairDidNotHelp, settleCause } from '@/core/ticket';
import { DO_NEXT } from '../shared/StationProps';
import type { FindingsProps } from './FindingsProps';
import { ActingSelect, Bar, Button, Mark, Why } from '@/ui';
import { formatPercent, formatTimes, listOf, wayWords } from '@/words';

const SHOWN = 6;

/** A way of mending with its cause, by its id. */
function wayOf({ causes, fixes }: FindingsProps['lore'], fixId: string): string | null {
  const fix = fixes.find(({ id }) => id === fixId);
  return fix ? wayWords(causes.find(({ id }) => id === fix.causeId)?.name ?? '', fix.name) : null;
}

/** Causes in order, 'none of these' among them, each with what moved it. */
export function CauseList({ state, lore, causes: ranking, next, ask }: FindingsProps) {
  const causeOf = (id: string) => lore.causes.find((cause) => cause.id === id);
  const listed = ranking.causes
    .flatMap((entry) => {
      const cause = causeOf(entry.causeId);
      return cause ? [{ ...entry, cause }] : [];
    })
    .slice(0, SHOWN);
  const none = ranking.causes.find((entry) => !causeOf(entry.causeId))?.probability ?? 0;
  const rest = 1 - none - listed.reduce((sum, entry) => sum + entry.probability, 0);
  const nameOf = (id: string) =>
    lore.findings.find((finding) => finding.id === id)?.text ??
    lore.checks.flatMap((check) =>
      check.outcomes
        .filter((outcome) => `${check.id} ${outcome.id}` === id)
        .map((outcome) => `${check.title}: ${outcome.text}`),
    )[0] ??
    causeOf(id)?.name.replace(/^./, (letter) => `mended already: ${letter.toLowerCase()}`) ??
    wayOf(lore, id)?.replace(/^./, (letter) => `mended already: ${letter.toLowerCase()}`) ??
    state.wrecks.find(({ signId }) => signId === id)?.text ??
    'an earlier fix';
  return (
    <div>
      <h3 className="mb-1 font-semibold">What it is</h3>
      {ranking.contradictory ? (
        <Mark tone="doubt">
          These findings contradict each other: the usual shares are shown. Look over the answers.
        </Mark>
      ) : null}
      {ranking.clashes.map(({ first, second }) => (
        <p key={`${first.id} ${second.id}`} className="text-[15px]">
          <Mark tone="doubt">These two hardly go together:</Mark> {nameOf(first.id)} · {nameOf(second.id)}. Look at one
          of them again.
        </p>
      ))}
      <ol className="flex flex-col">
        {listed.map((entry) => {
          const { moves } = entry;
          const proposed =
            next.doNext.kind === 'decide-cause' &&
            next.doNext.fixId === null &&
            next.doNext.also === null &&
            next.doNext.causeId === entry.causeId;
          const settled = state.round.cause?.causeId === entry.causeId;
          return (
            <li key={entry.causeId} className="border-b border-line py-1.5">
              <div className="flex items-center justify-between gap-2">
                <Why
                  label={entry.cause.name}
                  because={
                    <>
                      <strong>{entry.cause.roleId ? 'Needs a part.' : 'Needs no part.'}</strong> {entry.cause.ask ?? ''}
                      <ul className="mt-1">
                        {moves.length === 0 ? (
                          <li>Nothing said so far speaks for or against it: this is its usual share.</li>
                        ) : null}
                        {moves.map((move) => (
                          <li key={move.kind + move.id}>
                            {move.bits > 0 ? 'speaks for it' : 'speaks against it'},{' '}
                            {formatTimes(2 ** Math.abs(move.bits))}: {nameOf(move.id)}
                          </li>
                        ))}
                      </ul>
                    </>
                  }
                >
                  <span className="text-left">{entry.cause.name}</span>
                </Why>
                <span className="flex items-center gap-2">
                  <strong data-testid="cause-share" data-share={entry.probability}>
                    {formatPercent(entry.probability)}
                  </strong>
                  {settled ? (
                    <Mark tone="sound">settled</Mark>
                  ) : (
                    <Button
                      className="px-2.5"
                      {...(proposed ? DO_NEXT : {})}
                      aria-label={`Settle on ${entry.cause.name}`}
                      onClick={() => void ask(settleCause(settlementOf(entry.cause, null, entry.probability)))}
                    >
                      Settle
                    </Button>
                  )}
                </span>
              </div>
              <Bar share={entry.probability} />
              {entry.with.slice(0, 2).map((brought) => (
                <p key={brought.causeId} className="text-sm text-soft">
                  of that, {formatPercent(brought.probability)} with it:{' '}
                  {causeOf(brought.causeId)?.name.toLowerCase() ?? ''}
                </p>
              ))}
            </li>
          );
        })}
        <li className="flex justify-between py-1.5 text-[15px] text-soft">
          <span>{rest > 0.005 ? `others on the list ${formatPercent(rest)} · ` : ''}none of these</span>
          <strong data-testid="cause-share" data-share={none + rest}>
            {formatPercent(none)}
          </strong>
        </li>
      </ol>
      <Tried state={state} lore={lore} ask={ask} />
    </div>
  );
}

/** Mended already, by whomever, and it did not help: evidence of any cause, not of the likeliest alone. */
function Tried({ state, lore, ask }: Pick<FindingsProps, 'state' | 'lore' | 'ask'>) {
  const failed = new Set(state.failedFixes);
  const tried = [
    ...lore.causes.filter(({ id }) => failed.has(id)).map(({ name }) => name),
    ...state.failedWays.flatMap((fixId) => wayOf(lore, fixId) ?? []),
  ];
  return (
    <div className="mt-2 flex max-w-sm flex-col gap-1">
      {tried.length ? (
        <p className="text-[15px]">
          <Mark tone="doubt">Done already, no help:</Mark> {listOf(tried.map((name) => name.toLowerCase()))}
        </p>
      ) : null}
      <ActingSelect
        label="Mended already, and it did not help"
        onChoose={(id) => {
          const cause = lore.causes.find((entry) => entry.id === id);
          if (cause) void ask(repairDidNotHelp(cause.id));
        }}
        empty="choose what"
        options={lore.causes.filter(({ id }) => !failed.has(id)).map(({ id, name }) => ({ value: id, text: name }))}
      />
    </div>
  );
}
