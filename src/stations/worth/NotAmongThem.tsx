'use client';
import { settlementOf } from '@/core/case';
import { settleCause } from '@/core/ticket';
import { Button, Folded } from '@/ui';
import { formatDate, formatMinutes, formatMoney, optionWords, plural, promiseWords, whyNotWords } from '@/words';
import type { WorthProps } from './WorthProps';

/** Other ways of mending it that are not offered, each with why; one touch takes it in their place. */
export function NotAmongThem({ offer, causes, at, ask }: WorthProps) {
  const left = offer?.notOffered ?? [];
  const cause = causes.lead?.way.cause;
  if (left.length === 0 || !cause) return null;
  return (
    <Folded title="Other ways to mend it, and why they are not offered" aside={plural(left.length, 'way')}>
      <ul>
        {left.map((way) => (
          <li
            key={way.id}
            className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1 border-b border-line py-1.5 text-[15px]"
          >
            <span className="min-w-0 flex-1 basis-72">
              <strong>{optionWords(way)}</strong>, {formatMoney(way.gross)}, {formatMinutes(way.handsOnMinutes)}
              {way.readyOn ? `, ready ${formatDate(way.readyOn, at.today)}` : ''}
              <br />
              <span className="text-soft">
                {promiseWords(way) ? `${promiseWords(way)}. ` : ''}
                {whyNotWords(way.why)}
              </span>
            </span>
            {way.kind === 'other-way' && way.why.kind !== 'welded-tub' ? (
              <Button
                onClick={() => void ask(settleCause(settlementOf(cause, way.fixId, causes.lead?.probability ?? null)))}
              >
                Mend it so
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </Folded>
  );
}
