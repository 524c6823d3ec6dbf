import { useSyncExternalStore } from 'react';

/** What is being edited of one thing, and not saved. */
export interface Draft<T> {
  past: { doc: T; at: string }[]; // what it was before each change, and where that was
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

// Other screens and a reload leave drafts; closing the window would not.
window.addEventListener('beforeunload', (e) => {
  if ([...drafts.values()].some((d) => d.own)) e.preventDefault();
});
