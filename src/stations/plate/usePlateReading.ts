'use client';
import { useEffect, useState } from 'react';
import type { Model } from '@/core/catalogue';
import type { PlateReading } from '@/core/identify';
import { now } from '@/store';
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

type FoundSerial = { serial: string; fits: boolean };

/** The serial number in the text of a plate, once it is known whose scheme it should follow. */
export function useSerialIn(text: string, modelId: string | null): FoundSerial | null {
  const [result, setResult] = useState<{ of: string; serial: FoundSerial | null } | null>(null);
  const of = modelId && text ? `${modelId} ${text}` : '';
  useEffect(() => {
    if (!modelId || of === '') return;
    let current = true;
    void searchWorker
      .get()
      .serialIn(text, modelId, now().slice(0, 10))
      .then((serial) => {
        if (current) setResult({ of, serial });
      });
    return () => {
      current = false;
    };
  }, [of, text, modelId]);
  return result?.of === of ? result.serial : null;
}
