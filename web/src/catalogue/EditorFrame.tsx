import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useKeys } from '../state/commands';
import { verdictWords } from '../words';
import type { Verdict } from '../api';
import { differences, type Editing } from './editing';

/** The head and the foot of an editor: saving, undo, a stale save, and what the edit would change. */
export function EditorFrame<T extends object>({ edit, kind, id, title, children }: { edit: Editing<T>; kind: string; id: string; title: string; children: ReactNode }) {
  const [why, setWhy] = useState('');
  const form = useRef<HTMLFormElement>(null);
  useKeys({ z: edit.undo, 'mod+s': () => form.current?.requestSubmit() }, 2);
  const wrong = Object.entries(edit.errors);
  return (
    <>
      <form
        ref={form}
        className="tools"
        onSubmit={(e) => {
          e.preventDefault();
          if (edit.dirty && wrong.length === 0 && !edit.save.isPending) edit.save.mutate(why, { onSuccess: () => setWhy('') });
        }}
      >
        <h2 className="title">{title}</h2>
        <span className="hint">
          revision {edit.base} · <Link className="press" to={`/catalogue/history/${kind}/${id}`}>history</Link>
        </span>
        <span className="grow" />
        <Button size="small" color="inherit" disabled={!edit.dirty} onClick={edit.undo}>
          Undo
        </Button>
        <input className="figure-field words" style={{ width: 220 }} aria-label="Why" placeholder="why it is changed" maxLength={400} value={why} onChange={(e) => setWhy(e.target.value)} />
        <Button size="small" variant="contained" type="submit" disabled={!edit.dirty || wrong.length > 0 || edit.save.isPending}>
          Save
        </Button>
      </form>
      {edit.saved.error && <Alert severity="error">{edit.saved.error.message}</Alert>}
      {edit.save.error && !edit.theirs && <Alert severity="error">{edit.save.error.message}</Alert>}
      {edit.theirs && <Stale edit={edit} />}
      {children}
      <div className="effects" data-ready={edit.settled ? 'yes' : 'no'}>
        {wrong.length > 0 && (
          <Alert severity="error">
            {wrong.map(([path, text]) => (
              <div key={path}>
                {path}: {text}
              </div>
            ))}
          </Alert>
        )}
        {edit.drawn.data?.odd && <Alert severity="warning">{edit.drawn.data.odd} Check this against the data sheet, or measure.</Alert>}
        {edit.drawn.data && edit.drawn.data.changes.length > 0 && (
          <>
            <h2>It would change {edit.drawn.data.changes.length === 1 ? 'one pairing' : `${edit.drawn.data.changes.length} pairings`}</h2>
            <ul>
              {edit.drawn.data.changes.slice(0, 12).map((c) => (
                <li key={c.name}>
                  <b>{c.name}</b>: {verdictWords[c.before as Verdict].toLowerCase()} → {verdictWords[c.after as Verdict].toLowerCase()}. {c.why}
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </>
  );
}

/** A save that came too late: mine and theirs side by side. */
function Stale<T extends object>({ edit }: { edit: Editing<T> }) {
  const theirs = edit.theirs!;
  const other = theirs.saved?.display ?? theirs.saved?.bracket;
  return (
    <Alert severity="warning" className="stale">
      <p>{theirs.removed ? `${theirs.who || 'Somebody else'} took it out while you changed it.` : `${theirs.who || 'Somebody else'} saved revision ${theirs.number} while you changed it. The two differ:`}</p>
      {other && (
        <table className="saved">
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Yours</th>
              <th scope="col">Theirs</th>
            </tr>
          </thead>
          <tbody>
            {differences(edit.doc, other).map((d) => (
              <tr key={d.path}>
                <td>{d.path}</td>
                <td>{d.a}</td>
                <td>{d.b}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Button size="small" color="inherit" onClick={() => edit.settle('mine')}>
        Keep my version
      </Button>
      {other && (
        <Button size="small" color="inherit" onClick={() => edit.settle('theirs')}>
          Take theirs
        </Button>
      )}
    </Alert>
  );
}
