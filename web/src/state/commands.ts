import { useEffect, useRef } from 'react';
import { useDesk } from './desk';

/** Whether a key press is meant for a field. */
function writing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && (target.type === 'range' || target.type === 'checkbox')) return false;
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

interface Scope {
  keys: Record<string, () => void>;
  level: number; // 0 the shell, 1 a screen, 2 what is open on it: the highest gets the key
  letters: boolean; // single-key shortcuts are on
}

const scopes = new Set<{ current: Scope }>();

window.addEventListener('keydown', (e) => {
  if (e.altKey) return;
  const held = e.ctrlKey || e.metaKey;
  const name = held ? `mod+${e.key.toLowerCase()}` : e.key;
  if (name === 'mod+s') e.preventDefault(); // the browser would save the page
  if (held && e.repeat) return;
  if ((!held && writing(e.target)) || document.querySelector('[role="dialog"]')) return;
  const act = [...scopes]
    .map((s) => s.current)
    .sort((a, b) => b.level - a.level)
    .find((s) => (held || s.letters) && s.keys[name])?.keys[name];
  if (!act) return;
  e.preventDefault();
  act();
});

/** Shortcuts: single keys while no field is being written in, and with Ctrl anywhere, as
    "mod+s". The topmost scope that has a key gets it. Single keys can be switched off,
    since a slip of the hand or of dictation can press one. */
export function useKeys(keys: Record<string, () => void>, level = 1) {
  const { letters } = useDesk();
  const scope = useRef<Scope>({ keys, level, letters });
  useEffect(() => {
    scope.current = { keys, level, letters };
  });
  useEffect(() => {
    scopes.add(scope);
    return () => void scopes.delete(scope);
  }, []);
}

/** Puts the keyboard on a field of the bench. */
export function focusPick(name: string) {
  const field = document.querySelector<HTMLElement>(`[data-pick="${name}"]`);
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}
