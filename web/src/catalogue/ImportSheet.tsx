import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { at } from '../base';
import { answer, api, Refused, faultOf, type Problem, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError, Grow, Hint, Nothing, Quick, Tools } from '../parts/Page';
import { FileButton } from '../parts/FileButton';
import { Go } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { useNotice } from '../shell/notice';
import { changed } from '../parts/Said';
import { useUnits } from '../state/workspace';
import { signed } from './who';

type File_ = Schemas['File'];
type Outcome = Schemas['FileRow']['outcome'];

const outcomes: [Outcome, string][] = [
  ['wrong', t`wrong`],
  ['changed', t`changed`],
  ['new', t`new`],
  ['same', t`the same`],
  ['ignored', t`ignored`],
];

/** A file is looked at before anything is written: what its columns mean, and what becomes of each row. */
export function ImportSheet() {
  // The file that is looked at is the server's: it stays while somebody looks at another screen.
  const { data: file } = useQuery<File_ | null>({ queryKey: ['file'], queryFn: skipToken });
  const [problem, setProblem] = useState<Problem>();
  const [busy, setBusy] = useState('');
  const [share, setShare] = useState<number>(); // of the import that is done
  const [only, setOnly] = useState<Outcome | ''>('');
  const queries = useQueryClient();
  const tell = useNotice();
  const setFile = (f: File_ | null) => queries.setQueryData<File_ | null>(['file'], f);

  const run = async (what: string, work: () => Promise<void>) => {
    setBusy(what);
    setProblem(undefined);
    try {
      await work();
    } catch (e) {
      setProblem(e instanceof Refused ? e.problem : { type: 'about:blank', title: (e as Error).message, status: 0 });
    } finally {
      setBusy('');
      setShare(undefined);
    }
  };
  const open = (f: globalThis.File) =>
    run(t`Reading ${f.name}…`, async () => {
      setFile(null);
      setOnly('');
      const got = await fetch(at(`/api/files?name=${encodeURIComponent(f.name)}`), { method: 'POST', headers: { 'Content-Type': 'application/octet-stream', ...signed() }, body: f });
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
    await run(t`Looking again…`, async () => {
      while (wanted.current) {
        const sheets: File_['sheets'] = wanted.current;
        const got = await answer(api.POST('/api/files/{id}/layout', { params: { path: { id: file.id } }, body: { sheets } as never }));
        if (wanted.current !== sheets) continue;
        wanted.current = undefined;
        setFile(got);
      }
    });
    wanted.current = undefined;
    laying.current = false;
  };
  const take = () =>
    run(t`Importing…`, async () => {
      const got = await fetch(at(`/api/files/${file!.id}/commit`), { method: 'POST', headers: { 'Content-Type': 'application/json', ...signed() } });
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
          setBusy(t`Importing: ${last.done} of ${last.of}`);
          setShare(last.of > 0 ? (100 * last.done) / last.of : undefined);
        }
      }
      if (last?.failed) throw new Refused(last.failed);
      if (!last?.imported) throw new Error(t`The answer ended too early. Look at the history whether the import is there.`);
      const { new: made, changed, batch } = last.imported;
      setFile(null);
      await queries.invalidateQueries();
      tell({
        text: t`${made} new, ${changed} changed.`,
        action: {
          name: t`Undo`,
          act: () => {
            void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(
              () => queries.invalidateQueries().then(() => tell({ text: t`The import is undone.` })),
              (e: Error) => tell({ text: e.message }),
            );
          },
        },
      });
    });

  const counts = file?.counts;
  const ready = counts && counts.wrong === 0 && counts.new + counts.changed > 0;
  return (
    <Box
      className="import"
      sx={{ overflow: 'auto', flex: 1 }}
      onDragOver={(e: React.DragEvent) => e.preventDefault()}
      onDrop={(e: React.DragEvent) => {
        e.preventDefault();
        const f = e.dataTransfer.files[0];
        if (f) void open(f);
      }}
    >
      <Tools className="tools">
        <FileButton label={t`File to import`} accept=".json,.csv,.tsv,.txt,.xlsx" variant={file ? 'outlined' : 'contained'} onFile={(f) => void open(f)}>
          {t`Choose a file`}
        </FileButton>
        {file && (
          <>
            <b>{file.name}</b>
            <span>
              {outcomes
                .filter(([o]) => count(file, o) > 0)
                .map(([o, word]) => `${count(file, o)} ${word}`)
                .join(', ') || t`no rows`}
            </span>
            <Grow />
            <Button variant="contained" disabled={!ready || busy !== ''} onClick={() => void take()}>
              {t`Import ${counts ? counts.new + counts.changed : ''}`}
            </Button>
          </>
        )}
      </Tools>
      {busy && (
        <>
          <LinearProgress aria-label={busy} variant={share === undefined ? 'indeterminate' : 'determinate'} value={share} />
          <Hint live="status">{busy}</Hint>
        </>
      )}
      {problem && (
        <Alert severity="error">
          {problem.title} {problem.detail}
          {problem.problems && (
            <ul>
              {problem.problems.slice(0, 30).map((p) => (
                <li key={p.path}>
                  {p.path}: {faultOf(p)}
                </li>
              ))}
            </ul>
          )}
        </Alert>
      )}
      {!file && !busy && (
        <Nothing>
          <p>{t`Choose or drop a file: a workbook (.xlsx), a table (.csv) or a document of the format (.json).`}</p>
          <p>{t`Columns are recognised by what they are called; you can put them right. Nothing is written before you agree, and an import can be undone as a whole.`}</p>
        </Nothing>
      )}
      {file && counts && counts.wrong > 0 && (
        <Quick>
          <FieldError>{t`Fix the rows that are wrong in the file and choose it again, change what its columns mean, or ignore them. Nothing is written while a row is wrong.`}</FieldError>
        </Quick>
      )}
      {file && counts && counts.wrong === 0 && counts.new + counts.changed === 0 && (
        <p>
          <Trans>
            All of it is in the catalogue already. <Go to="/catalogue">To the displays</Go>
          </Trans>
        </p>
      )}
      {file && (
        <Tools className="tools">
          <Choice
            label={t`Which rows`}
            width={200}
            value={only}
            options={[['', t`All rows`], ...outcomes.map(([o, word]) => [o, t`Only rows ${word} (${count(file, o)})`] as const)]}
            onPick={(o) => setOnly(o as Outcome | '')}
          />
          {outcomes.some(([o]) => count(file, o) > file.rows.filter((r) => r.outcome === o).length) && <Hint>{t`Of each kind the first rows are shown; all of them are imported.`}</Hint>}
        </Tools>
      )}
      {file?.sheets.map((_, n) => (
        <Preview key={n} file={file} index={n} only={only} lay={(part) => void lay((sheets) => sheets.map((x, k) => (k === n ? part(x) : x)))} />
      ))}
    </Box>
  );
}

