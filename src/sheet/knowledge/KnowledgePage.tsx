'use client';
import Link from 'next/link';
import { useState } from 'react';
import { causeCard, ownCheck, ownLikelihood, rowsOfCheck, type CauseCard, type OwnRow } from '@/core/learn';
import { database, dropOwnRows, putOwnRows, saving } from '@/store';
import { useLayersKey, useSettings } from '@/store/react';
import { Button, download, Mark, Select, useNewest } from '@/ui';
import { formatPercent, listOf, plural, troubleWords } from '@/words';
import { filesWorker, searchWorker } from '@/workers';
import { CheckForm } from './CheckForm';
import { Phrases } from './Phrases';
import { ShareForm } from './ShareForm';

const FILE = 'learned.zip';

/** What the trade and this shop know of each cause: looked up, corrected and added to. The shop's own rows outlive every package. */
export function KnowledgePage({ initial }: { initial: string }) {
  const layers = useLayersKey();
  const settings = useSettings();
  const known = useNewest(layers, () => searchWorker.get().knowledge()).answer;
  const [causeId, setCauseId] = useState(initial);
  const [said, setSaid] = useState<string | null>(null);
  const own = known?.own ?? [];
  const card = known ? causeCard(known.tables, causeId) : null;
  const keep = async (work: () => Promise<unknown>): Promise<string | null> => {
    try {
      const wrong = await saving.keep(work);
      const [column, why] = Object.entries(wrong ?? {})[0] ?? [];
      return why === undefined ? null : `${column} ${String(why)}`;
    } catch (error) {
      return troubleWords(error);
    }
  };
  const put = (rows: readonly OwnRow[]) => keep(() => putOwnRows(database(), rows));
  const drop = (ids: readonly string[]) => void keep(() => dropOwnRows(database(), ids)).then(setSaid);
  const take = async () => {
    const made = await filesWorker.get().exportOwn(`Learned by ${settings?.shopName || 'a shop'}`);
    if (made) download(FILE, 'application/zip', made);
    setSaid(made ? `It is in ${FILE}: another shop can import it.` : 'Nothing of the shop’s own yet.');
  };
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <p className="text-[15px]">
        <Link href="/catalogue" className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4">
          Catalogue
        </Link>
      </p>
      <h1 className="text-[23px] font-bold">What is known of causes</h1>
      <p className="max-w-prose text-[15px] text-soft">
        How each fault shows, what tells it apart, why it comes about and what it breaks with it. What you correct or add
        here is this shop’s own word: it stands above every package and stays when one is renewed.
      </p>
      <div className="mt-3 flex max-w-4xl flex-col gap-4">
        <Select
          label="Cause"
          className="max-w-md"
          value={causeId}
          onChange={setCauseId}
          empty={known ? 'choose a cause' : 'reading …'}
          options={[...(known?.tables.causes ?? [])]
            .filter(({ platformId }) => platformId === undefined)
            .sort((a, b) => (a.name < b.name ? -1 : 1))
            .map(({ id, name, designs }) => ({ value: id, text: `${name} (${designs.join(', ')})` }))}
        />
        {card ? (
          <Card
            key={card.cause.id}
            card={card}
            own={own}
            findings={known?.tables.findings ?? []}
            put={put}
            drop={drop}
          />
        ) : null}
        {known ? <Phrases tables={known.tables} own={own} put={put} drop={drop} /> : null}
        <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3">
          <Button onClick={() => void take().catch((error: unknown) => setSaid(`${troubleWords(error)}.`))}>
            Take out the shop’s own rows
          </Button>
          <span className="text-[15px] text-soft">{plural(own.length, 'own row')}</span>
        </div>
        <p aria-live="polite">{said}</p>
      </div>
    </main>
  );
}

type CardProps = {
  card: CauseCard;
  own: readonly OwnRow[];
  findings: readonly { id: string; text: string; designs: string[] }[];
  put: (rows: readonly OwnRow[]) => Promise<string | null>;
  drop: (ids: readonly string[]) => void;
};

