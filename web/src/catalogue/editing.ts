import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, Refused, type Problem, type Schemas } from '../api';
import { useWorkspace } from '../state/workspace';
import { errorsByPath } from '../bench/Figures';
import { patched, undoing, useDraft } from '../state/drafts';
import { haveSaved, useLast } from '../state/judged';
import { useSteady } from '../state/steady';
import { unitOf, withUnit } from '../state/units';

export type Tree = { [name: string]: unknown };
type Kind = 'displays' | 'brackets';

/** Steps of a path: patterns[0].rows.top → patterns, 0, rows, top. */
const steps = (path: string) => path.replace(/\[(\d+)\]/g, '.$1').split('.');

export function get(document: unknown, path: string): unknown {
  return steps(path).reduce<unknown>((d, name) => (d == null ? undefined : (d as Tree)[name]), document);
}

/** The document with one place set; undefined takes it away. */
export function put<T>(document: T, path: string, value: unknown): T {
  const out = structuredClone(document) as Tree;
  const list = steps(path);
  let here = out;
  for (let i = 0; i < list.length - 1; i++) {
    const next = here[list[i]!];
    if (next == null) {
      if (value === undefined) return document;
      here[list[i]!] = {};
    }
    here = here[list[i]!] as Tree;
  }
  const last = list[list.length - 1]!;
  if (value === undefined && Array.isArray(here))
    here[last] = ''; // a place in a list is not taken out by emptying it
  else if (value === undefined) delete here[last];
  else here[last] = value;
  return out as T;
}

const hasUnitInName = (path: string) => /_(mm|kg|deg)$/.test(path);
/** Where an editor says what is wrong with fields that have no room for it. */
export const editorErrors = 'editor-errors';

export const bare = (path: string) => path.replace(/_(mm|kg|deg)$/, '');

/** A document without an entry of one of its lists, or without a figure: where those figures came from goes with them, and what is
    said of later entries is said of the entry before. */
export function without<T extends object>(doc: T, list: string, i?: number): T {
  const path = i === undefined ? list : `${list}[${i}]`;
  const out = i === undefined ? ({ ...doc } as Tree) : (put(doc, list, (get(doc, list) as unknown[]).filter((_, n) => n !== i)) as Tree);
  for (const table of ['origins', 'notes']) {
    const earlier = (key: string) => (i === undefined || !key.startsWith(`${list}[`) ? key : key.replace(/\[(\d+)\]/, (whole, n) => (Number(n) > i ? `[${Number(n) - 1}]` : whole)));
    const kept = Object.entries((out[table] ?? {}) as Tree)
      .filter(([key]) => key !== path && !key.startsWith(`${path}.`) && !key.startsWith(`${path}[`))
      .map(([key, said]) => [earlier(key), said]);
    if (out[table] !== undefined) out[table] = Object.fromEntries(kept);
  }
  return out as T;
}

/** Something of the catalogue while it is being edited: as it is saved, as it
    is now, back and forth, and what the server says of it. */
