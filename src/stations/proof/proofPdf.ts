import type { DocumentDefinition } from 'pdfmake/build/pdfmake';
import type { DueProof } from '@/core/bench';
import { acceptedOption, machineName } from '@/core/ticket';
import { addDays, fromMajor, localDateOf } from '@/core/units';
import {
  capital,
  formatFullDate,
  formatMoney,
  outOfHundred,
  plural,
  measuredWords,
  runWords,
  verdictWords,
} from '@/words';
import { savePdf } from '../shared/print';
import type { ProofProps } from './ProofProps';

type Content = DocumentDefinition['content'];

const heading = (text: string) => ({ text, bold: true, fontSize: 12, margin: [0, 10, 0, 2] });
const machineOf = (state: ProofProps['state']): string =>
  `${machineName(state)}${state.serial ? `, serial ${state.serial}` : ''}`;

function head({ state, settings, at }: ProofProps, title: string): Content {
  return [
    { text: settings.shopName, bold: true, fontSize: 16 },
    { text: [settings.address, settings.phone].filter(Boolean).join(' · ') },
    { text: `${title}, ticket ${state.number}`, fontSize: 14, bold: true, margin: [0, 16, 0, 2] },
    { text: [state.customer?.name, state.customer?.place].filter(Boolean).join(', ') },
    { text: `${machineOf(state)}. ${formatFullDate(at.today)}.` },
  ];
}

/** What the figure of a proof was, and its limit. */
function figureWords({ figure }: DueProof, { readings, readingsBefore }: ProofProps['state']): string {
  if (!figure) return '';
  const reading = readings.find(({ limitId }) => limitId === figure.limitId);
  const before = readingsBefore.find(({ limitId }) => limitId === figure.limitId);
  return reading
    ? `${measuredWords(reading)}. ${verdictWords(reading, reading.unit)}${before ? `. Before: ${measuredWords(before)}` : ''}`
    : '';
}

/** What is said to the customer about what else will come due, at most. */
const MOST_DUE = 3;

/** One page for the customer: what was wrong, why, what was done and measured, how to avoid it, until when the shop answers for it, what else will come due. */
export function handOverDocument(props: ProofProps): DocumentDefinition {
  const { state, settings, causes, why, bench, nearby, at } = props;
  const { round } = state;
  const accepted = acceptedOption(round);
  const cause = causes.lead?.way.cause;
  const months = round.offer?.warrantyMonths ?? settings.warrantyMonths;
  const from = round.handedOverAt ? localDateOf(round.handedOverAt, at.zone) : at.today;
  const until = addDays(from, Math.round((months * 365.25) / 12));
  const proofs = bench?.proofs ?? [];
  const measured = proofs.flatMap((due) => {
    const words = figureWords(due, state);
    return words ? [`${due.proof.title}: ${words}.`] : [];
  });
  const fitted = round.parts.map(({ bought }) => `${bought.description} (${bought.partNumber})`);
  const advice = why?.advice || cause?.advice || '';
  const due = nearby.filter(({ causeId }) => !accepted?.causeIds.includes(causeId)).slice(0, MOST_DUE);
  return {
    info: { title: `Mended: ticket ${state.number}` },
    defaultStyle: { fontSize: 10.5 },
    content: [
      ...head(props, 'Mended'),
      heading('What was wrong'),
      {
        text: `${capital(cause?.name.toLowerCase() ?? 'what was agreed')}.${why?.told ? ` Why: ${why.told.name.toLowerCase()}.` : ''}`,
      },
      heading('What was done'),
      { ul: [...(accepted?.causeNames.map((name) => `${name}: mended`) ?? []), ...fitted] },
      ...(state.failingRun
        ? [
            { text: `It failed so: ${runWords(state.failingRun)}.` },
            {
              text: round.repeated
                ? `The same again: ${round.repeated.loadKg} kg, ${round.repeated.rpm} rpm, ${plural(round.repeated.minutes, 'minute')}${round.repeated.seen ? `: ${round.repeated.seen}` : ''}.`
                : 'The same was run again, and passed.',
            },
          ]
        : []),
      ...(measured.length ? [heading('What was measured'), { ul: measured }] : []),
      heading('What was tested'),
      { text: `${proofs.map(({ proof }) => proof.title).join('; ')}.` },
      ...(advice ? [heading('How to avoid it'), { text: advice }] : []),
      ...(months > 0
        ? [heading('We answer for it'), { text: `Until ${formatFullDate(until)}, for what was mended here.` }]
        : []),
      ...(due.length
        ? [
            heading('What else may come due while you keep it'),
            {
              ul: due.map(
                ({ name, needed, alone }) =>
                  `${name}: in about ${outOfHundred(needed)} such machines, about ${formatMoney(fromMajor(Math.round(alone), settings.currency))} by itself.`,
              ),
            },
          ]
        : []),
    ],
  };
}

export const saveHandOverPage = (props: ProofProps): Promise<string[]> =>
  savePdf(handOverDocument(props), `mended-${props.state.number}.pdf`);

/** The electrical safety of the machine after the work, as a page to keep: what was tested, what was measured, against which limit, by whom. */
export function safetyDocument(props: ProofProps): DocumentDefinition {
  const { state, bench } = props;
  const proofs = bench?.proofs ?? [];
  const noted = new Map(state.round.proofs.map((proof) => [proof.proofId, proof]));
  return {
    info: { title: `Electrical safety record: ticket ${state.number}` },
    defaultStyle: { fontSize: 10.5 },
    content: [
      ...head(props, 'Electrical safety record'),
      {
        margin: [0, 12, 0, 0],
        layout: 'lightHorizontalLines',
        table: {
          widths: ['*', '*', 'auto'],
          body: [
            [
              { text: 'Test', bold: true },
              { text: 'How, or what was measured', bold: true },
              { text: 'Result', bold: true },
            ],
            ...proofs.map((due) => [
              due.proof.title,
              figureWords(due, state) || due.proof.how,
              noted.get(due.proof.id)?.passed ? 'passed' : 'not passed',
            ]),
          ],
        },
      },
      {
        text: `Worked on by ${state.round.worker || '………………………'}. Signature: ………………………………`,
        margin: [0, 26, 0, 0],
      },
      { text: 'Local codes and licensed practice stand above this page.', color: '#444444', margin: [0, 8, 0, 0] },
    ],
  };
}

export const saveSafetyRecord = (props: ProofProps): Promise<string[]> =>
  savePdf(safetyDocument(props), `safety-${props.state.number}.pdf`);
