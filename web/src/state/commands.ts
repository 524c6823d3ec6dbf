import { useEffect, useRef } from 'react';
import { useLetters } from './workspace';

/** Something that a key does. */
export interface Command {
  key: string; // a single key, or with Ctrl or Cmd held as "mod+s"
  does: string; // for the help; '' for what a command before it says already
  run: () => void;
}

interface Scope {
  of: string;
  commands: Command[];
  level: number; // 0 the shell, 1 a screen, 2 what is open on it: the highest gets the key
  letters: boolean; // single-key shortcuts are on
}

/** Whether a key press is meant for a field. */
function writing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && (target.type === 'range' || target.type === 'checkbox')) return false;
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

const scopes = new Set<{ current: Scope }>();

const topmost = () => [...scopes].map((s) => s.current).sort((a, b) => b.level - a.level);

window.addEventListener('keydown', (e) => {
  if (e.altKey) return;
  const held = e.ctrlKey || e.metaKey;
  const name = held ? `mod+${e.key.toLowerCase()}` : e.key;
  if (name === 'mod+s') e.preventDefault(); // the browser would save the page
  if (held && e.repeat) return;
  const single = !held && e.key.length === 1;
  if ((single && writing(e.target)) || document.querySelector('[role="dialog"]')) return;
  for (const scope of topmost()) {
    if (single && !scope.letters) continue;
    const command = scope.commands.find((c) => c.key === name);
    if (!command) continue;
    e.preventDefault();
    command.run();
    return;
  }
});

/** The commands of what is on the page, as long as it is: single keys while no field is being
    written in, and with Ctrl anywhere. The topmost scope that has a key gets it. Single keys can
    be switched off, since a slip of the hand or of dictation can press one. */
export function useCommands(of: string, commands: Command[], level = 1) {
  const letters = useLetters();
  const scope = useRef<Scope>({ of, commands, level, letters });
  useEffect(() => {
    scope.current = { of, commands, level, letters };
  });
  useEffect(() => {
    scopes.add(scope);
    return () => void scopes.delete(scope);
  }, []);
}

/** What keys do here, the topmost scope first: a key that it has is not the others' any more. */
export function commandsHere(): { of: string; commands: { keys: string[]; does: string }[] }[] {
  const taken = new Set<string>();
  return topmost()
    .map(({ of, commands }) => {
      const out: { keys: string[]; does: string }[] = [];
      for (const c of commands) {
        if (taken.has(c.key)) continue;
        taken.add(c.key);
        const key = c.key.replace('mod+s', 'Ctrl+S');
        if (c.does) out.push({ keys: [key], does: c.does });
        else out.at(-1)?.keys.push(key);
      }
      return { of, commands: out };
    })
    .filter(({ commands }) => commands.length > 0);
}

/** Puts the keyboard on a field of the bench. */
export function focusPick(name: string) {
  const field = document.querySelector<HTMLElement>(`[data-pick="${name}"]`);
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}
