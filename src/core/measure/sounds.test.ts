import { describe, expect, it } from 'vitest';
import { sum } from '../units';
import { SOUNDS, soundOf } from './sounds';

const RATE = 8000;

/** Power of one frequency, by its Fourier sum. */
function powerAt(samples: Float32Array, hertz: number): number {
  let [real, imaginary] = [0, 0];
  samples.forEach((value, index) => {
    real += value * Math.cos((2 * Math.PI * hertz * index) / RATE);
    imaginary += value * Math.sin((2 * Math.PI * hertz * index) / RATE);
  });
  return (real ** 2 + imaginary ** 2) / samples.length ** 2;
}
const loud = (samples: Float32Array, hertz: readonly number[]) => sum(hertz.map((one) => powerAt(samples, one)));

describe('sounds to compare with', () => {
  it.each(SOUNDS)('%s: as long as asked for, never too loud, the same every time', (sound) => {
    const samples = soundOf(sound, RATE, 2);
    expect(samples).toHaveLength(2 * RATE);
    expect(Math.max(...samples.map(Math.abs))).toBeCloseTo(0.8, 5);
    expect(soundOf(sound, RATE, 2)).toEqual(samples);
  });

  it('a hum lies at twice the mains, a free motor high, a roar deep', () => {
    const hum = soundOf('hum', RATE, 2);
    expect(powerAt(hum, 100)).toBeGreaterThan(20 * powerAt(hum, 170));
    const free = soundOf('free-motor', RATE, 2);
    expect(powerAt(free, 420)).toBeGreaterThan(20 * powerAt(free, 100));
    const roar = soundOf('roar', RATE, 2);
    const deep = Array.from({ length: 40 }, (_, index) => 20 + index * 5);
    const high = deep.map((hertz) => hertz + 1500);
    expect(loud(roar, deep)).toBeGreaterThan(5 * loud(roar, high));
  });

  it('a click is silence but for a moment in every second; a rattle knocks eight times', () => {
    const quiet = (samples: Float32Array) => samples.filter((value) => Math.abs(value) < 0.01).length / samples.length;
    expect(quiet(soundOf('click', RATE, 2))).toBeGreaterThan(0.97);
    const rattle = soundOf('rattle', RATE, 2);
    const knocks = Array.from({ length: 16 }, (_, knock) => rattle.slice((knock * RATE) / 8, ((knock + 1) * RATE) / 8));
    for (const knock of knocks) {
      expect(Math.max(...knock.slice(0, 100).map(Math.abs))).toBeGreaterThan(0.1);
      expect(Math.max(...knock.slice(-200).map(Math.abs))).toBeLessThan(0.01);
    }
  });
});
