import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Skeleton from '@mui/material/Skeleton';
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Quick } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { ShortField } from '../parts/ShortField';
import { useNotice } from '../shell/notice';
import { changed } from '../parts/Said';
import { When } from '../parts/When';
import { shown } from '../state/units';
import { useUnits } from '../state/workspace';
import { figureName } from '../words';

const shelf: Record<string, string> = { display: 'displays', bracket: 'brackets', policy: 'policies', job: 'jobs' };

/** What was changed: together, and one by one; of one thing, every revision. */
export function HistorySheet() {
  const { kind = '', id = '' } = useParams<{ kind: 'displays' | 'brackets' | 'policies' | 'jobs'; id: string }>();
  const queries = useQueryClient();
  const tell = useNotice();
  const [words, setWords] = useState('');
  const q = useDeferredValue(words);
  const history = useInfiniteQuery({
    queryKey: ['history', kind, id, q],
    initialPageParam: 0,
    queryFn: async ({ signal, pageParam }) => {
      const call = api.GET('/api/history', { params: { query: { kind: kind || undefined, id, q: q || undefined, offset: pageParam } }, signal });
      let total = 0;
      const entries = await answer(call.then((got) => ((total = Number(got.response.headers.get('Total-Count'))), got)));
      return { entries, total };
    },
    getNextPageParam: (last, all) => {
      const have = all.reduce((n, p) => n + p.entries.length, 0);
      return have < last.total ? have : undefined;
    },
    placeholderData: keepPreviousData,
  });
  const list = history.data?.pages.flatMap((p) => p.entries) ?? [];
  const total = history.data?.pages[0]?.total;
  const batches = useQuery({ queryKey: ['batches'], enabled: kind === '', queryFn: ({ signal }) => answer(api.GET('/api/batches', { signal })) });
  const settle = { onError: (e: Error) => tell({ text: e.message }), onSettled: () => queries.invalidateQueries() };
  const undo = useMutation({
    ...settle,
    mutationFn: (n: number) => answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: n } } })),
    onSuccess: () => tell({ text: t`Undone.` }),
  });
  const restore = useMutation({
    ...settle,
    mutationFn: (n: number) => answer(api.POST('/api/history/{id}/restore', { params: { path: { id: n } } })),
    onSuccess: () => tell({ text: t`Restored, as a new revision.` }),
  });
  const error = history.error ?? batches.error;
  return (
    <div className="history">
      {history.isLoading && <Skeleton variant="rectangular" height={200} />}
      {error && <Alert severity="error">{error.message}</Alert>}
      {kind === '' && batches.data && batches.data.length > 0 && (
        <>
          <Head>{t`Changed together`}</Head>
          <Rows
            label={t`Changed together`}
            sx={{ maxWidth: 1100, mb: 3 }}
            rows={batches.data}
            id={(b) => b.id}
            columns={[
              { head: t`What`, cell: (b) => b.what, by: (b) => b.what },
              { head: t`Who`, cell: (b) => b.who, by: (b) => b.who },
              { head: t`When`, cell: (b) => <When at={b.at} />, by: (b) => b.at },
              { head: t`Items`, cell: (b) => b.items, by: (b) => b.items },
              {
                head: '',
                cell: (b) =>
                  b.undone ? (
                    t`undone`
                  ) : (
                    <Press disabled={undo.isPending} onClick={() => undo.mutate(b.id)}>
                      {t`Undo`}
                    </Press>
                  ),
              },
            ]}
          />
        </>
      )}
      <Head>
        {kind === '' ? (
          t`Every change, the latest first`
        ) : (
          <>
            <Trans>
              Revisions of <Go to={kind === 'jobs' ? '/wall' : kind === 'policies' ? '/policy' : `/catalogue/${kind}/${id}`}>{id}</Go>
            </Trans>
          </>
        )}
      </Head>
      {kind !== '' && list.length > 1 && <Compare list={list} />}
      {kind === '' && (
        <Quick sx={{ maxWidth: 700 }}>
          <ShortField label={t`What, who, why`} value={words} onChange={setWords} maxLength={200} />
          <span role="status">{total !== undefined && t`${list.length} of ${total}`}</span>
        </Quick>
      )}
      <Rows
        label={kind === '' ? t`Every change` : t`Revisions`}
        sx={{ maxWidth: 1100 }}
        rows={list}
        id={(r) => r.seq}
        sorted={{}}
        more={history.hasNextPage ? { fetching: history.isFetchingNextPage, show: () => void history.fetchNextPage() } : undefined}
        columns={[
          {
            head: kind === '' ? t`What` : t`Revision`,
            cell: (r) => (kind !== '' ? r.number : shelf[r.kind] ? <Go to={`/catalogue/history/${shelf[r.kind]}/${r.id}`}>{r.id}</Go> : t`policy in use`),
          },
          { head: t`Who`, cell: (r) => r.who || '–' },
          { head: t`When`, cell: (r) => <When at={r.at} /> },
          { head: t`Why`, cell: (r) => (r.removed ? t`Taken out. ${r.why}` : r.why) },
          kind !== '' && { head: t`Changed`, cell: (r) => (r.thinned ? t`Its figures are no longer kept.` : <Changes list={r.changes} first={r.number === 1} />) },
          kind !== '' && {
            head: '',
            cell: (r, n) =>
              n > 0 &&
              !r.removed &&
              !r.thinned && (
                <Press disabled={restore.isPending} onClick={() => restore.mutate(r.seq)}>
                  {t`Restore`}
                </Press>
              ),
          },
        ]}
      />
      {total === 0 && <p>{words ? t`No change matches.` : t`Nothing has been changed yet.`}</p>}
    </div>
  );
}

