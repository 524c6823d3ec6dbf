import { useSyncExternalStore } from 'react';

/** The parts of a document as they were; null for one that was not there. */
export type Patch = Record<string, unknown>;

/** What undoes a change of a document: its parts that the change made others. */
export function undoing(was: object, is: object): Patch {
  const [a, b] = [was as Patch, is as Patch];
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((n) => JSON.stringify(a[n]) !== JSON.stringify(b[n]));
  return Object.fromEntries(names.map((n) => [n, a[n] ?? null]));
}

/** The document with a patch put on. */
export function patched<T extends object>(doc: T, patch: Patch): T {
  const out = { ...doc, ...patch } as Patch;
  for (const [name, value] of Object.entries(patch)) if (value === null) delete out[name];
  return out as T;
}

/** What is being edited of one thing, and not saved. */
export interface Draft<T> {
  past: { undo: Patch; at: string }[]; // what undoes each change, and where that was made
  own?: { doc: T; base: number }; // as it is now, and the revision it was made from
  typing: Record<string, { text: string; value?: unknown; units: string }>; // as it is in the fields
}

const mostKept = 30; // changes that can be undone after a reload

const drafts = new Map<string, Draft<unknown>>();
const listeners = new Set<() => void>();

const storageKey = (name: string) => `nexufix.draft.${name}`;

/** The draft of a thing; one that was begun before a reload goes on. */
function draftOf(name: string): Draft<unknown> {
  let draft = drafts.get(name);
  if (!draft) {
    draft = { past: [], typing: {} };
    try {
      draft = { ...draft, ...(JSON.parse(sessionStorage.getItem(storageKey(name)) ?? '{}') as Partial<Draft<unknown>>) };
      draft.past = draft.past.filter((p) => typeof p.undo === 'object'); // an older program's were documents
    } catch {
      // A browser that keeps nothing, or something old.
    }
    drafts.set(name, draft);
  }
  return draft;
}

function change(name: string, part: Partial<Draft<unknown>>) {
  const draft = { ...draftOf(name), ...part };
  drafts.set(name, draft);
  try {
    if (draft.own) sessionStorage.setItem(storageKey(name), JSON.stringify({ ...draft, past: draft.past.slice(-mostKept) }));
    else sessionStorage.removeItem(storageKey(name));
  } catch {
    // Then it lasts as long as the page.
  }
  listeners.forEach((l) => l());
}

const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** The draft of a thing, and how it is changed. It outlives the screen and a reload. */
export function useDraft<T>(name: string): [Draft<T>, (part: Partial<Draft<T>>) => void] {
  const draft = useSyncExternalStore(subscribe, () => draftOf(name)) as Draft<T>;
  return [draft, (part) => change(name, part as Partial<Draft<unknown>>)];
}

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
  const value = useSyncExternalStore(subscribe, () => keptOf(name, empty));
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
  const names = new Set([...drafts].filter(([, d]) => d.own).map(([name]) => name));
  try {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith(storageKey(''))) names.add(key.slice(storageKey('').length));
  } catch {
    // A browser that keeps nothing.
  }
  return [...names].sort();
}

// Other screens and a reload leave drafts; closing the window would not.
window.addEventListener('beforeunload', (e) => {
  if ([...drafts.values()].some((d) => d.own)) e.preventDefault();
});
