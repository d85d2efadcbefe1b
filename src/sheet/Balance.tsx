import { formatRate } from '@/words';

type Props = {
  repair: number;
  replace: number;
  spreadRepair: [number, number];
  spreadReplace: [number, number];
  currency: string;
  /** a year, or in all where later money counts in full. */
  per: 'a year' | 'in all';
};

const MAX_TILT = 11;

/** Degrees by which the beam tilts: the dearer side sinks; full tilt at a factor of two. */
export const tiltOf = (repair: number, replace: number): number => {
  if (!(repair > 0) || !(replace > 0)) return 0;
  return Math.max(-MAX_TILT, Math.min(MAX_TILT, (Math.log(replace / repair) / Math.LN2) * MAX_TILT));
};

const ARM = 92;
const CENTRE = { x: 140, y: 26 };

function Pan({
  side,
  tilt,
  label,
  value,
  heavy,
}: {
  side: -1 | 1;
  tilt: number;
  label: string;
  value: string;
  heavy: boolean;
}) {
  const radians = (tilt * Math.PI) / 180;
  const x = CENTRE.x + side * ARM * Math.cos(radians);
  const y = CENTRE.y + side * ARM * Math.sin(radians);
  const plate = y + 38;
  return (
    <g className="moves">
      <path
        d={`M${x} ${y} L${x - 34} ${plate} M${x} ${y} L${x + 34} ${plate}`}
        className="stroke-edge"
        strokeWidth="1.4"
        fill="none"
      />
      <path
        d={`M${x - 38} ${plate} H${x + 38} C${x + 26} ${plate + 15}, ${x - 26} ${plate + 15}, ${x - 38} ${plate}Z`}
        className={heavy ? 'fill-well stroke-ink' : 'fill-mark-wash stroke-ink'}
        strokeWidth="1.5"
      />
      <text x={x} y={plate - 6} textAnchor="middle" className="fill-ink text-[17px] font-bold">
        {value}
      </text>
      <text x={x} y={plate + 27} textAnchor="middle" className="fill-soft text-[12.5px]">
        {label}
      </text>
    </g>
  );
}

/** Repair and replace in the balance, money per year or in all; the faint beams show the 10–90 % spread. */
export function Balance({ repair, replace, spreadRepair, spreadReplace, currency, per }: Props) {
  const tilt = tiltOf(repair, replace);
  const beam = (angle: number) => {
    const radians = (angle * Math.PI) / 180;
    return `M${CENTRE.x - ARM * Math.cos(radians)} ${CENTRE.y - ARM * Math.sin(radians)} L${CENTRE.x + ARM * Math.cos(radians)} ${CENTRE.y + ARM * Math.sin(radians)}`;
  };
  const wide = [tiltOf(spreadRepair[1], spreadReplace[0]), tiltOf(spreadRepair[0], spreadReplace[1])];
  const corner = (angle: number, side: 1 | -1) =>
    `${CENTRE.x + side * ARM * Math.cos((angle * Math.PI) / 180)} ${CENTRE.y + side * ARM * Math.sin((angle * Math.PI) / 180)}`;
  return (
    <svg
      viewBox="0 0 280 128"
      role="img"
      aria-label={`Repair ${formatRate(repair, currency)} ${per}, 10 to 90 % between ${formatRate(spreadRepair[0], currency)} and ${formatRate(spreadRepair[1], currency)}. New ${formatRate(replace, currency)} ${per}, ${formatRate(spreadReplace[0], currency)} to ${formatRate(spreadReplace[1], currency)}.`}
      className="w-full"
    >
      <path
        d={`M${CENTRE.x} ${CENTRE.y} V118 M${CENTRE.x - 30} 118 H${CENTRE.x + 30}`}
        className="stroke-ink"
        strokeWidth="2.6"
        fill="none"
      />
      {([1, -1] as const).map((side) => (
        <path
          key={side}
          d={`M${CENTRE.x} ${CENTRE.y} L${corner(wide[0] ?? tilt, side)} L${corner(wide[1] ?? tilt, side)}Z`}
          className="fill-mark-wash"
        />
      ))}
      <path d={beam(tilt)} className="stroke-ink" strokeWidth="3.6" />
      <circle cx={CENTRE.x} cy={CENTRE.y} r="5" className="fill-ink" />
      <Pan
        side={-1}
        tilt={tilt}
        label={`repair, ${per}`}
        value={formatRate(repair, currency)}
        heavy={repair > replace}
      />
      <Pan side={1} tilt={tilt} label={`new, ${per}`} value={formatRate(replace, currency)} heavy={replace > repair} />
    </svg>
  );
}
