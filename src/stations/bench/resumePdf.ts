import { machineName } from '@/core/ticket';
import { formatMinutes, formatMoment, mustNotWords } from '@/words';
import { savePdf } from '../shared/print';
import type { BenchProps, Shown } from './BenchProps';

/** The card on a machine that stands open: for whoever goes on with it, and as its label. */
export function saveResumeCard(
  { state, bench, at }: BenchProps & { bench: Shown },
  curing: string | null,
): Promise<string[]> {
  const { sheet } = bench;
  const { pieces } = state;
  const { parked, remarks } = state.round;
  const steps = sheet.sections.flatMap((section) => section.steps);
  const next = steps.filter(({ tickedAt }) => tickedAt === null).slice(0, 5);
  const list = (title: string, lines: readonly string[]) =>
    lines.length ? [{ text: title, bold: true, margin: [0, 8, 0, 2] }, { ul: [...lines] }] : [];
  return savePdf(
    {
      info: { title: `Ticket ${state.number}, open` },
      pageSize: 'A5',
      pageMargins: [34, 34, 34, 34],
      defaultStyle: { fontSize: 11 },
      content: [
        { text: `Ticket ${state.number}`, fontSize: 30, bold: true },
        {
          text: machineName(state),
          fontSize: 15,
          margin: [0, 0, 0, 6],
        },
        {
          text: `OPEN${parked ? `, since ${formatMoment(parked.at, at.now, at.zone)}${parked.by ? `, ${parked.by}` : ''}` : ''}${parked?.text ? `: ${parked.text}` : ''}`,
          bold: true,
        },
        ...list('Must not be done', mustNotWords(sheet, curing)),
        ...list(
          'Off',
          sheet.now.off.map(({ title }) => title),
        ),
        ...list(
          'Pieces set aside',
          pieces.filter(({ home }) => !home).map(({ piece, text }) => `${piece}: ${text}`),
        ),
        ...list(
          'Remarks',
          remarks.map(({ text, by }) => `${text}${by ? ` (${by})` : ''}`),
        ),
        ...list(
          'Next',
          next.map(({ title, minutes }) => `${title}, ${formatMinutes(minutes)}`),
        ),
        { text: `${formatMinutes(sheet.remainingMinutes)} to go in all.`, margin: [0, 8, 0, 0] },
      ],
    },
    `ticket-${state.number}-open.pdf`,
  );
}
