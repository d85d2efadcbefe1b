import Link from 'next/link';
import type { Settings } from '@/core/case';
import { Mark } from '@/ui';
import { figureWords, listOf } from '@/words';

type Props = { settings: Settings; defaults: readonly (keyof Settings)[]; of: readonly (keyof Settings)[] };

/** Which of the figures behind something are defaults that nobody in this shop has looked at; nothing where all are its own. */
export function NotYours({ settings, defaults, of }: Props) {
  const words = figureWords(
    settings,
    of.filter((field) => defaults.includes(field)),
  );
  if (words.length === 0) return null;
  return (
    <p className="text-[15px]">
      <Mark tone="doubt">A default, not yours:</Mark> {listOf(words)}.{' '}
      <Link href="/shop" className="py-2.5 underline underline-offset-4">
        Keep or change it
      </Link>
    </p>
  );
}
