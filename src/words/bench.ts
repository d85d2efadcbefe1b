import type { MachineNow, SwapTask, WorkSheet } from '@/core/bench';
import type { Joint } from '@/core/catalogue';
import { listOf, plural } from './format';

export const POSTURE_WORDS: Record<MachineNow['posture'], string> = {
  upright: 'upright',
  leaning: 'leaning, wedged',
  back: 'on its back',
  face: 'on its face',
};

/** "29 hours", "3 days". */
export const formatHours = (hours: number): string =>
  hours < 72 ? plural(Math.round(hours), 'hour') : plural(Math.round(hours / 24), 'day');

/** What is to be done with the new part or the old one. */
export function swapWords({ kind, roleName, text }: SwapTask): string {
  const name = roleName.toLowerCase();
  switch (kind) {
    case 'prepare':
      return `New ${name}: ${text.toLowerCase()}`;
    case 'compare':
      return `Old and new ${name} side by side once more: sizes, plug, lugs, ratings`;
    case 'carry-over':
      return `Moves over from the old ${name}: ${text.toLowerCase()}`;
    case 'keep':
      return `The old ${name} is not binned before it runs`;
  }
}

const JOINTS: Record<Joint['kind'], string> = {
  'dry-gasket': 'A dry gasket',
  'gasket-and-bead': 'A gasket and a bead',
  bead: 'A bead alone',
};

/** "A gasket and a bead of 3 mm, 16 bolts M6x35, opposed, in two passes, 6 Nm." */
export function jointWords({ kind, beadMm, bolts, size, drillMm, pattern, passes, tightness }: Joint): string {
  return [
    `${JOINTS[kind]}${beadMm === undefined ? '' : ` of ${beadMm} mm`}`,
    `${plural(bolts, 'bolt')} ${size}`,
    ...(drillMm === undefined ? [] : [`holes ${drillMm} mm`]),
    pattern === 'opposed' ? 'opposed' : 'round in turn',
    `in ${plural(passes, 'pass', 'passes')}`,
    tightness,
  ].join(', ');
}

/** What must not be done to a machine that stands open. */
export function mustNotWords({ now }: WorkSheet, curing: string | null): string[] {
  return [
    ...(now.off.length ? ['Do not plug it in: panels are off.'] : []),
    ...(now.interlocksOff.length
      ? [`Do not run it: no lock or lid switch (${listOf(now.interlocksOff.map(({ title }) => title.toLowerCase()))}).`]
      : []),
    ...(curing ? [`No water and no load on the joint until ${curing}.`] : []),
    ...(now.posture === 'upright' ? [] : ['Do not reach under it, do not take its support away.']),
  ];
}
