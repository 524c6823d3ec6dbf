import { plural, t } from '@lingui/core/macro';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useLocation } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { useNotice } from '../shell/notice';

const shelf = { display: 'displays', bracket: 'brackets', job: 'jobs' } as const;

const useSetAside = () => useQuery({ queryKey: ['unreadable'], queryFn: ({ signal }) => answer(api.GET('/api/unreadable', { signal })) });

/** Says that documents of the catalogue cannot be read; nothing where all can. */
export function SetAsideNotice() {
  const { data } = useSetAside();
  const { pathname } = useLocation();
  if (!data || data.length === 0 || pathname === '/catalogue/set-aside') return null;
  return (
    <Alert
      severity="warning"
      sx={{ mb: 1 }}
      action={
        <Button color="inherit" component={Link} to="/catalogue/set-aside">
          {t`Look at them`}
        </Button>
      }
    >
      {plural(data.length, {
        one: 'One document of the catalogue cannot be read and is set aside. Everything else goes on.',
        other: '# documents of the catalogue cannot be read and are set aside. Everything else goes on.',
      })}
    </Alert>
  );
}

/** What cannot be read: why, its text for rescue, and what can be done. */
export function SetAsideSheet() {
  const { data, error } = useSetAside();
  return (
    <Stack spacing={1.5} sx={{ '& > *': { flex: 'none' } }}>
      <Typography variant="h6" component="h2">
        {t`Set aside`}
      </Typography>
      {data && data.length > 0 && <Typography>{t`What is here cannot be read, and nobody can use it. Open one for its text as it is in the database.`}</Typography>}
      {error && <Alert severity="error">{error.message}</Alert>}
      {data?.length === 0 && <Typography>{t`Everything in the database can be read.`}</Typography>}
      {data?.map((d) => (
        <One key={`${d.kind} ${d.id}`} document={d} />
      ))}
    </Stack>
  );
}

function One({ document: d }: { document: Schemas['SetAside'] }) {
  const tell = useNotice();
  const queries = useQueryClient();
  const kind = d.kind in shelf ? shelf[d.kind as keyof typeof shelf] : undefined;
  const remove = useMutation({
    mutationFn: () => answer(api.DELETE('/api/items/{kind}/{id}', { params: { path: { kind: kind!, id: d.id }, query: { revision: d.revision } } })),
    onSuccess: () => tell({ text: t`Taken out. Its history stays.` }),
    onError: (e: Error) => tell({ text: e.message }),
    onSettled: () => queries.invalidateQueries(),
  });
  return (
    <Accordion disableGutters>
      <AccordionSummary expandIcon="▾">
        <Stack>
          <Typography sx={{ fontWeight: 600 }}>
            {d.kind} {d.id}
          </Typography>
          <Typography variant="body2" sx={{ whiteSpace: 'pre-line', overflowWrap: 'anywhere' }}>
            {d.why}
          </Typography>
        </Stack>
      </AccordionSummary>
      <AccordionDetails>
        <TextField fullWidth multiline maxRows={14} label={t`As it is in the database`} value={d.text} slotProps={{ htmlInput: { readOnly: true, spellCheck: false } }} />
        <Stack direction="row" spacing={1} sx={{ mt: 1 }}>
          <Button onClick={() => void navigator.clipboard.writeText(d.text).then(() => tell({ text: t`Copied.` }))}>{t`Copy the text`}</Button>
          {kind && kind !== 'jobs' && (
            <Button component={Link} to={`/catalogue/history/${kind}/${d.id}`}>
              {t`Restore an earlier revision`}
            </Button>
          )}
          {kind && !d.damaged && (
            <Button disabled={remove.isPending} onClick={() => remove.mutate()}>
              {t`Take it out`}
            </Button>
          )}
        </Stack>
      </AccordionDetails>
    </Accordion>
  );
}
