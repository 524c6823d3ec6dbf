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
import { useParams } from 'react-router';
import { at } from '../base';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Finding, FindingList, Remark } from '../parts/Finding';
import { FieldError, Head, Hint, Page, Quick, Warn } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { ShortField } from '../parts/ShortField';
import { Stamp } from '../parts/Verdict';
import { may as mayBe, useMe } from '../people/me';
import { useNotice } from '../shell/notice';
import { useUnits } from '../state/workspace';
import { useKept } from '../state/drafts';
import { locale } from '../i18n';
import { figureName, hereWords, languageWords, ruleWords, verdictWords } from '../words';
import { Documents } from './Letters';
import { actWords, asked, differenceWords, opened, sheetWords, State, type Act, type What } from './parts';
import { When } from '../parts/When';

type Review = Schemas['Review'];

const none = () => {};

/** Everything that one looks at before approving; then the decision, and what is issued. */
export function ReviewSheet() {
  const units = useUnits();
  const id = Number(useParams().id);
  const review = useQuery({
    queryKey: ['review', id],
    queryFn: ({ signal }) => answer(api.GET('/api/approvals/{id}', { params: { path: { id } }, signal })),
  });
  const r = review.data;
  const alike = useQuery(asked.all).data?.filter((a) => r?.family && a.family === r.family).length ?? 0;
  useEffect(() => {
    document.title = r ? `${r.title} – Nexufix` : t`Review – Nexufix`;
    if (r) opened.add(r.id);
  }, [r]);
  return (
    <Page className={`review units-${units}`} data-ready={r ? 'yes' : undefined}>
      {review.error && <Alert severity="error">{review.error.message}</Alert>}
      {review.isLoading && <Skeleton variant="rectangular" height={320} />}
      {r && (
        <>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', mb: 1 }}>
            <Typography variant="h1">{r.title}</Typography>
            <Stamp verdict={r.verdict} words={(r.subject.job ? hereWords : verdictWords)[r.verdict]} />
          </Box>
          <Hint>
            <Trans>
              <State of={r} />. Prepared by {r.prepared_by}, <When at={r.prepared_at} />
            </Trans>
            {r.approved_by && (
              <Trans>
                ; approved by {r.approved_by}, <When at={r.approved_at} />
              </Trans>
            )}
            . {t`Fingerprint`} <code title={r.fingerprint}>{r.fingerprint.slice(0, 16)}…</code>
            {r.superseded_by && (
              <Trans>
                . Superseded by <Go to={`/reviews/${r.superseded_by}`}>a later one</Go>
              </Trans>
            )}
            {alike > 1 && (
              <>
                . <Go to={`/reviews/family/${r.family}`}>{t`${alike} in review have the same bolts and steps`}</Go>
              </>
            )}
            {r.subject.job && (
              <>
                . <Go to={`/wall?job=${encodeURIComponent(r.subject.job)}`}>{t`The job`}</Go>
              </>
            )}
          </Hint>
          <Box sx={{ display: 'grid', gridTemplateColumns: { md: 'minmax(0, 1fr) 400px' }, gap: 4 }}>
            <Looked r={r} />
            <aside>
              <Decide r={r} />
              <IssueForm r={r} />
              <Documents issued={r.issued} letters={r.letters} current={r.holds} />
              <Said r={r} />
            </aside>
          </Box>
        </>
      )}
    </Page>
  );
}

/** A drawing as the server made it. */
function Picture({ svg, name }: { svg: string | undefined; name: string }) {
  if (!svg) return null;
  return (
    <Box
      component="figure"
      aria-label={name}
      sx={{ m: 0, p: 1, border: 1, borderColor: 'divider', bgcolor: 'background.paper', flex: '1 1 300px', '& svg': { width: '100%', height: 280, display: 'block' } }}
    >
      <div dangerouslySetInnerHTML={{ __html: svg }} />
      <Box component="figcaption" sx={{ fontSize: 13, color: 'text.secondary' }}>
        {name}
      </Box>
    </Box>
  );
}

