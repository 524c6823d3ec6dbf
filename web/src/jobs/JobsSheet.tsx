import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Skeleton from '@mui/material/Skeleton';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Choice } from '../parts/Choice';
import { Nothing, Page, Tools } from '../parts/Page';
import { Go } from '../parts/Press';
import { ShortField } from '../parts/ShortField';
import { stateWords } from '../review/parts';
import { useRemoveJob } from '../wall/site';
import { verdictWords } from '../words';
import { JobRows } from './JobRows';
import { useJobs, type Asked, type JobState } from './jobs';
import { useRemove } from './saving';

const states: [string, string][] = [['', t`Any state`], ['none', t`not sent`], ...(Object.entries(stateWords) as [string, string][])];
const verdicts: [string, string][] = [['', t`Any verdict`], ...(Object.entries(verdictWords) as [string, string][])];
const kinds: [string, string][] = [
  ['', t`Jobs and pairings`],
  ['job', t`Jobs`],
  ['pairing', t`Saved pairings`],
];

/** Everything that was saved: found by words, how it stands and who changed it, in one list that leads on to all of it. */
export function JobsSheet() {
  const [address, setAddress] = useSearchParams();
  const [most, setMost] = useState(50);
  const [typed, setTyped] = useState(address.get('q') ?? '');
  const asked: Asked = {
    q: address.get('q') || undefined,
    kind: (address.get('kind') as Asked['kind']) || undefined,
    state: (address.get('state') as JobState) || undefined,
    verdict: (address.get('verdict') as Asked['verdict']) || undefined,
    sort: (address.get('sort') as Asked['sort']) || 'changed',
  };
  const put = (name: string, value: string) => {
    const next = new URLSearchParams(address);
    if (value) next.set(name, value);
    else next.delete(name);
    setAddress(next, { replace: true });
  };
  useEffect(() => {
    const soon = window.setTimeout(() => typed !== (address.get('q') ?? '') && put('q', typed), 150); // not at every key
    return () => window.clearTimeout(soon);
  });
  const { jobs, all, error, loading, fetching } = useJobs({ ...asked, limit: most });
  const removePairing = useRemove();
  const removeJob = useRemoveJob();
  const narrowed = asked.q || asked.kind || asked.state || asked.verdict;
  return (
    <Page className="jobs">
      <Tools className="tools">
        <Typography variant="h1">{t`Jobs`}</Typography>
        <ShortField label={t`Title, place, reference, display, bracket, person`} value={typed} onChange={setTyped} maxLength={200} />
        <Choice label={t`Kind`} width={190} value={asked.kind ?? ''} options={kinds} onPick={(v) => put('kind', v)} />
        <Choice label={t`State`} width={130} value={asked.state ?? ''} options={states} onPick={(v) => put('state', v)} />
        <Choice label={t`Verdict`} width={170} value={asked.verdict ?? ''} options={verdicts} onPick={(v) => put('verdict', v)} />
        <span role="status">{all !== undefined && t`${jobs.length} of ${all}`}</span>
      </Tools>
      {error && <Alert severity="error">{error.message}</Alert>}
      {loading && <Skeleton variant="rectangular" height={160} />}
      {all === 0 && (
        <Nothing>
          {narrowed ? (
            <p>{t`No job matches. Change the words or the filters.`}</p>
          ) : (
            <>
              <p>{t`Nothing has been saved yet.`}</p>
              <p>
                <Trans>
                  On the <Go to="/">bench</Go>, press Save or Ctrl+S.
                </Trans>
              </p>
            </>
          )}
        </Nothing>
      )}
      {jobs.length > 0 && (
        <JobRows
          jobs={jobs}
          sorted={{ by: asked.sort, onSort: (by) => put('sort', by === 'changed' ? '' : by) }}
          more={all !== undefined && jobs.length < all ? { fetching, show: () => setMost(most + 100) } : undefined}
          onRemove={(j) => (j.kind === 'job' ? void removeJob(j.id) : removePairing.mutate(Number(j.id)))}
        />
      )}
    </Page>
  );
}
