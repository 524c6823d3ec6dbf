import { t } from '@lingui/core/macro';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { roleWords } from '../words';
import { submits, useTyped } from '../parts/form';
import { answer, api, type Schemas } from '../api';
import { Applied } from '../parts/Applied';
import { Choice } from '../parts/Choice';
import { FieldError, Head, Hint, Page } from '../parts/Page';
import { Press } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { useNotice } from '../shell/notice';
import { becomes, may, useMe, type Me } from './me';
import { Audit } from './Audit';
import { Form, useChange, wrongOf } from './form';
import { Own, OwnAccount } from './Own';
import { Everyones } from './Tokens';
import { Typed } from './Typed';

const roles = [
  ['reader', t`reader: looks`],
  ['engineer', t`engineer: changes the catalogue and jobs`],
  ['approver', t`approver: also approves, and sets the policy`],
  ['administrator', t`administrator: also makes people`],
] as const;

const short = roles.map(([role]) => [role, roleWords[role]!] as const);

type Role = Schemas['Account']['role'];
type Change = { id: number } & Schemas['Changed'];

/** Who works here: one's own password, and for an administrator everybody. */
export function PeopleSheet() {
  const me = useMe().data;
  useEffect(() => {
    document.title = t`People – Nexufix`;
  }, []);
  if (!me) return null;
  return (
    <Page className="people" sx={{ maxWidth: 1100 }}>
      <Typography variant="h1">{me.alone ? t`A desk of one` : me.name}</Typography>
      {me.alone ? (
        <Setup />
      ) : (
        <>
          <Own me={me} />
          <OwnAccount me={me} />
        </>
      )}
      {!me.alone && may(me, 'administrator') && <Everybody me={me} />}
    </Page>
  );
}

function Setup() {
  const queries = useQueryClient();
  const { typed, field } = useTyped({ code: '', login: '', name: '', password: '' });
  const make = useMutation({
    mutationFn: (body: Schemas['Setup']) => answer(api.POST('/api/setup', { body })),
    onSuccess: (now) => becomes(queries, now),
  });
  const wrong = wrongOf(make.error);
  return (
    <>
      <p>{t`Nobody signs in here: whoever sits at this computer may do everything but approve. The server answers this computer alone.`}</p>
      <Head>{t`Make accounts`}</Head>
      <Hint>{t`The first one is an administrator. The code stands in the server’s log, where it says that it listens. From then on everybody signs in.`}</Hint>
      <Form onSubmit={submits(() => make.mutate(typed))}>
        {(['code', 'login', 'name', 'password'] as const).map((name) => (
          <Typed
            key={name}
            label={{ code: t`Code`, login: t`Login`, name: t`Name`, password: t`Password, twelve letters or more` }[name]}
            type={name === 'password' ? 'password' : 'text'}
            autoComplete={name === 'password' ? 'new-password' : 'off'}
            error={Boolean(wrong[name])}
            helperText={wrong[name]}
            width={name === 'password' ? 290 : 190}
            required
            {...field(name)}
          />
        ))}
        <Button type="submit" variant="contained" loading={make.isPending}>
          {t`Make the administrator`}
        </Button>
      </Form>
      {make.error && Object.keys(wrong).length === 0 && <FieldError>{make.error.message}</FieldError>}
    </>
  );
}

function Everybody({ me }: { me: Me }) {
  const people = useQuery({ queryKey: ['people'], queryFn: ({ signal }) => answer(api.GET('/api/people', { signal })) });
  const change = useChange(() => {});
  const [asked, setAsked] = useState<number>();
  const tell = useNotice();
  /** Changes somebody's account; it is said, and can be undone. */
  const set = (text: string, to: Change, back: Change) => {
    const undo = () => change.mutate(back, { onSuccess: () => tell({ text: t`It is as it was before.` }) });
    change.mutate(to, { onSuccess: () => tell({ text: `${text}.`, action: { name: t`Undo`, act: undo } }) });
  };
  return (
    <>
      <Head>{t`Everybody`}</Head>
      {change.error && <FieldError>{wrongOf(change.error).role ?? change.error.message}</FieldError>}
      <Rows
        label={t`Everybody`}
        rows={people.data ?? []}
        id={(p) => p.id}
        data={(p) => ({ 'data-login': p.login })}
        columns={[
          { head: t`Name`, cell: (p) => p.name, by: (p) => p.name },
          { head: t`Login`, cell: (p) => p.login, by: (p) => p.login },
          {
            head: t`Role`,
            cell: (p) => (
              <Applied
                label={t`Role of ${p.name}`}
                width={140}
                value={p.role}
                options={short}
                busy={change.isPending}
                onApply={(to) => set(t`${p.name} is ${roleWords[to]!} now`, { id: p.id, role: to as Role }, { id: p.id, role: p.role })}
              />
            ),
            by: (p) => roleWords[p.role],
          },
          { head: t`Second factor`, cell: second, by: second },
          {
            head: '',
            sx: { '& .press': { mr: 3 } },
            cell: (p) =>
              p.id !== me.id && (
                <>
                  <Press
                    onClick={() => set(p.disabled ? t`${p.name} may sign in again` : t`${p.name} cannot sign in any more`, { id: p.id, disabled: !p.disabled }, { id: p.id, disabled: p.disabled })}
                  >
                    {p.disabled ? t`Enable` : t`Disable`}
                  </Press>
                  <Press onClick={() => set(p.sso ? t`Single sign-on of ${p.name} is off` : t`Single sign-on of ${p.name} is on`, { id: p.id, sso: !p.sso }, { id: p.id, sso: p.sso })}>
                    {p.sso ? t`Turn single sign-on off` : t`Turn single sign-on on`}
                  </Press>
                  <Press aria-expanded={asked === p.id} onClick={() => setAsked(asked === p.id ? undefined : p.id)}>
                    {t`Reset password`}
                  </Press>
                  {p.second && <Press onClick={() => change.mutate({ id: p.id, noSecond: true })}>{t`Remove second factor`}</Press>}
                  {asked === p.id && <Reset account={p} done={() => setAsked(undefined)} />}
                </>
              ),
          },
        ]}
      />
      <Head>{t`Add somebody`}</Head>
      <Add />
      <Everyones people={people.data ?? []} />
      <Audit />
    </>
  );
}

