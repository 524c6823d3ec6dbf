import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api';
import { useNavigate } from 'react-router';
import { useDesk } from '../state/desk';
import { useOpenSaved } from '../saved/saving';
import { useOpenJob } from '../wall/site';
import { Shape } from '../words';

/** What was worked on last, and what of it needs somebody. */
function Lately() {
  const openSaved = useOpenSaved();
  const openJob = useOpenJob();
  const go = useNavigate();
  const saved = useQuery({ queryKey: ['pairings'], queryFn: ({ signal }) => answer(api.GET('/api/pairings', { signal })) });
  const jobs = useQuery({ queryKey: ['jobs'], queryFn: ({ signal }) => answer(api.GET('/api/jobs', { signal })) });
  const open = saved.data?.filter((p) => p.verdict === 'missing_data' || p.verdict === 'does_not_fit') ?? [];
  const list = (name: string, all: NonNullable<typeof saved.data>) =>
    all.length > 0 && (
      <>
        <h2>{name}</h2>
        <ul>
          {all.slice(0, 5).map((p) => (
            <li key={p.id}>
              <button type="button" onClick={() => void openSaved(p.id)}>
                <Shape of={p.verdict} /> {p.title} <small>{new Date(p.saved_at).toLocaleDateString()}</small>
              </button>
            </li>
          ))}
        </ul>
      </>
    );
  return (
    <>
      {list('Needs somebody: it does not fit, or figures are missing', open)}
      {list('Saved last', saved.data?.filter((p) => !open.includes(p)) ?? [])}
      {jobs.data && jobs.data.length > 0 && (
        <>
          <h2>Jobs</h2>
          <ul>
            {jobs.data.slice(0, 5).map((j) => (
              <li key={j.id}>
                <button type="button" data-job={j.id} onClick={() => void openJob(j.id).then(() => go('/wall'))}>
                  {j.id} <small>{j.title}, {j.wall}</small>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

/** Before anything is picked: what there is, and how to begin. */
export function Start() {
  const { ask } = useDesk();
  const displays = useQuery({
    queryKey: ['displays', ''],
    queryFn: ({ signal }) => answer(api.GET('/api/displays', { params: { query: { q: '' } }, signal })),
  });
  return (
    <main className="sheet start">
      <p className="lead">
        Pick a display: type a few letters of its name, its pattern or its size. The best bracket is chosen for it, with the bolts, and the drawing shows why.
      </p>
      {displays.error && <p className="field-error">{displays.error.message}</p>}
      {displays.data?.length === 0 && <p>The catalogue is empty. Import a document with displays and brackets, or type a display in.</p>}
      <Lately />
      <h2>In the catalogue</h2>
      <ul>
        {displays.data?.map((d) => (
          <li key={d.id}>
            <button type="button" onClick={() => ask({ display: d.id })}>
              {d.name} <small>{d.note}</small>
            </button>
          </li>
        ))}
      </ul>
    </main>
  );
}
