'use client';
import { useCallback, useRef, useState } from 'react';

const PAGE = 100;

/**
 * Rows of a long result, fetched page by page as they come into view. `of` names the result: when it changes, what was fetched is forgotten and
 * answers that were under way are dropped.
 */
export function useRows<T>(of: string, fetchRows: (from: number, to: number) => Promise<T[]>) {
  const [pages, setPages] = useState<{ of: string; rows: ReadonlyMap<number, T[]> }>({ of, rows: new Map() });
  const asked = useRef({ of, pages: new Set<number>() });
  const rows = pages.of === of ? pages.rows : new Map<number, T[]>();
  const onView = useCallback(
    (from: number, to: number) => {
      if (asked.current.of !== of) asked.current = { of, pages: new Set() };
      const { pages: known } = asked.current;
      for (let page = Math.floor(from / PAGE); page * PAGE < to; page += 1) {
        if (known.has(page)) continue;
        known.add(page);
        void fetchRows(page * PAGE, (page + 1) * PAGE).then((found) => {
          if (asked.current.of === of)
            setPages((before) => ({ of, rows: new Map(before.of === of ? before.rows : []).set(page, found) }));
        });
      }
    },
    [of, fetchRows],
  );
  const rowAt = (index: number): T | undefined => rows.get(Math.floor(index / PAGE))?.[index % PAGE];
  return { rowAt, onView };
}
