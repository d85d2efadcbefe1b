import { asInstant, asId } from '@/core/units';
import { compose, createDesk, fromScratch, type Assessment } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents, type TicketEvent } from '@/core/ticket';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { quantileOf, table } from './report';

const NOW = asInstant('2026-11-26T08:00:00.000Z');

const bytes = (value: unknown): number => Buffer.byteLength(JSON.stringify(value));

function timed<T>(work: () => T): { ms: number; value: T } {
  const from = performance.now();
  const value = work();
  return { ms: performance.now() - from, value };
}

function changed(before: Assessment, after: Assessment): Partial<Assessment> {
  const old: Readonly<Record<string, unknown>> = { ...before };
  return Object.fromEntries(Object.entries(after).filter(([name, value]) => old[name] !== value));
}

const withFinding = (events: readonly TicketEvent[], findingId: string, answer: 'yes' | 'no'): TicketEvent[] => {
  const last = events.at(-1);
  if (!last) throw new Error('Bug: a ticket without events');
  const sequence = last.sequence + 1;
  const data = { type: 'finding-noted', findingId, answer, threeWords: findingId } as const;
  return [...events, { ...last, id: asId(`bench ${sequence}`), sequence, data }];
};

const leadOf = (assessment: Assessment): string | null =>
  assessment.kind === 'weighed' ? (assessment.causes.lead?.causeId ?? null) : null;

/** One finding more on an open machine: the desk against an assessment made from scratch and sent whole. */
export function benchDesk(): void {
  const world = { catalogue: demoCatalogue(), settings: demoSettings(), learned: nothingLearned() };
  const machines = [...demoTickets().values()].filter((events) => {
    const state = applyEvents(events);
    return !state.closed && state.plate !== null && state.round.cause === null;
  });
  // Machines of every design that were only just opened: the first finding is the dearest.
  const young = [...demoTickets().values()].slice(0, 40).flatMap((events) => {
    const plate = events.findIndex(({ data }) => data.type === 'plate-read');
    return plate < 0 ? [] : [events.slice(0, plate + 1)];
  });
  const first: number[] = [];
  const scratch = { ms: [] as number[], bytes: [] as number[] };
  const ticks = {
    stays: { ms: [] as number[], bytes: [] as number[] },
    moves: { ms: [] as number[], bytes: [] as number[] },
  };
  for (const begun of [...machines, ...young]) {
    let events = begun;
    const desk = createDesk();
    const opening = timed(() => compose(desk.run, world, applyEvents(begun), NOW));
    if (opening.value.kind !== 'weighed') continue;
    first.push(opening.ms);
    let before: Assessment = opening.value;
    // One complaint, and what was looked at and found sound.
    for (const [index, { id }] of opening.value.lore.findings.slice(0, 4).entries()) {
      events = withFinding(events, id, index === 0 ? 'yes' : 'no');
      const state = applyEvents(events);
      const anew = timed(() => compose(fromScratch, world, state, NOW));
      scratch.ms.push(anew.ms);
      scratch.bytes.push(bytes(anew.value));
      const again = timed(() => compose(desk.run, world, state, NOW));
      const side = leadOf(before) === leadOf(again.value) ? ticks.stays : ticks.moves;
      side.ms.push(again.ms);
      side.bytes.push(bytes(changed(before, again.value)));
      before = again.value;
    }
  }
  const row = (name: string, values: readonly number[], unit: string): (string | number)[] => [
    name,
    values.length,
    `${quantileOf(values, 0.5).toFixed(1)} ${unit}`,
    `${quantileOf(values, 0.95).toFixed(1)} ${unit}`,
  ];
  const kb = (values: readonly number[]) => values.map((value) => value / 1000);
  table(
    'A finding tick on the desk, against everything from scratch',
    ['what', 'times', 'median', '95 %'],
    [
      row('first answer for a machine', first, 'ms'),
      row('everything anew', scratch.ms, 'ms'),
      row('desk, the likeliest cause stays', ticks.stays.ms, 'ms'),
      row('desk, another cause is likeliest now', ticks.moves.ms, 'ms'),
      row('everything, sent', kb(scratch.bytes), 'kB'),
      row('sent, the likeliest cause stays', kb(ticks.stays.bytes), 'kB'),
      row('sent, another cause is likeliest now', kb(ticks.moves.bytes), 'kB'),
    ],
  );
}
