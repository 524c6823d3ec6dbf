import { useEffect } from 'react';
import { useDesk } from '../asking';

/** Whether a key press is meant for a field. */
function writing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && (target.type === 'range' || target.type === 'checkbox')) return false;
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

/** Single-key shortcuts, while no field is being written in. They can be
    switched off, since a slip of the hand or of dictation can press one. */
export function useKeys(keys: Record<string, () => void>) {
  const { letters } = useDesk();
  useEffect(() => {
    if (!letters) return;
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || writing(e.target) || document.querySelector('[role="dialog"]')) return;
      const act = keys[e.key];
      if (act) {
        e.preventDefault();
        act();
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}

/** Puts the keyboard on a field of the bench. */
export function focusPick(name: string) {
  const field = document.querySelector<HTMLElement>(`[data-pick="${name}"]`);
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}
