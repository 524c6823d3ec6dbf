import { useSyncExternalStore } from 'react';
import { api, inLanguage } from '../api';

const key = 'nexufix.who';
const listeners = new Set<() => void>();

export function who(): string {
  return localStorage.getItem(key) ?? '';
}

/** Who sits here, for the history. There are no accounts. */
export function useWho(): [string, (name: string) => void] {
  const name = useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, who);
  return [
    name,
    (n) => {
      localStorage.setItem(key, n);
      listeners.forEach((l) => l());
    },
  ];
}

/** Headers that say who asks. */
export function signed(): Record<string, string> {
  return { 'Nexufix-Who': encodeURIComponent(who()), ...inLanguage };
}

api.use({
  onRequest({ request }) {
    request.headers.set('Nexufix-Who', encodeURIComponent(who()));
    return request;
  },
});
