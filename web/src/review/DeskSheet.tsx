import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
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
import { asked, collapsed, pageOf, sheetWords, State, Title, Verdict, type Entry } from './parts';
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
          <Trans>Nothing was sent for review yet. Open a saved job’s <Go to="/steps">steps</Go> or <Go to="/template">template</Go>, and press “Send for review”.</Trans>
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
        {t`Confirm ${others.length === lines.length ? 'these' : t`the others’`} ${others.length}`}
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
  return (
    <Table size="small" aria-label={label}>
      <TableHead>
        <TableRow>
          <TableCell>{t`Job or pairing`}</TableCell>
          <TableCell>{t`State`}</TableCell>
          <TableCell>{t`Prepared by`}</TableCell>
          <TableCell>{t`Approved by`}</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((a, n) => (
          <TableRow key={a.id} data-approval={a.id}>
            <TableCell>
              {from + n < 10 && <kbd>{from + n}</kbd>} <Verdict of={a.verdict} /> <Title of={a} />
            </TableCell>
            <TableCell>
              <State of={a} />
            </TableCell>
            <TableCell>
              {a.prepared_by}, <When at={a.prepared_at} />
            </TableCell>
            <TableCell>{a.approved_by && (
                <>
                  {a.approved_by}, <When at={a.approved_at} />
                </>
              )}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
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

/** Displays of which a figure would help most. */
function Measure() {
  const worth = useQuery({ queryKey: ['review', 'worth'], queryFn: ({ signal }) => answer(api.GET('/api/measurement-priorities', { signal })), staleTime: 60_000 });
  if (!worth.data?.length) return null;
  return (
    <Box component="section" data-part="worth" sx={{ mb: 3 }}>
      <Head>{t`Worth measuring`}</Head>
      <Table size="small" aria-label={t`Worth measuring`}>
        <TableHead>
          <TableRow>
            <TableCell>{t`Display`}</TableCell>
            <TableCell>{t`What`}</TableCell>
            <TableCell>{t`For`}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {worth.data.map((w) => (
            <TableRow key={w.display} data-display={w.display} sx={{ verticalAlign: 'top' }}>
              <TableCell sx={{ whiteSpace: 'nowrap' }}>
                <Go to={`/catalogue/displays/${encodeURIComponent(w.display)}`}>{w.name}</Go>
              </TableCell>
              <TableCell>
                {w.missing.map((m) => (
                  <div key={m}>{m}</div>
                ))}
                {w.told.length > 0 && <div>{t`A caller said: ${w.told.map(figureName).join(', ')}.`}</div>}
              </TableCell>
              <TableCell>{[w.brackets > 0 && t`${w.brackets} brackets that may take it`, ...w.jobs].filter(Boolean).join(', ')}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

/** Documents that were issued. */
function Issued({ lines }: { lines: Schemas['IssuedLine'][] }) {
  if (lines.length === 0) return null;
  return (
    <Box component="section" data-part="issued" sx={{ mb: 3 }}>
      <Head>{t`Issued`}</Head>
      <Table size="small" aria-label={t`Issued`}>
        <TableHead>
          <TableRow>
            <TableCell>{t`Document`}</TableCell>
            <TableCell>{t`Revision`}</TableCell>
            <TableCell>{t`To`}</TableCell>
            <TableCell>{t`By`}</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {lines.map((i) => (
            <TableRow key={i.id} data-issued={i.number}>
              <TableCell>
                <a href={at(`/api/issued/${i.id}`)}>{i.number}</a> {sheetWords[i.what]}
              </TableCell>
              <TableCell>{i.revision}</TableCell>
              <TableCell>{i.receiver}</TableCell>
              <TableCell>
                {i.who}, <When at={i.at} />
              </TableCell>
              <TableCell>
                <a href={at(`/v/${i.code}`)} target="_blank" rel="noreferrer">
                  {t`status page`}
                </a>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
