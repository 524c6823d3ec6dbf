import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { download, type BenchAnswer } from '../api';
import { FieldError, Grow } from '../parts/Page';
import { Said, useUnsaid } from '../parts/Said';
import { Allowed } from '../people/Allowed';
import { useSave } from '../jobs/saving';
import { useWorkspace, useSearch } from '../state/workspace';
import { useRequest, type State } from '../state/judged';

/** The answer in one line, and what to take away. */
export function Answer({ judged, state, stale }: { judged: BenchAnswer; state: State; stale: boolean }) {
  const request = useRequest();
  const unsaid = useUnsaid(state);
  const search = useSearch();
  const { canUndo, undo } = useWorkspace();
  const save = useSave();
  const [failed, setFailed] = useState('');
  const [getting, setGetting] = useState(false);
  const get = async () => {
    if (!request) return;
    setFailed('');
    setGetting(true);
    await download('/api/template?format=pdf', request, 'template.pdf').catch((e: Error) => setFailed(e.message));
    setGetting(false);
  };
  return (
    <AnswerLine data-stale={stale ? 'yes' : 'no'}>
      <Box aria-live="polite" sx={{ display: 'flex', alignItems: 'center', gap: 2.5, minWidth: 0 }}>
        <Said said={judged.said} state={state} />
        <Box component="span" className="gist" sx={{ minWidth: 0, lineHeight: 1.2, fontSize: 14.5, maxHeight: { md: 35 }, overflow: 'hidden' }}>
          {unsaid === undefined ? gist(judged) : t`Shown is what was judged before: ${judged.title}.`}
        </Box>
      </Box>
      {failed && <FieldError>{failed}</FieldError>}
      <Grow />
      <Button color="inherit" disabled={!canUndo} onClick={undo} title={t`Undo the last change (z)`}>
        {t`Undo`}
      </Button>
      <Button color="inherit" component={Link} to={{ pathname: '/steps', search }} title={t`The step sequence (s)`}>
        {t`Steps`}
      </Button>
      <Button color="inherit" component={Link} to={{ pathname: '/template', search }} title={t`Look at the template (t)`}>
        {t`Template`}
      </Button>
      <Button
        variant="outlined"
        disabled={!judged.template || stale}
        loading={getting}
        title={judged.template ? t`Download the drilling template at full size` : t`There is no template for this pairing`}
        onClick={() => void get()}
      >
        {t`Template PDF`}
      </Button>
      <Allowed act="edit">
        <Button variant="contained" disabled={stale} loading={save.isPending} title={t`Save this pairing (Ctrl+S)`} onClick={() => request && save.mutate(request)}>
          {t`Save`}
        </Button>
      </Allowed>
    </AnswerLine>
  );
}

/** The line below the request. */
export function AnswerLine({ children, head, ...rest }: { children: React.ReactNode; head?: boolean; 'data-stale'?: string }) {
  return (
    <Box
      {...rest}
      className={head ? 'verdict wall-head' : 'verdict'}
      sx={{
        display: 'flex',
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        alignItems: 'center',
        gap: 2.5,
        px: 4,
        pt: head ? 1.5 : 0,
        pb: 1.5,
        borderBottom: 1,
        borderColor: 'divider',
        minHeight: 42,
        flex: 'none',
      }}
    >
      {children}
    </Box>
  );
}

/** The one thing to say about the answer. */
function gist(j: BenchAnswer): string {
  const worst = j.pairing.checks[0];
  const out: string[] = [];
  if (j.said.unplaced) out.push(t`The wall is not judged: a figure of it is not right.`);
  if (j.said.of === 'wall') out.push(j.said.why);
  else if (j.pairing.verdict === 'does_not_fit' || j.pairing.verdict === 'missing_data') out.push(worst?.text ?? '');
  else if (j.send) out.push(t`Send ${j.send}.`);
  else if (worst && worst.status !== 'pass') out.push(worst.text);
  else out.push(t`The bag has all that is needed.`);
  if (j.heights) out.push(j.heights.text);
  return out.join(' ');
}
