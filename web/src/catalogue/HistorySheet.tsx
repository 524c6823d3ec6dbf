import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Skeleton from '@mui/material/Skeleton';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Quick } from '../parts/Page';
import { Go, Press } from '../parts/Press';
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
  const history = useQuery({ queryKey: ['history', kind, id], queryFn: ({ signal }) => answer(api.GET('/api/history', { params: { query: { kind: kind || undefined, id } }, signal })) });
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
          <Table className="saved" sx={{ maxWidth: 1100 }}>
            <TableHead>
              <TableRow>
                <TableCell>{t`What`}</TableCell>
                <TableCell>{t`Who`}</TableCell>
                <TableCell>{t`When`}</TableCell>
                <TableCell>{t`Items`}</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {batches.data.slice(0, 20).map((b) => (
                <TableRow key={b.id}>
                  <TableCell>{b.what}</TableCell>
                  <TableCell>{b.who}</TableCell>
                  <TableCell><When at={b.at} /></TableCell>
                  <TableCell>{b.items}</TableCell>
                  <TableCell>
                    {b.undone ? (
                      'undone'
                    ) : (
                      <Press disabled={undo.isPending} onClick={() => undo.mutate(b.id)}>
                        {t`Undo`}
                      </Press>
                    )}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </>
      )}
      <Head>
        {kind === '' ? (
          t`Every change, the latest first`
        ) : (
          <>
            <Trans>Revisions of <Go to={kind === 'jobs' ? '/wall' : kind === 'policies' ? '/policy' : `/catalogue/${kind}/${id}`}>{id}</Go></Trans>
          </>
        )}
      </Head>
      {kind !== '' && history.data && history.data.length > 1 && <Compare list={history.data} />}
      <Table className="saved" sx={{ maxWidth: 1100 }}>
        <TableHead>
          <TableRow>
            <TableCell>{kind === '' ? t`What` : t`Revision`}</TableCell>
            <TableCell>{t`Who`}</TableCell>
            <TableCell>{t`When`}</TableCell>
            <TableCell>{t`Why`}</TableCell>
            <TableCell>{kind === '' ? '' : t`Changed`}</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {history.data?.map((r, n) => (
            <TableRow key={r.seq}>
              <TableCell>{kind === '' ? shelf[r.kind] ? <Go to={`/catalogue/history/${shelf[r.kind]}/${r.id}`}>{r.id}</Go> : t`policy in use` : r.number}</TableCell>
              <TableCell>{r.who || '–'}</TableCell>
              <TableCell><When at={r.at} /></TableCell>
              <TableCell>
                {r.removed ? t`Taken out. ` : ''}
                {r.why}
              </TableCell>
              <TableCell>{r.thinned ? t`Its figures are no longer kept.` : kind !== '' && <Changes list={r.changes} first={n === history.data.length - 1} />}</TableCell>
              <TableCell>
                {kind !== '' && n > 0 && !r.removed && !r.thinned && (
                  <Press disabled={restore.isPending} onClick={() => restore.mutate(r.seq)}>
                    {t`Restore`}
                  </Press>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {history.data?.length === 0 && <p>{t`Nothing has been changed yet.`}</p>}
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
        <Table className="saved" sx={{ maxWidth: 1100 }}>
          <TableHead>
            <TableRow>
              <TableCell>{t`Figure`}</TableCell>
              <TableCell>{t`Before`}</TableCell>
              <TableCell>{t`After`}</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {changes.data.map((c) => (
              <TableRow key={c.path}>
                <TableCell title={c.path}>{figureName(c.path)}</TableCell>
                <TableCell>{shown(c.path, c.before, units)}</TableCell>
                <TableCell>{shown(c.path, c.after, units)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </div>
  );
}
