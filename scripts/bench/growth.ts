import { partsFor } from '@/core/fit';
import { normaliseNumber, typedPart, unlistedModel } from '@/core/identify';
import { ownRows, type Lesson } from '@/core/learn';
import { knowledgeFor, type Catalogue, type Model, type Platform } from '@/core/catalogue';
import { priorsOf } from '@/core/diagnose';
import { asDay, asId, asInstant, keyBy, seededRandom, sum, type Random, type RoleId } from '@/core/units';
import { readDemoCatalogue } from '../demo/catalogue';
import { readKnowledge } from '../knowledge';
import { percent, table } from './report';

const SEED = Number(process.env['SEED'] ?? 1);
const TICKETS = 1000;
/** Shares are of the jobs that came in just before so many tickets. */
const AFTER = [50, 200, 1000];
const WINDOW = 50;
const TODAY = asDay('2026-11-26');

function drawn(masses: readonly number[], random: Random): number {
  let left = random() * sum(masses);
  const index = masses.findIndex((mass) => (left -= mass) <= 0);
  return index < 0 ? masses.length - 1 : index;
}

type Crowd = { name: string; weight: (model: Model, rank: number) => number };
/** Which models come in: as the demo counts them, all alike, or a few again and again. */
const CROWDS: Crowd[] = [
  { name: 'as the demo counts them', weight: (model) => model.popularity + 0.25 },
  { name: 'all models alike', weight: () => 1 },
  { name: 'a few again and again', weight: (_model, rank) => 1 / (rank + 1) ** 1.2 },
];

type Job = { model: Model; roleId: RoleId; partNumber: string };

/** What comes in, and which number mends it: as a catalogue knows that the shop has not got. */
function jobsOf(world: Catalogue, crowd: Crowd, random: Random): Job[] {
  const platforms = keyBy(world.platforms, ({ id }) => id);
  const lore = new Map(
    world.platforms.map((platform: Platform) => [platform.id, knowledgeFor(world, platform)] as const),
  );
  const weights = world.models.map(crowd.weight);
  const jobs: Job[] = [];
  while (jobs.length < TICKETS) {
    const model = world.models[drawn(weights, random)];
    const knowledge = model && platforms.has(model.platformId) ? lore.get(model.platformId) : undefined;
    if (!model || !knowledge) continue;
    const cause = knowledge.causes[drawn(priorsOf(knowledge), random)];
    if (!cause?.roleId) continue;
    const { candidates } = partsFor(world, {
      models: [{ modelId: model.id, probability: 1 }],
      roleId: cause.roleId,
      position: cause.position,
      today: TODAY,
    });
    const own = candidates.filter(({ route, buy }) => route === 'maker' && buy.length === 1);
    // A serial break that is open goes one way or the other.
    const right =
      own[
        drawn(
          own.map(({ probability }) => probability),
          random,
        )
      ];
    if (right) jobs.push({ model, roleId: cause.roleId, partNumber: right.part.partNumber });
  }
  return jobs;
}

const lessonFrom = (job: Job, number: number): Lesson => {
  const modelId = unlistedModel(job.model.modelNumber);
  const at = asInstant(new Date(Date.UTC(2026, 0, 1) + number * 3_600_000).toISOString());
  return {
    ticketId: asId(`t${number}`),
    number,
    at,
    modelId,
    platformId: null,
    unlisted: {
      number: job.model.modelNumber,
      make: '',
      kind: {},
      platformId: null,
      boughtOn: null,
      guessedYears: null,
      openedAt: at,
    },
    typed: {
      [job.roleId]: {
        roleId: job.roleId,
        partNumber: job.partNumber,
        piecePrice: null,
        days: null,
        supplierName: '',
        at,
      },
    },
    measured: {},
    fitted: [
      {
        roleId: job.roleId,
        position: 'any',
        partId: typedPart(job.partNumber),
        partNumber: job.partNumber,
        description: '',
        quantity: 1,
        came: 'proved',
      },
    ],
    closed: { causeId: null, takenMinutes: null, listMinutes: null, rightFirstTime: true },
  };
};

type Proposed = { seen: boolean; number: boolean; right: boolean };

/** What a shop that began empty proposes, ticket by ticket, by what it learned on those before. */
function proposals(jobs: readonly Job[]): Proposed[] {
  const below = { ...readKnowledge() };
  const lessons: Lesson[] = [];
  return jobs.map((job, index): Proposed => {
    const fresh = ownRows(lessons, [], [], below).rows;
    const modelId = unlistedModel(job.model.modelNumber);
    const { candidates } = partsFor(
      { ...below, ...fresh, roles: below.roles },
      { models: [{ modelId, probability: 1 }], roleId: job.roleId, today: TODAY },
    );
    const [first] = candidates;
    lessons.push(lessonFrom(job, index + 1));
    return {
      seen: fresh.models.some(({ id }) => id === modelId),
      number: first !== undefined,
      right: first !== undefined && normaliseNumber(first.part.partNumber) === normaliseNumber(job.partNumber),
    };
  });
}

/** How a shop without any catalogue comes to propose the right number by working. */
export function benchGrowth(): void {
  const world = readDemoCatalogue();
  const rows = CROWDS.flatMap((crowd) => {
    const came = proposals(jobsOf(world, crowd, seededRandom(SEED)));
    return AFTER.map((after) => {
      const last = came.slice(Math.max(0, after - WINDOW), after);
      const share = (is: (one: Proposed) => boolean) => percent(last.filter(is).length / last.length);
      return [
        crowd.name,
        `${after}`,
        share(({ seen }) => seen),
        share(({ right }) => right),
        share(({ number, right }) => number && !right),
        share(({ number }) => !number),
      ];
    });
  });
  table(
    `A shop that began empty, by how many tickets it closed (seed ${SEED}; ${world.models.length} models about; shares of the last ${WINDOW} jobs)`,
    ['which models come in', 'tickets', 'model known', 'number right', 'number wrong', 'none proposed'],
    rows,
  );
}
