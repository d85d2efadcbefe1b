'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type CSSProperties, type ReactNode } from 'react';

type Props = {
  label: string;
  count: number;
  /** Height of a row in px: a glove's width at least. */
  rowHeight?: number;
  row: (index: number) => ReactNode;
  /** Called with the first and last index in view, when they change. */
  onView?: (from: number, to: number) => void;
  className?: string;
  /** Its height, where it depends on what it holds. */
  style?: CSSProperties;
};

/** A long list of which only the rows in view exist. Scrolls by keyboard when it has the focus. */
export function VirtualList({ label, count, rowHeight = 48, row, onView, className, style }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are used here only, never handed on
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 6,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = (items.at(-1)?.index ?? -1) + 1;
  useEffect(() => {
    if (to > from) onView?.(from, to);
  }, [from, to, onView]);
  return (
    <div
      ref={scroller}
      tabIndex={0}
      role="region"
      aria-label={label}
      style={style}
      className={`overflow-y-auto border-y border-line ${className ?? ''}`}
    >
      <ul style={{ height: virtual.getTotalSize() }} className="relative">
        {items.map((item) => (
          <li
            key={item.key}
            aria-setsize={count}
            aria-posinset={item.index + 1}
            style={{ height: item.size, transform: `translateY(${item.start}px)` }}
            className="absolute inset-x-0 top-0 border-b border-line"
          >
            {row(item.index)}
          </li>
        ))}
      </ul>
    </div>
  );
}
