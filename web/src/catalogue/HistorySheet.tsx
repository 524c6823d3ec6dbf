import Alert from '@mui/material/Alert';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { useNotice } from '../shell/notice';

const when = (at: string) => new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
const shelf: Record<string, string> = { display: 'displays', bracket: 'brackets', policy: 'policies', job: 'jobs' };

/** What was changed: together, and one by one; of one thing, every revision. */
export function HistorySheet() {
  const { kind = '', id = '' } = useParams();
  const queries = useQueryClient();
  const tell = useNotice();
  const history = useQuery({ queryKey: ['history', kind, id], queryFn: ({ signal }) => answer(api.GET('/api/history', { params: { query: { kind, id } }, signal })) });
  const batches = useQuery({ queryKey: ['batches'], enabled: kind === '', queryFn: ({ signal }) => answer(api.GET('/api/batches', { signal })) });
  const settle = { onError: (e: Error) => tell({ text: e.message }), onSettled: () => queries.invalidateQueries() };
  const undo = useMutation({ ...settle, mutationFn: (n: number) => answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: n } } })), onSuccess: () => tell({ text: 'Undone.' }) });
  const restore = useMutation({ ...settle, mutationFn: (n: number) => answer(api.POST('/api/history/{id}/restore', { params: { path: { id: n } } })), onSuccess: () => tell({ text: 'Restored, as a new revision.' }) });
  const error = history.error ?? batches.error;
  return (
    <div className="history">
      {error && <Alert severity="error">{error.message}</Alert>}
      {kind === '' && batches.data && batches.data.length > 0 && (
        <>
          <h2>Changed together</h2>
          <table className="saved">
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">Who</th>
                <th scope="col">When</th>
                <th scope="col">Items</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {batches.data.slice(0, 20).map((b) => (
                <tr key={b.id}>
                  <td>{b.what}</td>
                  <td>{b.who}</td>
                  <td>{when(b.at)}</td>
                  <td>{b.items}</td>
                  <td>
                    {b.undone ? (
                      'undone'
                    ) : (
                      <button type="button" className="press" disabled={undo.isPending} onClick={() => undo.mutate(b.id)}>
                        Undo
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <h2>
        {kind === '' ? (
          'Every change, the latest first'
        ) : (
          <>
            Revisions of <Link className="press" to={kind === 'jobs' ? '/wall' : kind === 'policies' ? '/policy' : `/catalogue/${kind}/${id}`}>{id}</Link>
          </>
        )}
      </h2>
      {kind !== '' && history.data && history.data.length > 1 && <Compare list={history.data} />}
      <table className="saved">
        <thead>
          <tr>
            <th scope="col">{kind === '' ? 'What' : 'Revision'}</th>
            <th scope="col">Who</th>
            <th scope="col">When</th>
            <th scope="col">Why</th>
            <th scope="col">{kind === '' ? '' : 'Changed'}</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {history.data?.map((r, n) => (
            <tr key={r.seq}>
              <td>{kind === '' ? shelf[r.kind] ? <Link className="press" to={`/catalogue/history/${shelf[r.kind]}/${r.id}`}>{r.id}</Link> : 'policy in use' : r.number}</td>
              <td>{r.who || '–'}</td>
              <td>{when(r.at)}</td>
              <td>{r.removed ? 'Taken out. ' : ''}{r.why}</td>
              <td>{kind !== '' && <Changes list={r.changes} first={n === history.data.length - 1} />}</td>
              <td>
                {kind !== '' && n > 0 && !r.removed && (
                  <button type="button" className="press" disabled={restore.isPending} onClick={() => restore.mutate(r.seq)}>
                    Restore
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {history.data?.length === 0 && <p>Nothing has been changed yet.</p>}
    </div>
  );
}

/** What a revision changed, in a few words, all of it on demand. */
export function Changes({ list, first }: { list: Schemas['Change'][]; first?: boolean }) {
  const [all, setAll] = useState(false);
  if (first) return <>made</>;
  const few = all ? list : list.slice(0, 3);
  return (
    <>
      {few.map((c) => (
        <div key={c.path}>
          {c.path}: {c.before || 'nothing'} → {c.after || 'nothing'}
        </div>
      ))}
      {list.length > few.length && (
        <button type="button" className="press" onClick={() => setAll(true)}>
          and {list.length - few.length} more
        </button>
      )}
    </>
  );
}

/** Any two revisions against each other. */
function Compare({ list }: { list: Schemas['Edition'][] }) {
  const [a, setA] = useState(list[list.length - 1]!.seq);
  const [b, setB] = useState(list[0]!.seq);
  const changes = useQuery({ queryKey: ['compare', a, b], queryFn: ({ signal }) => answer(api.GET('/api/compare', { params: { query: { a, b } }, signal })) });
  const pick = (label: string, value: number, set: (n: number) => void) => (
    <select className="figure-field words" style={{ width: 70 }} aria-label={label} value={value} onChange={(e) => set(Number(e.target.value))}>
      {list.map((r) => (
        <option key={r.seq} value={r.seq}>
          {r.number}
        </option>
      ))}
    </select>
  );
  return (
    <div className="compare">
      <p>
        Revision {pick('First revision', a, setA)} against {pick('Second revision', b, setB)}: {changes.data ? (changes.data.length === 0 ? 'no difference.' : `${changes.data.length} figures differ.`) : '…'}
      </p>
      {changes.data && changes.data.length > 0 && (
        <table className="saved">
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Before</th>
              <th scope="col">After</th>
            </tr>
          </thead>
          <tbody>
            {changes.data.map((c) => (
              <tr key={c.path}>
                <td>{c.path}</td>
                <td>{c.before || '–'}</td>
                <td>{c.after || '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
