/** Cold resistance of a heating element: R = V² / P (Joule). Ohms from volts and watts. */
export const elementOhm = (voltageV: number, powerW: number): number => (voltageV * voltageV) / powerW;

const ZERO_CELSIUS_K = 273.15;

/** NTC thermistor, beta form: R(T) = R25 · exp(B (1/T − 1/298.15)), T in kelvin. Good to a few percent between 0 and 90 °C. */
export const ntcOhm = (r25Ohm: number, betaK: number, celsius: number): number =>
  r25Ohm * Math.exp(betaK * (1 / (celsius + ZERO_CELSIUS_K) - 1 / (25 + ZERO_CELSIUS_K)));

/** Centrifugal pull of an unbalanced load: F = m r ω². Newtons from kilograms, metres, revolutions per minute. */
export const imbalanceNewton = (massKg: number, radiusM: number, rpm: number): number =>
  massKg * radiusM * ((2 * Math.PI * rpm) / 60) ** 2;

/** A level sensor whose signal falls (or rises) evenly with the height of the water: s(h) = s(0) + k·h. In the unit of `atZero`; millimetres. Good within the range of the sensor. */
export const levelSignal = (atZero: number, perMm: number, columnMm: number): number => atZero + perMm * columnMm;