const count = (f: File_, o: Outcome) => f.counts[o];

/** A table that may have thousands of cells: plain ones, styled together. */
const Cells = styled('div')(({ theme }) => ({
  overflow: 'auto',
  maxHeight: '52vh',
  border: `1px solid ${theme.vars!.palette.divider}`,
  background: theme.vars!.palette.background.paper,
  '& table': { borderCollapse: 'collapse', fontSize: 13 },
  '& th': { position: 'sticky', top: 0, zIndex: 1, background: theme.vars!.palette.background.paper, textAlign: 'left', verticalAlign: 'top', padding: '4px 6px', fontWeight: 600 },
  '& th .MuiInputBase-root': { display: 'flex', fontSize: 12, fontWeight: 400, marginTop: 3 },
  '& td': { borderTop: `1px solid ${theme.vars!.palette.divider}`, padding: '3px 6px', verticalAlign: 'top', maxWidth: 240 },
  '& .out': { color: theme.vars!.palette.text.secondary },
  '& td.wrong': { outline: `2px solid ${theme.vars!.palette.error.main}`, outlineOffset: -2 },
  '& td.note': { outline: `1px dashed ${theme.vars!.palette.warning.main}`, outlineOffset: -2 },
  '& .said': { display: 'block', fontSize: 12, color: theme.vars!.palette.error.main },
  '& .note .said, & .said.doubt': { color: theme.vars!.palette.warning.main },
  '& .said.plain, & .said.plain span': { display: 'block', color: theme.vars!.palette.text.secondary },
}));

