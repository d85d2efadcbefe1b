'use client';
import { useState } from 'react';
import { Button, Mark } from '@/ui';
import { enquiryOf, enquiryText } from '@/words';
import type { PartProps } from './PartProps';

/** A letter to a supplier, ready to be sent, where the lists alone do not settle the number. */
export function Enquiry(props: PartProps) {
  const { state, settings } = props;
  const [told, setTold] = useState<'copied' | 'select' | null>(null);
  const text = enquiryText(enquiryOf(state, props, settings.shopName));
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setTold('copied');
    } catch {
      setTold('select');
    }
  };
  const mail = `mailto:?subject=${encodeURIComponent(text.split('\n')[0]?.replace('Subject: ', '') ?? '')}&body=${encodeURIComponent(text.split('\n').slice(2).join('\n'))}`;
  return (
    <details className="text-[15px]">
      <summary className="flex min-h-11 cursor-pointer items-center">Ask a supplier: the letter is ready</summary>
      <textarea
        readOnly
        rows={text.split('\n').length}
        value={text}
        aria-label="Enquiry to a supplier"
        className="w-full rounded-sm border-[1.5px] border-edge bg-sheet p-3 font-mono text-sm text-ink"
        onFocus={(event) => event.target.select()}
      />
      <div className="mt-2 flex flex-wrap items-center gap-2.5" aria-live="polite">
        <Button onClick={() => void copy()}>Copy it</Button>
        <a href={mail} className="flex min-h-11 items-center underline underline-offset-4">
          Open it as a mail
        </a>
        {told === 'copied' ? <Mark tone="sound">copied</Mark> : null}
        {told === 'select' ? (
          <Mark tone="doubt">This browser does not let it be copied: select the text above.</Mark>
        ) : null}
      </div>
    </details>
  );
}
