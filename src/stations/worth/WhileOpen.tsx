'use client';
import { alsoDo } from '@/core/ticket';
import { Button, Folded, Mark, Why } from '@/ui';
import { nearbyBecause, nearbyWords, plural } from '@/words';
import type { WorthProps } from './WorthProps';

/** Jobs that share the way in: what they cost more today and what that saves; those that pay are offered, any may be. */
export function WhileOpen(props: WorthProps) {
  const { nearby, offer } = props;
  const together = offer?.options.find(({ causeIds }) => causeIds.length > 1)?.causeIds ?? [];
  const shown = nearby.filter((job) => job.pays || together.includes(job.causeId));
  const others = nearby.filter((job) => !shown.includes(job));
  if (nearby.length === 0) return null;
  return (
    <section aria-label="While it is open">
      {shown.length ? (
        <>
          <h3 className="text-[15px] font-semibold">While it is open</h3>
          <Jobs {...props} jobs={shown} together={together} />
        </>
      ) : null}
      {others.length ? (
        <Folded
          title={shown.length ? 'Others near it' : 'While it is open: nothing near it pays'}
          aside={plural(others.length, 'job')}
        >
          <Jobs {...props} jobs={others} together={together} />
        </Folded>
      ) : null}
    </section>
  );
}

type JobsProps = WorthProps & { jobs: WorthProps['nearby']; together: readonly string[] };

function Jobs({ jobs, together, settings: { currency }, state, ask }: JobsProps) {
  return (
    <ul>
      {jobs.map((job) => (
        <li
          key={job.causeId}
          className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1 border-b border-line py-1.5 text-[15px]"
        >
          <span className="min-w-0 flex-1 basis-80">
            <strong>{job.name}</strong>: {nearbyWords(job, currency)}{' '}
            <Why label={`${job.name}, while it is open`} because={nearbyBecause(job, currency)}>
              <Mark tone={job.pays ? 'sound' : 'doubt'}>{job.pays ? 'pays' : 'does not pay'}</Mark>
            </Why>
          </span>
          {!together.includes(job.causeId) ? (
            <Button onClick={() => void ask(alsoDo(job.causeId, job.name))}>Offer it together</Button>
          ) : state.round.also === job.causeId ? (
            <Button onClick={() => void ask(alsoDo(null, job.name))}>Not together after all</Button>
          ) : (
            <span className="text-soft">offered together</span>
          )}
        </li>
      ))}
    </ul>
  );
}