/** One sheet: its columns, and what becomes of its rows. */
function Preview({ file, index, only, lay }: { file: File_; index: number; only: Outcome | ''; lay: (part: (s: Schemas['FileSheet']) => Schemas['FileSheet']) => void }) {
  const sheet = file.sheets[index]!;
  const rows = file.rows.filter((r) => r.sheet === index && (only === '' || r.outcome === only));
  const document = sheet.kind === 'document';
  const fields = sheet.kind === 'displays' ? file.fields.displays : sheet.kind === 'brackets' ? file.fields.brackets : file.fields.kit;
  return (
    <section className="preview" aria-label={t`Sheet ${sheet.name}`}>
      {!document && (
        <Tools className="tools">
          <Typography variant="h2">{sheet.name}</Typography>
          <span>{t`Its rows are`}</span>
          <Choice
            label={t`Rows of ${sheet.name}`}
            width={130}
            value={sheet.kind}
            options={[
              ['', t`Ignore`],
              ['displays', t`displays`],
              ['brackets', t`brackets`],
              ['kit', t`parts of kits`],
            ]}
            onPick={(kind) => lay((s) => ({ ...s, kind }))}
          />
          {sheet.note && <Hint>{sheet.note}</Hint>}
          {sheet.kind && (
            <>
              <span>{t`Header row`}</span>
              <QuantityInput
                label={t`Header row`}
                width={64}
                step={1}
                text={String(sheet.head)}
                onText={(text) => {
                  const head = Math.min(sheet.rows, Math.trunc(Number(text)));
                  if (head > 0) lay((s) => ({ ...s, head }));
                }}
              />
              <Choice
                label={t`How many header rows`}
                width={160}
                value={sheet.head_rows}
                options={[
                  [1, t`one row`],
                  [2, t`with groups above`],
                ]}
                onPick={(n) => lay((s) => ({ ...s, head_rows: Number(n) }))}
              />
            </>
          )}
        </Tools>
      )}
      {sheet.kind && (
        <Cells>
          <table>
            <thead>
              <tr>
                <th scope="col">{t`Row`}</th>
                <th scope="col">{t`Becomes`}</th>
                {document && (
                  <>
                    <th scope="col">{t`What`}</th>
                    <th scope="col">{t`Changes`}</th>
                  </>
                )}
                {sheet.columns.map((c, i) => (
                  <th key={i} scope="col" className={c.field ? '' : 'out'}>
                    {c.head || '–'}
                    <Choice
                      label={t`What ${c.head || t`column ${i + 1}`} means`}
                      width={140}
                      value={c.field}
                      options={[['', t`Ignore`], ...[...new Set([...fields, c.field].filter(Boolean))].map((f) => [f, f] as const)]}
                      onPick={(field) => lay((s) => ({ ...s, columns: s.columns.map((x, k) => (k === i ? { ...x, field } : x)) }))}
                    />
                    {/_(mm|kg|deg)$/.test(c.field) && (
                      <Choice
                        label={t`Unit of ${c.head}`}
                        width={140}
                        value={c.unit}
                        options={[
                          ...(c.unit === '?' ? [['?', t`Not known`] as const] : []),
                          ['', /_(mm|kg|deg)$/.exec(c.field)![1]!],
                          ...(c.field.endsWith('_kg') ? ['lb', 'g', 'oz'] : ['cm', 'in', 'ft', 'm']).map((u) => [u, u] as const),
                        ]}
                        onPick={(unit) => lay((s) => ({ ...s, columns: s.columns.map((x, k) => (k === i ? { ...x, unit } : x)) }))}
                      />
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
                      <td>
                        {r.changes
                          .slice(0, 4)
                          .map((c) => `${c.path}: ${c.before || t`nothing`} → ${c.after || t`nothing`}`)
                          .join('; ')}
                      </td>
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
          {rows.length === 0 && <Hint>{t`No such rows.`}</Hint>}
        </Cells>
      )}
    </section>
  );
}

function Becomes({ row }: { row: Schemas['FileRow'] }) {
  const units = useUnits();
  const whole = (list: Schemas['FileProblem'][], look: string) =>
    list
      .filter((p) => p.column < 0)
      .map((p) => (
        <span key={p.text} className={look}>
          {p.text}
        </span>
      ));
  const word = { new: t`new`, changed: t`changed`, same: t`the same`, wrong: t`wrong`, ignored: t`ignored` }[row.outcome];
  return (
    <>
      <b>{word}</b> {whole(row.problems, 'said')}
      {whole(row.notes, 'said doubt')}
      {row.outcome === 'changed' && (
        <span className="said plain">
          {row.changes.slice(0, 3).map((c) => (
            <span key={c.path}>{changed(c, units)}</span>
          ))}
          {row.changes.length > 3 && <span>{t`and ${row.changes.length - 3} more`}</span>}
        </span>
      )}
    </>
  );
}
