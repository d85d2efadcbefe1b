import { seededRandom } from '../units';

/** Sounds of machines to compare with, as plain choices. */
export const SOUNDS = ['hum', 'click', 'rattle', 'roar', 'free-motor'] as const;
export type Sound = (typeof SOUNDS)[number];

const MAINS_HZ = 50;
const LOUD = 0.8;

/** What each sounds like at a moment, in any unit; `noise`: a random number of −1 to 1. Seconds. */
const WAVES: Record<Sound, (seconds: number, noise: number, smooth: number) => number> = {
  // A motor that is held sings at twice the mains, with a little of its octave.
  hum: (t) => Math.sin(2 * Math.PI * 2 * MAINS_HZ * t) + 0.35 * Math.sin(2 * Math.PI * 4 * MAINS_HZ * t),
  // A relay or a lock: a short crack every second.
  click: (t, noise) => (t % 1 < 0.012 ? noise * Math.exp(-(t % 1) / 0.003) : 0),
  // Something loose, eight knocks a second, each with its own weight.
  rattle: (t, noise) => (0.6 + 0.4 * Math.sin(11 * Math.floor(t * 8))) * noise * Math.exp(-((t * 8) % 1) / 0.12),
  // Bearings: rough and deep, swelling with every turn and rising with the speed.
  roar: (t, _noise, smooth) =>
    (2.2 + Math.sin(2 * Math.PI * (4 + 2 * t) * t)) * smooth + 0.25 * Math.sin(2 * Math.PI * (60 + 30 * t) * t),
  // A motor without its load: high and clean, with its speed.
  'free-motor': (t) => Math.sin(2 * Math.PI * 420 * t) + 0.5 * Math.sin(2 * Math.PI * 840 * t),
};

/**
 * One of the sounds, made here: samples between −0.8 and 0.8, the loudest at that. The same every time. O(seconds · rate).
 * @param rate samples a second
 */
export function soundOf(sound: Sound, rate: number, seconds: number): Float32Array<ArrayBuffer> {
  const random = seededRandom(SOUNDS.indexOf(sound) + 1);
  const samples = new Float32Array(Math.round(rate * seconds));
  let smooth = 0;
  let loudest = 1e-9;
  for (let index = 0; index < samples.length; index += 1) {
    const noise = 2 * random() - 1;
    // A low pass: what is left of the noise is deep.
    smooth += (noise - smooth) * Math.min(1, (2 * Math.PI * 160) / rate);
    const value = WAVES[sound](index / rate, noise, smooth);
    samples[index] = value;
    loudest = Math.max(loudest, Math.abs(value));
  }
  for (let index = 0; index < samples.length; index += 1) samples[index] = ((samples[index] ?? 0) * LOUD) / loudest;
  return samples;
}
