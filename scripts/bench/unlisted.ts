import { knowledgeFor, OTHER_CAUSE, type Design, type Knowledge, type Platform } from '@/core/catalogue';
import { doableOn, nextSteps, ONE_STEP, priorsOf, rankCauses, type Doable, type Evidence } from '@/core/diagnose';
import { designsBy, type KindAnswers } from '@/core/identify';
import { asId, seededRandom, sum, type CauseId, type Random } from '@/core/units';
import { readKnowledge } from '../knowledge';
import { percent, table } from './report';

const trade = readKnowledge();
const MACHINES = Number(process.env['MACHINES'] ?? 300);
const SEED = Number(process.env['SEED'] ?? 1);
const PER_MINUTE = 0.9;
const ESCALATE = 200;
const MOST_STEPS = 40;
/** What is seen from outside: the two looks that the ladder asks for. */
const LOOKS = ['loading', 'drive'];

const bare = (tags: string[], loading: Design['loading']): Platform => ({
  id: asId('u'),
  makerId: asId('u'),
  name: '',
  design: '',
  tags,
  loading,
  tub: 'bolted',
  description: '',
  serviceMode: undefined,
});

const usual = new Map(trade.roles.map(({ id, usualPrice }) => [id, usualPrice ?? 0]));
const partsOf = (knowledge: Knowledge) => {
  const prices = new Map(
    knowledge.causes.map(({ id, roleId, companions }) => [
      id,
      (roleId ? (usual.get(roleId) ?? 0) : 0) +
        sum(companions.map((companion) => (usual.get(companion.id) ?? 0) * companion.quantity)),
    ]),
  );
  return (causeId: CauseId) => prices.get(causeId) ?? 0;
};

type Shop = { knowledge: Knowledge; parts: (causeId: CauseId) => number; doable: Doable };
const shopOf = (knowledge: Knowledge): Shop => {
  const parts = partsOf(knowledge);
  // Each cause in its own way: what is measured is the doubt about the design.
  const does = (_id: CauseId, fixId: string | null) => fixId === null;
  return { knowledge, parts, doable: doableOn(knowledge, { perMinute: PER_MINUTE, parts, does, open: [] }) };
};

/** Index drawn by masses that sum to about one. */
function drawn(masses: readonly number[], random: Random): number {
  let left = random() * sum(masses);
  const index = masses.findIndex((mass) => (left -= mass) <= 0);
  return index < 0 ? masses.length - 1 : index;
}

type Machine = { truth: Knowledge; causeId: CauseId; cure: number; findings: Evidence['findings'] };

function machineOf(truth: Knowledge, random: Random): Machine {
  const index = drawn(priorsOf(truth), random);
  const cause = truth.causes[index];
  const causeId = cause?.id ?? OTHER_CAUSE;
  // What the customer tells: at most two of what it shows.
  const shows = truth.findings.filter(({ id }) => random() < truth.findingLikelihood(causeId, id));
  const told = shows.sort(() => random() - 0.5).slice(0, 2);
  return { truth, causeId, cure: cause?.cure ?? 0, findings: told.map(({ id }) => ({ findingId: id, present: true })) };
}

type Result = { cost: number; firstRight: boolean; wrongParts: number; mended: boolean };

/** Works one machine to the end by what a shop knows of it; what it does is answered by the machine as it is. */
function work({ truth, causeId, cure, findings }: Machine, shop: Shop, naive: boolean, random: Random): Result {
  const { knowledge, parts, doable } = shop;
  const outcomes: { checkId: string; outcomeId: string }[] = [];
  const failedFixes: CauseId[] = [];
  const useless = new Set<string>();
  const open = new Set<string>();
  const result: Result = { cost: 0, firstRight: false, wrongParts: 0, mended: false };
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const evidence = { findings, outcomes, failedFixes };
    const costs = { perMinute: PER_MINUTE, parts, escalate: ESCALATE, open: [] };
    const next = naive
      ? likeliest(rankCauses(knowledge, evidence), failedFixes)
      : nextSteps(knowledge, evidence, costs, doable, ONE_STEP).find(({ id }) => !useless.has(id));
    if (!next || next.kind === 'escalate') break;
    const spec =
      next.kind === 'check'
        ? doable.checks[knowledge.checks.findIndex(({ id }) => id === next.id)]
        : doable.fixes[
            doable.mends.findIndex(([first, second = null]) => first === next.id && second === (next.also ?? null))
          ];
    for (const piece of spec?.access ?? []) {
      const id = doable.accessIds[piece] ?? '';
      if (!open.has(id)) result.cost += doable.access[piece]?.cost ?? 0;
      open.add(id);
    }
    result.cost += spec?.cost ?? 0;
    if (next.kind === 'check') {
      const check = truth.checks.find(({ id }) => id === next.id);
      // This machine has nothing of the kind: looked for in vain.
      if (!check) useless.add(next.id);
      else {
        const index = drawn(
          check.outcomes.map(({ id }) => truth.outcomeLikelihood(causeId, check.id, id)),
          random,
        );
        outcomes.push({ checkId: check.id, outcomeId: check.outcomes[index]?.id ?? '' });
      }
      continue;
    }
    const right = (next.id === causeId || next.also === causeId) && random() < cure;
    if (right) {
      result.firstRight = failedFixes.length === 0;
      result.mended = true;
      return result;
    }
    if (parts(asId(next.id)) > 0) result.wrongParts += 1;
    failedFixes.push(asId(next.id));
  }
  result.cost += ESCALATE;
  return result;
}

