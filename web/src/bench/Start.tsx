import { useQuery } from '@tanstack/react-query';
import { answer, api } from '../api';
import { useDesk } from '../asking';

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
