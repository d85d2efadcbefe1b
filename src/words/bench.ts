import type { CountedBeside, MachineNow, SwapTask, WorkSheet } from '@/core/bench';
import type { Joint } from '@/core/catalogue';
import type { TicketFileOutcome } from '@/core/ticket';
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

/** What became of a ticket's file: what happened, what was kept, what to do. */
export function ticketFileWords(outcome: TicketFileOutcome): string {
  switch (outcome.kind) {
    case 'no-ticket-file':
      return 'This is no file of a ticket, or it is damaged. Nothing was changed. Hand the machine over again on the other device.';
    case 'other-version':
      return outcome.newer
        ? 'The other device has a newer Sorter. Nothing was changed. Reload this page to renew it, then take the file again.'
        : 'The other device has an older Sorter. Nothing was changed. Reload the page there, and hand the machine over again.';
    case 'number-taken':
      return `Ticket ${outcome.number} is another machine here. Nothing was changed. A machine goes from device to device of one shop: begin on this one with its backup.`;
    case 'diverged':
      return `Ticket ${outcome.number} was worked on here and there: ${plural(outcome.here, 'note')} here, ${plural(outcome.there, 'note')} there. Nothing was changed, both are kept where they are. Go on where most was done, and add the rest by hand.`;
    case 'taken-in':
      return outcome.added === 0
        ? `Ticket ${outcome.number} is here already, and nothing new was in the file.`
        : `Ticket ${outcome.number} ${outcome.isNew ? 'is here now' : 'goes on'}: ${plural(outcome.added, 'note')} taken in.`;
  }
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

const HOME: Record<CountedBeside, (left: number) => string> = {
  screws: (left) => `No screw on the bench but the ${left} of the last step`,
  connections: () => 'Every plug, hose and earth lead pulled at once more',
};
const AWAY: Record<CountedBeside, string> = { screws: 'a screw is left over', connections: 'a connection is not on' };
const isBeside = (item: string): item is CountedBeside => item in AWAY;

/** What is counted home, as it is to be: a tool by its name. */
export const homeWords = (item: string, screwsLeft: number): string => (isBeside(item) ? HOME[item](screwsLeft) : item);

/** What is not home of it. */
export const awayWords = (item: string): string => (isBeside(item) ? AWAY[item] : item);
