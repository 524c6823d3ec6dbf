import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { answer, api, type Schemas } from '../api';
import type { paths } from '../gen/api';

export type JobLine = Schemas['JobLine'];
export type JobState = JobLine['state'];
export type Asked = NonNullable<paths['/api/jobs']['get']['parameters']['query']>;

/** The jobs and saved pairings that are asked for, and how many there are in all. What is not judged yet is asked for again. */
export function useJobs(asked: Asked) {
  const list = useQuery({
    queryKey: ['jobs', asked],
    queryFn: async ({ signal }) => {
      let all = 0;
      const call = api.GET('/api/jobs', { params: { query: asked }, signal });
      const jobs = await answer(call.then((got) => ((all = Number(got.response.headers.get('Total-Count'))), got)));
      return { jobs, all };
    },
    placeholderData: keepPreviousData,
    refetchInterval: (q) => (q.state.data?.jobs.some((j) => j.kind === 'job' && !j.verdict) ? 1000 : false),
  });
  return { jobs: list.data?.jobs ?? [], all: list.data?.all, error: list.error, loading: list.isLoading, fetching: list.isPlaceholderData };
}
