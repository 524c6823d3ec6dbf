import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { answer, api, Refused, type Problem, type Schemas } from '../api';
import { useNotice } from '../shell/notice';
import { signed } from './who';

type File_ = Schemas['File'];
type Outcome = Schemas['FileRow']['outcome'];

const outcomes: [Outcome, string][] = [
  ['wrong', 'wrong'],
  ['changed', 'changed'],
  ['new', 'new'],
  ['same', 'the same'],
  ['left_out', 'ignored'],
];

/** A file is looked at before anything is written: what its columns mean, and what becomes of each row. */
export function ImportSheet() {
  const [file, setFile] = useState<File_>();
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState('');
  const [only, setOnly] = useState<Outcome | ''>('');
  const chooser = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const tell = useNotice();

  const run = async (what: string, work: () => Promise<void>) => {
    setBusy(what);
    setProblem(undefined);
    try {
      await work();
    } catch (e) {
      setProblem(e instanceof Refused ? e.problem : { type: 'about:blank', title: (e as Error).message, status: 0 });
    } finally {
      setBusy('');
    }
  };
  const open = (f: globalThis.File) =>
    run(`Reading ${f.name}…`, async () => {
      setFile(undefined);
      setOnly('');
      const got = await fetch(`/api/files?name=${encodeURIComponent(f.name)}`, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream', ...signed() }, body: f });
      if (!got.ok) throw new Refused((await got.json()) as Problem);
      setFile((await got.json()) as File_);
    });
  // What the columns are to mean: shown at once, asked for one after the other, so that the
  // second of two quick changes does not undo the first.
  const wanted = useRef<File_['sheets']>(undefined);
  const laying = useRef(false);
  const lay = async (change: (sheets: File_['sheets']) => File_['sheets']) => {
    if (!file) return;
    wanted.current = change(wanted.current ?? file.sheets);
    setFile({ ...file, sheets: wanted.current });
    if (laying.current) return;
    laying.current = true;
    await run('Looking again…', async () => {
      while (wanted.current) {
        const sheets: File_['sheets'] = wanted.current;
        const got = await answer(api.POST('/api/files/{id}/layout', { params: { path: { id: Number(file.id) } }, body: { sheets } as never }));
        if (wanted.current !== sheets) continue;
        wanted.current = undefined;
        setFile(got);
      }
    });
    wanted.current = undefined;
    laying.current = false;
  };
  const take = () =>
    run('Importing…', async () => {
      const got = await fetch(`/api/files/${file!.id}/take`, { method: 'POST', headers: { 'Content-Type': 'application/json', ...signed() } });
      if (!got.ok) throw new Refused((await got.json()) as Problem);
      const text = got.body!.pipeThrough(new TextDecoderStream()).getReader();
      let rest = '';
      let last: Schemas['FileStep'] | undefined;
      for (;;) {
        const { done, value } = await text.read();
        if (done) break;
        const lines = (rest + value).split('\n');
        rest = lines.pop() ?? '';
        for (const line of lines) {
          last = JSON.parse(line) as Schemas['FileStep'];
          setBusy(`Importing: ${last.done} of ${last.of}`);
        }
      }
      if (last?.failed) throw new Refused(last.failed);
      if (!last?.imported) throw new Error('The answer ended too early. Look at the history whether the import is there.');
      const { new: made, changed, batch } = last.imported;
      setFile(undefined);
      await queries.invalidateQueries();
      tell({
        text: `${made} new, ${changed} changed.`,
        action: {
          name: 'Undo',
          act: () => {
            void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(
              () => queries.invalidateQueries().then(() => tell({ text: 'The import is undone.' })),
              (e: Error) => tell({ text: e.message }),
            );
          },
        },
      });
    });

  const counts = file?.counts;
  const ready = counts && counts.wrong === 0 && counts.new + counts.changed > 0;
  return (
    <div
      className="import"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const f = e.dataTransfer.files[0];
        if (f) void open(f);
      }}
    >
      <div className="tools">
        <input ref={chooser} type="file" hidden accept=".json,.csv,.tsv,.txt,.xlsx" aria-label="File to import" onChange={(e) => e.target.files?.[0] && void open(e.target.files[0]).then(() => (e.target.value = ''))} />
        <Button variant={file ? 'outlined' : 'contained'} size="small" onClick={() => chooser.current?.click()}>
          Choose a file
        </Button>
        {file && (
          <>
            <b>{file.name}</b>
            <span>{outcomes.filter(([o]) => count(file, o) > 0).map(([o, word]) => `${count(file, o)} ${word}`).join(', ') || 'no rows'}</span>
            <span className="grow" />
            <Button variant="contained" size="small" disabled={!ready || busy !== ''} onClick={() => void take()}>
              Import {counts ? counts.new + counts.changed : ''}
            </Button>
          </>
        )}
      </div>
      {busy && (
        <p role="status" className="hint">
          {busy}
        </p>
      )}
      {problem && (
        <Alert severity="error">
          {problem.title} {problem.detail}
          {problem.problems && (
            <ul>
              {problem.problems.slice(0, 30).map((p) => (
                <li key={p.path}>
                  {p.path}: {p.found}
                  {p.allowed && `; allowed: ${p.allowed}`}
                </li>
              ))}
            </ul>
          )}
        </Alert>
      )}
      {!file && !busy && (
        <div className="nothing">
          <p>Choose or drop a file: a workbook (.xlsx), a table (.csv) or a document of the format (.json).</p>
          <p>Columns are recognised by what they are called; you can put them right. Nothing is written before you agree, and an import can be undone as a whole.</p>
        </div>
      )}
      {file && counts && counts.wrong > 0 && <p className="field-error">Fix the rows that are wrong in the file and choose it again, or ignore their columns. Nothing is written while a row is wrong.</p>}
      {file && counts && counts.wrong === 0 && counts.new + counts.changed === 0 && (
        <p>
          All of it is in the catalogue already. <Link to="/catalogue">To the displays</Link>
        </p>
      )}
      {file && (
        <div className="tools">
          <select className="figure-field words" style={{ width: 190 }} aria-label="Which rows" value={only} onChange={(e) => setOnly(e.target.value as Outcome | '')}>
            <option value="">All rows</option>
            {outcomes.map(([o, word]) => (
              <option key={o} value={o}>
                Only rows {word} ({count(file, o)})
              </option>
            ))}
          </select>
          {outcomes.some(([o]) => count(file, o) > file.rows.filter((r) => r.outcome === o).length) && <span className="hint">Of each kind the first rows are shown; all of them are imported.</span>}
        </div>
      )}
      {file?.sheets.map((_, n) => (
        <Preview key={n} file={file} index={n} only={only} lay={(part) => void lay((sheets) => sheets.map((x, k) => (k === n ? part(x) : x)))} />
      ))}
    </div>
  );
}

