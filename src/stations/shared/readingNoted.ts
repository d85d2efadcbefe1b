import type { Limit } from '@/core/catalogue';
import type { ReadingVerdict } from '@/core/measure';
import { note, type TicketDecision, type TicketEventOf } from '@/core/ticket';

type Beside = Partial<Pick<TicketEventOf<'reading-noted'>, 'ambientCelsius' | 'columnMm' | 'values' | 'instrument'>>;

/** A judged reading as it is noted: it answers the check that its limit belongs to. null where it cannot be judged. `value`: null for an open circuit. */
export function readingNoted(
  limit: Limit,
  value: number | null,
  judged: ReadingVerdict | null,
  beside: Beside = {},
): TicketDecision | null {
  if (!judged || judged.verdict === 'cannot-judge') return null;
  return note({
    type: 'reading-noted',
    limitId: limit.id,
    label: limit.label,
    unit: limit.unit,
    value,
    ambientCelsius: null,
    ...beside,
    verdict: judged.verdict,
    low: judged.low,
    high: judged.high,
    checkId: limit.checkId ?? null,
    outcomeId: limit[judged.verdict] ?? null,
  });
}
