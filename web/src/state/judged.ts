import { keepPreviousData, skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { answer, api, type BenchAnswer, type Question } from '../api';
import { useDesk } from './desk';
import { onSite, question } from './question';
import { useSteady } from './steady';

/** The catalogue's own documents of what is picked, to put changes on. */
export function useBase() {
  const { asking } = useDesk();
  const display = useQuery({
    queryKey: ['display', asking.display],
    enabled: asking.display !== '' && !asking.typed,
    queryFn: ({ signal }) => answer(api.GET('/api/displays/{id}', { params: { path: { id: asking.display } }, signal })),
  });
  const bracket = useQuery({
    queryKey: ['bracket', asking.bracket],
    enabled: asking.bracket !== '' && !asking.ownBracket,
    queryFn: ({ signal }) => answer(api.GET('/api/brackets/{id}', { params: { path: { id: asking.bracket } }, signal })),
  });
  return { display: asking.typed ?? display.data, bracket: asking.ownBracket ?? bracket.data };
}

export function useQuestion(): Question | undefined {
  const { asking, units } = useDesk();
  return question(asking, useBase(), units);
}

/** The question, on the site that is set up. */
export function useSiteQuestion(): Question | undefined {
  const { asking } = useDesk();
  return onSite(useQuestion(), asking);
}

const pictures = ['section', 'back', 'side', 'above'] as const;

/** The drawings of the last answers by their marks: what did not change is not sent again. */
const drawn = new Map<string, string>();
const mostDrawn = 40;

async function judge(q: Question, signal: AbortSignal): Promise<BenchAnswer> {
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

/** The last answer of a kind that the server gave: it stays on the page while the next one is on
    its way, or is refused. */
export function useLast<T>(of: readonly string[]): [T | undefined, (answer: T) => T] {
  const queries = useQueryClient();
  const key = ['last', ...of];
  const { data } = useQuery<T>({ queryKey: key, queryFn: skipToken });
  return [data, (answer) => queries.setQueryData<T>(key, answer) as T];
}

/** The judgement of what is asked. While the next one is on its way, or when
    the question is refused or cannot be sent, the last one of the same display
    stays. */
export function useJudged() {
  const { asking } = useDesk();
  const { value: q, waiting } = useSteady(useQuestion());
  const [last, remember] = useLast<BenchAnswer>(['bench']);
  const query = useQuery<BenchAnswer>({
    queryKey: ['bench', q],
    enabled: q !== undefined,
    queryFn: async ({ signal }) => remember(await judge(q!, signal)),
    placeholderData: keepPreviousData,
    gcTime: 20_000, // answers have drawings in them
  });
  const same = last?.display.id === (asking.typed?.id ?? asking.display);
  return { ...query, isPlaceholderData: query.isPlaceholderData || waiting, data: query.data ?? (same ? last : undefined) };
}
