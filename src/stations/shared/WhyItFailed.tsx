'use client';
import { note } from '@/core/ticket';
import { Button } from '@/ui';
import { formatPercent } from '@/words';
import type { StationProps } from './StationProps';

/** What the dead part looks like, as plain choices, and why it failed: what killed it kills the next one as well. */
export function WhyItFailed({ state, lore, why, ask }: StationProps<'lore' | 'why'>) {
  if (!why) return null;
  const { causeId, signs, signId, roots, told } = why;
  const cause = lore.causes.find(({ id }) => id === causeId);
  const check = lore.checks.find(({ id }) => id === told?.checkId);
  const checked = state.checks.find(({ checkId }) => checkId === check?.id);
  const raised = lore.causes.find(({ id }) => id === told?.raisesId);
  const read = (id: string | null, text: string) => void ask(note({ type: 'wreck-read', causeId, signId: id, text }));
  return (
    <section aria-label="Why it failed">
      <h3 className="font-semibold">Why did it fail: {cause?.name.toLowerCase()}</h3>
      <p className="text-[15px] text-soft">Look at the dead part. What killed it would kill the next one as well.</p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {signs.map(({ id, text }) => (
          <Button
            key={id}
            tone={signId === id ? 'main' : 'plain'}
            aria-pressed={signId === id}
            onClick={() => read(id, text)}
          >
            {text}
          </Button>
        ))}
        <Button tone={signId === null ? 'main' : 'plain'} aria-pressed={signId === null} onClick={() => read(null, '')}>
          None of these
        </Button>
      </div>
      <p className="mt-2 text-[15px]">
        {roots
          .slice(0, 3)
          .map(({ name, probability }) => `${name?.toLowerCase() ?? 'not known'} ${formatPercent(probability)}`)
          .join(' · ')}
      </p>
      {told ? (
        <p className="mt-1 text-[15px]">
          <strong>{told.name}.</strong> {why.advice}
          {check && !checked ? ` Look before you order: ${check.title.toLowerCase()}.` : ''}
          {raised ? ` It makes this likelier: ${raised.name.toLowerCase()}.` : ''}
        </p>
      ) : null}
    </section>
  );
}
