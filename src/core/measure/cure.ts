/** The air of the room: `humidity` is relative, 0 to 1. */
export type Room = { celsius: number; humidity: number };

/** The room in which makers of sealant state how deep it cures in a day. */
const REFERENCE: Room = { celsius: 23, humidity: 0.5 };
/** Below freezing, in dry air or in fog the law says nothing that one could plan by. */
const BOUNDS = { celsius: [2, 45], humidity: [0.1, 0.98] } as const;

const within = (value: number, [low, high]: readonly [number, number]) => Math.min(high, Math.max(low, value));

/** Saturation pressure of water vapour in pascal, −45 to 60 °C (Magnus, coefficients of WMO-No. 8). */
export const vapourPressure = (celsius: number): number => 611.2 * Math.exp((17.62 * celsius) / (243.12 + celsius));

/**
 * Hours until a bead that cures by the moisture of the air is through. What has cured is a skin through which the water must diffuse, so the depth goes with the root of time and of
 * the vapour's pressure: t = 24 h · (depth / depth of the first day)² · p(23 °C, 50 %) / p(room). Comyn, Day & Shaw, Journal of Adhesion 66 (1998). Temperature is taken between
 * 2 and 45 °C, humidity between 10 and 98 %. 0 where nothing cures. O(1).
 */
export function cureHours(depthMm: number, mmPerDay: number, room: Room): number {
  if (!(depthMm > 0) || !(mmPerDay > 0)) return 0;
  const pressure = (air: Room) =>
    within(air.humidity, BOUNDS.humidity) * vapourPressure(within(air.celsius, BOUNDS.celsius));
  return (24 * (depthMm / mmPerDay) ** 2 * pressure(REFERENCE)) / pressure(room);
}
