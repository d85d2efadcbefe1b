import type { Catalogue, Cause, Fix, KnownCheck } from '../catalogue';
import type { CauseId } from '../units';
import { ownRowId } from './ownRows';

/** The tables from which a cause is told. */
export const CAUSE_TABLES = [
  'causes',
  'fixes',
  'findings',
  'likelihoods',
  'phrases',
  'answer_phrases',
  'checks',
  'outcomes',
  'outcome_likelihoods',
  'operations',
  'roles',
  'brings',
  'root_causes',
  'wreck_signs',
] as const;
export type CauseTables = Pick<Catalogue, (typeof CAUSE_TABLES)[number]>;

/** All that the knowledge says of one cause. `own`: it is the shop's own word, by the id of the row that says it. */
export type CauseCard = {
  cause: Cause;
  roleName: string | null;
  operations: string[];
  /** Other ways of mending it than the part and work above. */
  fixes: (Pick<Fix, 'name' | 'cure' | 'lifeShare'> & { roleName: string | null })[];
  findings: { findingId: string; text: string; p: number; background: number; rowId: string }[];
  /** Checks of which some outcome is likelier with this cause than without. */
  checks: { checkId: string; title: string; outcome: string; p: number; background: number; rowId: string }[];
  roots: { id: string; name: string; advice: string; signs: string[] }[];
  brings: { name: string; p: number; why: string }[];
  broughtBy: { name: string; p: number; why: string }[];
};

/** What is known of a cause, findings and checks that speak most for it first; null: no such cause. O(rows). */
export function causeCard(tables: CauseTables, causeId: string): CauseCard | null {
  const cause = tables.causes.find(({ id }) => id === causeId);
  if (!cause) return null;
  const nameOf = (id: CauseId) => tables.causes.find((entry) => entry.id === id)?.name ?? id;
  const roleOf = ({ roleId }: Pick<Cause, 'roleId'>) => tables.roles.find(({ id }) => id === roleId)?.name ?? null;
  const titles = new Map(tables.operations.map(({ id, title }) => [id, title]));
  return {
    cause,
    roleName: roleOf(cause),
    operations: cause.operations.map((id) => titles.get(id) ?? id),
    fixes: tables.fixes
      .filter((fix) => fix.causeId === causeId)
      .map((fix) => ({ name: fix.name, cure: fix.cure, lifeShare: fix.lifeShare, roleName: roleOf(fix) })),
    findings: tables.likelihoods
      .filter((row) => row.causeId === causeId)
      .flatMap((row) => {
        const finding = tables.findings.find(({ id }) => id === row.findingId);
        const { findingId, p } = row;
        return finding
          ? [{ findingId, text: finding.text, p, background: finding.background, rowId: ownRowId('likelihoods', row) }]
          : [];
      })
      .sort((a, b) => b.p / Math.max(0.001, b.background) - a.p / Math.max(0.001, a.background)),
    checks: tables.outcome_likelihoods
      .filter((row) => row.causeId === causeId)
      .flatMap((row) => {
        const check = tables.checks.find(({ id }) => id === row.checkId);
        const outcome = tables.outcomes.find(({ checkId, id }) => checkId === row.checkId && id === row.outcomeId);
        if (!check || !outcome || row.p <= outcome.background) return [];
        const { checkId, p } = row;
        return [
          {
            checkId,
            title: check.title,
            outcome: outcome.text,
            p,
            background: outcome.background,
            rowId: ownRowId('outcome_likelihoods', row),
          },
        ];
      })
      .sort((a, b) => b.p / Math.max(0.001, b.background) - a.p / Math.max(0.001, a.background)),
    roots: tables.root_causes
      .filter((root) => root.causeId === causeId)
      .map(({ id, name, advice }) => ({
        id,
        name,
        advice,
        signs: tables.wreck_signs.filter(({ rootId }) => rootId === id).map(({ text }) => text),
      })),
    brings: tables.brings
      .filter((row) => row.causeId === causeId)
      .map(({ bringsId, p, why }) => ({ name: nameOf(bringsId), p, why })),
    broughtBy: tables.brings
      .filter((row) => row.bringsId === causeId)
      .map(({ causeId: from, p, why }) => ({ name: nameOf(from), p, why })),
  };
}

/** A row of the shop's own, as it is written. */
export type OwnRow = { id: string; table: string; cells: Record<string, string> };

/** Tables of knowledge that the shop writes itself. */
const OWN_TABLES = ['likelihoods', 'phrases', 'answer_phrases', 'checks', 'outcomes', 'outcome_likelihoods'] as const;

const ownRow = (table: (typeof OWN_TABLES)[number], cells: Record<string, string>): OwnRow => ({
  id: ownRowId(table, cells),
  table,
  cells,
});

/** How likely a finding is with a cause, in the shop's own word; a share. */
export const ownLikelihood = (causeId: string, findingId: string, p: number): OwnRow =>
  ownRow('likelihoods', { causeId, findingId, p: String(p) });

/** How customers of this shop say a finding. */
export const ownPhrase = (findingId: string, words: string): OwnRow =>
  ownRow('phrases', { findingId, words: plainWords(words) });

/** How customers of this shop answer a question before it is asked. */
export const ownAnswerPhrase = (checkId: string, outcomeId: string, words: string): OwnRow =>
  ownRow('answer_phrases', { checkId, outcomeId, words: plainWords(words) });

const plainWords = (words: string) => words.trim().toLowerCase().replace(/\s+/g, ' ');

export type NewCheck = {
  title: string;
  how: string;
  minutes: number;
  state: KnownCheck['state'];
  /** What is seen when it is this cause, and with what chance; and what is seen otherwise. */
  seen: string;
  p: number;
  otherwise: string;
  /** How often `seen` comes up though it is not this cause. */
  background: number;
};

/** A check of the shop's own that tells one cause: its rows. `id`: any that is not used yet. */
export function ownCheck(id: string, cause: Pick<Cause, 'id' | 'designs'>, check: NewCheck): OwnRow[] {
  const { title, how, minutes, state, seen, p, otherwise, background } = check;
  const outcome = (outcomeId: string, text: string, share: number) =>
    ownRow('outcomes', { checkId: id, id: outcomeId, text, background: String(share) });
  return [
    ownRow('checks', {
      id,
      designs: cause.designs.join(' '),
      title,
      minutes: String(minutes),
      operations: '',
      state,
      why: 'A check of this shop.',
      how,
      cautions: '',
      mustBeOn: '',
      kind: 'look',
    }),
    outcome('seen', seen, background),
    outcome('otherwise', otherwise, 1 - background),
    ownRow('outcome_likelihoods', { causeId: cause.id, checkId: id, outcomeId: 'seen', p: String(p) }),
  ];
}

/** The rows of a check of the shop's own, by which it goes again. */
export const rowsOfCheck = (
  id: string,
  rows: readonly { id: string; table: string; cells: Record<string, string> | null }[],
): string[] =>
  rows.filter(({ cells }) => cells !== null && (cells['checkId'] === id || cells['id'] === id)).map((row) => row.id);

/** Whether `table` holds knowledge that the shop writes here, not what it learned from tickets. */
export const isOwnKnowledge = (table: string): boolean => OWN_TABLES.some((own) => own === table);
