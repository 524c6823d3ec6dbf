import { useSyncExternalStore } from 'react';
import type { Units } from './units';

/** A change at a place of a document: what was typed or put there, and the units of its field then. */
export interface Made {
  path: string;
  to: unknown; // null takes away
  units: Units;
}

/** Whether an edit adds, moves or takes away an entry of a list. */
const structural = ({ path, to }: Made) => typeof to === 'object' && path.endsWith(']');

/** Changes that are undone together, and where they were made. */
export interface Step {
  at: string;
  edits: Made[];
}

/** What is being edited of one thing, and not saved: the changes of a revision. */
export interface Draft {
  base: number;
  whole?: object; // the document that they are of, where that is no revision
  steps: Step[];
}

const empty: Draft = { base: 0, steps: [] };

const drafts = new Map<string, Draft>();
const listeners = new Set<() => void>();

const storageKey = (name: string) => `nexufix.draft.${name}`;

/** The draft of a thing; one that was begun before a reload goes on. */
export function draftOf(name: string): Draft {
  let draft = drafts.get(name);
  if (!draft) {
    draft = empty;
    try {
      const was = JSON.parse(sessionStorage.getItem(storageKey(name)) ?? 'null') as (Partial<Draft> & { own?: { doc: object; base: number } }) | null;
      if (was?.steps) draft = { ...empty, ...was };
      else if (was?.own) draft = { base: was.own.base, whole: was.own.doc, steps: [{ at: '', edits: [] }] }; // an older program's was a document
    } catch {
      // A browser that keeps nothing, or something old.
    }
    drafts.set(name, draft);
  }
  return draft;
}

export function setDraft(name: string, part: Partial<Draft>) {
  const draft = { ...draftOf(name), ...part };
  drafts.set(name, draft);
  try {
    if (draft.steps.length > 0) sessionStorage.setItem(storageKey(name), JSON.stringify(draft));
    else sessionStorage.removeItem(storageKey(name));
  } catch {
    // Then it lasts as long as the page.
  }
  listeners.forEach((l) => l());
}

export const forgetDraft = (name: string) => setDraft(name, { ...empty, whole: undefined });

/** Changes a thing, from a revision on. Of a row of changes of the same figures the last is kept: they are undone together. */
export function addStep(name: string, revision: number, step: Step) {
  const { base, steps } = draftOf(name);
  const last = steps.at(-1);
  const figures = (s: Step) => s.edits.every((e) => e.to !== null && !structural(e));
  const again = last && last.at === step.at && figures(last) && figures(step) && last.edits.map((e) => e.path).join() === step.edits.map((e) => e.path).join();
  setDraft(name, { base: steps.length > 0 ? base : revision, steps: [...(again ? steps.slice(0, -1) : steps), step] });
}

/** Takes the last change back. */
export function undoStep(name: string) {
  const { steps } = draftOf(name);
  if (steps.length > 1) setDraft(name, { steps: steps.slice(0, -1) });
  else if (steps.length === 1) forgetDraft(name);
}

export const draftsChange = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** The draft of a thing. It outlives the screen and a reload. */
export const useDraft = (name: string): Draft => useSyncExternalStore(draftsChange, () => draftOf(name));

const keptKey = (name: string) => `nexufix.kept.${name}`;
const kept = new Map<string, unknown>();

function keptOf<T>(name: string, empty: T): T {
  if (!kept.has(name)) {
    let was: unknown = empty;
    try {
      was = JSON.parse(sessionStorage.getItem(keptKey(name)) ?? 'null') ?? empty;
    } catch {
      // A browser that keeps nothing.
    }
    kept.set(name, was);
  }
  return kept.get(name) as T;
}

/** What is being written on a view, and not sent: it outlives the view and a reload. */
export function useKept<T>(name: string, empty: T): [T, (to: T) => void] {
  const value = useSyncExternalStore(draftsChange, () => keptOf(name, empty));
  const set = (to: T) => {
    kept.set(name, to);
    try {
      if (JSON.stringify(to) === JSON.stringify(empty)) sessionStorage.removeItem(keptKey(name));
      else sessionStorage.setItem(keptKey(name), JSON.stringify(to));
    } catch {
      // Then it lasts as long as the page.
    }
    listeners.forEach((l) => l());
  };
  return [value, set];
}

/** Drops everything that is edited or written here and not saved. */
export function forgetDrafts() {
  drafts.clear();
  kept.clear();
  try {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith('nexufix.draft.') || key.startsWith('nexufix.kept.')) sessionStorage.removeItem(key);
  } catch {
    // A browser that keeps nothing.
  }
  listeners.forEach((l) => l());
}

/** The names of the things that are edited and not saved in this window. */
export function leftDrafts(): string[] {
  const names = new Set([...drafts].filter(([, d]) => d.steps.length > 0).map(([name]) => name));
  try {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith(storageKey(''))) names.add(key.slice(storageKey('').length));
  } catch {
    // A browser that keeps nothing.
  }
  return [...names].sort();
}

// Other screens and a reload leave drafts; closing the window would not.
window.addEventListener('beforeunload', (e) => {
  if ([...drafts.values()].some((d) => d.steps.length > 0)) e.preventDefault();
});
