import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { answer, api, Refused, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError, Head, Hint, Page, PlainList, Tools } from '../parts/Page';
import { Picker } from '../parts/Picker';
import { ShortField } from '../parts/ShortField';
import { may, useMe } from '../people/me';
import { useUnits } from '../state/workspace';
import type { Wall } from '../state/inputs';
import { wallWords } from '../words';
import { Alike, Verdict } from './parts';

type Family = Schemas['Family'];

/** What may be sent together: the displays of a range on a bracket, by families with the same bolts and steps. */
export function RangeSheet() {
  const units = useUnits();
  const me = useMe().data;
  const [params, setParams] = useSearchParams();
  const bracket = params.get('bracket') ?? '';
  const wall = (params.get('wall') ?? 'wood_stud') as Wall;
  const words = params.get('words') ?? '';
  const [typed, setTyped] = useState(words);
  const put = (name: string, value: string) =>
    setParams(
      (p) => {
        p.set(name, value);
        return p;
      },
      { replace: true },
    );
  useEffect(() => {
    document.title = t`Send a range – Nexufix`;
  }, []);
  useEffect(() => {
    if (typed === words) return;
    const later = setTimeout(() => put('words', typed), 300);
    return () => clearTimeout(later);
  });
  const item = useQuery({
    queryKey: ['bracket', bracket],
    enabled: Boolean(bracket),
    queryFn: ({ signal }) => answer(api.GET('/api/items/{kind}/{id}', { params: { path: { kind: 'brackets', id: bracket } }, signal })),
  });
  const found = useQuery({
    queryKey: ['review', 'range', bracket, wall, words],
    enabled: Boolean(bracket) && may(me, 'engineer'),
    queryFn: ({ signal }) => answer(api.GET('/api/families', { params: { query: { bracket, wall, words } }, signal })),
  });
  return (
    <Page className="range" sx={{ maxWidth: 1240 }} data-ready={found.data ? 'yes' : undefined}>
      <Typography variant="h1">{t`Send a range for review`}</Typography>
      <Hint>{t`Displays that take the same bolts and steps on a bracket, with the same findings, are reviewed together; each is approved by itself.`}</Hint>
      <Tools>
        <Picker kind="brackets" label={t`a bracket`} width={220} id={bracket} name={item.data?.bracket?.name ?? bracket} units={units} onPick={(id) => put('bracket', id)} />
        <Choice label={t`Wall`} width={190} value={wall} options={Object.entries(wallWords).map(([w, name]) => [w, t`on ${name}`])} onPick={(w) => put('wall', w)} />
        <ShortField label={t`words of the displays’ names`} width={260} value={typed} onChange={setTyped} maxLength={200} />
      </Tools>
      {me && !may(me, 'engineer') && <Hint>{t`It takes the role engineer to send something for review.`}</Hint>}
      {!bracket && <Hint>{t`Pick a bracket: the displays that fit it are put together by what they take.`}</Hint>}
      {found.isFetching && <LinearProgress aria-label={t`The displays are judged`} />}
      {found.error && <Alert severity="error">{wrongWith(found.error)}</Alert>}
      {found.data?.length === 0 && <Hint>{t`Nothing fits there that is not in review already.`}</Hint>}
      {found.data?.map((f) => (
        <Group key={f.key} f={f} />
      ))}
    </Page>
  );
}

/** What was refused, in words. */
function wrongWith(error: Error): string {
  const all = error instanceof Refused ? (error.problem.problems ?? []) : [];
  return all.map((p) => t`The ${p.path} ${p.found}; wanted: ${p.allowed ?? ''}.`).join(' ') || error.message;
}

/** One family, of which members may be left out. */
function Group({ f }: { f: Family }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [out, setOut] = useState<ReadonlySet<number>>(new Set(f.members.flatMap((m, n) => (m.approved ? [n] : []))));
  const subjects = f.members.flatMap((m, n) => (out.has(n) ? [] : [m.subject]));
  const send = useMutation({
    mutationFn: () => answer(api.POST('/api/families', { body: { subjects } })),
    onSuccess: (all) => {
      void queries.invalidateQueries({ queryKey: ['review'] });
      void go(all.length > 1 ? `/reviews/family/${f.key}` : `/reviews/${all[0]!.id}`);
    },
  });
  const flip = (n: number) =>
    setOut((was) => {
      const now = new Set(was);
      if (!now.delete(n)) now.add(n);
      return now;
    });
  return (
    <Box component="section" className="family" data-family={f.key} sx={{ mb: 6 }}>
      <Head>{f.members.length === 1 ? f.members[0]!.title : t`${f.members.length} alike: ${f.title}`}</Head>
      <Alike f={f} />
      <PlainList>
        {f.members.map((m, n) => (
          <li key={m.title}>
            <FormControlLabel
              control={<Checkbox size="small" checked={!out.has(n)} onChange={() => flip(n)} />}
              label={
                <>
                  <Verdict of={m.verdict} /> {m.title}: {t`holes ${m.pattern}, ${m.weight}`}
                  {m.approved && t`, approved already`}
                </>
              }
            />
          </li>
        ))}
      </PlainList>
      <Button variant={f.members.length > 1 ? 'contained' : 'outlined'} disabled={subjects.length === 0} loading={send.isPending} onClick={() => send.mutate()}>
        {t`Send ${subjects.length} for review`}
      </Button>
      {send.error instanceof Refused && send.error.problem.problems
        ? send.error.problem.problems.map((p) => (
            <FieldError key={p.path}>
              {f.members[Number(/\d+/.exec(p.path)?.[0])]?.title ?? t`It`} {p.found}.
            </FieldError>
          ))
        : send.error && <FieldError>{send.error.message}</FieldError>}
    </Box>
  );
}
