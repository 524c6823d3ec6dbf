import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { answer, api } from '../api';
import { FieldError, Head, Page } from '../parts/Page';
import { Go } from '../parts/Press';
import { Shape } from '../parts/Verdict';
import { useOpenSaved } from '../saved/saving';
import { useWorkspace } from '../state/workspace';
import { useOpenJob } from '../wall/site';
import { When } from '../parts/When';

const Columns = styled('ul')({ listStyle: 'none', padding: 0, margin: 0, display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(270px, 1fr))', gap: '0 16px' });

/** A line that is pressed as a whole. */
function Line({ onClick, job, children }: { onClick: () => void; job?: string; children: ReactNode }) {
  return (
    <li>
      <Link
        component="button"
        type="button"
        data-job={job}
        underline="none"
        onClick={onClick}
        sx={{
          font: 'inherit',
          color: 'text.primary',
          borderTop: 1,
          borderColor: 'divider',
          width: '100%',
          minHeight: 32,
          py: 1.25,
          px: 0.5,
          textAlign: 'left',
          '&:hover': { bgcolor: 'background.paper' },
          '& small': { color: 'text.secondary' },
          '@media (pointer: coarse)': { minHeight: 44 },
        }}
      >
        {children}
      </Link>
    </li>
  );
}

/** What was worked on last, and what of it needs somebody. */
function Lately() {
  const openSaved = useOpenSaved();
  const openJob = useOpenJob();
  const go = useNavigate();
  const saved = useQuery({ queryKey: ['pairings'], queryFn: ({ signal }) => answer(api.GET('/api/pairings', { signal })) });
  const jobs = useQuery({ queryKey: ['jobs'], queryFn: ({ signal }) => answer(api.GET('/api/jobs', { signal })) });
  // Jobs have no time of their own: the history says which was worked on last.
  const history = useQuery({ queryKey: ['history', '', ''], queryFn: ({ signal }) => answer(api.GET('/api/history', { signal })) });
  const lastJobs = [...new Set(history.data?.filter((r) => r.kind === 'job').map((r) => r.id))];
  const order = (id: string) => (lastJobs.includes(id) ? lastJobs.indexOf(id) : lastJobs.length);
  const open = saved.data?.filter((p) => p.verdict === 'missing_data' || p.verdict === 'does_not_fit') ?? [];
  const list = (name: string, all: NonNullable<typeof saved.data>) =>
    all.length > 0 && (
      <>
        <Head>{name}</Head>
        <Columns>
          {all.slice(0, 5).map((p) => (
            <Line key={p.id} onClick={() => void openSaved(p.id)}>
              <Shape of={p.verdict} /> {p.title} <small><When at={p.saved_at} /></small>
            </Line>
          ))}
        </Columns>
      </>
    );
  return (
    <>
      {list(t`Needs somebody: it does not fit, or figures are missing`, open)}
      {list(t`Saved last`, saved.data?.filter((p) => !open.includes(p)) ?? [])}
      {jobs.data && jobs.data.length > 0 && (
        <>
          <Head>{t`Jobs, those worked on last`}</Head>
          <Columns>
            {jobs.data
              .toSorted((a, b) => order(a.id) - order(b.id))
              .slice(0, 8)
              .map((j) => (
                <Line key={j.id} job={j.id} onClick={() => void openJob(j.id, true).then(() => go('/wall'))}>
                  {j.id}{' '}
                  <small>
                    {j.title}, {j.wall}
                  </small>
                </Line>
              ))}
          </Columns>
        </>
      )}
    </>
  );
}

/** Before anything is picked: what there is, and how to begin. */
export function Start() {
  const { ask } = useWorkspace();
  const displays = useQuery({
    queryKey: ['displays', ''],
    queryFn: ({ signal }) => answer(api.GET('/api/displays', { params: { query: { q: '' } }, signal })),
  });
  return (
    <Page className="start">
      <Typography variant="h1">{t`Bench`}</Typography>
      <Box component="p" className="lead" sx={{ fontSize: 17, maxWidth: 640, my: 2.5 }}>
        {t`Pick a display: type a few letters of its name, its pattern or its size. The best bracket is chosen for it, with the bolts, and the drawing shows why.`}
      </Box>
      {displays.error && <FieldError>{displays.error.message}</FieldError>}
      {displays.data?.length === 0 && (
        <p>
          <Trans>The catalogue is empty. <Go to="/catalogue/import">Import a document</Go> with displays and brackets, or type a display in.</Trans>
        </p>
      )}
      <Lately />
      {displays.data?.length !== 0 && <Head>{t`In the catalogue`}</Head>}
      {displays.isLoading && <p role="status">{t`Loading…`}</p>}
      <Columns>
        {displays.data?.map((d) => (
          <Line key={d.id} onClick={() => ask({ display: d.id })}>
            {d.name} <small>{d.note}</small>
          </Line>
        ))}
      </Columns>
    </Page>
  );
}
