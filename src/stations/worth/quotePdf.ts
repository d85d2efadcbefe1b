import type { Quote } from '@/core/quote';
import { formatDate, formatMoney } from '@/words';
import type { StationProps } from '../shared/StationProps';

/** The part of pdfmake's document definition that is used here. */
type Content = string | { [key: string]: unknown };
type DocumentDefinition = { info: { title: string }; defaultStyle: Record<string, unknown>; content: Content[] };

const line = (text: string, value: string, bold = false) => [
  { text, bold },
  { text: value, alignment: 'right' as const, bold },
];

/** The offer as a document definition: one table per option, the shop's head, what it does not cover. */
export function quoteDocument(
  { state, assessment, settings, at }: Pick<StationProps, 'state' | 'assessment' | 'settings' | 'at'>,
  quote: Quote,
): DocumentDefinition {
  const options = quote.options.map((option): Content => ({
    margin: [0, 10, 0, 0],
    unbreakable: true,
    stack: [
      { text: option.title, bold: true, fontSize: 13 },
      option.readyOn ? { text: `Ready about ${formatDate(option.readyOn, at.today)}`, color: '#444444' } : '',
      {
        margin: [0, 4, 0, 0],
        layout: 'lightHorizontalLines',
        table: {
          widths: ['*', 'auto'],
          body: [
            ...option.lines.map((entry) =>
              line(
                `${entry.quantity > 1 ? `${entry.quantity} × ` : ''}${entry.text}${entry.partNumber ? ` (${entry.partNumber})` : ''}`,
                formatMoney(entry.net),
              ),
            ),
            line('Tax', formatMoney(option.tax)),
            line('To pay', formatMoney(option.gross), true),
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
        text: `${state.plate?.badge ?? ''} ${state.plate?.modelNumber ?? ''}${state.serial ? `, serial ${state.serial}` : ''}`,
      },
      {
        text: `Cause: ${assessment.cause?.name ?? 'not settled yet'}${assessment.decided ? '' : ' (likely)'}`,
        margin: [0, 2, 0, 0],
      },
      ...options,
      {
        text: `${quote.feeWaivedIfRepaired ? `If you decline, the inspection costs ${formatMoney(quote.feeGross)}; if you say yes it is included.` : ''} Prices of ${formatDate(at.today, '1970-01-01')}.`,
        margin: [0, 14, 0, 0],
        color: '#444444',
      },
    ],
  };
}

/** Opens the PDF for printing; the library is loaded only now. */
export async function printQuote(
  props: Pick<StationProps, 'state' | 'assessment' | 'settings' | 'at'>,
  quote: Quote,
): Promise<void> {
  const [{ default: pdfMake }, { default: fonts }] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    import('pdfmake/build/vfs_fonts'),
  ]);
  pdfMake.addVirtualFileSystem(fonts);
  await pdfMake.createPdf(quoteDocument(props, quote)).download(`offer-${props.state.number}.pdf`);
}
