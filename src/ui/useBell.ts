'use client';
import { useEffect, useRef } from 'react';

const TONE_HZ = 880;
const SECONDS = 0.5;

/** Two short tones; silent where the browser lets a page make none before it was touched. */
function ring(): void {
  const audio = new AudioContext();
  const end = audio.currentTime + 2.5 * SECONDS;
  for (const from of [audio.currentTime, audio.currentTime + 1.5 * SECONDS]) {
    const tone = audio.createOscillator();
    const volume = audio.createGain();
    volume.gain.setValueAtTime(0.2, from);
    volume.gain.exponentialRampToValueAtTime(0.001, from + SECONDS);
    tone.frequency.value = TONE_HZ;
    tone.connect(volume).connect(audio.destination);
    tone.start(from);
    tone.stop(from + SECONDS);
  }
  setTimeout(() => void audio.close(), (end - audio.currentTime) * 1000 + 500);
}

/** Rings once when the clock passes a moment that lay ahead while the page was open, and calls `onRing` with those that passed. */
export function useBell(moments: readonly string[], now: string, onRing?: (passed: readonly string[]) => void): void {
  const waiting = useRef<readonly string[]>([]);
  useEffect(() => {
    const passed = waiting.current.filter((moment) => moment <= now);
    waiting.current = moments.filter((moment) => moment > now);
    if (passed.length === 0) return;
    ring();
    onRing?.(passed);
  }, [moments, now, onRing]);
}