const count = (f: File_, o: Outcome) => f.counts[o];

/** One sheet: its columns, and what becomes of its rows. */
function Preview({ file, index, only, lay }: { file: File_; index: number; only: Outcome | ''; lay: (part: (s: Schemas['FileSheet']) => Schemas['FileSheet']) => void }) {
  const sheet = file.sheets[index]!;
  const rows = file.rows.filter((r) => r.sheet === index && (only === '' || r.outcome === only));
  const document = sheet.kind === 'document';
  const fields = sheet.kind === 'displays' ? file.fields.displays : sheet.kind === 'brackets' ? file.fields.brackets : file.fields.kit;
  return (
    <section className="preview" aria-label={`Sheet ${sheet.name}`}>
      {!document && (
        <div className="tools">
          <h2>{sheet.name}</h2>
          <label className="hint">
            Its rows are{' '}
            <select className="figure-field words" style={{ width: 120 }} value={sheet.kind} onChange={(e) => lay((s) => ({ ...s, kind: e.target.value }))}>
              <option value="">Ignore</option>
              <option value="displays">displays</option>
              <option value="brackets">brackets</option>
              <option value="kit">parts of kits</option>
            </select>
          </label>
          {sheet.kind && (
            <label className="hint">
              Header row{' '}
              <input className="figure-field" style={{ width: 50 }} type="number" min={1} max={sheet.rows} value={sheet.head} onChange={(e) => Number(e.target.value) > 0 && lay((s) => ({ ...s, head: Number(e.target.value) }))} />{' '}
              <select className="figure-field words" style={{ width: 130 }} aria-label="How many header rows" value={sheet.head_rows} onChange={(e) => lay((s) => ({ ...s, head_rows: Number(e.target.value) }))}>
                <option value={1}>one row</option>
                <option value={2}>with groups above</option>
              </select>
            </label>
          )}
        </div>
      )}
      {sheet.kind && (
        <div className="cells">
          <table>
            <thead>
              <tr>
                <th scope="col">Row</th>
                <th scope="col">Becomes</th>
                {document && (
                  <>
                    <th scope="col">What</th>
                    <th scope="col">Changes</th>
                  </>
                )}
                {sheet.columns.map((c, i) => (
                  <th key={i} scope="col" className={c.field ? '' : 'out'}>
                    {c.head || '–'}
                    <select
                      className="figure-field words"
                      aria-label={`What ${c.head || `column ${i + 1}`} means`}
                      value={c.field}
                      onChange={(e) => lay((s) => ({ ...s, columns: s.columns.map((x, k) => (k === i ? { ...x, field: e.target.value } : x)) }))}
                    >
                      <option value="">Ignore</option>
                      {[...new Set([...fields, c.field].filter(Boolean))].map((f) => (
                        <option key={f} value={f}>
                          {f}
                        </option>
                      ))}
                    </select>
                    {/_(mm|kg|deg)$/.test(c.field) && (
                      <select
                        className="figure-field words"
                        aria-label={`Unit of ${c.head}`}
                        value={c.unit}
                        onChange={(e) => lay((s) => ({ ...s, columns: s.columns.map((x, k) => (k === i ? { ...x, unit: e.target.value } : x)) }))}
                      >
                        <option value="">{/_(mm|kg|deg)$/.exec(c.field)![1]}</option>
                        {(c.field.endsWith('_kg') ? ['lb', 'g', 'oz'] : ['cm', 'in', 'ft', 'm']).map((u) => (
                          <option key={u} value={u}>
                            {u}
                          </option>
                        ))}
                      </select>
                    )}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.row} data-outcome={r.outcome}>
                  <td>{r.row}</td>
                  <td title={r.id}>
                    <Becomes row={r} />
                  </td>
                  {document && (
                    <>
                      <td>{r.name || r.id}</td>
                      <td>{r.changes.slice(0, 4).map((c) => `${c.path}: ${c.before || 'nothing'} → ${c.after || 'nothing'}`).join('; ')}</td>
                    </>
                  )}
                  {sheet.columns.map((c, i) => {
                    const wrong = r.problems.find((p) => p.column === i);
                    const note = r.notes.find((p) => p.column === i);
                    return (
                      <td key={i} className={[c.field ? '' : 'out', wrong ? 'wrong' : '', note ? 'note' : ''].join(' ')}>
                        {r.cells[i]}
                        {(wrong ?? note) && <span className="said">{(wrong ?? note)!.text}</span>}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
          {rows.length === 0 && <p className="hint">No such rows.</p>}
        </div>
      )}
    </section>
  );
}

function Becomes({ row }: { row: Schemas['FileRow'] }) {
  const whole = row.problems.filter((p) => p.column < 0);
  const word = { new: 'new', changed: 'changed', same: 'the same', wrong: 'wrong', left_out: 'ignored' }[row.outcome];
  return (
    <>
      <b>{word}</b>
      {whole.map((p) => (
        <span key={p.text} className="said">
          {p.text}
        </span>
      ))}
      {row.outcome === 'changed' && (
        <span className="said plain">
          {row.changes.slice(0, 3).map((c) => (
            <span key={c.path}>
              {c.path}: {c.before || 'nothing'} → {c.after || 'nothing'}
            </span>
          ))}
          {row.changes.length > 3 && <span>and {row.changes.length - 3} more</span>}
        </span>
      )}
    </>
  );
}
