'use client';
import { useRef } from 'react';
import { noteInvoice, type HeardInvoice, type OrderState } from '@/core/order';
import type { HeardDespatch } from '@/core/order/documents';
import { eventStore, onOrder } from '@/store';
import { Button, Field, FileInput, Mark, notice } from '@/ui';
import { troubleWords } from '@/words';
import { tried } from '../tried';

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z0-9]/g, '');

/** Orders that a number from a parcel, its note or a part may mean. */
export const ordersNamed = (orders: readonly OrderState[], sought: string): OrderState[] => {
  const wanted = plain(sought);
  return wanted === ''
    ? [...orders]
    : orders.filter(({ number, reference, supplierName, lines }) =>
        [
          number,
          reference ?? '',
          supplierName,
          ...lines.flatMap((line) => [line.partNumber, line.answeredNumber, line.supplierNumber]),
        ].some((text) => plain(text).includes(wanted)),
      );
};

type Props = {
  orders: readonly OrderState[];
  sought: string;
  onSought: (text: string) => void;
  /** The note of the parcel that is on the bench. */
  note: HeardDespatch | null;
  onNote: (note: HeardDespatch | null) => void;
};

/** A parcel, from its number or its note to the lines that it brings; an invoice to its order. */
export function GoodsIn({ orders, sought, onSought, note, onNote }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const invoiced = async (invoice: HeardInvoice) => {
    const order = orders.find(({ number, reference }) => [number, reference].includes(invoice.orderNumber));
    if (!order) {
      notice(
        `Invoice ${invoice.number} is for order ${invoice.orderNumber || 'without a number'}: no such order. Nothing was noted.`,
      );
      return;
    }
    const done = await tried(() => onOrder(eventStore(), order.orderId, (now) => noteInvoice(now, invoice)));
    if (!done) return;
    onSought(order.number);
    notice(`Invoice ${invoice.number} is held against order ${order.number}: see there.`);
  };
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { readUblDespatchAdvice, readUblInvoice } = await import('@/core/order/documents');
      const text = await file.text();
      const invoice = readUblInvoice(text);
      if (invoice.ok) {
        await invoiced(invoice.value);
        return;
      }
      const advice = readUblDespatchAdvice(text);
      if (!advice.ok) {
        notice(
          advice.error.kind === 'not-xml'
            ? `${file.name} is no XML file. A despatch advice or an invoice (UBL 2) is read here.`
            : `${file.name} is no despatch advice and no invoice, or lacks ${advice.error.missing}. Type the number on the parcel instead.`,
        );
        return;
      }
      onNote(advice.value);
      onSought(advice.value.orderNumber);
    } catch (error) {
      notice(`${file.name} could not be read: ${troubleWords(error)}. Nothing was noted.`);
    }
  };
  return (
    <div className="mt-1 flex flex-wrap items-end gap-3">
      <Field
        label="A parcel came: a number on it, on its note or on a part in it"
        className="w-full max-w-md"
        mono
        autoComplete="off"
        spellCheck={false}
        value={sought}
        onChange={(event) => {
          onSought(event.target.value);
          onNote(null);
        }}
      />
      <Button onClick={() => input.current?.click()}>Read a despatch advice or an invoice</Button>
      <FileInput
        ref={input}
        label="Despatch advice or invoice"
        accept=".xml,application/xml,text/xml"
        onFile={(file) => void read(file)}
      />
      {note ? <Mark tone="sound">Despatch note {note.number}: its packs stand at the lines</Mark> : null}
    </div>
  );
}