function Looked({ r }: { r: Review }) {
  const open = r.findings.filter((c) => c.status !== 'pass');
  const passed = r.findings.length - open.length;
  const [all, setAll] = useState(false);
  const shown = all ? r.findings : open;
  return (
    <Box sx={{ minWidth: 0 }}>
      {r.differences.length > 0 && (
        <Alert severity="warning" role="alert" className="stale" sx={{ mb: 2 }}>
          <b>{t`The catalogue has changed, and what is printed with it.`}</b> {t`Nothing is issued from this.`}
          <Differences list={r.differences} was={t`as reviewed`} now={t`now`} r={r} />
        </Alert>
      )}
      {r.restored && r.state === 'approved' && (
        <Alert severity="warning" role="alert" className="restored" sx={{ mb: 2 }}>
          <b>{t`It came from a backup.`}</b> {t`Whether it was withdrawn or superseded after that is not known. Nothing is issued from it until an approver confirms that it still holds.`}
        </Alert>
      )}
      {r.before && (
        <section className="before">
          <Head>{t`Since the last approval`}</Head>
          <Hint>
            <Trans>
              {r.before.approved_by} approved <Go to={`/reviews/${r.before.id}`}>the one before</Go>, <When at={r.before.approved_at} />.
            </Trans>
          </Hint>
          {r.before.figures.length + r.before.results.length === 0 && <p>{t`Nothing differs.`}</p>}
          {r.before.figures.length > 0 && <Differences list={r.before.figures} was={t`figure then`} now={t`figure now`} r={r} />}
          {r.before.results.length > 0 && <Differences list={r.before.results} was={t`result then`} now={t`result now`} r={r} />}
        </section>
      )}
      <Quick sx={{ alignItems: 'stretch', mb: 2 }}>
        <Picture svg={r.section} name={t`The bolts, cut through`} />
        {r.before && r.before.section !== r.section && <Picture svg={r.before.section} name={t`As approved before`} />}
        <Picture svg={r.wall} name={t`On the wall`} />
        {r.before && r.before.wall !== r.wall && <Picture svg={r.before.wall} name={t`As approved before`} />}
      </Quick>
      <Head>{t`Findings, the worst first`}</Head>
      <Box sx={{ px: '14px', mb: 2 }}>
        <FindingList className="findings">
          {shown.map((c, n) => (
            <Finding key={`${c.rule} ${n}`} check={c} brief={c.status === 'pass'} onLight={none}>
              {c.remedy && <Remark>{c.remedy}</Remark>}
            </Finding>
          ))}
        </FindingList>
      </Box>
      {passed > 0 && (
        <p>
          <Press onClick={() => setAll(!all)}>{all ? t`Leave out what passed` : t`Show the ${passed} that passed too`}</Press>
        </p>
      )}
      <Head>{t`Assumed`}</Head>
      {r.assumed.length === 0 && <p>{t`The job supposes nothing in place of what is known.`}</p>}
      {r.assumed.map((a) => (
        <Warn key={a}>{a}</Warn>
      ))}
      {r.stands_on.length > 0 && (
        <>
          <Head>{t`Stands on what nobody has said`}</Head>
          <ul className="told">
            {r.stands_on.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
      {r.told.length > 0 && (
        <>
          <Head>{t`Rests on what a caller said`}</Head>
          <ul className="told">
            {r.told.map((t) => (
              <li key={t.rule + t.figure}>
                {figureName(t.figure)} ({ruleWords[t.rule] ?? t.rule})
              </li>
            ))}
          </ul>
        </>
      )}
      <Head>{t`The sheets, as they will be issued`}</Head>
      <Quick className="sheets">
        {(Object.keys(sheetWords) as What[]).map((what) => (
          <Button key={what} variant="outlined" href={at(`/api/approvals/${r.id}/sheet?what=${what}`)} title={t`As a draft, from what is frozen`}>
            {sheetWords[what]}
          </Button>
        ))}
      </Quick>
    </Box>
  );
}

function Differences({ list: all, was, now, r }: { list: Schemas['Difference'][]; was: string; now: string; r: Review }) {
  const steps = new Map(r.steps.map((s) => [s.step, s.why]));
  const list = all.flatMap((d) => {
    const words = differenceWords(d.path, steps);
    return words ? [{ ...d, words }] : [];
  });
  return (
    <Rows
      label={t`What differs`}
      className="differences"
      rows={list}
      id={(d) => d.path}
      columns={[
        { head: t`What`, cell: (d) => <span title={d.path}>{d.words}</span>, by: (d) => d.words },
        { head: was, cell: (d) => d.was, by: (d) => d.was },
        { head: now, cell: (d) => d.now, by: (d) => d.now },
      ]}
    />
  );
}

const doneWords: Record<Act, string> = { approve: t`It is approved.`, send_back: t`It is sent back.`, withdraw: t`It is withdrawn.`, confirm: t`It is confirmed.` };

function Decide({ r }: { r: Review }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const me = useMe().data;
  const [{ text, about }, write] = useKept(`remark.${r.id}`, { text: '', about: '' });
  const setText = (text: string) => write({ text, about });
  const setAbout = (about: string) => write({ text, about });
  const look = () => void queries.invalidateQueries({ queryKey: ['review'] });
  const decide = useMutation({
    mutationFn: (act: Act) => answer(api.POST('/api/approvals/{id}/decide', { params: { path: { id: r.id } }, body: { version: r.version, act, text } })),
    onSuccess: (_, act) => {
      setText('');
      tell({ text: doneWords[act] });
      look();
    },
    onError: look,
  });
  const comment = useMutation({
    mutationFn: () => answer(api.POST('/api/approvals/{id}/comments', { params: { path: { id: r.id } }, body: { text, about } })),
    onSuccess: () => {
      write({ text: '', about: '' });
      look();
    },
  });
  if (!mayBe(me, 'engineer')) return null;
  return (
    <section className="decide">
      <Head>{t`Decide`}</Head>
      {r.state === 'in_review' && r.mine && <Hint>{t`You have prepared it: somebody else approves it.`}</Hint>}
      <TextField
        multiline
        minRows={2}
        fullWidth
        size="small"
        placeholder={t`What is to be said; to send it back, what has to change`}
        value={text}
        onChange={(e) => setText(e.target.value)}
        slotProps={{ htmlInput: { 'aria-label': t`What is to be said`, maxLength: 2000 } }}
      />
      <Quick sx={{ mt: 1 }}>
        {r.may.map((act) => (
          <Button
            key={act}
            variant={act === 'approve' || act === 'confirm' ? 'contained' : 'outlined'}
            color={act === 'withdraw' ? 'error' : 'primary'}
            disabled={act === 'send_back' && !text.trim()}
            loading={decide.isPending && decide.variables === act}
            onClick={() => decide.mutate(act)}
          >
            {actWords[act]}
          </Button>
        ))}
      </Quick>
      <Quick>
        <Choice label={t`What it is about`} width={250} value={about} options={[['', t`of the whole`], ...aboutOf(r)]} onPick={setAbout} />
        <Button color="inherit" disabled={!text.trim()} loading={comment.isPending} onClick={() => comment.mutate()}>
          {t`Comment`}
        </Button>
      </Quick>
      {decide.error && <FieldError>{decide.error.message}</FieldError>}
      {comment.error && <FieldError>{comment.error.message}</FieldError>}
    </section>
  );
}

const whats = Object.entries(sheetWords);

function IssueForm({ r }: { r: Review }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const me = useMe().data;
  const [what, setWhat] = useState<What>('pack');
  const [lang, setLang] = useState<string>(locale);
  const [receiver, setReceiver] = useState('');
  const issue = useMutation({
    mutationFn: () => answer(api.POST('/api/approvals/{id}/issue', { params: { path: { id: r.id } }, body: { what, lang, receiver } })),
    onSuccess: (i) => {
      tell({ text: t`${i.number} is issued.` });
      setReceiver('');
      void queries.invalidateQueries({ queryKey: ['review'] });
    },
  });
  if (r.state !== 'approved' || !mayBe(me, 'engineer')) return null;
  return (
    <section className="issue">
      <Head>{t`Issue`}</Head>
      {r.stale ? (
        <Hint>{t`Nothing is issued from what is stale: send the job for review again.`}</Hint>
      ) : r.restored ? (
        <Hint>{t`Nothing is issued until it is confirmed.`}</Hint>
      ) : (
        <>
          <Quick>
            <Choice label={t`What`} width={180} value={what} options={whats} onPick={(to) => setWhat(to as What)} />
            <Choice label={t`Language`} width={110} value={lang} options={Object.entries(languageWords)} onPick={setLang} />
          </Quick>
          <Quick>
            <ShortField label={t`Who gets it`} value={receiver} onChange={setReceiver} maxLength={200} />
            <Button variant="contained" disabled={!receiver.trim()} loading={issue.isPending} onClick={() => issue.mutate()}>
              {t`Issue`}
            </Button>
          </Quick>
          {issue.error && <FieldError>{issue.error.message}</FieldError>}
        </>
      )}
    </section>
  );
}

const eventWords: Record<string, string> = {
  submit: t`sent it for review`,
  send_back: t`sent it back`,
  approve: t`approved it`,
  confirm: t`confirmed that it still holds`,
  withdraw: t`withdrew it`,
  supersede: t`approved a later one`,
  issue: t`issued`,
  send: t`sent`,
  recall: t`took back`,
  comment: t`says`,
};

/** What can be spoken of, by the names under which it is kept: a rule and a step may have the same one. */
function aboutOf(r: Review): [string, string][] {
  const rules = new Set(r.findings.map((c) => c.rule));
  return [...[...rules].map((rule): [string, string] => [`rule:${rule}`, t`finding: ${ruleWords[rule] ?? rule}`]), ...r.steps.map((s): [string, string] => [`step:${s.step}`, t`step: ${s.why}`])];
}

/** What a remark is about, in words. Older ones have the bare name, which says nothing where a rule and a step have it. */
function aboutWords(about: string, titles: Map<string, string>): string {
  const found = about.includes(':') ? [about] : [`rule:${about}`, `step:${about}`].filter((name) => titles.has(name));
  return found.length === 1 ? `(${titles.get(found[0]!) ?? about})` : t`(${about}: the finding or the step)`;
}

function Said({ r }: { r: Review }) {
  const titles = new Map(aboutOf(r));
  return (
    <section className="said">
      <Head>{t`What happened`}</Head>
      {r.earlier && <Hint>{t`The latest ${r.events.length}; what was before is in the audit.`}</Hint>}
      {r.events.map((e) => (
        <Box component="p" key={e.seq} sx={{ whiteSpace: 'pre-line' }}>
          <b>{e.who}</b> {eventWords[e.what] ?? e.what}
          {e.about && <i> {e.what === 'comment' ? aboutWords(e.about, titles) : e.about}</i>}
          {e.text && `: ${e.text}`}
          <Box component="span" sx={{ color: 'text.secondary', fontSize: 13 }}>
            {' '}
            <When at={e.at} />
          </Box>
        </Box>
      ))}
    </section>
  );
}
