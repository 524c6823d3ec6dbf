import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useLayoutEffect, useMemo, useState } from 'react';
import { answer, api, Refused, type Schemas } from '../api';
import { errorsByPath } from '../bench/Figures';
import { addStep, forgetDraft, setDraft, undoStep, useDraft, type Step } from '../state/drafts';
import { said } from '../state/inputs';
import { drawnBy, haveSaved, useLast, useStateOf } from '../state/judged';
import { useSteady } from '../state/steady';
import { useUnits } from '../state/workspace';
import { useFields } from './fields';

type Kind = 'displays' | 'brackets';
type Drawn = Schemas['Drawn'];

/** Where an editor says what is wrong with fields that have no room for it. */
export const editorErrors = 'editor-errors';

/** Something of the catalogue while it is being edited: the changes of it, and what the server makes of them. */
export function useEditing<T extends object>(kind: Kind, id: string, key: 'display' | 'bracket') {
  const units = useUnits();
  const queries = useQueryClient();
  const name = `${kind}.${id}`;
  const saved = useQuery({ queryKey: ['item', kind, id], queryFn: ({ signal }) => answer(api.GET('/api/items/{kind}/{id}', { params: { path: { kind, id } }, signal })) });
  const draft = useDraft(name);
  const [theirs, setTheirs] = useState<Schemas['TheirVersion']>();
  const dirty = draft.steps.length > 0;
  const base = dirty ? draft.base : (saved.data?.revision ?? 0);

  const { value: asked, waiting } = useSteady({ base, draft, units });
  /** The changes as they are sent: on a whole document, or on a revision. */
  const sent = ({ base, draft, units }: typeof asked) => ({
    revision: base,
    ...(draft.whole && { [key]: draft.whole }),
    changes: draft.steps.flatMap((s) => s.edits.map((e) => ({ path: `${key}.${e.path}`, to: typeof e.to === 'string' ? said(e.path, { text: e.to, unit: e.units }, units) : e.to }))),
    units,
  });
  const { last, was, take, errorOf, at } = useLast<{ drawn: Drawn; steps: Step[] }>(['draw', kind, id]);
  const drawing = useQuery({
    gcTime: 20_000, // answers have drawings in them
    queryKey: ['draw', kind, id, asked],
    enabled: saved.data !== undefined,
    placeholderData: keepPreviousData,
    staleTime: 0,
    queryFn: ({ signal }) => {
      const { revision, ...changes } = sent(asked);
      const body = asked.draft.whole ? changes : { ...changes, revision, [`${key}_id`]: id };
      const ask = async () => {
        const drawn = await drawnBy(['picture', 'kit'], (have) => answer(api.POST('/api/draw', { body: { ...body, have } as Schemas['Drawing'], signal })));
        const before = drawn.problems.length > 0 ? was()?.drawn : undefined; // what was drawn stays while a figure is half typed
        return { drawn: before ? { ...before, document: drawn.document, problems: drawn.problems, meanwhile: drawn.meanwhile } : drawn, steps: asked.draft.steps };
      };
      return take(ask(), signal);
    },
  });
  const answered = drawing.data ?? last;
  const drawn = answered?.drawn;
  const doc = (drawn?.document ?? saved.data?.[key]) as T | undefined;
  const errors: Record<string, string> = {};
  for (const [path, text] of Object.entries(errorsByPath(drawn))) errors[path.replace(`${key}.`, '')] = text;
  const settled = !waiting && !drawing.isFetching;
  const state = useStateOf(errorOf(drawing), !settled, at);

  const fields = useFields(name);
  useLayoutEffect(() => fields.said({ doc, errors, steps: answered?.steps ?? [], units }));

  const acts = useMemo(() => {
    const revision = () => queries.getQueryData<Schemas['SavedItem']>(['item', kind, id])?.revision ?? 0;
    /** Changes places, undone together. */
    const change = (at: string, ...edits: [path: string, to: unknown][]) => addStep(name, revision(), { at, edits: edits.map(([path, to]) => ({ path, to, units })) });
    return {
      ...fields,
      change,
      /** Puts something at a place; null takes away what stands there. */
      set: (path: string, to: unknown) => change(path, [path, to]),
      /** Types a figure or a text; an empty one is taken away. */
      type: (path: string, text: string) => change(path, [path, text]),
      undo: () => undoStep(name),
    };
  }, [kind, id, name, units, queries, fields]);

  const save = useMutation({
    mutationFn: (why: string) => answer(api.PUT('/api/items/{kind}/{id}', { params: { path: { kind, id } }, body: { ...sent({ base, draft, units }), why } as Schemas['ItemToSave'] })),
    onSuccess: (k) => {
      queries.setQueryData(['item', kind, id], k);
      haveSaved(key, id, k.revision);
      forgetDraft(name);
      setTheirs(undefined);
      void queries.invalidateQueries();
    },
    onError: (e) => setTheirs(e instanceof Refused && e.problem.theirs ? e.problem.theirs : undefined),
  });
  /** Goes on from somebody else's revision: with my changes made in it, or without them. */
  const settle = (whose: 'mine' | 'theirs') => {
    if (!theirs) return;
    if (whose === 'theirs') forgetDraft(name);
    else if (theirs.removed) setDraft(name, { base: 0, whole: doc, steps: [{ at: '', edits: [] }] });
    else setDraft(name, { base: theirs.number });
    setTheirs(undefined);
    save.reset();
    void queries.invalidateQueries({ queryKey: ['item', kind, id] });
  };
  const changed = draft.whole ? undefined : draft.steps.flatMap((s) => s.edits.map((e) => e.path));
  return { saved, doc, base, changed, drawn, errors, state, settled, dirty, acts, undo: acts.undo, save, theirs, settle };
}

export type Editing<T extends object> = ReturnType<typeof useEditing<T>>;

/** What the fields of an editor are changed by: the same one as long as it is open. */
export type Acts = Editing<object>['acts'];
