import type { SheetStep } from '@/core/bench';
import { atBench } from '@/core/ticket';
import { Button, Caution } from '@/ui';
import { formatMinutes, formatPercent } from '@/words';
import type { BenchProps } from './BenchProps';

/** What to do when it will not come: when, what, how likely it helps, what it risks; chosen, it is in the plan. */
export function RescueCard({ step, ask }: BenchProps & { step: SheetStep }) {
  const { rescue, step: of, title } = step;
  if (!rescue || (step.tickedAt && !rescue.chosen)) return null;
  const choose = (minutes: number | null) =>
    ask(atBench({ type: 'rescue-chosen', operationId: of.operationId, title, minutes }));
  return (
    <section aria-label="If it will not come" className="border-l-4 border-edge pl-3">
      <p>
        <strong>{rescue.chosen ? 'It would not come' : 'If it will not come'}</strong>
        {rescue.when ? `: ${rescue.when.charAt(0).toLowerCase()}${rescue.when.slice(1)}` : ''}.{' '}
        <span className="text-soft">
          Needed in {formatPercent(rescue.chance)} of such jobs, {formatMinutes(rescue.minutes)} more
          {rescue.helps === null ? '' : `, helps in ${formatPercent(rescue.helps)}`}.
        </span>
      </p>
      <p>{rescue.what}.</p>
      {rescue.risk ? <Caution>{rescue.risk}.</Caution> : null}
      <Button className="mt-1" onClick={() => void choose(rescue.chosen ? null : rescue.minutes)}>
        {rescue.chosen ? 'It came without it after all' : 'It will not come: do this'}
      </Button>
    </section>
  );
}
