import { regional } from '../i18n';
import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { startRegistration } from '@simplewebauthn/browser';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Spoken } from '../parts/Language';
import { roleWords } from '../words';
import { submits, useTyped } from '../parts/form';
import { answer, api, Refused, type Schemas } from '../api';
import { FieldError, Head, Hint } from '../parts/Page';
import { Press } from '../parts/Press';
import { Rows } from '../parts/Rows';
import { useNotice } from '../shell/notice';
import { Form, useChange, wrongOf } from './form';
import { becomes, type Me } from './me';
import { Tokens } from './Tokens';
import { Typed } from './Typed';
import { When } from '../parts/When';

/** The way out. */
export function SignOut() {
  const queries = useQueryClient();
  const out = useMutation({
    mutationFn: () => answer(api.POST('/api/sign-out')),
    onSuccess: (now) => becomes(queries, now),
  });
  return <Press onClick={() => out.mutate()}>{t`Sign out`}</Press>;
}

/** One's own password, and the way out. */
export function Own({ me }: { me: Me }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const { typed, field, clear } = useTyped({ current: '', password: '' });
  const change = useChange(() => {
    clear();
    void queries.invalidateQueries({ queryKey: ['me'] });
    tell({ text: t`The password is changed; sessions elsewhere have ended.` });
  });
  const wrong = wrongOf(change.error);
  return (
    <>
      <p>
        {me.login}, {roleWords[me.role!]}. <SignOut />
      </p>
      <Spoken />
      {me.sso && (
        <Hint>
          {t`You sign in by single sign-on.`} {!me.password && t`There is no password of yours here.`}
        </Hint>
      )}
      {!(me.sso && !me.password) && (
        <Form onSubmit={submits(() => change.mutate({ id: me.id!, password: typed.password, ...(me.password && { current: typed.current }) }))}>
          {(me.password ? (['current', 'password'] as const) : (['password'] as const)).map((name) => (
            <Typed
              key={name}
              label={{ current: t`Your password now`, password: me.password ? t`Another one, twelve letters or more` : t`A password for yourself` }[name]}
              type="password"
              autoComplete={name === 'current' ? 'current-password' : 'new-password'}
              error={Boolean(wrong[name])}
              helperText={wrong[name]}
              width={290}
              required
              {...field(name)}
            />
          ))}
          <Button type="submit" variant="outlined" loading={change.isPending}>
            {me.password ? t`Change password` : t`Set password`}
          </Button>
        </Form>
      )}
    </>
  );
}

type Account = Schemas['Own'];

function useOwn() {
  return useQuery({ queryKey: ['own'], queryFn: ({ signal }) => answer(api.GET('/api/own', { signal })) });
}

/** What is changed of one's own account; what comes of it is shown at once. */
function useOwnChange<T>(change: (body: T) => Promise<Account>, done?: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (own) => {
      queries.setQueryData(['own'], own);
      void queries.invalidateQueries({ queryKey: ['me'] });
      void queries.invalidateQueries({ queryKey: ['people'] });
      void queries.invalidateQueries({ queryKey: ['audit'] });
      done?.();
    },
  });
}

/** What cannot be said at a field. */
function Fault({ error }: { error: Error | null }) {
  return error && Object.keys(wrongOf(error)).length === 0 ? <FieldError>{error.message}</FieldError> : null;
}

/** A step that takes one's password. */
function ByPassword({ does, error, pending, act, away }: { does: string; error: Error | null; pending: boolean; act: (current: { current: string }) => void; away: () => void }) {
  const { typed, field } = useTyped({ current: '' });
  const wrong = wrongOf(error).current;
  return (
    <>
      <Form onSubmit={submits(() => act(typed))}>
        <Typed
          label={t`Your password`}
          type="password"
          autoComplete="current-password"
          autoFocus
          error={Boolean(wrong)}
          helperText={wrong}
          width={230}
          onKeyDown={(e) => e.key === 'Escape' && away()}
          required
          {...field('current')}
        />
        <Button type="submit" variant="outlined" loading={pending}>
          {does}
        </Button>
        <Button onClick={away}>{t`Cancel`}</Button>
      </Form>
      <Fault error={error} />
    </>
  );
}