function likeliest({ causes }: ReturnType<typeof rankCauses>, failed: readonly CauseId[]) {
  const best = causes.find(({ cause, causeId }) => cause !== null && !failed.includes(causeId));
  return best && failed.length < 6 ? { kind: 'fix' as const, id: best.causeId, also: null } : null;
}

/** What two looks from outside say of a machine of this design; a look is mistaken as often as the knowledge says. */
function looked(design: Design, random: Random): KindAnswers {
  return Object.fromEntries(
    LOOKS.map((questionId) => {
      const answers = trade.kind_answers.filter((answer) => answer.questionId === questionId);
      const named = answers.map(
        ({ id }) =>
          trade.kind_likelihoods.find(
            (row) => row.designId === design.id && row.questionId === questionId && row.answerId === id,
          )?.p,
      );
      const left = 1 - sum(named.map((p) => p ?? 0));
      const silent = named.filter((p) => p === undefined).length;
      return [
        questionId,
        answers[
          drawn(
            named.map((p) => p ?? left / Math.max(1, silent)),
            random,
          )
        ]?.id ?? null,
      ];
    }),
  );
}

const mean = (results: readonly Result[], of: (result: Result) => number) => sum(results.map(of)) / results.length;

export function benchUnlisted(): void {
  const random = seededRandom(SEED);
  const mixtures = new Map<string, Shop>();
  const rows: string[][] = [];
  for (const design of trade.designs) {
    const truth = knowledgeFor(trade, bare(design.tags, design.loading));
    const known = shopOf(truth);
    const results = { known: [] as Result[], asked: [] as Result[], naive: [] as Result[] };
    for (let count = 0; count < MACHINES; count += 1) {
      const machine = machineOf(truth, random);
      const answers = looked(design, random);
      const key = JSON.stringify(answers);
      const shares = designsBy(trade, answers).filter(({ probability }) => probability >= 0.02);
      const all = sum(shares.map(({ probability }) => probability));
      const mixture = shares.map((share) => ({ ...share, probability: share.probability / all }));
      const tags = [...new Set(mixture.flatMap(({ design: one }) => one.tags))];
      const asked = mixtures.get(key) ?? shopOf(knowledgeFor(trade, bare(tags, design.loading), mixture));
      mixtures.set(key, asked);
      const dice = random() * 1e9;
      results.known.push(work(machine, known, false, seededRandom(dice)));
      results.asked.push(work(machine, asked, false, seededRandom(dice)));
      results.naive.push(work(machine, known, true, seededRandom(dice)));
    }
    const baseline = mean(results.naive, ({ cost }) => cost);
    for (const [name, list] of Object.entries(results))
      rows.push([
        design.id,
        { known: 'design known', asked: 'two looks from outside', naive: 'baseline: known, swap the likeliest' }[
          name
        ] ?? name,
        mean(list, ({ cost }) => cost).toFixed(0),
        percent(mean(list, ({ cost }) => cost) / baseline - 1),
        percent(mean(list, ({ firstRight }) => Number(firstRight))),
        mean(list, ({ wrongParts }) => wrongParts).toFixed(2),
        percent(mean(list, ({ mended }) => Number(mended))),
      ]);
  }
  table(
    `${MACHINES} drawn machines per design that no catalogue lists (seed ${SEED}): labour and parts until mended or given up (${ESCALATE})`,
    ['design', 'what is known of it', 'cost', 'against', 'first fix right', 'wrong parts', 'mended'],
    rows,
  );
}
