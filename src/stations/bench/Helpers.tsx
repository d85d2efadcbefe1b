import { useState } from 'react';
import {
  BEARINGS,
  drawingIn,
  driftFor,
  drillsFor,
  judgeReading,
  imbalanceNewton,
  nextShim,
  runOutOf,
  THREAD_NAMES,
  tighteningOrder,
  type ShimTried,
} from '@/core/measure';
import { Button, Field, Folded, Mark, Select, useTyped } from '@/ui';
import { formatNumber, verdictWords } from '@/words';
import { readingNoted } from '../shared/readingNoted';
import { BoltCircle } from './BoltCircle';
import type { BenchProps } from './BenchProps';

const numberOf = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')));

const HELPERS = {
  draw: 'Draw a ring in: washers and rod',
  bolts: 'Tighten bolts on a circle',
  shim: 'Choose the shim',
  pull: 'How an uneven load pulls',
  drill: 'Drill for a screw',
  drift: 'Drift for a hub or a sleeve',
  runOut: 'Run-out by hand',
} as const;

/** Small reckonings at the bench; nothing of them is kept. */
export function Helpers(props: Pick<BenchProps, 'lore' | 'ask'>) {
  const [helper, setHelper] = useState('');
  return (
    <Folded title="Helpers" aside="rings, bolts, shims, loads, drills, drifts, run-out">
      <Select
        label="What is to be reckoned"
        className="max-w-sm"
        value={helper}
        onChange={setHelper}
        empty="choose"
        options={Object.entries(HELPERS).map(([value, text]) => ({ value, text }))}
      />
      <div className="mt-3">
        {helper === 'draw' ? <DrawIn /> : null}
        {helper === 'bolts' ? <Bolts /> : null}
        {helper === 'shim' ? <Shim /> : null}
        {helper === 'pull' ? <Pull /> : null}
        {helper === 'drill' ? <Drill /> : null}
        {helper === 'drift' ? <DriftOf /> : null}
        {helper === 'runOut' ? <RunOutOf {...props} /> : null}
      </div>
    </Folded>
  );
}

const row = 'flex flex-wrap items-end gap-3';

function DrawIn() {
  const designation = useTyped();
  const stack = useTyped();
  const bearing = BEARINGS.find((one) => one.designation === designation.text.trim());
  const answer = bearing ? drawingIn(bearing, numberOf(stack.text)) : null;
  return (
    <div className="flex flex-col gap-2">
      <div className={row}>
        <Field label="Bearing" className="w-36" mono {...designation.field} note="like 6204" />
        <Field label="Hub and bearing together" className="w-44" unit="mm" inputMode="decimal" {...stack.field} />
      </div>
      {bearing && answer ? (
        <p>
          {bearing.bore} × {bearing.outside} × {bearing.width} mm. Washer <strong>{answer.washer.outsideMm} mm</strong>{' '}
          outside, hollow to at least {answer.washer.atLeastInsideMm} mm, so that it presses on the outer ring alone;
          counter-piece {answer.counter.outsideMm} mm; rod <strong>{answer.rod.thread}</strong>, {answer.rod.lengthMm}{' '}
          mm long.
        </p>
      ) : designation.text.trim() && !bearing ? (
        <Mark tone="doubt">No such bearing in ISO 15 as known here: type its number without suffixes.</Mark>
      ) : null}
    </div>
  );
}

function Bolts() {
  const bolts = useTyped('8');
  const order = tighteningOrder(Math.min(60, numberOf(bolts.text)));
  return (
    <div className="flex flex-wrap items-center gap-4">
      <Field label="Bolts" className="w-28" inputMode="numeric" {...bolts.field} />
      <BoltCircle order={order} />
      <p className="min-w-0 flex-1 basis-52">
        {order.length
          ? `All by hand first. Then in this order at half of the torque, and once more in full: ${order.join(', ')}.`
          : 'A number of bolts, 1 to 60.'}
      </p>
    </div>
  );
}

const MARKS = { before: 'Stands before it', in: 'In the window', past: 'Past it' } as const;

function Shim() {
  const [kit, setKit] = useState('0.3 0.5 0.7 0.9');
  const [tried, setTried] = useState<ShimTried[]>([]);
  const answer = nextShim(kit.split(/[\s;]+/).map(numberOf), tried);
  return (
    <div className="flex flex-col gap-2">
      <Field
        label="Thicknesses in the kit"
        className="max-w-sm"
        unit="mm"
        value={kit}
        onChange={(event) => {
          setKit(event.target.value);
          setTried([]);
        }}
      />
      {answer.kind === 'try' ? (
        <>
          <p>
            Put the <strong>{formatNumber(answer.mm, 2)} mm</strong> shim in, turn it a full turn by hand, look at the
            mark:
          </p>
          <div role="group" aria-label="The mark" className="flex flex-wrap gap-2">
            {(['before', 'in', 'past'] as const).map((mark) => (
              <Button key={mark} onClick={() => setTried([...tried, { mm: answer.mm, mark }])}>
                {MARKS[mark]}
              </Button>
            ))}
          </div>
        </>
      ) : answer.kind === 'chosen' ? (
        <Mark tone="sound">This is the shim: {formatNumber(answer.mm, 2)} mm.</Mark>
      ) : (
        <Mark tone="stop">
          No shim of this kit does it: look at the stack again, something is worn or the wrong way round.
        </Mark>
      )}
      {tried.length ? (
        <Button tone="quiet" className="self-start" onClick={() => setTried([])}>
          Begin again
        </Button>
      ) : null}
    </div>
  );
}

