'use client';
import { useEffect, useState } from 'react';
import type * as SonnerModule from 'sonner';

type Sonner = typeof SonnerModule;
type Notice = { text: string; more?: { description?: string; duration?: number } };

const waiting: Notice[] = [];
let heard: () => void = () => undefined;

/** Says a word at the edge of the page. What shows it is loaded with the first word. */
export function notice(text: string, more: Notice['more'] = {}): void {
  waiting.push({ text, more });
  heard();
}

/** A word at the edge, in the page's own type and colours, light and dark. */
const LOOK = {
  unstyled: true,
  classNames: {
    toast:
      'flex w-full items-start gap-2 rounded-sm border-[1.5px] border-ink bg-sheet p-3.5 font-sans text-[15px] text-ink shadow-lg',
    title: 'font-semibold',
    content: 'flex-1',
    closeButton:
      'order-last -my-2.5 -mr-2.5 flex size-11 shrink-0 cursor-pointer items-center justify-center rounded-sm [&>svg]:size-5',
    description: 'mt-0.5 text-sm text-soft',
  },
};

/** Where notices appear: once on every page. */
export function Notices() {
  const [sonner, setSonner] = useState<Sonner | 'wanted' | 'missing' | null>(null);
  const [plain, setPlain] = useState('');
  useEffect(() => {
    const say = () => {
      for (const { text, more } of waiting.splice(0)) {
        // Without what shows them (no network, never loaded before) the last one stands there as it is.
        if (sonner === 'missing') setPlain([text, more?.description].filter(Boolean).join(' '));
        else if (sonner !== null && sonner !== 'wanted') sonner.toast(text, more);
      }
    };
    const load = () => {
      setSonner('wanted');
      import('sonner').then(setSonner, () => setSonner('missing'));
    };
    heard = sonner === null ? load : sonner === 'wanted' ? () => undefined : say;
    if (waiting.length > 0) heard();
    return () => {
      heard = () => undefined;
    };
  }, [sonner]);
  if (sonner === 'missing')
    return plain ? (
      <p role="status" className="fixed inset-x-4 bottom-4 z-50 border-2 border-ink bg-sheet p-3.5">
        {plain}
      </p>
    ) : null;
  if (sonner === null || sonner === 'wanted') return null;
  return <sonner.Toaster position="bottom-center" closeButton toastOptions={LOOK} />;
}
