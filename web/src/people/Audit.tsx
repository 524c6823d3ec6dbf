import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Link from '@mui/material/Link';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { at } from '../base';
import { answer, api } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Hint, Quick } from '../parts/Page';
import { Rows } from '../parts/Rows';
import { ShortField } from '../parts/ShortField';
import { When } from '../parts/When';

const kinds: [string, string][] = [
  ['', t`everything`],
  ['sign_ins', t`sign-ins`],
  ['people', t`people`],
  ['policy', t`policy`],
  ['approvals', t`approvals`],
  ['exports', t`exports`],
  ['restores', t`restores`],
];

/** What happened that somebody may be asked about: found by kind, words and days, a page at a time, and taken away as a file. */
export function Audit() {
  const [kind, setKind] = useState('');
  const [words, setWords] = useState('');
  const [from, setFrom] = useState('');
  const query = { ...(kind && { kind: kind as 'people' }), ...(words && { words }), ...(/^\d{4}-\d{2}-\d{2}$/.test(from) && { from }) };
  const audit = useInfiniteQuery({
    queryKey: ['audit', query],
    initialPageParam: 0,
    queryFn: ({ signal, pageParam }) => answer(api.GET('/api/audit', { params: { query: { ...query, before: pageParam } }, signal })),
    getNextPageParam: (last) => (last.more ? last.entries.at(-1)?.seq : undefined),
    placeholderData: keepPreviousData,
  });
  const all = audit.data?.pages.flatMap((p) => p.entries) ?? [];
  const file = (format: string) => at(`/api/audit/export?${new URLSearchParams({ ...query, format }).toString()}`);
  return (
    <section className="audit-part" aria-label={t`What happened`}>
      <Head>{t`What happened`}</Head>
      <Quick>
        <Choice label={t`Kind`} width={140} value={kind} options={kinds} onPick={setKind} />
        <ShortField label={t`Who, or what about`} value={words} onChange={setWords} maxLength={200} />
        <ShortField label={t`Since, as 2026-11-30`} value={from} onChange={setFrom} maxLength={40} />
        <Link href={file('csv')}>{t`Save as CSV`}</Link>
        <Link href={file('jsonl')}>{t`as lines of JSON`}</Link>
      </Quick>
      {audit.error && <Alert severity="error">{audit.error.message}</Alert>}
      {audit.data && all.length === 0 && <Hint>{t`Nothing of that kind.`}</Hint>}
      <Rows
        label={t`What happened`}
        className="audit"
        sx={{ maxWidth: 1100 }}
        rows={all}
        id={(h) => h.seq}
        sorted={{}}
        more={audit.hasNextPage ? { fetching: audit.isFetchingNextPage, show: () => void audit.fetchNextPage() } : undefined}
        columns={[
          { head: t`Number`, cell: (h) => h.seq },
          { head: t`When`, cell: (h) => <When at={h.at} /> },
          { head: t`Who`, cell: (h) => h.who || t`somebody` },
          { head: t`What`, cell: (h) => h.what.replace('_', ' ') },
          { head: t`About`, cell: (h) => h.about },
        ]}
      />
    </section>
  );
}