/** The rest of one's account. */
export function OwnAccount({ me }: { me: Me }) {
  const own = useOwn().data;
  if (!own) return null;
  return (
    <>
      <Mail me={me} own={own} />
      {!(me.sso && !me.password) && (
        <>
          <Head>{t`Second factor`}</Head>
          {me.password ? <SecondFactor /> : <Hint>{t`It stands beside a password: set one first.`}</Hint>}
        </>
      )}
      <Sessions own={own} />
      {own.tokens.length > 0 && (
        <>
          <Head>{t`Tokens for scripts`}</Head>
          <Tokens all={own.tokens} />
        </>
      )}
    </>
  );
}

function Mail({ me, own }: { me: Me; own: Account }) {
  const queries = useQueryClient();
  const tell = useNotice();
  const [open, setOpen] = useState(false);
  const { typed, field } = useTyped({ mail: own.mail ?? '', current: '' });
  const change = useChange(() => {
    void queries.invalidateQueries({ queryKey: ['own'] });
    tell({ text: t`The mail address is saved.` });
    setOpen(false);
  });
  const wrong = wrongOf(change.error);
  return (
    <>
      <Head>{t`Mail address`}</Head>
      <p>
        {own.mail || t`None: nobody is told when this account is changed.`} <Press onClick={() => setOpen(!open)}>{t`Change`}</Press>
      </p>
      {open && (
        <Form onSubmit={submits(() => change.mutate({ id: me.id!, mail: typed.mail, ...(me.password && { current: typed.current }) }))}>
          <Typed label={t`Changes of the account are told to`} autoFocus autoComplete="email" error={Boolean(wrong.mail)} helperText={wrong.mail} width={290} {...field('mail')} />
          {me.password && (
            <Typed label={t`Your password`} type="password" autoComplete="current-password" error={Boolean(wrong.current)} helperText={wrong.current} width={230} {...field('current')} />
          )}
          <Button type="submit" variant="outlined" loading={change.isPending}>
            {t`Save`}
          </Button>
        </Form>
      )}
    </>
  );
}

/** Authenticator and passkeys. */
export function SecondFactor() {
  const own = useOwn().data;
  const tell = useNotice();
  const [open, setOpen] = useState('');
  const [secret, setSecret] = useState<Schemas['Authenticator']>();
  const close = () => {
    setOpen('');
    setSecret(undefined);
  };
  const begin = useMutation({ mutationFn: (body: { current?: string }) => answer(api.POST('/api/own/authenticator', { body })), onSuccess: setSecret });
  const drop = useOwnChange((body: { current?: string }) => answer(api.POST('/api/own/authenticator/remove', { body })), close);
  const dropKey = useOwnChange((body: { id: string; current?: string }) => answer(api.POST('/api/own/passkey/remove', { body })), close);
  const addKey = useOwnChange(
    async (body: { current?: string }) => {
      const optionsJSON = (await answer(api.POST('/api/own/passkey', { body }))) as unknown as Parameters<typeof startRegistration>[0]['optionsJSON'];
      const made = await startRegistration({ optionsJSON });
      return answer(api.POST('/api/own/passkey/keep', { body: { name: deviceName(), credential: JSON.stringify(made) } }));
    },
    () => {
      tell({ text: t`The passkey is saved: it signs in without a password.` });
      close();
    },
  );
  if (!own) return null;
  return (
    <Box className="second">
      <p>
        {own.authenticator ? t`An authenticator is asked for its code after the password.` : t`No authenticator: the password alone signs in.`}{' '}
        <Press onClick={() => (open ? close() : setOpen('authenticator'))}>{own.authenticator ? t`Remove the authenticator` : t`Add an authenticator`}</Press>
      </p>
      {open === 'authenticator' && own.authenticator && <ByPassword does={t`Remove`} error={drop.error} pending={drop.isPending} act={drop.mutate} away={close} />}
      {open === 'authenticator' && !own.authenticator && !secret && <ByPassword does={t`Show the secret`} error={begin.error} pending={begin.isPending} act={begin.mutate} away={close} />}
      {secret && <Keep secret={secret} done={close} />}
      {own.passkeys.map((k) => (
        <p key={k.id} className="passkey">
          <Trans>
            Passkey {k.name}, since <When at={k.at} />
          </Trans>
          {k.used && (
            <Trans>
              , last used <When at={k.used} />
            </Trans>
          )}
          . <Press onClick={() => setOpen(open === k.id ? '' : k.id)}>{t`Remove`}</Press>
        </p>
      ))}
      {own.passkeys.some((k) => k.id === open) && <ByPassword does={t`Remove`} error={dropKey.error} pending={dropKey.isPending} act={(c) => dropKey.mutate({ id: open, ...c })} away={close} />}
      <p>{own.named ? <Press onClick={() => setOpen(open === 'passkey' ? '' : 'passkey')}>{t`Add a passkey`}</Press> : t`Passkeys belong to a name: open this server by its name to add one.`}</p>
      {open === 'passkey' && (
        <ByPassword
          does={t`Add the passkey`}
          error={addKey.error instanceof Refused || !addKey.error ? addKey.error : new Error(t`The browser made no passkey. Try again.`)}
          pending={addKey.isPending}
          act={addKey.mutate}
          away={close}
        />
      )}
    </Box>
  );
}

