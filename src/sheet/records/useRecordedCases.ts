'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import type { RecordedCase } from '@/core/learn';
import { database, recordedCases } from '@/store';

export const useRecordedCases = (): RecordedCase[] | undefined => useLiveQuery(() => recordedCases(database()), []);
