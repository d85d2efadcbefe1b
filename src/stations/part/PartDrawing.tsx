import type { DimensionVerdict } from '@/core/fit';
import { cx } from '@/ui';

type Size = { dimension: DimensionVerdict; old: number; is: number };

const WIDTH = 224;

/** Sizes in millimetres that are known on both sides. */
const sizesOf = (dimensions: readonly DimensionVerdict[]): Size[] =>
  dimensions.flatMap((dimension) => {
    const [old, is] = [Number(dimension.old), Number(dimension.candidate)];
    return dimension.unit === 'mm' &&
      dimension.old !== null &&
      dimension.candidate !== null &&
      Number.isFinite(old) &&
      Number.isFinite(is)
      ? [{ dimension, old, is }]
      : [];
  });

const find = (sizes: readonly Size[], ...names: string[]) =>
  sizes.find(({ dimension }) => names.includes(dimension.property));

/** Old (left) and new (right) to the same scale; what differs is marked. Rings for bearings and seals, else lengths side by side. */
export function PartDrawing({ dimensions }: { dimensions: readonly DimensionVerdict[] }) {
  const sizes = sizesOf(dimensions);
  if (sizes.length === 0) return null;
  const inner = find(sizes, 'boreMm', 'shaftMm');
  const outer = find(sizes, 'outsideMm', 'housingMm');
  const width = find(sizes, 'widthMm');
  return (
    <figure className="text-sm text-soft">
      {inner && outer ? <Rings inner={inner} outer={outer} width={width} /> : <Lengths sizes={sizes} />}
      <figcaption>Old left or above, new right or below; one scale for both.</figcaption>
    </figure>
  );
}

const stroke = (size: Size | undefined) => (size && size.dimension.verdict !== 'fits' ? 'stroke-stop' : 'stroke-ink');

function Rings({ inner, outer, width }: { inner: Size; outer: Size; width: Size | undefined }) {
  const scale = 92 / Math.max(outer.old, outer.is);
  const one = (side: 'old' | 'is', x: number) => (
    <g key={side} fill="none" strokeWidth={2}>
      <circle
        cx={x}
        cy={50}
        r={(outer[side] * scale) / 2}
        className={cx(stroke(side === 'is' ? outer : undefined), 'fill-well')}
      />
      <circle
        cx={x}
        cy={50}
        r={(inner[side] * scale) / 2}
        className={cx(stroke(side === 'is' ? inner : undefined), 'fill-sheet')}
      />
      {width ? (
        <rect
          x={x - (outer[side] * scale) / 2}
          y={104}
          width={outer[side] * scale}
          height={Math.max(2, width[side] * scale)}
          className={cx(stroke(side === 'is' ? width : undefined), 'fill-well')}
        />
      ) : null}
      <text x={x} y={160} textAnchor="middle" className="fill-soft stroke-none text-[12px]">
        {inner[side]} × {outer[side]}
        {width ? ` × ${width[side]}` : ''}
      </text>
    </g>
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 166`}
      role="img"
      aria-label={`Old ${inner.old} by ${outer.old} mm, new ${inner.is} by ${outer.is} mm`}
      className="w-full max-w-60"
    >
      {one('old', 54)}
      {one('is', 168)}
    </svg>
  );
}

function Lengths({ sizes }: { sizes: readonly Size[] }) {
  const scale = (WIDTH - 8) / Math.max(...sizes.flatMap(({ old, is }) => [old, is]), 1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${sizes.length * 46}`}
      role="img"
      aria-label={sizes.map(({ dimension, old, is }) => `${dimension.label}: old ${old}, new ${is} mm`).join('; ')}
      className="w-full max-w-60"
    >
      {sizes.map((size, index) => (
        <g key={size.dimension.property} transform={`translate(2 ${index * 46})`}>
          <text y={11} className="fill-soft text-[12px]">
            {size.dimension.label} {size.old} → {size.is} mm
          </text>
          <rect y={16} height={9} width={Math.max(1, size.old * scale)} className="fill-edge" />
          <rect
            y={28}
            height={9}
            width={Math.max(1, size.is * scale)}
            className={size.dimension.verdict === 'fits' ? 'fill-ink' : 'fill-stop'}
          />
        </g>
      ))}
    </svg>
  );
}
