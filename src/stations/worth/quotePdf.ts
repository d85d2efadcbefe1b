import type { DocumentDefinition } from 'pdfmake/build/pdfmake';
import { localDateOf } from '@/core/units';
import {
  formatDate,
  formatFullDate,
  formatMoney,
  lineAmountWords,
  lineWords,
  optionWords,
  promiseWords,
} from '@/words';
import { savePdf } from '../shared/print';
import type { WorthProps } from './WorthProps';

/** The part of pdfmake's document definition that is used here. */
type Content = string | { [key: string]: unknown };

export type PrintProps = Pick<WorthProps, 'state' | 'settings' | 'at' | 'causes' | 'lore' | 'offer'>;

const line = (text: string, value: string, bold = false) => [
  { text, bold },
  { text: value, alignment: 'right' as const, bold },
];

/** What is printed: the offer as it was made, with the prices of its day; before there is one, what would be offered today. */
function printed({ state, offer: made, at }: PrintProps) {
  const { offer } = state.round;
  if (offer) return { options: offer.options, fee: offer.fee, on: localDateOf(offer.at, at.zone) };
  const quote = made?.quote;
  return {
    options: quote?.options ?? [],
    fee: quote ? { gross: quote.feeGross, waived: quote.feeWaivedIfRepaired } : null,
    on: at.today,
  };
}

/** The offer as a document definition: one table per option, the shop's head, what it does not cover. */
export function quoteDocument(props: PrintProps): DocumentDefinition {
  const { state, settings, at, causes } = props;
  const { options, fee, on } = printed(props);
  const cause = causes.lead?.way.cause;
  // Of an offer that was made, as it was made.
  const promiseOf = (option: (typeof options)[number]) =>
    promiseWords({ ...props.offer?.options.find(({ id }) => id === option.id), ...option });
  const tables = options.map((option): Content => ({
    margin: [0, 10, 0, 0],
    unbreakable: true,
    stack: [
      { text: optionWords(option), bold: true, fontSize: 13 },
      promiseOf(option) ?? '',
      option.readyOn ? { text: `Ready about ${formatDate(option.readyOn, at.today)}`, color: '#444444' } : '',
      {
        margin: [0, 4, 0, 0],
        layout: 'lightHorizontalLines',
        table: {
          widths: ['*', 'auto'],
          body: [
            ...option.lines.map((entry) =>
              line(`${lineWords(entry)}${entry.partNumber ? ` (${entry.partNumber})` : ''}`, lineAmountWords(entry)),
            ),
            line('Tax', formatMoney(option.tax)),
            line(
              option.lines.some(({ amounts }) => amounts === null) ? 'To pay, without what is to be asked' : 'To pay',
              formatMoney(option.gross),
              true,
            ),
          ],
        },
      },
    ],
  }));
  return {
    info: { title: `Offer, ticket ${state.number}` },
    defaultStyle: { fontSize: 10.5 },
    content: [
      { text: settings.shopName, bold: true, fontSize: 16 },
      { text: [settings.address, settings.phone].filter(Boolean).join(' · ') },
      { text: `Offer for ticket ${state.number}`, fontSize: 14, bold: true, margin: [0, 18, 0, 2] },
      { text: [state.customer?.name, state.customer?.place].filter(Boolean).join(', ') },
      {
        text: `${state.plate ? `${state.plate.badge} ${state.plate.modelNumber}` : (state.plateNotListed ?? '')}${state.serial ? `, serial ${state.serial}` : ''}`,
      },
      {
        text: `Cause: ${cause?.name ?? 'not settled yet'}${causes.decided ? '' : ' (likely)'}`,
        margin: [0, 2, 0, 0],
      },
      ...tables,
      {
        text: `${fee?.waived ? `If you decline, the inspection costs ${formatMoney(fee.gross)}; if you say yes it is included.` : ''} Prices of ${formatFullDate(on)}.`,
        margin: [0, 14, 0, 0],
        color: '#444444',
      },
    ],
  };
}

/** The offer as a PDF; the letters that this device has no type for. */
export const printQuote = (props: PrintProps): Promise<string[]> =>
  savePdf(quoteDocument(props), `offer-${props.state.number}.pdf`);