function Pull() {
  const mass = useTyped('0.5');
  const radius = useTyped('250');
  const rpm = useTyped('1200');
  const newton = imbalanceNewton(numberOf(mass.text), numberOf(radius.text) / 1000, numberOf(rpm.text));
  return (
    <div className="flex flex-col gap-2">
      <div className={row}>
        <Field label="Uneven load" className="w-32" unit="kg" inputMode="decimal" {...mass.field} />
        <Field label="From the middle" className="w-36" unit="mm" inputMode="decimal" {...radius.field} />
        <Field label="Speed" className="w-36" unit="rpm" inputMode="numeric" {...rpm.field} />
      </div>
      {Number.isFinite(newton) ? (
        <p>
          It pulls with <strong>{formatNumber(newton)} N</strong>, like {formatNumber(newton / 9.81)} kg hung at the
          drum.
        </p>
      ) : null}
    </div>
  );
}

function Drill() {
  const [thread, setThread] = useState('');
  const drills = drillsFor(thread);
  return (
    <div className="flex flex-col gap-2">
      <Select
        label="Thread"
        className="w-36"
        value={thread}
        onChange={setThread}
        empty="choose"
        options={THREAD_NAMES.map((name) => ({ value: name, text: name }))}
      />
      {drills ? (
        <p>
          For its thread <strong>{formatNumber(drills.tap, 1)} mm</strong>, to pass it{' '}
          {formatNumber(drills.clearance, 1)} mm, to drill out a snapped one {formatNumber(drills.core, 1)} mm. Goggles.
        </p>
      ) : null}
    </div>
  );
}

function DriftOf() {
  const sleeve = useTyped();
  const shaft = useTyped();
  const sizes = [sleeve.text, shaft.text].map(numberOf);
  const [outside = Number.NaN, inside = Number.NaN] = sizes;
  const answer = driftFor(outside, inside);
  return (
    <div className="flex flex-col gap-2">
      <div className={row}>
        <Field label="Sleeve, outside" className="w-36" unit="mm" inputMode="decimal" {...sleeve.field} />
        <Field
          label="Shaft through it"
          className="w-36"
          unit="mm"
          inputMode="decimal"
          {...shaft.field}
          note="0: none"
        />
      </div>
      {answer ? (
        <p>
          A tube <strong>{formatNumber(answer.outsideMm, 1)} mm</strong> outside
          {answer.atLeastInsideMm ? `, hollow to at least ${formatNumber(answer.atLeastInsideMm, 1)} mm` : ', or a rod'}
          . Square on, light blows round in turn, until it is flush. Goggles.
        </p>
      ) : sizes.every(Number.isFinite) ? (
        <Mark tone="doubt">
          No tube passes that shaft and stands on that sleeve: draw it in with a plate across and a rod.
        </Mark>
      ) : null}
    </div>
  );
}

/** Gaps round the turn; what comes out is noted as the reading that the proof asks for, where this kind of machine has a limit for it. */
function RunOutOf({ lore, ask }: Pick<BenchProps, 'lore' | 'ask'>) {
  const gaps = useTyped();
  const typed = gaps.text
    .trim()
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(numberOf);
  const answer = runOutOf(typed);
  const limit = lore.limits.find(({ id }) => id === 'run-out');
  const verdict = answer && limit ? judgeReading(limit, { value: answer.totalMm }) : null;
  const fact = answer && limit ? readingNoted(limit, answer.totalMm, verdict) : null;
  return (
    <div className="flex flex-col gap-2">
      <Field
        label="Gaps to the fixed point, round one turn"
        className="max-w-sm"
        unit="mm"
        inputMode="decimal"
        {...gaps.field}
        note="A screwdriver on the tub as the point; feeler gauge at six places, as “1.2 1.4 1.9 2.0 1.7 1.3”."
      />
      {answer ? (
        <p>
          Run-out <strong>{formatNumber(answer.totalMm, 2)} mm</strong>: it runs {formatNumber(answer.offMm, 2)} mm
          beside its axis, nearest at place {answer.nearest}.
        </p>
      ) : typed.length ? (
        <Mark tone="soft">At least three gaps, as numbers.</Mark>
      ) : null}
      {verdict && limit && fact ? (
        <div className="flex flex-wrap items-center gap-3">
          <Mark tone={verdict.verdict === 'within' ? 'sound' : 'stop'}>{verdictWords(verdict, limit.unit)}</Mark>
          <Button onClick={() => void ask(fact)}>Note it as {limit.label.toLowerCase()}</Button>
        </div>
      ) : null}
    </div>
  );
}
