import Papa from 'papaparse';
import { localDateOf } from '../units';
import type { RecordedCase } from './records';

const yesNo = (value: boolean | null | undefined): string =>
  value === null || value === undefined ? '' : value ? 'yes' : 'no';
const share = (value: number | undefined): string =>
  value === undefined ? '' : String(Math.round(value * 1000) / 1000);

/**
 * The closed tickets behind the records as CSV (RFC 4180), one line each: days in the shop's zone, minutes, chances from 0 to 1. A cell is empty where nothing was noted. No cell can
 * start a formula in a spreadsheet. O(cases).
 */
export const recordsAsCsv = (cases: readonly RecordedCase[], zone: string): string =>
  Papa.unparse(
    [...cases]
      .sort((a, b) => a.number - b.number)
      .map((one) => {
        const cause = one.causes.at(-1);
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
          plateSaid: share(one.plate?.said),
          plateTrue: yesNo(one.plate?.true),
          attempts: String(one.causes.length),
          causeSaid: share(cause?.said),
          causeTrue: yesNo(cause?.true),
        };
      }),
    { escapeFormulae: true, newline: '\r\n' },
  );
