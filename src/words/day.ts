import type { Call, DayTask } from '@/core/day';
import { formatMinutes, plural } from './format';

/** "2 days late", "due today", "3 days left". */
export const dueWords = (daysLeft: number): string =>
  daysLeft < 0 ? `${plural(-daysLeft, 'day')} late` : daysLeft === 0 ? 'due today' : `${plural(daysLeft, 'day')} left`;

/** Why a task stands where it stands. */
export const taskBecause = ({ minutes, daysLeft, tickets, handsOn }: DayTask): string =>
  `${handsOn ? 'At the bench' : 'At the desk'}, about ${formatMinutes(minutes)}; ${dueWords(daysLeft)}${tickets.length > 1 ? ` for the first of ${tickets.length} machines` : ''}. Short acts that let others wait go first, and what is late before what has time (apparent tardiness cost).`;

export const CALL_WORDS: Record<Call['why'], string> = {
  ready: 'say that it is ready',
  'no-answer': 'has not answered the offer',
  'not-fetched': 'has not fetched it',
};

/** How much work stands against how much time. */
export const dayWords = (handsOnMinutes: number, minutesLeft: number): string =>
  minutesLeft === 0
    ? `${formatMinutes(handsOnMinutes)} of hands-on work wait; today has none left.`
    : `${formatMinutes(handsOnMinutes)} of hands-on work wait, ${formatMinutes(minutesLeft)} are left today.`;
