import { t } from '@lingui/core/macro';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { answer, api, Refused, type Schemas } from '../api';
import { FieldError, Head, Hint } from '../parts/Page';
import { may, useMe } from '../people/me';
import { State, Title } from './parts';

interface Props {
  subject: Schemas['Subject'];
  revision?: number; // of the saved job
}

/** Whether what is on the screen is approved, and the way there. */
export function Standing({ subject, revision }: Props) {
  const queries = useQueryClient();
  const go = useNavigate();
  const me = useMe().data;
  const query = subject.job ? { job: subject.job } : { display: subject.display!, bracket: subject.bracket! };
  const all = useQuery({
    queryKey: ['review', 'of', query],
    enabled: Boolean(me?.id),
    queryFn: ({ signal }) => answer(api.GET('/api/approvals', { params: { query }, signal })),
  });
  const send = useMutation({
    mutationFn: () => answer(api.POST('/api/approvals', { body: { subject } })),
    onSuccess: (a) => {
      void queries.invalidateQueries({ queryKey: ['review'] });
      void go(`/reviews/${a.id}`);
    },
  });
  if (!me?.id) return null;
  const mine = all.data?.filter((a) => a.subject.job || (a.subject.wall === subject.wall && (a.subject.turn_deg ?? 0) === (subject.turn_deg ?? 0))) ?? [];
  const current = mine.find((a) => a.state === 'in_review') ?? mine.find((a) => a.state === 'approved') ?? mine.find((a) => a.state === 'draft');
  const wrong = send.error instanceof Refused ? (send.error.problem.problems ?? []) : [];
  return (
    <section className="standing" aria-label={t`Approval`}>
      <Head>{t`Approval`}</Head>
      {current ? (
        <>
          <p>
            <State of={current} />: <Title of={current} />
          </p>
          {current.state === 'approved' && <Hint>{t`What is on this page is a draft all the same: documents are issued there, from what was approved.`}</Hint>}
        </>
      ) : (
        <Hint>{t`Not approved: every sheet says so across it.`}</Hint>
      )}
      {may(me, 'engineer') && current?.state !== 'in_review' && (
        <>
          <Button variant="outlined" loading={send.isPending} onClick={() => send.mutate()}>
            {t`Send for review`}
          </Button>
          {revision !== undefined && <Hint>{t`The job is sent as it is saved, revision ${revision}.`}</Hint>}
        </>
      )}
      {send.error && wrong.length === 0 && <FieldError>{send.error.message}</FieldError>}
      {wrong.map((p) => (
        <FieldError key={p.path + p.found}>{t`It ${p.found}${/[.!]$/.test(p.found) ? '' : '.'}`}</FieldError>
      ))}
    </section>
  );
}
