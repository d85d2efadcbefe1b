import { atBench, TEXT_LIMITS } from '@/core/ticket';
import { typedNumber } from '@/core/units';
import { Button, Field, Folded, useTyped } from '@/ui';
import { formatNumber } from '@/words';
import type { ProofProps } from './ProofProps';

/** The run in which it failed and the same run now, side by side. */
export function RunAgain({ state, ask, passed }: ProofProps & { passed: boolean }) {
  const { failingRun: before } = state;
  const { repeated: after } = state.round;
  const load = useTyped(before ? String(before.loadKg) : '');
  const rpm = useTyped(before ? String(before.rpm) : '');
  const minutes = useTyped();
  const seen = useTyped();
  const read = {
    loadKg: typedNumber(load.text, 0, 30),
    rpm: typedNumber(rpm.text, 0, 3000),
    minutes: typedNumber(minutes.text, 0, 600),
  };
  const keep = async () => {
    const { loadKg, rpm: speed, minutes: ran } = read;
    if (loadKg === null || speed === null || ran === null) return;
    await ask(atBench({ type: 'run-repeated', loadKg, rpm: speed, minutes: ran, seen: seen.text.trim() }));
  };
  const complete = read.loadKg !== null && read.rpm !== null && read.minutes !== null;
  return (
    <div className="mt-1">
      {before || after ? (
        <table className="w-full max-w-2xl text-[15px]">
          <caption className="sr-only">The run before and after</caption>
          <thead>
            <tr className="text-left text-soft">
              <th className="font-normal">The same run</th>
              <th className="font-normal">Load</th>
              <th className="font-normal">Speed</th>
              <th className="font-normal">Minutes</th>
              <th className="font-normal">Seen</th>
            </tr>
          </thead>
          <tbody>
            {before ? (
              <Row
                name={`It failed: ${before.title.toLowerCase()}`}
                run={before}
                minutes={before.minute === null ? 'not known' : `after ${before.minute}`}
              />
            ) : null}
            {after ? <Row name="Now" run={after} minutes={`ran ${formatNumber(after.minutes)}`} /> : null}
          </tbody>
        </table>
      ) : null}
      {passed ? null : (
        <Folded title={after ? 'Run it once more' : 'Note the run'} aside="kilograms, speed, minutes">
          <div className="flex flex-wrap items-end gap-2.5">
            <Field label="Load now" className="w-24" unit="kg" inputMode="decimal" {...load.field} />
            <Field label="Speed now" className="w-32" unit="rpm" inputMode="numeric" {...rpm.field} />
            <Field label="It ran for" className="w-28" unit="min" inputMode="decimal" {...minutes.field} />
            <Field
              label="Seen and heard"
              className="min-w-0 flex-1 basis-48"
              maxLength={TEXT_LIMITS.note}
              {...seen.field}
            />
            <Button disabled={!complete} onClick={() => void keep()}>
              Keep this run
            </Button>
          </div>
        </Folded>
      )}
    </div>
  );
}

function Row({
  name,
  run,
  minutes,
}: {
  name: string;
  run: { loadKg: number; rpm: number; seen: string };
  minutes: string;
}) {
  return (
    <tr className="border-t border-line align-top">
      <td className="pr-3">{name}</td>
      <td className="pr-3">{formatNumber(run.loadKg, 1)} kg</td>
      <td className="pr-3">{formatNumber(run.rpm)} rpm</td>
      <td className="pr-3">{minutes}</td>
      <td>{run.seen || '–'}</td>
    </tr>
  );
}
