import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answer, api } from '../api';
import { Shape, verdictWords } from '../words';
import { useOpenSaved, useRemove } from './saving';

/** The pairings that were saved, the latest first. */
export function SavedSheet() {
  const remove = useRemove();
  const saved = useQuery({ queryKey: ['pairings'], queryFn: ({ signal }) => answer(api.GET('/api/pairings', { signal })) });

  const open = useOpenSaved();

  return (
    <main className="sheet">
      <div className="tools">
        <h1>Saved pairings</h1>
      </div>
      {saved.error && <Alert severity="error">{saved.error.message}</Alert>}
      {saved.data?.length === 0 && (
        <div className="nothing">
          <p>No pairing has been saved yet.</p>
          <p>
            On the <Link to="/">bench</Link>, press Save or Ctrl+S.
          </p>
        </div>
      )}
      {saved.data && saved.data.length > 0 && (
        <table className="saved">
          <thead>
            <tr>
              <th scope="col">Pairing</th>
              <th scope="col">Verdict</th>
              <th scope="col">Saved</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {saved.data.map((p) => (
              <tr key={p.id}>
                <td>
                  <button type="button" className="press" onClick={() => void open(p.id)}>
                    {p.title}
                  </button>
                </td>
                <td className={p.verdict}>
                  <Shape of={p.verdict} /> {verdictWords[p.verdict]}
                </td>
                <td>{new Date(p.saved_at).toLocaleString()}</td>
                <td>
                  <Button size="small" color="inherit" onClick={() => remove.mutate(p.id)}>
                    Remove
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}
