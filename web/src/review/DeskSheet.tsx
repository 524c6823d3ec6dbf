import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { at } from '../base';
import { answer, api, type Schemas } from '../api';
import { FieldError, Head, Hint, Nothing, Page, PlainList } from '../parts/Page';
import { Go } from '../parts/Press';
import { useNotice } from '../shell/notice';
import { may, useMe } from '../people/me';
import { useCommands } from '../state/commands';
import { leftDrafts } from '../state/drafts';
import { figureName } from '../words';
import { Rows } from '../parts/Rows';
import { asked, collapsed, pageOf, sheetWords, State, stateWords, Title, Verdict, type Entry } from './parts';
import { When } from '../parts/When';

/** What waits for who is signed in, and everything that was ever sent for review. */
export function DeskSheet() {
  const me = useMe().data;
  const desk = useQuery(asked.desk);
  const all = useQuery(asked.all);
  const go = useNavigate();
  const parts = partsOf(desk.data);
  const lines = parts.flatMap((p) => p.lines).slice(0, 9);
  useCommands(
    t`Desk`,
    lines.map((a, n) => ({ key: String(n + 1), does: n === 0 ? t`open the first, the second … of what waits` : '', run: () => void go(pageOf(a)) })),
  );
  if (me?.alone)
    return (
      <Page>
        <Nothing>
          <p>{t`Nobody signs in here, so nothing is sent for review: who approves is not who prepared it.`}</p>
          <p>
            <Go to="/people">{t`Make accounts`}</Go>
          </p>
        </Nothing>
      </Page>
    );
  const d = desk.data;
  return (
    <Page className="desk" sx={{ maxWidth: 1240 }}>
      <Typography variant="h1">{t`Desk`}</Typography>
      {desk.error && <Alert severity="error">{desk.error.message}</Alert>}
      {desk.isLoading && <Skeleton variant="rectangular" height={220} />}
      {d?.judging && <Hint live="status">{t`The catalogue has changed: approvals are judged again, ${d.judging}.`}</Hint>}
      {d && (
        <>
          {parts.map((p, n) => (
            <Part key={p.name} {...p} from={1 + parts.slice(0, n).reduce((sum, before) => sum + before.lines.length, 0)}>
              {p.name === 'restored' && may(me, 'approver') && <ConfirmAll lines={p.lines} />}
            </Part>
          ))}
          {may(me, 'engineer') && (
            <Box component="p" sx={{ mb: 3 }}>
              <Go to="/reviews/range">{t`Send a range for review`}</Go>
            </Box>
          )}
          <Left />
          <Issued lines={d.issued} />
        </>
      )}
      {may(me, 'engineer') && <Measure />}
      <Head>{t`All reviews`}</Head>
      {all.data?.length === 0 && (
        <Hint>
          <Trans>
            Nothing was sent for review yet. Open a saved job’s <Go to="/steps">steps</Go> or <Go to="/template">template</Go>, and press “Send for review”.
          </Trans>
        </Hint>
      )}
      {all.data && all.data.length > 0 && <Lines lines={all.data} label={t`All reviews`} />}
    </Page>
  );
}

interface DeskPart {
  name: string;
  words: string;
  lines: Entry[];
  none?: string;
}

/** The parts of a desk, in the order in which they are worked off. */
function partsOf(d: Schemas['Desk'] | undefined): DeskPart[] {
  if (!d) return [];
  return [
    { name: 'waiting', words: t`Waiting for you`, lines: collapsed(d.waiting), none: t`No review waits for you.` },
    { name: 'restored', words: t`From a backup: do they still hold?`, lines: d.restored },
    { name: 'sent-back', words: t`Sent back to you`, lines: d.sent_back },
    { name: 'stale', words: t`Stale: another result since a change`, lines: d.stale },
    { name: 'sent', words: t`Yours, with others`, lines: collapsed(d.sent) },
  ];
}

/** Confirms that all of a list still hold, after a restore. */
function ConfirmAll({ lines }: { lines: Entry[] }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const others = lines.filter((a) => !a.mine); // who prepared one does not confirm it
  const confirm = useMutation({
    mutationFn: () => answer(api.POST('/api/approvals/confirm', { body: { members: others.map(({ id, version }) => ({ id, version })) } })),
    onSuccess: (all) => tell({ text: t`${all.length} confirmed.` }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['review'] }),
  });
  return (
    <>
      <Hint>
        {t`A backup was restored. Open any that was withdrawn or superseded after the backup was made, and withdraw it; then confirm the others. Nothing is issued from them until then, and their codes say “in doubt”.`}
      </Hint>
      <Button variant="outlined" sx={{ mt: 1 }} disabled={others.length === 0} loading={confirm.isPending} onClick={() => confirm.mutate()}>
        {others.length === lines.length ? t`Confirm these ${others.length}` : t`Confirm the others’ ${others.length}`}
      </Button>
      {confirm.error && <FieldError>{confirm.error.message}</FieldError>}
    </>
  );
}