/** What a revision changed, in a few words, all of it on demand. */
export function Changes({ list, first }: { list: Schemas['Change'][]; first?: boolean }) {
  const [all, setAll] = useState(false);
  const units = useUnits();
  if (first) return <>{t`made`}</>;
  const few = all ? list : list.slice(0, 3);
  return (
    <>
      {few.map((c) => (
        <div key={c.path} title={c.path}>
          {changed(c, units)}
        </div>
      ))}
      {list.length > few.length && <Press onClick={() => setAll(true)}>{t`and ${list.length - few.length} more`}</Press>}
    </>
  );
}

/** Any two revisions against each other. */
function Compare({ list }: { list: Schemas['Edition'][] }) {
  const units = useUnits();
  const [a, setA] = useState(list[list.length - 1]!.seq);
  const [b, setB] = useState(list[0]!.seq);
  const changes = useQuery({ queryKey: ['compare', a, b], queryFn: ({ signal }) => answer(api.GET('/api/compare', { params: { query: { a, b } }, signal })) });
  const pick = (label: string, value: number, set: (n: number) => void) => (
    <Choice label={label} width={70} value={value} options={list.filter((r) => !r.thinned).map((r) => [r.seq, String(r.number)] as const)} onPick={(n) => set(Number(n))} />
  );
  return (
    <div className="compare">
      <Quick>
        <Trans>
          Revision {pick(t`First revision`, a, setA)} against {pick(t`Second revision`, b, setB)}:
        </Trans>{' '}
        {changes.data ? plural(changes.data.length, { 0: 'no difference.', one: 'one figure differs.', other: '# figures differ.' }) : '…'}
      </Quick>
      {changes.data && changes.data.length > 0 && (
        <Rows
          label={t`What differs`}
          sx={{ maxWidth: 1100 }}
          rows={changes.data}
          id={(c) => c.path}
          columns={[
            { head: t`Figure`, cell: (c) => <span title={c.path}>{figureName(c.path)}</span>, by: (c) => figureName(c.path) },
            { head: t`Before`, cell: (c) => shown(c.path, c.before, units), by: (c) => shown(c.path, c.before, units) },
            { head: t`After`, cell: (c) => shown(c.path, c.after, units), by: (c) => shown(c.path, c.after, units) },
          ]}
        />
      )}
    </div>
  );
}
