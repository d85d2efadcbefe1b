'use client';
import { useEffect, useRef } from 'react';
import { soundOf, SOUNDS, type Sound } from '@/core/measure';
import { Button } from '@/ui';

const NAMES: Record<Sound, string> = {
  hum: 'a hum',
  click: 'a click',
  rattle: 'a rattle',
  roar: 'a roar',
  'free-motor': 'a free motor',
};
const SECONDS = 2;

/** Sounds to compare with what is heard: made here, played by one touch, the last one stops. */
export function Sounds() {
  const audio = useRef<{ context: AudioContext; source: AudioBufferSourceNode | null } | null>(null);
  useEffect(
    () => () => {
      void audio.current?.context.close();
      audio.current = null;
    },
    [],
  );
  const play = (sound: Sound) => {
    const playing = (audio.current ??= { context: new AudioContext(), source: null });
    playing.source?.stop();
    const { context } = playing;
    const samples = soundOf(sound, context.sampleRate, SECONDS);
    const buffer = context.createBuffer(1, samples.length, context.sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start();
    playing.source = source;
    void context.resume();
  };
  return (
    <div role="group" aria-label="Sounds to compare with" className="flex flex-wrap items-center gap-1.5">
      <span className="text-sm text-soft">To compare with:</span>
      {SOUNDS.map((sound) => (
        <Button key={sound} tone="quiet" aria-label={`Play ${NAMES[sound]}`} onClick={() => play(sound)}>
          {NAMES[sound]}
        </Button>
      ))}
    </div>
  );
}
