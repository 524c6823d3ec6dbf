import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { answer, api, type Request, type Schemas } from '../api';
import { FieldError, Head, Hint, PlainList } from '../parts/Page';
import { Press } from '../parts/Press';
import { useNotice } from '../shell/notice';

export interface Sent {
  what: 'template' | 'card';
  paper: 'sheet' | 'a4' | 'letter' | 'a3';
  hide: string;
  outline?: 'whole'; // also on pages that are joined
  lang?: string;
}

type Queue = Schemas['PlotQueue'];

const words: Record<Schemas['PlotLine']['state'], string> = { waiting: t`waiting`, plotting: t`plotting`, jammed: t`jammed`, done: t`done`, cancelled: t`cancelled`, failed: t`failed` };
const over = (state: string) => [t`done`, t`cancelled`, t`failed`].includes(state);

/** Puts a sheet into the plotter's queue. */
export function usePlot(request: Request | undefined) {
  const queries = useQueryClient();
  const tell = useNotice();
  return useMutation({
    mutationFn: (s: Sent) => answer(api.POST('/api/plotter', { body: request!, params: { query: { what: s.what, paper: s.paper, hide: s.hide, outline: s.outline, lang: s.lang } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ['plotter'] }),
    onError: (e) => tell({ text: t`Not plotted. ${e.message}` }),
  });
}

/** The plotter's queue. It is a stand-in: plots land as files in a folder. */
export function Plotter() {
  const queries = useQueryClient();
  const tell = useNotice();
  const queue = useQuery({
    queryKey: ['plotter'],
    queryFn: ({ signal }) => answer(api.GET('/api/plotter', { signal })),
    // Nothing moves while it is jammed.
    refetchInterval: (q) => (q.state.data?.plots.some((p) => !over(p.state)) ? (q.state.data.jammed ? 3000 : 500) : false),
  });
  const act = useMutation({
    mutationFn: (does: () => Promise<Queue>) => does(),
    onSuccess: (q) => queries.setQueryData(['plotter'], q),
    onError: (e) => tell({ text: e.message }),
    onSettled: () => void queries.invalidateQueries({ queryKey: ['plotter'] }),
  });
  const jam = (jammed: boolean) => act.mutate(() => answer(api.POST('/api/plotter/jam', { body: { jammed } })));
  const cancel = (id: number) => act.mutate(() => answer(api.POST('/api/plotter/{id}/cancel', { params: { path: { id } } })));
  const q = queue.data;
  return (
    <Box component="section" className="plotter" aria-label={t`Plotter`} sx={{ mt: 3.5, '& small': { display: 'block', color: 'text.secondary' }, '& li': { overflowWrap: 'anywhere' } }}>
      <Head>{t`Plotter (simulated)`}</Head>
      {q?.jammed && <FieldError>{t`The paper is jammed. Take it out, then clear the jam: plots go on where they stopped. What came out crumpled is not to be used.`}</FieldError>}
      {q && q.plots.length === 0 && <Hint>{t`Nothing has been plotted.`}</Hint>}
      <PlainList>
        {q?.plots
          .slice(-6)
          .reverse()
          .map((p) => (
            <li key={p.id} data-plot={p.id} data-state={p.state}>
              <b>{p.name}</b> {words[p.state]}
              {!over(p.state) && (
                <>
                  <LinearProgress variant="determinate" value={(100 * p.done) / p.steps} aria-label={`${p.name}, ${Math.round((100 * p.done) / p.steps)} %`} />
                  <Press data-act="cancel" onClick={() => cancel(p.id)}>
                    {t`Cancel`}
                  </Press>
                </>
              )}
              {p.file && <small>{t`In the folder plots, as ${p.file}`}</small>}
              {p.note && <small>{p.note}</small>}
            </li>
          ))}
      </PlainList>
      {q?.jammed ? (
        <Press data-act="clear" onClick={() => jam(false)}>
          {t`Clear the jam`}
        </Press>
      ) : (
        <Press data-act="jam" onClick={() => jam(true)} title={t`The stand-in's paper crumples when this is pressed`}>
          {t`Jam it, to try`}
        </Press>
      )}
    </Box>
  );
}
