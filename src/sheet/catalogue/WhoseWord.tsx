'use client';
import { localDateOf } from '@/core/units';
import type { RowSource } from '@/store';
import { useSettings } from '@/store/react';
import { formatFullDate } from '@/words';

/** "Package north, version 2, imported 3 Mar 2026". */
function sourceWords(source: RowSource, zone: string): string {
  if (source.kind === 'own') return 'This shop';
  if (source.kind === 'shipped') return 'What the trade knows';
  const version = source.version ? `, version ${source.version}` : '';
  return `${source.title}${version}, imported ${formatFullDate(localDateOf(source.at, zone))}`;
}

/** Only whose it is. */
export const shortSource = (source: RowSource | undefined): string =>
  source?.kind === 'package' ? source.title : source?.kind === 'own' ? 'this shop' : 'the trade';

type Props = { said: readonly { source: RowSource; text: string }[] };

/** Where a row comes from; where layers say something else of the same thing, what each says, the one that is believed first. */
export function WhoseWord({ said }: Props) {
  const zone = useSettings()?.zone ?? 'UTC';
  const [first, ...others] = said;
  if (!first) return null;
  const differ = others.some(({ text }) => text !== first.text);
  return (
    <section aria-label="Whose word it is" className="mt-1 text-[15px] text-soft">
      {differ ? (
        <>
          <p>Layers say something else of it; the first is believed:</p>
          <ul>
            {said.map(({ source, text }, index) => (
              <li key={index} className={index === 0 ? 'text-ink' : ''}>
                {sourceWords(source, zone)}: {text}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p>Says: {said.map(({ source }) => sourceWords(source, zone)).join('; ')}</p>
      )}
    </section>
  );
}
