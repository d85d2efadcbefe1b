import { seededRandom } from '@/core/units';
import { KINDS, misread, type Kind } from './todayMisread';
import { makeWorld } from './todayModels';
import { drawByPopularity, pick, type Case, type World } from './world';

const PER_KIND = 4000 / KINDS.length;

/** (a) Dense siblings, endings after a slash, one slip as a rule. The resolver was first tuned here. */
export const today: World = {
  name: 'a: siblings',
  about: 'dense siblings, endings after a slash, one slip as a rule; tuned on',
  make(size, seed) {
    const world = makeWorld(size, 20_261 + size + seed);
    const random = seededRandom(97 + seed);
    const draw = drawByPopularity(world.listed, random);
    const withSuffix = world.listed.filter((model) => model.modelNumber.includes('/'));
    const drawSuffix = drawByPopularity(withSuffix, random);
    const cases: Case[] = [];
    for (const kind of KINDS)
      for (let i = 0; i < PER_KIND; i += 1) {
        const model = kind === 'suffix' && withSuffix.length ? drawSuffix() : draw();
        cases.push({ kind, text: misread(model.modelNumber, kind, random), truth: model.id });
      }
    const slip = (): Kind => pick(random, ['clean', 'typed', 'camera', 'worn'] as const);
    for (let i = 0; i < 260; i += 1)
      cases.push({ kind: 'missing sibling', text: misread(pick(random, world.missing), slip(), random), truth: null });
    for (let i = 0; i < 110; i += 1)
      cases.push({ kind: 'unknown maker', text: misread(pick(random, world.strangers), slip(), random), truth: null });
    for (let i = 0; i < 70; i += 1)
      cases.push({
        kind: 'junk',
        text: Array.from({ length: 4 + Math.floor(random() * 12) }, () =>
          pick(random, [...'ABCDEFGHJKLMNPQRSTUVWXYZ0123456789']),
        ).join(''),
        truth: null,
      });
    return { listed: world.listed, cases };
  },
};
