import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { submits } from '../parts/form';
import type { Verdict } from '../api';
import { Conflict } from '../parts/Conflict';
import { SavedMeanwhile, useUnsaid } from '../parts/Said';
import { Grow, Head, ToolsForm } from '../parts/Page';
import { Go } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { Allowed } from '../people/Allowed';
import { useLacks } from '../people/me';
import { useCommands } from '../state/commands';
import { figureName, verdictWithin } from '../words';
import { editorErrors, type Editing } from './editing';

/** The drawing, the figures, and what follows from them, beside each other. */
export const Columns = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'minmax(300px, 1fr) 396px 250px',
  flex: 1,
  gap: 16,
  minHeight: 0,
  '& > .figures, & > .beside': { overflow: 'auto', minHeight: 0, paddingRight: 4, paddingLeft: 10 },
  '& > .figures > p, & > .beside > section + section': { marginTop: 10 },
  [theme.breakpoints.down('md')]: { gridTemplateColumns: '1fr', '& > .drawing': { height: 420 } },
}));

/** A part of the figures that folds. */
export function Section({ title, children, beside, shut }: { title: string; children: ReactNode; beside?: ReactNode; shut?: boolean }) {
  return (
    <Accordion defaultExpanded={!shut} slotProps={{ heading: { component: 'h3' }, transition: { unmountOnExit: true, timeout: 0 } }}>
      <AccordionSummary expandIcon="▾">{title}</AccordionSummary>
      <AccordionDetails>
        {children}
        {beside}
      </AccordionDetails>
    </Accordion>
  );
}

/** The head of an editor: saving, undo, a stale save. */
export function EditorFrame<T extends object>({ edit, kind, id, title, children }: { edit: Editing<T>; kind: string; id: string; title: string; children: ReactNode }) {
  const [why, setWhy] = useState('');
  const form = useRef<HTMLFormElement>(null);
  useCommands(
    t`In the editor`,
    [
      { key: 'z', does: t`undo the last edit`, run: edit.undo },
      { key: 'mod+s', does: t`save`, run: () => form.current?.requestSubmit() },
    ],
    2,
  );
  useEffect(() => {
    document.title = `${title} – Nexufix`;
  }, [title]);
  // While a figure is looked at again, the server decides.
  const wrong = edit.settled && Object.keys(edit.errors).length > 0;
  const lacks = useLacks('edit');
  const submit = submits(() => {
    if (edit.dirty && !wrong && !lacks && !edit.save.isPending) edit.save.mutate(why, { onSuccess: () => setWhy('') });
  });
  return (
    <>
      <ToolsForm ref={form} className="tools" onSubmit={submit}>
        <Typography variant="h2" className="title" sx={{ fontSize: 17 }}>
          {title}
        </Typography>
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 13 }}>
          <Trans>
            revision {edit.base} · <Go to={`/catalogue/history/${kind}/${id}`}>history</Go>
          </Trans>
        </Box>
        <Grow />
        <Button color="inherit" disabled={!edit.dirty} onClick={edit.undo} title={t`Undo (z)`}>
          {t`Undo`}
        </Button>
        <QuantityInput label={t`Why`} words width={220} placeholder={t`why it is changed`} maxLength={400} text={why} onText={setWhy} />
        <Allowed act="edit">
          <Button variant="contained" type="submit" disabled={!edit.dirty || wrong} loading={edit.save.isPending} title={t`Save (Ctrl+S)`}>
            {t`Save`}
          </Button>
        </Allowed>
      </ToolsForm>
      {edit.saved.error && <Alert severity="error">{edit.saved.error.message}</Alert>}
      {edit.saved.isLoading && <Skeleton variant="rectangular" sx={{ flex: 1, height: 'auto' }} />}
      {edit.save.error && !edit.theirs && <Alert severity="error">{edit.save.error.message}</Alert>}
      {edit.theirs && <Conflict mine={edit.doc} theirs={edit.theirs} changed={edit.changed} onSettle={edit.settle} />}
      {children}
    </>
  );
}

/** What an edit would change, and what is wrong with it. */
export function Effects<T extends object>({ edit }: { edit: Editing<T> }) {
  const wrong = Object.entries(edit.errors);
  const drawn = edit.drawn;
  const not = useUnsaid(edit.state);
  return (
    <Box component="section" className="effects" aria-label={t`What it would change`} data-ready={edit.settled ? 'yes' : 'no'} sx={{ '& ul': { my: 1, pl: 4.5 }, '& .MuiAlert-root': { mb: 2 } }}>
      {not && <Alert severity="warning">{not}</Alert>}
      {drawn?.meanwhile && (
        <Alert severity="info" className="meanwhile">
          <SavedMeanwhile of={drawn.meanwhile} name={t`this`} /> {t`Your changes are of revision ${edit.base}; saving compares the two.`}
        </Alert>
      )}
      {wrong.length > 0 && (
        <Alert severity="error" id={editorErrors} sx={{ overflowWrap: 'anywhere' }}>
          {wrong.map(([path, text]) => (
            <div key={path}>
              {figureName(path)}: {text}
            </div>
          ))}
        </Alert>
      )}
      {drawn?.odd && <Alert severity="warning">{t`${drawn.odd} Check this against the data sheet, or measure.`}</Alert>}
      {edit.dirty && wrong.length === 0 && edit.settled && drawn?.changes.length === 0 && drawn.steps.length === 0 && <Alert severity="info">{t`No verdict would change.`}</Alert>}
      {drawn && drawn.changes.length > 0 && (
        <>
          <Head>{plural(drawn.changes.length, { one: 'It would change one pairing', other: 'It would change # pairings' })}</Head>
          <ul>
            {drawn.changes.slice(0, 12).map((c) => (
              <li key={c.name}>
                <b>{c.name}</b>: {verdictWithin(c.before as Verdict)} → {verdictWithin(c.after as Verdict)}. {c.why}
              </li>
            ))}
          </ul>
        </>
      )}
      {edit.dirty && drawn && drawn.steps.length > 0 && (
        <div className="touched">
          <Head>{plural(drawn.steps.length, { one: 'Its steps would change with one display', other: 'Its steps would change with # displays' })}</Head>
          <p>
            {drawn.steps.slice(0, 12).join(', ')}
            {drawn.steps.length > 12 && t` and ${drawn.steps.length - 12} more`}.
          </p>
          {drawn.jobs.length > 0 && <p>{t`Jobs: ${drawn.jobs.join(', ')}.`}</p>}
        </div>
      )}
    </Box>
  );
}
