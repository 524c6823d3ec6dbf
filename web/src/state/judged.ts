import { t } from '@lingui/core/macro';
import { useMemo } from 'react';
import { keepPreviousData, skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { answer, api, Refused, type BenchAnswer, type Request } from '../api';
import { useWorkspace } from './workspace';
import { request } from './inputs';
import { useSlow, useSteady } from './steady';

/** The request, with the wall where one is described. */
export function useRequest(): Request | undefined {
  const { inputs, units } = useWorkspace();
  return useMemo(() => request(inputs, units), [inputs, units]);
}

const pictures = ['section', 'back', 'side', 'above'] as const;

/** The drawings of the last answers by their marks: what did not change is not sent again. */
const drawn = new Map<string, string>();
const mostDrawn = 40;

/** The revisions that were first read here, by what they are of: what others save since is told. */
const seen = new Map<string, number>();

/** What is saved here is no news here. */
export const haveSaved = (kind: 'display' | 'bracket', id: string, revision: number) => seen.set(`${kind} ${id}`, revision);

/** What others have saved meanwhile has been read. */
export function haveRead(a: BenchAnswer) {
  haveSaved('display', a.display.id, a.display_revision);
  haveSaved('bracket', a.bracket.id, a.bracket_revision);
}

/** An answer with its drawings; those that did not change are here already. */
export async function drawnBy<N extends string, T extends { marks: Record<string, string> } & Record<N, string>>(names: readonly N[], ask: (have: string[]) => Promise<T>): Promise<T> {
  let got = await ask([...drawn.keys()]);
  if (names.some((n) => got.marks[n] && !got[n] && !drawn.has(got.marks[n]))) got = await ask([]); // forgotten meanwhile
  for (const n of names) {
    const mark = got.marks[n];
    if (!mark) continue;
    const svg = got[n] || drawn.get(mark)!;
    drawn.delete(mark);
    drawn.set(mark, svg); // the latest last
    got = { ...got, [n]: svg };
  }
  for (const mark of [...drawn.keys()].slice(0, -mostDrawn)) drawn.delete(mark);
  return got;
}

async function judge(q: Request, signal: AbortSignal): Promise<BenchAnswer> {
  const since = { display_revision: seen.get(`display ${q.display_id}`), bracket_revision: seen.get(`bracket ${q.bracket_id}`) };
  const got = await drawnBy(pictures, (have) => answer(api.POST('/api/bench', { body: { ...q, ...since, have }, signal })));
  if (!seen.has(`display ${got.display.id}`)) seen.set(`display ${got.display.id}`, got.display_revision);
  if (!seen.has(`bracket ${got.bracket.id}`)) seen.set(`bracket ${got.bracket.id}`, got.bracket_revision);
  return got;
}

interface Last<T> {
  answer?: T;
  at?: number; // when it came
  error: Error | null; // since then
}

/** What is known of the answer to what is asked now: it is there, it is late, it was refused, or nobody answers. */
export type State = { kind: 'judged' } | { kind: 'waiting' } | { kind: 'refused'; why: string } | { kind: 'unreachable'; since?: number };

/** What the server said last of a kind, the answer and what was refused since: both stay on the
    page while the next answer is on its way, so that nothing flickers while somebody types. */
export function useLast<T>(of: readonly string[]) {
  const queries = useQueryClient();
  const key = ['last', ...of];
  const { data } = useQuery<Last<T>>({ queryKey: key, queryFn: skipToken });
  const take = async (work: Promise<T>, signal: AbortSignal) => {
    try {
      const answer = await work;
      queries.setQueryData<Last<T>>(key, { answer, at: Date.now(), error: null });
      return answer;
    } catch (e) {
      if (!signal.aborted) queries.setQueryData<Last<T>>(key, (last) => ({ ...last, error: e as Error }));
      throw e;
    }
  };
  /** The error to be shown of a query that takes its answers here. */
  const errorOf = (query: { error: Error | null; isPlaceholderData: boolean; isPending: boolean }) => (query.isPlaceholderData || query.isPending ? (data?.error ?? query.error) : query.error);
  return { last: data?.answer, was: () => queries.getQueryData<Last<T>>(key)?.answer, at: data?.at, take, errorOf };
}

/** The state of an answer that is awaited, and of what was wrong. */
export function useStateOf(error: Error | null, waiting: boolean, since?: number): State {
  const late = useSlow(waiting);
  if (error instanceof Refused && error.problem.status === 0) return { kind: 'unreachable', since };
  if (error) return { kind: 'refused', why: error instanceof Refused && error.problem.problems ? t`a figure is not right` : error.message };
  return { kind: late ? 'waiting' : 'judged' };
}

/** The judgement of what is asked. While the next one is on its way, or when
    the request is refused or cannot be sent, the last one of the same display
    stays. */
export function useJudged() {
  const { inputs } = useWorkspace();
  const { value: q, waiting } = useSteady(useRequest());
  const { last, at, take, errorOf } = useLast<BenchAnswer>(['bench']);
  const query = useQuery<BenchAnswer>({
    queryKey: ['bench', q],
    enabled: q !== undefined,
    queryFn: ({ signal }) => take(judge(q!, signal), signal),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 20_000, // answers have drawings in them
  });
  const same = last?.display.id === (inputs.typed?.id ?? inputs.display);
  const error = errorOf(query);
  const late = query.isPlaceholderData || waiting || query.isPending;
  return { ...query, error, state: useStateOf(error, late, at), isPlaceholderData: query.isPlaceholderData || waiting, data: query.data ?? (same ? last : undefined) };
}
