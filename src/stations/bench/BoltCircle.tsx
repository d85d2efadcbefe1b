const SIZE = 168;
const RADIUS = 66;

/** Bolts on a circle, each with its turn in the order: from twelve o'clock, clockwise. */
export function BoltCircle({ order }: { order: readonly number[] }) {
  if (order.length === 0) return null;
  const turnOf = (bolt: number) => order.indexOf(bolt) + 1;
  const dot = Math.min(13, (Math.PI * RADIUS) / order.length - 1);
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="w-44 shrink-0"
      role="img"
      aria-label={`Tighten in this order, counted clockwise from twelve o’clock: ${order.join(', ')}`}
    >
      <circle cx={SIZE / 2} cy={SIZE / 2} r={RADIUS} className="fill-none stroke-edge" strokeWidth="1.5" />
      {order.map((_, index) => {
        const bolt = index + 1;
        const angle = (2 * Math.PI * index) / order.length - Math.PI / 2;
        const [x, y] = [SIZE / 2 + RADIUS * Math.cos(angle), SIZE / 2 + RADIUS * Math.sin(angle)];
        return (
          <g key={bolt}>
            <circle cx={x} cy={y} r={dot} className="fill-sheet stroke-ink" strokeWidth="1.5" />
            <text x={x} y={y} dy="0.35em" textAnchor="middle" className="fill-ink" fontSize={Math.min(13, dot * 1.15)}>
              {turnOf(bolt)}
            </text>
          </g>
        );
      })}
      <path d={`M${SIZE / 2} 2 l5 10 h-10 z`} className="fill-ink" />
    </svg>
  );
}
