import { useState, useSyncExternalStore } from 'react';
import { draftsChange, draftOf, type Made, type Step } from '../state/drafts';
import { at as standing, said, shifted } from '../state/inputs';
import { show, showMass, type Units } from '../state/units';

const shape = (all: Step[]) => all.flatMap((s) => s.edits).filter((e) => typeof e.to === 'object' && e.path.endsWith(']')).length;

/** What was put at the places that were changed, as it was typed there. */
function placed(all: Step[]): Record<string, Made> {
  let out: Record<string, Made> = {};
  for (const e of all.flatMap((s) => s.edits)) {
    if (e.to === null && e.path.endsWith(']')) out = shifted(out, e.path);
    else {
      const inside = ([path]: [string, Made]) => path.startsWith(`${e.path}.`) || path.startsWith(`${e.path}[`);
      if (typeof e.to === 'object') out = Object.fromEntries(Object.entries(out).filter((o) => !inside(o)));
      out[e.path] = e;
    }
  }
  return out;
}

/** What the server said of a document, and what of it was changed then. */
interface Said {
  doc: unknown;
  errors: Record<string, string>;
  steps: Step[];
  units: Units;
}

/** What stands in an editor's fields: what the server made of the changes, and over it what is typed since. Each field looks at
    its own place only, so that a key draws one field anew and not two hundred. */
function fieldsOf(name: string) {
  let last: Said = { doc: undefined, errors: {}, steps: [], units: 'mm' };
  let of: Step[] | undefined;
  let now: Record<string, Made> = {};
  const listeners = new Set<() => void>();
  const made = (path: string): Made | undefined => {
    const { steps } = draftOf(name);
    // While an entry is added or taken away, the fields go by the document that is shown.
    const counted = shape(last.steps) === shape(steps) ? steps : last.steps;
    if (counted !== of) [of, now] = [counted, placed(counted)];
    return now[path];
  };
  const value = (path: string): unknown => {
    const mine = made(path);
    return mine ? mine.to : standing(last.doc, path);
  };
  return {
    subscribe: (l: () => void) => {
      const stop = draftsChange(l);
      listeners.add(l);
      return () => {
        stop();
        listeners.delete(l);
      };
    },
    said: (to: Said) => {
      if (to.doc === last.doc && to.steps === last.steps && to.units === last.units && JSON.stringify(to.errors) === JSON.stringify(last.errors)) return;
      last = to;
      listeners.forEach((l) => l());
    },
    /** What stands at a place. */
    value,
    /** The text of its field: a figure in the units of the page, or as it was typed. */
    text: (path: string, words = false): string => {
      const mine = made(path);
      const figure = standing(last.doc, path);
      if (words || (figure !== undefined && typeof figure !== 'number')) return String(value(path) ?? '');
      if (typeof mine?.to === 'string' && (mine.units === last.units || figure === undefined)) return said(path, { text: mine.to, unit: mine.units }, last.units);
      const n = figure as number | undefined;
      return path.endsWith('_mm') ? show(n, last.units) : path.endsWith('_kg') ? showMass(n, last.units, path) : n === undefined ? '' : String(n);
    },
    error: (path: string): string | undefined => last.errors[path],
  };
}

export type Fields = ReturnType<typeof fieldsOf>;

export const useFields = (name: string): Fields => useState(() => fieldsOf(name))[0];

/** What stands at a place, kept up; a list or an object only as often as it is another. */
export const useValue = (of: Fields, path: string): unknown => useSyncExternalStore(of.subscribe, () => of.value(path));
export const useText = (of: Fields, path: string, words?: boolean): string => useSyncExternalStore(of.subscribe, () => of.text(path, words));
export const useFieldError = (of: Fields, path: string): string | undefined => useSyncExternalStore(of.subscribe, () => of.error(path));
