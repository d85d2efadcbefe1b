import { atBench } from '@/core/ticket';
import { Button, Mark } from '@/ui';
import { formatMinutes, formatMoney } from '@/words';
import type { BenchProps, Shown } from './BenchProps';

/** What would not come has made it more than was agreed: the customer is asked before it goes on. */
export function BeyondAgreed({ bench: { beyond }, ask }: BenchProps & { bench: Shown }) {
  if (!beyond) return null;
  const { minutes, gross, answered } = beyond;
  const more = `${formatMoney(gross)}, ${formatMinutes(minutes)}, more than was agreed`;
  const answer = (agreed: boolean) => ask(atBench({ type: 'more-answered', minutes, gross, agreed }));
  return (
    <section aria-label="More than was agreed" className="border-l-4 border-doubt bg-doubt-wash px-3 py-2">
      {answered === 'yes' ? (
        <Mark tone="sound">The customer agrees to {more}.</Mark>
      ) : answered === 'no' ? (
        <Mark tone="stop">The customer does not want {more}: the shop bears it, or it is put back as it was.</Mark>
      ) : (
        <p>
          <strong>Ring the customer:</strong> {more}.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2.5">
        {answered === 'yes' ? null : <Button onClick={() => void answer(true)}>The customer agrees</Button>}
        {answered === 'no' ? null : (
          <Button tone="quiet" onClick={() => void answer(false)}>
            The customer does not
          </Button>
        )}
      </div>
    </section>
  );
}
