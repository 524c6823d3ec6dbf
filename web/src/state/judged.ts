import { keepPreviousData, skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { answer, api, type BenchAnswer, type Request } from '../api';
import { useWorkspace } from './workspace';
import { onSite, request } from './inputs';
import { useSteady } from './steady';

/** The catalogue's own documents of what is picked, to put changes on. */
export function useBase() {
  const { inputs } = useWorkspace();
  const display = useQuery({
    queryKey: ['display', inputs.display],
    enabled: inputs.display !== '' && !inputs.typed,
    queryFn: ({ signal }) => answer(api.GET('/api/displays/{id}', { params: { path: { id: inputs.display } }, signal })),
  });
  const bracket = useQuery({
    queryKey: ['bracket', inputs.bracket],
    enabled: inputs.bracket !== '' && !inputs.ownBracket,
    queryFn: ({ signal }) => answer(api.GET('/api/brackets/{id}', { params: { path: { id: inputs.bracket } }, signal })),
  });
  return { display: inputs.typed ?? display.data, bracket: inputs.ownBracket ?? bracket.data };
}

export function useRequest(): Request | undefined {
  const { inputs, units } = useWorkspace();
  return request(inputs, useBase(), units);
}

/** The request, on the site that is set up. */
export function useSiteRequest(): Request | undefined {
  const { inputs } = useWorkspace();
  return onSite(useRequest(), inputs);
}

const pictures = ['section', 'back', 'side', 'above'] as const;

/** The drawings of the last answers by their marks: what did not change is not sent again. */
const drawn = new Map<string, string>();
const mostDrawn = 40;

async function judge(q: Request, signal: AbortSignal): Promise<BenchAnswer> {
  const ask = (have: string[]) => answer(api.POST('/api/bench', { body: { ...q, have }, signal }));
  let got = await ask([...drawn.keys()]);
  if (pictures.some((p) => got.marks[p] && !got[p] && !drawn.has(got.marks[p]))) got = await ask([]); // forgotten meanwhile
  for (const p of pictures) {
    const mark = got.marks[p];
    if (!mark) continue;
    const svg = got[p] || drawn.get(mark)!;
    drawn.delete(mark);
    drawn.set(mark, svg); // the latest last
    got = { ...got, [p]: svg };
  }
  for (const mark of [...drawn.keys()].slice(0, -mostDrawn)) drawn.delete(mark);
  return got;
}

interface Last<T> {
  answer?: T;
  error: Error | null; // since then
}

/** What the server said last of a kind, the answer and what was refused since: both stay on the
    page while the next answer is on its way, so that nothing flickers while somebody types. */
export function useLast<T>(of: readonly string[]) {
  const queries = useQueryClient();
  const key = ['last', ...of];
  const { data } = useQuery<Last<T>>({ queryKey: key, queryFn: skipToken });
  const take = async (work: Promise<T>, signal: AbortSignal) => {
    try {
      const answer = await work;
      queries.setQueryData<Last<T>>(key, { answer, error: null });
      return answer;
    } catch (e) {
      if (!signal.aborted) queries.setQueryData<Last<T>>(key, (last) => ({ ...last, error: e as Error }));
      throw e;
    }
  };
  /** The error to be shown of a query that takes its answers here. */
  const errorOf = (query: { error: Error | null; isPlaceholderData: boolean; isPending: boolean }) =>
    query.isPlaceholderData || query.isPending ? (data?.error ?? query.error) : query.error;
  return { last: data?.answer, take, errorOf };
}

/** The judgement of what is asked. While the next one is on its way, or when
    the request is refused or cannot be sent, the last one of the same display
    stays. */
export function useJudged() {
  const { inputs } = useWorkspace();
  const { value: q, waiting } = useSteady(useRequest());
  const { last, take, errorOf } = useLast<BenchAnswer>(['bench']);
  const query = useQuery<BenchAnswer>({
    queryKey: ['bench', q],
    enabled: q !== undefined,
    queryFn: ({ signal }) => take(judge(q!, signal), signal),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 20_000, // answers have drawings in them
  });
  const same = last?.display.id === (inputs.typed?.id ?? inputs.display);
  return { ...query, error: errorOf(query), isPlaceholderData: query.isPlaceholderData || waiting, data: query.data ?? (same ? last : undefined) };
}
