'use client';
import { useEffect } from 'react';

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    (['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) &&
      !(target instanceof HTMLInputElement && target.type === 'checkbox')));

/** Single keys while nobody types. */
export function useKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, [keys]);
}
