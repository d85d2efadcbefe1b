import Papa from 'papaparse';
import { localDateOf, money, toMajor } from '../units';
import type { RecordedCase } from './records';

const yesNo = (value: boolean | null | undefined): string =>
  value === null || value === undefined ? '' : value ? 'yes' : 'no';
const share = (value: number | undefined): string =>
  value === undefined ? '' : String(Math.round(value * 1000) / 1000);

const days = (hours: number): string => String(Math.round((hours / 24) * 100) / 100);
const major = (minor: number | undefined, currency: string): string =>
  minor === undefined ? '' : String(toMajor(money(minor, currency)));

/**
 * The closed tickets behind the records as CSV (RFC 4180), one line each: days in the shop's zone, what it waited for in days of 24 hours, money in major units, minutes, chances from 0 to 1. A cell is empty where nothing was noted. No cell can
 * start a formula in a spreadsheet. O(cases).
 */
export const recordsAsCsv = (cases: readonly RecordedCase[], zone: string): string =>
  Papa.unparse(
    [...cases]
      .sort((a, b) => a.number - b.number)
      .map((one) => {
        const cause = one.causes.at(-1);
        // A ticket has one currency: that in which its offer was made.
        const currency = one.earned?.currency ?? one.price?.currency ?? '';
        return {
          ticket: String(one.number),
          opened: localDateOf(one.openedAt, zone),
          closed: localDateOf(one.closedAt, zone),
          outcome: one.outcome,
          answer: one.answer ?? '',
          promised: one.promisedOn ?? '',
          toldReady: one.toldAt ? localDateOf(one.toldAt, zone) : '',
          listMinutes: one.listMinutes === null ? '' : String(one.listMinutes),
          takenMinutes: one.takenMinutes === null ? '' : String(one.takenMinutes),
          rightFirstTime: yesNo(one.rightFirstTime),
          cameBack: String(one.callBacks),
          waitedForShop: days(one.waited.you),
          waitedForCustomer: days(one.waited.customer),
          waitedForParts: days(one.waited.parts),
          waitedForCure: days(one.waited.cure),
          waitedForCollection: days(one.waited.collection),
          toldFrom: major(one.price?.low, currency),
          toldTo: major(one.price?.high, currency),
          agreed: major(one.price?.agreed, currency),
          paidNet: major(one.earned?.net, currency),
          partsCost: major(one.earned?.parts, currency),
          currency,
          advised: one.advice ? (one.advice.repair ? 'repair' : 'replace') : '',
          plateSaid: share(one.plate?.said),
          plateTrue: yesNo(one.plate?.true),
          attempts: String(one.causes.length),
          causeSaid: share(cause?.said),
          causeTrue: yesNo(cause?.true),
        };
      }),
    { escapeFormulae: true, newline: '\r\n' },
  );
