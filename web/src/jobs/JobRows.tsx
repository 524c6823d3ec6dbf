import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { Link as RouterLink } from 'react-router';
import { Go, Press, Remove } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { Shape, statusColour } from '../parts/Verdict';
import { When } from '../parts/When';
import { State } from '../review/parts';
import { verdictWords } from '../words';
import type { JobLine } from './jobs';
import { useOpenSaved } from './saving';

interface Props {
  jobs: JobLine[];
  sorted?: { by?: string; onSort?: (by: string) => void };
  more?: { fetching: boolean; show: () => void };
  onRemove?: (j: JobLine) => void;
}

const small = { fontSize: 13, color: 'text.secondary' } as const;

/** Jobs and saved pairings, a line each, with what leads on from it. */
export function JobRows({ jobs, sorted = {}, more, onRemove }: Props) {
  const openSaved = useOpenSaved();
  const at = (j: JobLine, view: string) => `/${view}?job=${encodeURIComponent(j.id)}`;
  const name = (j: JobLine) => {
    const said = [j.name !== j.id && j.kind === 'job' && j.id, j.location, j.reference].filter(Boolean).join(' · ');
    return (
      <>
        {j.kind === 'job' ? (
          <Link component={RouterLink} to={at(j, 'wall')} data-job={j.id}>
            {j.name}
          </Link>
        ) : (
          <Press data-pairing={j.id} onClick={() => void openSaved(Number(j.id))}>
            {j.name}
          </Press>
        )}
        {said && <Box sx={small}>{said}</Box>}
      </>
    );
  };
  return (
    <Rows
      label={t`Jobs`}
      className="job-rows"
      rows={jobs}
      id={(j) => j.kind + j.id}
      sorted={{ down: sorted.by === 'changed', ...sorted }}
      more={more}
      columns={[
        { head: t`Job`, sort: 'name', cell: name, sx: { maxWidth: 300 } },
        {
          head: t`Pairing`,
          cell: (j) => (
            <>
              {j.kind === 'job' ? j.title : t`a saved pairing`}
              {j.wall && <Box sx={small}>{j.wall}</Box>}
            </>
          ),
        },
        { head: t`Verdict`, sort: 'verdict', cell: (j) => <Judged of={j} />, sx: { whiteSpace: 'nowrap' } },
        { head: t`State`, sort: 'state', cell: (j) => <Sent of={j} />, sx: { whiteSpace: 'nowrap' } },
        {
          head: t`Changed`,
          sort: 'changed',
          cell: (j) => (
            <>
              <When at={j.at} />
              {j.who && <Box sx={small}>{j.who}</Box>}
            </>
          ),
        },
        {
          head: t`Leads to`,
          sx: { whiteSpace: 'nowrap', '& a + a': { ml: 2 } },
          cell: (j) =>
            j.kind === 'job' && (
              <>
                <Go to={at(j, 'steps')}>{t`Steps`}</Go>
                <Go to={at(j, 'template')}>{t`Template`}</Go>
                <Go to={`/catalogue/history/jobs/${encodeURIComponent(j.id)}`}>{t`History`}</Go>
              </>
            ),
        },
        onRemove && { head: '', cell: (j) => <Remove what={j.kind === 'job' ? t`job ${j.id}` : j.name} act={() => onRemove(j)} /> },
      ]}
    />
  );
}

function Judged({ of: j }: { of: JobLine }) {
  if (!j.verdict) return t`Judging…`;
  return (
    <Box component="span" sx={{ color: statusColour[j.verdict] }}>
      <Shape of={j.verdict} /> {verdictWords[j.verdict]}
      {j.kind === 'pairing' && <Box sx={small}>{t`when it was saved`}</Box>}
    </Box>
  );
}

function Sent({ of: j }: { of: JobLine }) {
  if (j.state === 'none' || !j.approval) return j.kind === 'job' && t`not sent`;
  return (
    <Go to={`/reviews/${j.approval}`}>
      <State of={{ state: j.state, stale: j.stale }} />
    </Go>
  );
}
