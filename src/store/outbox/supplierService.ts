import type { HeardAnswer } from '@/core/order';

export type Failed = { kind: 'failed'; why: 'down' | 'timeout' | 'unreadable'; status: number | null };
/** What came of asking a supplier: its answer; that it takes no such order; that nothing is or will be taken under this key; or nothing at all. */
export type Heard =
  | { kind: 'answer'; answer: HeardAnswer; status: number }
  | { kind: 'refused'; status: number; detail: string }
  | { kind: 'void' }
  | Failed;

/**
 * A supplier who takes orders. What it must do, whoever it is, tests/support/supplierAcceptance.ts says and tries: under one key one order is taken once and answered alike
 * for ever; what is taken back before it was taken is never taken; what was taken stands.
 */
export type SupplierService = {
  /** `document`: a UBL Order. */
  order: (key: string, document: string) => Promise<Heard>;
  takeBack: (key: string) => Promise<Heard>;
};

const TIMEOUT_MS = 6000;
const DETAIL_LENGTH = 300;

/** The formats and their parser: loaded when there is something to read. */
const documents = () => import('@/core/order/documents');

/** A supplier behind an address: UBL over HTTP, POST to order and DELETE to take back, the key as `idempotency-key`. Never throws. */
export function overHttp(address: string, shop: () => Promise<string>, ask: typeof fetch = fetch): SupplierService {
  const heard = async (method: 'POST' | 'DELETE', key: string, body: string | null): Promise<Heard> => {
    try {
      const response = await ask(address, {
        method,
        headers: {
          'content-type': 'application/xml',
          // The same key for every attempt: a repeat after a lost answer gets the first answer again.
          'idempotency-key': key,
          'x-sorter-shop': await shop(),
        },
        ...(body === null ? {} : { body }),
        signal: AbortSignal.timeout(TIMEOUT_MS),
      });
      const { status } = response;
      if (status >= 500) return { kind: 'failed', why: 'down', status };
      // Not now: nothing is said about the order itself.
      if ([408, 425, 429].includes(status)) return { kind: 'failed', why: 'down', status };
      if (status === (method === 'DELETE' ? 204 : 410)) return { kind: 'void' };
      if (!response.ok) return { kind: 'refused', status, detail: (await response.text()).slice(0, DETAIL_LENGTH) };
      const read = (await documents()).readUblOrderResponse(await response.text());
      return read.ok ? { kind: 'answer', answer: read.value, status } : { kind: 'failed', why: 'unreadable', status };
    } catch (error) {
      const slow = error instanceof DOMException && error.name === 'TimeoutError';
      return { kind: 'failed', why: slow ? 'timeout' : 'down', status: null };
    }
  };
  return {
    order: (key, document) => heard('POST', key, document),
    takeBack: (key) => heard('DELETE', key, null),
  };
}
