import type { DocumentDefinition } from 'pdfmake/build/pdfmake';
import { machineName } from '@/core/ticket';
import { localDateOf } from '@/core/units';
import {
  customerWords,
  formatDate,
  formatFullDate,
  formatMoney,
  formatRate,
  lineAmountWords,
  lineWords,
  optionWords,
  plural,
  promiseWords,
} from '@/words';
import { savePdf } from '../shared/print';
import { otherWords } from './choicesShown';
import type { WorthProps } from './WorthProps';

/** The part of pdfmake's document definition that is used here. */
type Content = string | { [key: string]: unknown };

export type PrintProps = Pick<
  WorthProps,
  'state' | 'settings' | 'at' | 'causes' | 'lore' | 'offer' | 'worth' | 'choices' | 'why'
>;

const line = (text: string, value: string, bold = false) => [
  { text, bold },
  { text: value, alignment: 'right' as const, bold },
];

/** What is printed: the offer as it was made, with the prices of its day; before there is one, what would be offered today. */
function printed({ state, offer: made, worth: today, at }: PrintProps) {
  const { offer } = state.round;
  if (offer) {
    const { options, fee, validUntil = null, warrantyMonths = 0 } = offer;
    const worth = offer.worth?.told ? { ...offer.worth, ...offer.worth.told } : null;
    return { options, fee, on: localDateOf(offer.at, at.zone), validUntil, warrantyMonths, worth };
  }
  const quote = made?.quote;
  return {
    options: quote?.options ?? [],
    fee: quote ? { gross: quote.feeGross, waived: quote.feeWaivedIfRepaired } : null,
    on: at.today,
    validUntil: made?.terms.validUntil ?? null,
    warrantyMonths: made?.terms.warrantyMonths ?? 0,
    worth: today,
  };
}

const BAR = { left: 90, width: 300, height: 16 };

/** The one drawing: what each way costs a year, the likely span as a thin line. */
function balanceDrawing(
  worth: Pick<NonNullable<WorthProps['worth']>, 'annualRepair' | 'annualReplace' | 'spreadRepair' | 'spreadReplace'>,
  currency: string,
): string {
  const rows = [
    { name: 'Repaired', value: worth.annualRepair, spread: worth.spreadRepair },
    { name: 'A new one', value: worth.annualReplace, spread: worth.spreadReplace },
  ];
  const most = Math.max(...rows.flatMap(({ value, spread }) => [value, spread[1]]), 1);
  const at = (value: number) => BAR.left + (Math.max(0, value) / most) * BAR.width;
  const drawn = rows.map(({ name, value, spread: [low, high] }, index) => {
    const y = 4 + index * 26;
    const middle = y + BAR.height / 2;
    return [
      `<text x="0" y="${middle + 4}" font-size="11">${name}</text>`,
      `<rect x="${BAR.left}" y="${y}" width="${at(value) - BAR.left}" height="${BAR.height}" fill="#bcd7dc"/>`,
      `<path d="M${at(low)} ${middle} H${at(high)}" stroke="#1c2b2b" stroke-width="1.2"/>`,
      `<text x="${BAR.left + BAR.width + 8}" y="${middle + 4}" font-size="11">${formatRate(value, currency)} a year</text>`,
    ].join('');
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 500 56">${drawn.join('')}</svg>`;
}

/** The offer as a document definition: one table per option, the shop's head, what it does not cover. */
export function quoteDocument(props: PrintProps): DocumentDefinition {
  const { state, settings, at, causes } = props;
  const { why } = props;
  const { options, fee, on, validUntil, warrantyMonths, worth } = printed(props);
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
            ...(option.deposit ? [line('Of it before the parts are ordered', formatMoney(option.deposit))] : []),
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
        text: `${machineName(state)}${state.serial ? `, serial ${state.serial}` : ''}`,
      },
      {
        text: `What is wrong: ${cause?.name.toLowerCase() ?? 'not settled yet'}${causes.decided ? '' : ' (likely)'}`,
        bold: true,
        margin: [0, 8, 0, 0],
      },
      why?.told ? { text: `Why: ${why.told.name}.` } : '',
      worth
        ? {
            text: [
              customerWords(worth, causes.decided, settings.currency),
              otherWords(props.choices, options, settings.currency),
            ]
              .filter(Boolean)
              .join(' '),
            margin: [0, 4, 0, 0],
          }
        : '',
      worth && worth.rho > 0 ? { svg: balanceDrawing(worth, settings.currency), width: 380, margin: [0, 6, 0, 0] } : '',
      ...tables,
      {
        text: `${fee?.waived ? `If you decline, the inspection costs ${formatMoney(fee.gross)}; if you say yes it is included.` : ''} Prices of ${formatFullDate(on)}.${validUntil ? ` This offer stands until ${formatFullDate(validUntil)}.` : ''}${warrantyMonths > 0 ? ` We answer for the repair for ${plural(warrantyMonths, 'month')}.` : ''}`,
        margin: [0, 14, 0, 0],
        color: '#444444',
      },
    ],
  };
}

/** The offer as a PDF; the letters that this device has no type for. */
export const printQuote = (props: PrintProps): Promise<string[]> =>
  savePdf(quoteDocument(props), `offer-${props.state.number}.pdf`);
