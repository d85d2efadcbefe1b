'use client';
import { useEffect, useState } from 'react';
import type { Model } from '@/core/catalogue';
import type { PlateReading } from '@/core/identify';
import { searchWorker } from '@/workers';

export type ReadPlate = { reading: PlateReading; models: Model[] };

/** The reading of a text, in the worker; an outdated answer is dropped. */
export function usePlateReading(text: string): ReadPlate | null {
  const [result, setResult] = useState<{ text: string; value: ReadPlate } | null>(null);
  useEffect(() => {
    if (text.trim().length < 3) return;
    let current = true;
    void searchWorker
      .get()
      .readPlate(text)
      .then((value) => {
        if (current) setResult({ text, value });
      });
    return () => {
      current = false;
    };
  }, [text]);
  return text.trim().length < 3 ? null : (result?.value ?? null);
}
