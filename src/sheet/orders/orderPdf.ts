import type { DocumentDefinition } from 'pdfmake/build/pdfmake';
import type { Settings } from '@/core/case';
import { orderTotal, type OrderState } from '@/core/order';
import { localDateOf } from '@/core/units';
import { savePdf } from '@/stations/shared/print';
import { formatFullDate, formatMoney } from '@/words';

/** An order on paper. */
export function orderDocument(order: OrderState, settings: Settings): DocumentDefinition {
  return {
    info: { title: `Order ${order.number}` },
    defaultStyle: { fontSize: 10.5 },
    content: [
      { text: settings.shopName, bold: true, fontSize: 16 },
      { text: [settings.address, settings.phone].filter(Boolean).join(' · ') },
      { text: `Order ${order.number}`, fontSize: 14, bold: true, margin: [0, 18, 0, 2] },
      { text: `To ${order.supplierName}, ${formatFullDate(localDateOf(order.madeAt, settings.zone))}` },
      {
        margin: [0, 10, 0, 0],
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          widths: ['auto', 'auto', '*', 'auto'],
          body: [
            ['packs', 'number', 'what', 'each, net'],
            ...order.lines.map((line) => [
              String(line.packs),
              line.supplierNumber && line.supplierNumber !== line.partNumber
                ? `${line.supplierNumber} (${line.partNumber})`
                : line.partNumber,
              line.description,
              formatMoney(line.packPrice),
            ]),
            ['', '', 'Shipping', formatMoney(order.shipping)],
            ['', '', { text: 'Together, net', bold: true }, { text: formatMoney(orderTotal(order)), bold: true }],
          ],
        },
      },
      {
        text: `Expected by ${formatFullDate(order.expectedOn)}. If a number was replaced, a price has changed or something will take longer, please say so before you send it.`,
        margin: [0, 14, 0, 0],
      },
    ],
  };
}

/** The order as a PDF; the letters that this device has no type for. */
export const saveOrderPdf = (order: OrderState, settings: Settings): Promise<string[]> =>
  savePdf(orderDocument(order, settings), `order-${order.number}.pdf`);
