'use client';
import { useState } from 'react';
import { ANSWER_MEANS, answerOffer } from '@/core/ticket';
import { DO_NEXT } from '../shared/StationProps';
import { Button, Field, Select } from '@/ui';
import { MEANS_WORDS, optionWords } from '@/words';
import type { WorthProps } from './WorthProps';

type Props = Pick<WorthProps, 'ask'> & {
  option: { id: string; name: Parameters<typeof optionWords>[0] } | null;
  /** Something that the offer rests on has moved: nobody says yes to it. */
  isShaken: boolean;
};

/** Yes to the way that is marked, no, or not yet; who says it and by what means is kept with it. */
export function CustomerAnswer({ option, isShaken, ask }: Props) {
  const [by, setBy] = useState('');
  const [how, setHow] = useState('');
  const means = ANSWER_MEANS.find((one) => one === how);
  const said = { ...(by.trim() ? { by: by.trim() } : {}), ...(means ? { how: means } : {}) };
  const answer = (which: 'yes' | 'no' | 'thinking') =>
    void ask(answerOffer(which, which === 'yes' ? (option?.id ?? null) : null, said));
  return (
    <>
      <div className="flex flex-wrap gap-2.5">
        <Button tone="main" hint="d" disabled={isShaken} onClick={() => answer('yes')} {...(isShaken ? {} : DO_NEXT)}>
          Yes, to “{option ? optionWords(option.name) : ''}”
        </Button>
        <Button onClick={() => answer('thinking')}>Thinking about it</Button>
        <Button tone="stop" onClick={() => answer('no')}>
          No
        </Button>
      </div>
      <div className="flex flex-wrap gap-2.5">
        <Select
          label="By what means"
          value={how}
          empty="not noted"
          onChange={setHow}
          options={ANSWER_MEANS.map((value) => ({ value, text: MEANS_WORDS[value] }))}
          className="w-44"
        />
        <Field
          label="Who says it, if not the customer"
          className="w-64"
          autoComplete="off"
          maxLength={80}
          value={by}
          onChange={(event) => setBy(event.target.value)}
        />
      </div>
    </>
  );
}