const second = (p: Schemas['Account']) => (p.second ? t`yes` : p.sso ? t`by the provider` : t`no`);

/** Reset password for somebody who has forgotten theirs. */
function Reset({ account, done }: { account: Schemas['Account']; done: () => void }) {
  const tell = useNotice();
  const { typed, field } = useTyped({ password: '' });
  const change = useChange(() => {
    tell({ text: t`${account.name} has another password; their sessions have ended.` });
    done();
  });
  const wrong = wrongOf(change.error).password;
  return (
    <Form onSubmit={submits(() => change.mutate({ id: account.id, password: typed.password }))}>
      <Typed
        label={t`A password for ${account.name}`}
        type="password"
        autoComplete="new-password"
        autoFocus
        error={Boolean(wrong)}
        helperText={wrong}
        width={230}
        onKeyDown={(e) => e.key === 'Escape' && done()}
        required
        {...field('password')}
      />
      <Button type="submit" variant="outlined" loading={change.isPending}>
        {t`Set password`}
      </Button>
    </Form>
  );
}

function Add() {
  const queries = useQueryClient();
  const { typed, field, clear } = useTyped({ login: '', name: '', password: '', mail: '' });
  const [role, setRole] = useState<Role>('engineer');
  const [sso, setSSO] = useState(false);
  const add = useMutation({
    mutationFn: (body: Schemas['NewPerson']) => answer(api.POST('/api/people', { body })),
    onSuccess: () => {
      clear();
      void queries.invalidateQueries({ queryKey: ['people'] });
      void queries.invalidateQueries({ queryKey: ['audit'] });
    },
  });
  const wrong = wrongOf(add.error);
  return (
    <>
      <Hint>{roles.map(([, words]) => words).join('; ')}.</Hint>
      <Form onSubmit={submits(() => add.mutate({ login: typed.login, name: typed.name, role, ...(typed.mail && { mail: typed.mail }), ...(sso ? { sso } : { password: typed.password }) }))}>
        {(sso ? (['name', 'login'] as const) : (['name', 'login', 'password'] as const)).map((name) => (
          <Typed
            key={name}
            label={{ login: sso ? t`Login at the identity provider` : t`Login`, name: t`Name`, password: t`A first password` }[name]}
            autoComplete="off"
            type={name === 'password' ? 'password' : 'text'}
            error={Boolean(wrong[name])}
            helperText={wrong[name]}
            width={name === 'password' ? 160 : sso ? 230 : 140}
            required
            {...field(name)}
          />
        ))}
        <Typed label={t`Mail address, or none`} autoComplete="off" error={Boolean(wrong.mail)} helperText={wrong.mail} width={170} {...field('mail')} />
        <Choice
          label={t`How they sign in`}
          width={160}
          value={sso ? 'sso' : 'password'}
          options={[
            ['password', t`with a password`],
            ['sso', t`by single sign-on`],
          ]}
          onPick={(to) => setSSO(to === 'sso')}
        />
        <Choice label={t`Role`} width={140} value={role} options={short} onPick={(to) => setRole(to as Role)} />
        <Button type="submit" variant="contained" loading={add.isPending}>
          {t`Add`}
        </Button>
      </Form>
      {add.error && Object.keys(wrong).length === 0 && <FieldError>{add.error.message}</FieldError>}
    </>
  );
}
