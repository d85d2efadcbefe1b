import type { MachineNow, WorkSheet } from '@/core/bench';
import { cx } from '@/ui';
import { plural, POSTURE_WORDS } from '@/words';

/** In what state the machine is, always in sight: power, water, posture, what is off, and whether lock or lid switch is among it. */
export function StateStrip({ sheet, curing }: { sheet: WorkSheet; curing: string | null }) {
  const { now, off } = sheet;
  return (
    <section
      aria-label="The machine now"
      className="sticky top-0 z-10 flex flex-wrap gap-x-3 border-2 border-ink bg-sheet px-2 py-1 text-sm sm:gap-x-5 sm:gap-y-1 sm:px-3 sm:py-2 sm:text-[15px]"
    >
      <Said
        name="Power"
        value={now.power === 'off' ? 'off, dead' : 'may be on'}
        alarm={now.power === 'on' && now.off.length > 0}
      />
      <Said name="Water" value={now.water === 'shut' ? 'tap shut' : 'tap open'} />
      <Said name="Stands" value={POSTURE_WORDS[now.posture]} />
      <Said name="Off" value={offWords(now, off)} />
      {now.interlocksOff.length ? <Said name="No lock or lid switch" value="must not run" alarm /> : null}
      {curing ? <Said name="Cures until" value={`${curing}, no water, no load`} alarm /> : null}
    </section>
  );
}

const offWords = ({ off }: MachineNow, { screws, connections, pieces }: WorkSheet['off']): string =>
  off.length === 0
    ? 'nothing'
    : [
        plural(off.length, 'step'),
        ...(screws ? [plural(screws, 'screw')] : []),
        ...(connections ? [plural(connections, 'connection')] : []),
        ...(pieces ? [plural(pieces, 'nameless piece')] : []),
      ].join(', ');

function Said({ name, value, alarm }: { name: string; value: string; alarm?: boolean }) {
  return (
    <span className={cx(alarm && 'font-semibold text-stop')}>
      <span className={alarm ? '' : 'text-soft'}>{name}:</span> <strong>{value}</strong>
    </span>
  );
}
