/** Light or dark: as the system has it, until somebody chooses otherwise. */
import { useEffect, useState } from 'react';

export type Theme = { dark: boolean; toggle(): void };

const key = 'sguardo-theme';

export function useTheme(): Theme {
  const [dark, setDark] = useState(() => {
    const kept = localStorage.getItem(key);
    return kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  });
  useEffect(() => {
    document.documentElement.dataset.theme = dark ? 'dark' : 'light';
  }, [dark]);
  return {
    dark,
    toggle() {
      localStorage.setItem(key, dark ? 'light' : 'dark');
      setDark(!dark);
    },
  };
}
