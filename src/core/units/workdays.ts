import { addDays, isoWeekday, type LocalDate } from './dates';

/** On which days of the week something happens (1 is Monday, 7 Sunday), and on which days it does not all the same. */
export type WorkingDays = { weekdays: readonly number[]; holidays: readonly LocalDate[] };

/** A year of holidays in a row ends any search. */
const LOOKED_AT = 370;

/** The first such day that is not before the date; the date itself where there is none. O(days passed over). */
export function nextWorkingDay(date: LocalDate, { weekdays, holidays }: WorkingDays): LocalDate {
  for (let ahead = 0; ahead < LOOKED_AT; ahead += 1) {
    const day = addDays(date, ahead);
    if (weekdays.includes(isoWeekday(day)) && !holidays.includes(day)) return day;
  }
  return date;
}

/** So many working days after the first that is not before `from`; none: that first one. O(days passed over). */
export function afterWorkingDays(from: LocalDate, days: number, working: WorkingDays): LocalDate {
  let date = nextWorkingDay(from, working);
  for (let left = days; left > 0; left -= 1) date = nextWorkingDay(addDays(date, 1), working);
  return date;
}

/** When suppliers pack and carriers bring. */
export type ShippingCalendar = {
  supplierDays: readonly number[];
  carrierDays: readonly number[];
  holidays: readonly LocalDate[];
};

/** Packed by Friday, brought by Saturday: where nobody says otherwise. */
export const USUAL_SHIPPING: ShippingCalendar = {
  supplierDays: [1, 2, 3, 4, 5],
  carrierDays: [1, 2, 3, 4, 5, 6],
  holidays: [],
};

/** When a parcel is here: packed in the supplier's working days, then on the way in the carriers'. What is neither packed nor sent is here today. O(days). */
export function arrivalDate(
  today: LocalDate,
  { handlingDays, transitDays }: { handlingDays: number; transitDays: number },
  { supplierDays, carrierDays, holidays }: ShippingCalendar,
): LocalDate {
  if (handlingDays <= 0 && transitDays <= 0) return today;
  const leaves = afterWorkingDays(today, handlingDays, { weekdays: supplierDays, holidays });
  return transitDays > 0 ? afterWorkingDays(leaves, transitDays, { weekdays: carrierDays, holidays }) : leaves;
}
