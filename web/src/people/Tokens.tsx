import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { submits, useTyped } from '../parts/form';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError, Head, Hint } from '../parts/Page';
import { Press } from '../parts/Press';
import { Form, wrongOf } from './form';
import { Typed } from './Typed';
import { When } from '../parts/When';

/** Tokens that are good, each of which its person ends, or an administrator. */
export function Tokens({ all, of }: { all: Schemas['GivenToken'][]; of?: boolean }) {
  const queries = useQueryClient();
  const end = useMutation({
    mutationFn: (id: number) => answer(api.POST('/api/tokens/{id}/end', { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries({ predicate: (q) => ['own', 'tokens', 'audit'].includes(String(q.queryKey[0])) }),
  });
  return (
    <>
      {end.error && <FieldError>{end.error.message}</FieldError>}
      <Table size="small" aria-label="Tokens" className="tokens">
        <TableHead>
          <TableRow>
            {of && <TableCell>Login</TableCell>}
            <TableCell>For</TableCell>
            <TableCell>May</TableCell>
            <TableCell>Until</TableCell>
            <TableCell>Last used</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {all.map((t) => (
            <TableRow key={t.id} data-token={t.id}>
              {of && <TableCell>{t.login}</TableCell>}
              <TableCell>{t.name || 'not said'}</TableCell>
              <TableCell>{t.acts ? t.acts.join(', ').replaceAll('_', ' ') : `all that ${t.role === 'reader' ? 'a' : 'an'} ${t.role} may`}</TableCell>
              <TableCell><When at={t.until} /></TableCell>
              <TableCell>{t.used ? <When at={t.used} /> : 'never'}</TableCell>
              <TableCell>
                <Press onClick={() => end.mutate(t.id)}>End</Press>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}

type Role = Schemas['Token']['role'];

const may = [
  ['', 'may all that its role may'],
  ['look', 'may look'],
  ['look,edit', 'may look and edit'],
  ['look,edit,submit,issue', 'may look, edit, send for review, issue'],
  ['tick', 'may tick off steps'],
  ['audit', 'may read the audit'],
] as const;

/** For an administrator: everybody's tokens, and one to give. */
export function Everyones({ people }: { people: Schemas['Account'][] }) {
  const queries = useQueryClient();
  const tokens = useQuery({ queryKey: ['tokens'], queryFn: ({ signal }) => answer(api.GET('/api/tokens', { signal })) });
  const { typed, field, clear } = useTyped({ name: '', days: '90' });
  const [login, setLogin] = useState('');
  const [role, setRole] = useState<Role>('reader');
  const [acts, setActs] = useState('look');
  const give = useMutation({
    mutationFn: (body: Schemas['Token']) => answer(api.POST('/api/tokens', { body })),
    onSuccess: () => {
      clear();
      void queries.invalidateQueries({ predicate: (q) => ['own', 'tokens', 'audit'].includes(String(q.queryKey[0])) });
    },
  });
  const wrong = wrongOf(give.error);
  const whose = login || people[0]?.login || '';
  return (
    <>
      <Head>Tokens for scripts</Head>
      <Hint>A script sends it in place of signing in. It may no more than its role, nor than its person, and ends with the days or when the account changes.</Hint>
      {give.data && (
        <p className="token-text" role="status" ref={(e) => e?.scrollIntoView({ block: 'nearest' })}>
          It is shown this once: <code>{give.data.text}</code> <Press onClick={() => void navigator.clipboard.writeText(give.data.text)}>Copy</Press>
        </p>
      )}
      {tokens.data && tokens.data.length > 0 && <Tokens all={tokens.data} of />}
      <Form onSubmit={submits(() => give.mutate({ login: whose, name: typed.name, role, days: Number(typed.days), ...(acts && { acts: acts.split(',') as Schemas['Token']['acts'] }) }))}>
        <Choice label="Of" width={150} value={whose} options={people.map((p) => [p.login, p.name] as const)} onPick={setLogin} />
        <Typed label="For" autoComplete="off" error={Boolean(wrong.name)} helperText={wrong.name} width={190} {...field('name')} />
        <Choice label="Role of the token" width={150} value={role} options={(['reader', 'engineer', 'approver', 'administrator'] as const).map((r) => [r, r] as const)} onPick={(to) => setRole(to as Role)} />
        <Choice label="What it may" width={270} value={acts} options={may} onPick={setActs} />
        <Typed label="Days" inputMode="numeric" autoComplete="off" error={Boolean(wrong.days)} helperText={wrong.days} width={80} required {...field('days')} />
        <Button type="submit" variant="outlined" loading={give.isPending}>
          Give a token
        </Button>
      </Form>
      {give.error && Object.keys(wrong).length === 0 && <FieldError>{give.error.message}</FieldError>}
    </>
  );
}
