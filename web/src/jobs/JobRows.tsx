import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ReactNode } from 'react';
import { Link as RouterLink } from 'react-router';
import { Go, Press, Remove } from '../parts/Press';
import { Shape, statusColour } from '../parts/Verdict';
import { When } from '../parts/When';
import { State } from '../review/parts';
import { verdictWords } from '../words';
import type { Asked, JobLine } from './jobs';
import { useOpenSaved } from './saving';

interface Props {
  jobs: JobLine[];
  head?: (by: NonNullable<Asked['sort']>, words: string) => ReactNode;
  onRemove?: (j: JobLine) => void;
}

/** Where there is no room for columns, what is said of a job stands below its name. */
const onTelephone = {
  '@media (max-width: 700px)': { '& thead': { display: 'none' }, '& tr': { display: 'block', borderTop: 1, borderColor: 'divider', py: 1 }, '& td': { display: 'block', border: 0, py: 0, maxWidth: 'none !important' } },
};

/** Jobs and saved pairings, a line each, with what leads on from it. */
export function JobRows({ jobs, head = (_, words) => words, onRemove }: Props) {
  return (
    <Table className="job-rows" sx={{ '& td': { verticalAlign: 'top' }, ...onTelephone }}>
      <TableHead>
        <TableRow>
          <TableCell>{head('name', t`Job`)}</TableCell>
          <TableCell>{t`Pairing`}</TableCell>
          <TableCell>{head('verdict', t`Verdict`)}</TableCell>
          <TableCell>{head('state', t`State`)}</TableCell>
          <TableCell>{head('changed', t`Changed`)}</TableCell>
          <TableCell>{t`Leads to`}</TableCell>
          {onRemove && <TableCell />}
        </TableRow>
      </TableHead>
      <TableBody>
        {jobs.map((j) => (
          <Row key={j.kind + j.id} of={j} onRemove={onRemove} />
        ))}
      </TableBody>
    </Table>
  );
}

function Row({ of: j, onRemove }: { of: JobLine; onRemove?: Props['onRemove'] }) {
  const openSaved = useOpenSaved();
  const at = (view: string) => `/${view}?job=${encodeURIComponent(j.id)}`;
  const more = [j.name !== j.id && j.kind === 'job' && j.id, j.location, j.reference].filter(Boolean).join(' · ');
  return (
    <TableRow>
      <TableCell sx={{ overflowWrap: 'anywhere', maxWidth: 300 }}>
        {j.kind === 'job' ? (
          <Link component={RouterLink} to={at('wall')} data-job={j.id}>
            {j.name}
          </Link>
        ) : (
          <Press data-pairing={j.id} onClick={() => void openSaved(Number(j.id))}>
            {j.name}
          </Press>
        )}
        {more && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{more}</Box>}
      </TableCell>
      <TableCell>
        {j.kind === 'job' ? j.title : t`a saved pairing`}
        {j.wall && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{j.wall}</Box>}
      </TableCell>
      <TableCell sx={{ color: j.verdict && statusColour[j.verdict], whiteSpace: 'nowrap' }}>
        {j.verdict ? (
          <>
            <Shape of={j.verdict} /> {verdictWords[j.verdict]}
            {j.kind === 'pairing' && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{t`when it was saved`}</Box>}
          </>
        ) : (
          t`Judging…`
        )}
      </TableCell>
      <TableCell sx={{ whiteSpace: 'nowrap' }}>{j.state !== 'none' && j.approval ? (
          <Go to={`/reviews/${j.approval}`}>
            <State of={{ state: j.state, stale: j.stale }} />
          </Go>
        ) : (
          j.kind === 'job' && t`not sent`
        )}</TableCell>
      <TableCell>
        <When at={j.at} />
        {j.who && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{j.who}</Box>}
      </TableCell>
      <TableCell sx={{ whiteSpace: 'nowrap', '& a + a': { ml: 2 } }}>
        {j.kind === 'job' && (
          <>
            <Go to={at('steps')}>{t`Steps`}</Go>
            <Go to={at('template')}>{t`Template`}</Go>
            <Go to={`/catalogue/history/jobs/${encodeURIComponent(j.id)}`}>{t`History`}</Go>
          </>
        )}
      </TableCell>
      {onRemove && (
        <TableCell>
          <Remove what={j.kind === 'job' ? t`job ${j.id}` : j.name} act={() => onRemove(j)} />
        </TableCell>
      )}
    </TableRow>
  );
}
