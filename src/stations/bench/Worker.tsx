import { atBench, clockMinutes, runClock, TEXT_LIMITS } from '@/core/ticket';
import { Button } from '@/ui';
import { formatMinutes, formatMoment } from '@/words';
import { CommitField } from '../shared/CommitField';
import type { BenchProps } from './BenchProps';

/** Who works on it, and the hands-on clock: what is ticked is theirs, and what it measures is what the next price and the next sheet go by. */
export function Worker({ state, at, ask }: BenchProps) {
  const { clock, finished, worker } = state.round;
  if (finished) return null;
  const minutes = clockMinutes(clock, at.now);
  return (
    <div className="flex flex-wrap items-end gap-2.5 text-[15px]">
      <CommitField
        label="Who works on it"
        className="w-48"
        draftKey={`${state.ticketId} worker`}
        autoComplete="off"
        committed={worker}
        maxLength={TEXT_LIMITS.name}
        commit={(name) => ask(atBench({ type: 'worker-noted', name }))}
      />
      <Button aria-pressed={clock.since !== null} onClick={() => void ask(runClock(clock.since === null))}>
        {clock.since ? 'Stop the clock' : 'Start the clock'}
      </Button>
      <span className="min-w-0 flex-1 basis-60 pb-2.5 text-soft">
        {clock.since
          ? `Hands on since ${formatMoment(clock.since, at.now, at.zone)}, ${formatMinutes(minutes)} in all: each tick is a time learned.`
          : minutes > 0
            ? `It stands at ${formatMinutes(minutes)}.`
            : 'With it the sheet learns how long each step takes here.'}
      </span>
    </div>
  );
}