/** What a passkey of this browser is called. */
function deviceName() {
  const agent = navigator.userAgent;
  const on = /Android|iPhone|iPad|Windows|Mac|Linux/.exec(agent)?.[0] ?? t`a device`;
  return t`of ${on}, ${new Date().toLocaleDateString(regional)}`;
}

/** The secret, until a code shows that the authenticator has it. */
function Keep({ secret, done }: { secret: Schemas['Authenticator']; done: () => void }) {
  const tell = useNotice();
  const { typed, field } = useTyped({ code: '' });
  const keep = useOwnChange(
    (body: { code: string }) => answer(api.POST('/api/own/authenticator/keep', { body })),
    () => {
      tell({ text: t`From now on signing in takes a code of the authenticator.` });
      done();
    },
  );
  const wrong = wrongOf(keep.error).code;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, my: 1 }}>
      <Box component="img" src={secret.qr} alt={t`The secret as a code for a telephone`} sx={{ width: 180, height: 180, imageRendering: 'pixelated', bgcolor: '#fff' }} />
      <Box>
        <p>{t`Scan it with an authenticator, or type the secret there:`}</p>
        <p>
          <code>{secret.secret.match(/.{1,4}/g)?.join(' ')}</code>
        </p>
        <Form onSubmit={submits(() => keep.mutate(typed))}>
          <Typed label={t`The code that it shows`} autoFocus inputMode="numeric" autoComplete="one-time-code" error={Boolean(wrong)} helperText={wrong} width={190} required {...field('code')} />
          <Button type="submit" variant="contained" loading={keep.isPending}>
            {t`Confirm`}
          </Button>
          <Button onClick={done}>{t`Cancel`}</Button>
        </Form>
        <Fault error={keep.error} />
      </Box>
    </Box>
  );
}

function Sessions({ own }: { own: Account }) {
  const end = useOwnChange((body: { id?: string }) => answer(api.POST('/api/own/sessions/end', { body })));
  return (
    <>
      <Head>{t`Where you are signed in`}</Head>
      <Fault error={end.error} />
      <Rows
        label={t`Where you are signed in`}
        className="sessions"
        sx={{ maxWidth: 900 }}
        rows={own.sessions}
        id={(s) => s.id}
        columns={[
          { head: t`Browser`, cell: (s) => s.by ?? t`not known`, by: (s) => s.by },
          { head: t`Address`, cell: (s) => s.from, by: (s) => s.from },
          { head: t`Since`, cell: (s) => <When at={s.began} />, by: (s) => s.began },
          { head: t`Last seen`, cell: (s) => <When at={s.seen} />, by: (s) => s.seen },
          { head: '', cell: (s) => (s.this ? t`this one` : <Press onClick={() => end.mutate({ id: s.id })}>{t`End`}</Press>) },
        ]}
      />
      {own.sessions.length > 1 && (
        <p>
          <Press onClick={() => end.mutate({})}>{t`End all but this one`}</Press>
        </p>
      )}
    </>
  );
}
