import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { answer, api } from '../api';
import { JobRows } from '../jobs/JobRows';
import { useJobs } from '../jobs/jobs';
import { FieldError, Head, Page, Quick } from '../parts/Page';
import { Go } from '../parts/Press';
import { useWorkspace } from '../state/workspace';

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

/** What was worked on last. */
function Lately() {
  const { jobs } = useJobs({ sort: 'changed', limit: 5 });
  if (jobs.length === 0) return null;
  return (
    <>
      <Head>{t`Jobs, those worked on last`}</Head>
      <JobRows jobs={jobs} />
      <Quick>
        <Go to="/jobs">{t`All jobs`}</Go>
      </Quick>
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
          <Trans>
            The catalogue is empty. <Go to="/catalogue/import">Import a document</Go> with displays and brackets, or type a display in.
          </Trans>
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
