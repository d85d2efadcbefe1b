import { tighteningOrder } from '@/core/measure';
import type { SheetStep } from '@/core/bench';
import { layBead } from '@/core/ticket';
import { hoursBetween } from '@/core/units';
import { Button, Mark } from '@/ui';
import { formatHours, formatMoment, jointWords } from '@/words';
import { BoltCircle } from './BoltCircle';
import type { BenchProps } from './BenchProps';

/** How a joint is closed: bead, bolts, pattern, passes; the skin's clock, and how long it cures in this room. */
export function JointCard({ step, state, settings, at, ask }: BenchProps & { step: SheetStep }) {
  const { joint } = step;
  if (!joint) return null;
  const { bead } = state.round;
  const laid = bead?.operationId === step.step.operationId ? bead : null;
  const hurry = laid && step.tickedAt === null ? 60 * hoursBetween(at.now, laid.skinUntil) : null;
  return (
    <section aria-label="The joint" className="border-2 border-line p-3">
      <h4 className="font-semibold">The joint</h4>
      <p>{jointWords(joint)}</p>
      <div className="flex flex-wrap items-center gap-4">
        <BoltCircle order={tighteningOrder(joint.bolts)} />
        <div className="flex min-w-0 flex-1 basis-52 flex-col gap-2">
          {step.waitHours > 0 ? (
            <p>
              Cures {formatHours(step.waitHours)} at {settings.roomCelsius} °C and{' '}
              {Math.round(settings.roomHumidity * 100)} % humidity. Until then no water and no load.
            </p>
          ) : (
            <p>Nothing cures here: it may be washed in today.</p>
          )}
          {joint.skinMinutes && step.tickedAt === null ? (
            hurry === null ? (
              <Button
                className="self-start"
                onClick={() => void ask(layBead(step.step.operationId, joint.skinMinutes ?? 0))}
              >
                The bead is on: {joint.skinMinutes} minutes until it skins
              </Button>
            ) : (
              <p role="timer">
                <Mark tone={hurry > 0 ? 'doubt' : 'stop'}>
                  {hurry > 0
                    ? `All bolts in within ${Math.ceil(hurry)} min, by ${formatMoment(laid?.skinUntil ?? at.now, at.now, at.zone)}`
                    : 'It has skinned: wipe it off, and lay a new bead'}
                </Mark>
              </p>
            )
          ) : null}
        </div>
      </div>
    </section>
  );
}
