import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { at } from '../base';
import { answer, api } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Hint, Quick } from '../parts/Page';
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
      <Table size="small" aria-label={t`What happened`} className="audit" sx={{ maxWidth: 1100 }}>
        <TableBody>
          {all.map((h) => (
            <TableRow key={h.seq}>
              <TableCell sx={{ color: 'text.secondary' }}>{h.seq}</TableCell>
              <TableCell><When at={h.at} /></TableCell>
              <TableCell>{h.who || t`somebody`}</TableCell>
              <TableCell>{h.what.replace('_', ' ')}</TableCell>
              <TableCell sx={{ overflowWrap: 'anywhere' }}>{h.about}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {audit.hasNextPage && (
        <Button variant="outlined" sx={{ mt: 1 }} loading={audit.isFetchingNextPage} onClick={() => void audit.fetchNextPage()}>
          {t`Show earlier ones`}
        </Button>
      )}
    </section>
  );
}