function Card({ card, own, findings, put, drop }: CardProps) {
  const { cause } = card;
  const ownIds = new Set(own.map(({ id }) => id));
  const [adding, setAdding] = useState('');
  const left = findings.filter(({ id }) => !card.findings.some(({ findingId }) => findingId === id));
  const added = left.find(({ id }) => id === adding);
  return (
    <section aria-label={cause.name} className="flex flex-col gap-4 border-t-[3px] border-ink pt-2.5">
      <header>
        <h2 className="text-lg font-semibold">{cause.name}</h2>
        <p className="text-[15px] text-soft">
          {card.roleName ? `Needs: ${card.roleName}. ` : 'Needs no part. '}
          {card.operations.length ? `Mended by: ${listOf(card.operations.map((title) => title.toLowerCase()))}. ` : ''}
          Mending it helps in {formatPercent(cause.cure)}.
        </p>
      </header>
      <div>
        <h3 className="font-semibold">How it shows</h3>
        <p className="text-sm text-soft">How many in a hundred machines with this fault show it, against all machines.</p>
        <ul>
          {card.findings.map((row) => (
            <li
              key={row.findingId}
              className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 border-b border-line py-1"
            >
              <span className="min-w-0 flex-1 basis-56">
                {row.text} <span className="text-sm text-soft">all machines {formatPercent(row.background)}</span>{' '}
                {ownIds.has(row.rowId) ? <Mark tone="sound">own</Mark> : null}
              </span>
              <span className="flex items-center gap-2">
                <ShareForm
                  label={`${row.text}: with ${cause.name.toLowerCase()}`}
                  share={row.p}
                  take={(p) => put([ownLikelihood(cause.id, row.findingId, p)])}
                />
                {ownIds.has(row.rowId) ? (
                  <Button tone="quiet" aria-label={`As before: ${row.text}`} onClick={() => drop([row.rowId])}>
                    As before
                  </Button>
                ) : null}
              </span>
            </li>
          ))}
        </ul>
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Select
            label="It shows something else as well"
            className="w-72"
            value={adding}
            onChange={setAdding}
            empty="choose what"
            options={left.map(({ id, text }) => ({ value: id, text }))}
          />
          {added ? (
            <ShareForm
              key={added.id}
              label={`${added.text}: with ${cause.name.toLowerCase()}`}
              share={null}
              take={async (p) => {
                const wrong = await put([ownLikelihood(cause.id, added.id, p)]);
                if (wrong === null) setAdding('');
                return wrong;
              }}
            />
          ) : null}
        </div>
      </div>
      <div>
        <h3 className="font-semibold">Checks that tell it</h3>
        <ul>
          {card.checks.map((row) => (
            <li
              key={row.rowId}
              className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 border-b border-line py-1"
            >
              <span>
                {row.title}: <strong>{row.outcome.toLowerCase()}</strong>{' '}
                {ownIds.has(row.rowId) ? <Mark tone="sound">own</Mark> : null}
              </span>
              <span className="flex items-center gap-2 text-soft">
                {formatPercent(row.p)}, else {formatPercent(row.background)}
                {ownIds.has(row.rowId) ? (
                  <Button
                    tone="quiet"
                    aria-label={`Remove: ${row.title}`}
                    onClick={() => drop(rowsOfCheck(row.checkId, own))}
                  >
                    Remove
                  </Button>
                ) : null}
              </span>
            </li>
          ))}
        </ul>
        <CheckForm take={(check) => put(ownCheck(`own-${crypto.randomUUID()}`, cause, check))} />
      </div>
      {card.fixes.length ? (
        <div>
          <h3 className="font-semibold">Other ways to mend it</h3>
          <ul>
            {card.fixes.map(({ name, roleName, cure, lifeShare }) => (
              <li key={name} className="border-b border-line py-1.5">
                {name}
                <span className="block text-sm text-soft">
                  {formatPercent(cure)} that it mends it; it lasts {formatPercent(lifeShare)} of a new part’s life;{' '}
                  {roleName === null ? 'no part' : roleName}
                </span>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {card.roots.length ? (
        <div>
          <h3 className="font-semibold">Why it comes about</h3>
          <ul>
            {card.roots.map(({ id, name, signs, advice }) => (
              <li key={id} className="border-b border-line py-1.5">
                {name}
                <span className="block text-sm text-soft">
                  {signs.length ? `Seen as: ${listOf(signs.map((sign) => sign.toLowerCase()))}. ` : ''}
                  {advice}
                </span>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {card.brings.length + card.broughtBy.length ? (
        <div>
          <h3 className="font-semibold">What comes with it</h3>
          <ul>
            {[
              ...card.brings.map((row) => ({ ...row, how: 'brings' })),
              ...card.broughtBy.map((row) => ({ ...row, how: 'comes from' })),
            ].map(({ name, p, why, how }) => (
              <li key={`${how} ${name}`} className="border-b border-line py-1.5">
                {how} <strong>{name.toLowerCase()}</strong> in {formatPercent(p)}
                <span className="block text-sm text-soft">{why}</span>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
    </section>
  );
}
