'use client';
import { Moon, Sun } from 'lucide-react';
import { useEffect, useSyncExternalStore } from 'react';

const KEY = 'sorter-theme';
const CHANGED = 'sorter-theme-changed';

const isDark = (): boolean => {
  const chosen = localStorage.getItem(KEY);
  return chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
};

/** The colours that were chosen, or the device's: also where there is no switch. */
export const applyTheme = (): void => {
  document.documentElement.dataset['theme'] = isDark() ? 'dark' : 'light';
};

const subscribe = (listener: () => void) => {
  const device = matchMedia('(prefers-color-scheme: dark)');
  device.addEventListener('change', listener);
  window.addEventListener('storage', listener);
  window.addEventListener(CHANGED, listener);
  return () => {
    device.removeEventListener('change', listener);
    window.removeEventListener('storage', listener);
    window.removeEventListener(CHANGED, listener);
  };
};

/** Light for the counter, dark for the cellar: as the device says until somebody chooses. Other tabs follow. */
export function ThemeSwitch() {
  const dark = useSyncExternalStore(subscribe, isDark, () => false);
  useEffect(() => {
    document.documentElement.dataset['theme'] = dark ? 'dark' : 'light';
  }, [dark]);
  const turn = () => {
    localStorage.setItem(KEY, dark ? 'light' : 'dark');
    window.dispatchEvent(new Event(CHANGED));
  };
  return (
    <button
      type="button"
      onClick={turn}
      aria-label={dark ? 'Light colours' : 'Dark colours'}
      className="grid size-11 place-items-center"
    >
      {dark ? <Sun aria-hidden size={20} /> : <Moon aria-hidden size={20} />}
    </button>
  );
}
