import type { WorkSheet } from '@/core/bench';
import { cx } from '@/ui';

const WIDTH = 640;
const HEIGHT = 74;
const FLOOR = 58;
const TOP = 12;

/** The way down into the machine and back up: each step a dot as deep as it lies, filled when it is done, ringed where you are. */
export function WayDrawn({ sheet }: { sheet: WorkSheet }) {
  const steps = sheet.sections.flatMap(({ kind, steps: own }) => own.map((step) => ({ kind, step })));
  const [strip = [], work = [], refit = []] = sheet.sections.map((section) => section.steps);
  if (steps.length < 3) return null;
  const gap = WIDTH / steps.length;
  const y = (index: number): number => {
    if (index < strip.length) return TOP + ((index + 1) / (strip.length + 1)) * (FLOOR - TOP);
    if (index < strip.length + work.length) return FLOOR;
    return FLOOR - ((index - strip.length - work.length + 1) / (refit.length + 1)) * (FLOOR - TOP);
  };
  const points = steps.map((entry, index) => ({ ...entry, x: gap * (index + 0.5), y: y(index) }));
  // Where several jobs are on the sheet, what more than one of them needs is drawn double.
  const shared = new Set(strip.flatMap(({ jobs }, index) => (work.length > 1 && jobs > 1 ? [index] : [])));
  const way = (of: typeof points) => of.map((point) => `${point.x},${point.y}`).join(' ');
  const here = points.findIndex(({ step }) => step.tickedAt === null);
  const drawn = (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-2xl"
      role="img"
      aria-label={`The way in and back: ${sheet.done} of ${sheet.total} steps done${points[here] ? `, next: ${points[here].step.title}` : ''}${shared.size ? `; ${shared.size} on the way to more than one job` : ''}`}
    >
      <path d={`M0 ${TOP} H${WIDTH}`} className="stroke-line" strokeWidth="1" strokeDasharray="4 4" />
      <polyline points={way(points)} className="fill-none stroke-edge" strokeWidth="1.5" />
      {shared.size ? (
        <polyline
          points={way(points.filter((_, index) => shared.has(index)))}
          className="fill-none stroke-mark"
          strokeWidth="6"
          strokeLinecap="round"
          opacity="0.55"
        />
      ) : null}
      {points.map(({ kind, step, x, y: at }, index) => (
        <g key={`${step.step.phase} ${step.step.operationId}`}>
          {index === here ? (
            <circle cx={x} cy={at} r="10" className="fill-mark-wash stroke-mark" strokeWidth="2" />
          ) : null}
          <circle
            cx={x}
            cy={at}
            r={kind === 'work' ? 6.5 : 4.5}
            className={cx('stroke-ink', step.tickedAt ? 'fill-ink' : 'fill-sheet')}
            strokeWidth="1.5"
          />
        </g>
      ))}
    </svg>
  );
  return shared.size ? (
    <figure className="flex flex-col">
      {drawn}
      <figcaption className="text-sm text-soft">
        Thick: on the way to more than one of the {work.length} jobs, taken apart once.
      </figcaption>
    </figure>
  ) : (
    drawn
  );
}
