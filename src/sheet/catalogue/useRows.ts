'use client';
import { troubleWords } from '@/words';
import { useCallback, useRef, useState } from 'react';

const PAGE = 100;

type Pages<T> = { of: string; rows: ReadonlyMap<number, T[]>; failed: string | null };

/**
 * Rows of a long result, fetched page by page as they come into view. `of` names the result: when it changes, what was fetched is forgotten and
 * answers that were under way are dropped. A page that could not be fetched is said in `failed` and asked again when it comes into view again.
 */
export function useRows<T>(of: string, fetchRows: (from: number, to: number) => Promise<T[]>) {
  const [pages, setPages] = useState<Pages<T>>({ of, rows: new Map(), failed: null });
  const asked = useRef({ of, pages: new Set<number>() });
  const rows = pages.of === of ? pages.rows : new Map<number, T[]>();
  const onView = useCallback(
    (from: number, to: number) => {
      if (asked.current.of !== of) asked.current = { of, pages: new Set() };
      const { pages: known } = asked.current;
      for (let page = Math.floor(from / PAGE); page * PAGE < to; page += 1) {
        if (known.has(page)) continue;
        known.add(page);
        fetchRows(page * PAGE, (page + 1) * PAGE).then(
          (found) => {
            if (asked.current.of !== of) return;
            setPages((before) => ({
              of,
              rows: new Map(before.of === of ? before.rows : []).set(page, found),
              failed: null,
            }));
          },
          (error: unknown) => {
            if (asked.current.of !== of) return;
            known.delete(page);
            const why = troubleWords(error);
            setPages((before) => ({ of, rows: before.of === of ? before.rows : new Map(), failed: why }));
          },
        );
      }
    },
    [of, fetchRows],
  );
  const rowAt = (index: number): T | undefined => rows.get(Math.floor(index / PAGE))?.[index % PAGE];
  return { rowAt, onView, failed: pages.of === of ? pages.failed : null };
}
