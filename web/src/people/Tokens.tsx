import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { roleWords } from '../words';
import { submits, useTyped } from '../parts/form';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError, Head, Hint } from '../parts/Page';
import { Press } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { Form, wrongOf } from './form';
import { Typed } from './Typed';
import { When } from '../parts/When';

const mayOf = (token: Schemas['GivenToken']) => (token.acts ? token.acts.join(', ').replaceAll('_', ' ') : t`all that its role may: ${roleWords[token.role]!}`);

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
      <Rows
        label={t`Tokens`}
        className="tokens"
        rows={all}
        id={(token) => token.id}
        data={(token) => ({ 'data-token': String(token.id) })}
        columns={[
          of && { head: t`Login`, cell: (token) => token.login, by: (token) => token.login },
          { head: t`For`, cell: (token) => token.name || t`not said`, by: (token) => token.name },
          { head: t`May`, cell: mayOf, by: mayOf },
          { head: t`Until`, cell: (token) => <When at={token.until} />, by: (token) => token.until },
          { head: t`Last used`, cell: (token) => (token.used ? <When at={token.used} /> : t`never`), by: (token) => token.used },
          { head: '', cell: (token) => <Press onClick={() => end.mutate(token.id)}>{t`End`}</Press> },
        ]}
      />
    </>
  );
}

type Role = Schemas['Token']['role'];

const may = [
  ['', t`may all that its role may`],
  ['look', t`may look`],
  ['look,edit', t`may look and edit`],
  ['look,edit,submit,issue', t`may look, edit, send for review, issue`],
  ['tick', t`may tick off steps`],
  ['audit', t`may read the audit`],
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
      <Head>{t`Tokens for scripts`}</Head>
      <Hint>{t`A script sends it in place of signing in. It may no more than its role, nor than its person, and ends with the days or when the account changes.`}</Hint>
      {give.data && (
        <p className="token-text" role="status" ref={(e) => e?.scrollIntoView({ block: 'nearest' })}>
          <Trans>
            It is shown this once: <code>{give.data.text}</code> <Press onClick={() => void navigator.clipboard.writeText(give.data.text)}>Copy</Press>
          </Trans>
        </p>
      )}
      {tokens.data && tokens.data.length > 0 && <Tokens all={tokens.data} of />}
      <Form onSubmit={submits(() => give.mutate({ login: whose, name: typed.name, role, days: Number(typed.days), ...(acts && { acts: acts.split(',') as Schemas['Token']['acts'] }) }))}>
        <Choice label={t`Of`} width={150} value={whose} options={people.map((p) => [p.login, p.name] as const)} onPick={setLogin} />
        <Typed label={t`For`} autoComplete="off" error={Boolean(wrong.name)} helperText={wrong.name} width={190} {...field('name')} />
        <Choice
          label={t`Role of the token`}
          width={150}
          value={role}
          options={(['reader', 'engineer', 'approver', 'administrator'] as const).map((r) => [r, roleWords[r]!] as const)}
          onPick={(to) => setRole(to as Role)}
        />
        <Choice label={t`What it may`} width={270} value={acts} options={may} onPick={setActs} />
        <Typed label={t`Days`} inputMode="numeric" autoComplete="off" error={Boolean(wrong.days)} helperText={wrong.days} width={80} required {...field('days')} />
        <Button type="submit" variant="outlined" loading={give.isPending}>
          {t`Give a token`}
        </Button>
      </Form>
      {give.error && Object.keys(wrong).length === 0 && <FieldError>{give.error.message}</FieldError>}
    </>
  );
}
