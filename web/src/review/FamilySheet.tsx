import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { FieldError, Head, Hint, Page, Quick } from '../parts/Page';
import { Go } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { useNotice } from '../shell/notice';
import { ruleWords } from '../words';
import { actWords, Alike, opened, Verdict } from './parts';

type Family = Schemas['Family'];

/** Several reviews of which bolts, steps and findings are the same: what differs, samples, one decision that signs each. */
export function FamilySheet() {
  const key = useParams().key ?? '';
  const [deciding, setDeciding] = useState(false); // what is decided is no family in review any more: it is not asked for again
  const family = useQuery({
    enabled: !deciding,
    queryKey: ['review', 'family', key],
    queryFn: ({ signal }) => answer(api.GET('/api/families/{key}', { params: { path: { key } }, signal })),
  });
  const f = family.data;
  useEffect(() => {
    document.title = f ? t`${f.members.length} alike, ${f.title} – Nexufix` : t`Reviews – Nexufix`;
  }, [f]);
  return (
    <Page className="family-review" data-ready={f ? 'yes' : undefined}>
      {family.error && (
        <Alert severity="info">
          <Trans>
            Nothing of this family is in review any more. <Go to="/desk">To the desk</Go>
          </Trans>
        </Alert>
      )}
      {family.isLoading && <Skeleton variant="rectangular" height={320} />}
      {f && !family.error && (
        <>
          <Typography variant="h1">{t`${f.members.length} alike: ${f.title}`}</Typography>
          {f.more && <Hint>{t`${f.more} more of them are in review: prepared by you, or to be looked at after these.`}</Hint>}
          <Box sx={{ display: 'grid', gridTemplateColumns: { md: 'minmax(0, 1fr) 400px' }, gap: 4 }}>
            <Box sx={{ minWidth: 0 }}>
              <Head>{t`Equal in all of them`}</Head>
              <Alike f={f} />
              <Head>{t`What differs`}</Head>
              <Differ f={f} />
              <Members f={f} />
            </Box>
            <aside>
              <Decide f={f} onDeciding={setDeciding} />
            </aside>
          </Box>
        </>
      )}
    </Page>
  );
}

function Differ({ f }: { f: Family }) {
  if (f.figures.length === 0) return <p>{t`No figure that a rule compares.`}</p>;
  return (
    <Rows
      label={t`What differs`}
      rows={f.figures}
      id={(d) => d.rule}
      columns={[
        { head: t`Rule`, cell: (d) => ruleWords[d.rule] ?? d.rule, by: (d) => ruleWords[d.rule] ?? d.rule },
        { head: t`Tightest`, cell: (d) => `${d.tightest}, ${f.members[d.of]?.title}` },
        { head: t`Roomiest`, cell: (d) => d.roomiest },
      ]}
    />
  );
}

function Members({ f }: { f: Family }) {
  return (
    <>
      <Head>{t`Samples: open those that are the tightest`}</Head>
      <Rows
        label={t`Members`}
        rows={f.members}
        id={(m) => m.id ?? m.title}
        data={(m) => ({ 'data-approval': String(m.id) })}
        columns={[
          {
            head: t`Review`,
            cell: (m) => (
              <>
                <Verdict of={m.verdict} /> <Go to={`/reviews/${m.id}`}>{m.title}</Go>
              </>
            ),
            by: (m) => m.title,
          },
          { head: t`Holes`, cell: (m) => m.pattern, by: (m) => m.pattern },
          { head: t`Weight`, cell: (m) => m.weight, by: (m) => m.weight },
          { head: t`Tightest in`, cell: tightest, by: tightest },
          { head: t`Seen`, cell: (m) => (m.stale ? <Box component="b" sx={{ color: 'warning.main' }}>{t`stale`}</Box> : opened.has(m.id!) && t`opened`) },
        ]}
      />
    </>
  );
}

const tightest = (m: Family['members'][number]) => m.tightest.map((r) => ruleWords[r] ?? r).join(', ');

/** Some names, as many as a sentence bears. */
function named(all: string[]) {
  return all.slice(0, 8).join('; ') + (all.length > 8 ? t` and ${all.length - 8} more` : '');
}

type FamilyAct = Family['may'][number];

const doneWords: Record<FamilyAct, string> = { approve: t`approved`, send_back: t`sent back`, withdraw: t`withdrawn` };

function Decide({ f, onDeciding }: { f: Family; onDeciding: (is: boolean) => void }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const tell = useNotice();
  const [text, setText] = useState('');
  const samples = f.members.filter((m) => opened.has(m.id!));
  const stale = f.members.some((m) => m.stale);
  const decide = useMutation({
    mutationFn: (act: FamilyAct) =>
      answer(
        api.POST('/api/families/{key}/decide', {
          params: { path: { key: f.key } },
          body: {
            members: f.members.map((m) => ({ id: m.id!, version: m.version! })),
            act,
            text: [text.trim(), act === 'approve' && t`One of ${f.members.length} alike. Samples opened: ${named(samples.map((m) => m.title))}.`].filter(Boolean).join('\n'),
          },
        }),
      ),
    onMutate: () => onDeciding(true),
    onSuccess: (all, act) => {
      tell({ text: t`${all.length} are ${doneWords[act]}.` });
      void go('/desk');
      void queries.invalidateQueries({ queryKey: ['review'] });
    },
    onError: () => {
      onDeciding(false);
      void queries.invalidateQueries({ queryKey: ['review'] });
    },
  });
  return (
    <section className="decide">
      <Head>{t`Decide on all ${f.members.length}`}</Head>
      {!f.may.includes('approve') && <Hint>{t`You have prepared some of them, or may not approve: somebody else does.`}</Hint>}
      {f.may.includes('approve') && samples.length === 0 && <Hint>{t`Open at least one of them, the tightest best, before you approve all.`}</Hint>}
      {stale && <Hint>{t`Some went stale since they were sent: send them back, or decide on each by itself.`}</Hint>}
      {f.may.length > 0 && (
        <TextField
          multiline
          minRows={2}
          fullWidth
          size="small"
          placeholder={t`What is to be said; to send them back, what has to change`}
          value={text}
          onChange={(e) => setText(e.target.value)}
          slotProps={{ htmlInput: { 'aria-label': t`What is to be said`, maxLength: 1000 } }}
        />
      )}
      <Quick sx={{ mt: 1 }}>
        {f.may.map((act) => (
          <Button
            key={act}
            variant={act === 'approve' ? 'contained' : 'outlined'}
            color={act === 'withdraw' ? 'error' : 'primary'}
            disabled={(act === 'send_back' && !text.trim()) || (act === 'approve' && (samples.length === 0 || stale))}
            loading={decide.isPending && decide.variables === act}
            onClick={() => decide.mutate(act)}
          >
            {t`${actWords[act]} all`}
          </Button>
        ))}
      </Quick>
      {decide.error && <FieldError>{decide.error.message}</FieldError>}
    </section>
  );
}