function Part({ name, words, lines, none, from, children }: DeskPart & { from: number; children?: React.ReactNode }) {
  if (lines.length === 0 && !none) return null;
  return (
    <Box component="section" data-part={name} sx={{ mb: 3 }}>
      <Head>
        {words}
        {lines.length > 0 && ` (${lines.length})`}
      </Head>
      {lines.length === 0 ? <Hint>{none}</Hint> : <Lines lines={lines} label={words} from={from} />}
      {children}
    </Box>
  );
}

/** Approvals; from: the key of the first, the next ones have the next. */
function Lines({ lines, label, from = 10 }: { lines: Entry[]; label: string; from?: number }) {
  const keyOf = (a: Entry) => from + lines.indexOf(a);
  return (
    <Rows
      label={label}
      rows={lines}
      id={(a) => a.id}
      data={(a) => ({ 'data-approval': String(a.id) })}
      columns={[
        {
          head: t`Job or pairing`,
          cell: (a) => (
            <>
              {keyOf(a) < 10 && <kbd>{keyOf(a)}</kbd>} <Verdict of={a.verdict} /> <Title of={a} />
            </>
          ),
          by: (a) => a.title,
        },
        { head: t`State`, cell: (a) => <State of={a} />, by: (a) => stateWords[a.state] },
        { head: t`Prepared by`, cell: (a) => <Done by={a.prepared_by} at={a.prepared_at} />, by: (a) => a.prepared_by },
        { head: t`Approved by`, cell: (a) => a.approved_by && <Done by={a.approved_by} at={a.approved_at} />, by: (a) => a.approved_by },
      ]}
    />
  );
}

/** Who did it, and when. */
function Done({ by, at }: { by: string; at?: string }) {
  return (
    <>
      {by}, <When at={at} />
    </>
  );
}

/** What is edited in this window and not saved. */
function Left() {
  const names = leftDrafts();
  if (names.length === 0) return null;
  return (
    <Box component="section" data-part="left" sx={{ mb: 3 }}>
      <Head>{t`Not saved, in this window`}</Head>
      <PlainList>
        {names.map((name) => {
          const [kind, id] = [name.slice(0, name.indexOf('.')), name.slice(name.indexOf('.') + 1)];
          return (
            <li key={name}>
              <Go to={`/catalogue/${kind}/${encodeURIComponent(id)}`}>{id}</Go>
            </li>
          );
        })}
      </PlainList>
    </Box>
  );
}

const whatFor = (w: Schemas['MeasurementPriority']) => [w.brackets > 0 && t`${w.brackets} brackets that may take it`, ...w.jobs].filter(Boolean).join(', ');

/** Displays of which a figure would help most. */
function Measure() {
  const worth = useQuery({ queryKey: ['review', 'worth'], queryFn: ({ signal }) => answer(api.GET('/api/measurement-priorities', { signal })), staleTime: 60_000 });
  if (!worth.data?.length) return null;
  return (
    <Box component="section" data-part="worth" sx={{ mb: 3 }}>
      <Head>{t`Worth measuring`}</Head>
      <Rows
        label={t`Worth measuring`}
        rows={worth.data}
        id={(w) => w.display}
        data={(w) => ({ 'data-display': w.display })}
        columns={[
          { head: t`Display`, cell: (w) => <Go to={`/catalogue/displays/${encodeURIComponent(w.display)}`}>{w.name}</Go>, by: (w) => w.name },
          {
            head: t`What`,
            cell: (w) => (
              <>
                {w.missing.map((m) => (
                  <div key={m}>{m}</div>
                ))}
                {w.told.length > 0 && <div>{t`A caller said: ${w.told.map(figureName).join(', ')}.`}</div>}
              </>
            ),
          },
          { head: t`For`, cell: whatFor, by: whatFor },
        ]}
      />
    </Box>
  );
}

/** Documents that were issued. */
function Issued({ lines }: { lines: Schemas['IssuedLine'][] }) {
  if (lines.length === 0) return null;
  return (
    <Box component="section" data-part="issued" sx={{ mb: 3 }}>
      <Head>{t`Issued`}</Head>
      <Rows
        label={t`Issued`}
        rows={lines}
        id={(i) => i.id}
        data={(i) => ({ 'data-issued': i.number })}
        columns={[
          {
            head: t`Document`,
            cell: (i) => (
              <>
                <a href={at(`/api/issued/${i.id}`)}>{i.number}</a> {sheetWords[i.what]}
              </>
            ),
            by: (i) => `${i.number} ${sheetWords[i.what]}`,
          },
          { head: t`Revision`, cell: (i) => i.revision, by: (i) => i.revision },
          { head: t`To`, cell: (i) => i.receiver, by: (i) => i.receiver },
          { head: t`By`, cell: (i) => <Done by={i.who} at={i.at} />, by: (i) => i.who },
          {
            head: t`Status`,
            cell: (i) => (
              <a href={at(`/v/${i.code}`)} target="_blank" rel="noreferrer">
                {t`status page`}
              </a>
            ),
          },
        ]}
      />
    </Box>
  );
}
