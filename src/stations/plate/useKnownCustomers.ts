'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { database, type CustomerRecord } from '@/store';

const SHORTEST = 2;
const MOST = 8;

/** Customers of the shop whose name begins so. */
export function useKnownCustomers(typed: string): readonly CustomerRecord[] {
  return (
    useLiveQuery(
      async () =>
        typed.trim().length < SHORTEST
          ? []
          : database().customers.where('name').startsWithIgnoreCase(typed.trim()).limit(MOST).toArray(),
      [typed],
    ) ?? []
  );
}