export function useEditing<T extends object>(kind: Kind, id: string, key: 'display' | 'bracket') {
  const { units } = useWorkspace();
  const queries = useQueryClient();
  const saved = useQuery({ queryKey: ['item', kind, id], queryFn: ({ signal }) => answer(api.GET('/api/items/{kind}/{id}', { params: { path: { kind, id } }, signal })) });
  const [{ past, own, typing }, setDraft] = useDraft<T>(`${kind}.${id}`);
  const [theirs, setTheirs] = useState<Schemas['TheirVersion']>();
  const doc = own?.doc ?? (saved.data?.[key] as T | undefined);
  const base = own?.base ?? saved.data?.revision ?? 0;
  const setDoc = (d: T) => setDraft({ own: { doc: d, base } });

  const { value: asked, waiting } = useSteady({ doc, units });
  const { last, take, errorOf } = useLast<Schemas['Drawn']>(['draw', kind, id]); // stays while a figure is half typed
  const drawing = useQuery({
    gcTime: 20_000, // answers have drawings in them
    queryKey: ['draw', kind, asked],
    enabled: asked.doc !== undefined,
    placeholderData: keepPreviousData,
    staleTime: 0,
    queryFn: ({ signal }): Promise<Schemas['Drawn']> => take(answer(api.POST('/api/draw', { body: { [key]: asked.doc, units: asked.units } as never, signal })), signal),
  });
  const drawn = { error: errorOf(drawing), data: drawing.data ?? last };
  const problem: Problem | undefined = drawn.error instanceof Refused ? drawn.error.problem : undefined;
  const errors = Object.fromEntries(Object.entries(errorsByPath(problem)).map(([path, text]) => [bare(path.replace(new RegExp(`^${key}\\.`), '')), text]));

  /** Sets a place; keeps what was for undo, once for a row of changes at one place. */
  const change = (at: string, next: T) => {
    if (!doc) return;
    const undo = undoing(doc, next);
    const before = past.at(-1);
    // Of a row of changes at one place the first is undone, with what the others touched.
    if (before?.at === at) setDraft({ past: [...past.slice(0, -1), { undo: { ...undo, ...before.undo }, at }] });
    else setDraft({ past: [...past, { undo, at }] });
    setDoc(next);
  };
  /** Types a figure or a text. A length, mass or angle goes into the document as a text with its
      unit, another figure as a number, as far as it is one; an empty one is taken out. The field
      keeps what is being typed, so that the next key goes behind the last. */
  const type = (path: string, text: string, kind: 'figure' | 'words' = 'figure') => {
    if (!doc) return;
    let next = doc;
    if (kind === 'words') next = put(next, path, text === '' ? undefined : text);
    else {
      const number = Number(text.replace(',', '.'));
      const value = text.trim() === '' ? undefined : hasUnitInName(path) ? withUnit(text, unitOf(path, units)) : Number.isFinite(number) ? number : text;
      next = put(put(next, path, undefined), bare(path), value);
      if (value === undefined) next = without(next, path);
      setDraft({ typing: { ...typing, [path]: { text, value, units } } });
    }
    change(path, next);
  };
  /** A figure as it stands: a number, or what was typed. */
  const figure = (path: string): { number?: number; typed?: string } => {
    const typed = get(doc, bare(path));
    const mine = typing[path];
    if (mine && mine.units === units && mine.value !== undefined && mine.value === typed) return { typed: mine.text };
    if (typeof typed === 'string') return { typed };
    const number = get(doc, path);
    return { number: typeof number === 'number' ? number : undefined };
  };
  const undo = () => {
    const last = past.at(-1);
    if (!last || !doc) return;
    const was = patched(doc, last.undo);
    if (saved.data?.[key] && Object.keys(undoing(saved.data[key], was)).length === 0)
      setDraft({ own: undefined }); // as it is saved
    else setDoc(was);
    setDraft({ past: past.slice(0, -1) });
  };
  const save = useMutation({
    mutationFn: (why: string) => answer(api.PUT('/api/items/{kind}/{id}', { params: { path: { kind, id } }, body: { revision: base, why, [key]: doc } as never })),
    onSuccess: (k) => {
      queries.setQueryData(['item', kind, id], k);
      haveSaved(key, id, k.revision);
      setDraft({ own: undefined });
      setDraft({ past: [] });
      setTheirs(undefined);
      void queries.invalidateQueries();
    },
    onError: (e) => setTheirs(e instanceof Refused && e.problem.theirs ? e.problem.theirs : undefined),
  });
  /** Goes on from somebody else's revision: with mine over it, or with theirs. */
  const settle = (whose: 'mine' | 'theirs') => {
    if (!theirs) return;
    const other = theirs.saved?.[key] as T | undefined;
    if (doc) setDraft({ own: { doc: whose === 'theirs' && other ? other : doc, base: theirs.removed ? 0 : theirs.number } });
    setTheirs(undefined);
    save.reset();
  };
  const settled = !waiting && !drawing.isFetching;
  return { settled, saved, doc, base, drawn, errors, problem, change, type, figure, undo, save, theirs, settle, dirty: past.length > 0 };
}

export type Editing<T extends object> = ReturnType<typeof useEditing<T>>;
