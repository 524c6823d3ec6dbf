import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { startAuthentication } from '@simplewebauthn/browser';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { at, here } from '../base';
import { Spoken } from '../parts/Language';
import { roleWords } from '../words';
import { submits, useTyped } from '../parts/form';
import { useLocation, useNavigate } from 'react-router';
import { answer, api, Refused, type Schemas } from '../api';
import { FieldError, Head, Hint, Page } from '../parts/Page';
import { becomes, type Me } from './me';
import { Typed } from './Typed';

const Card = styled('section')(({ theme }) => ({
  width: 380,
  maxWidth: '100%',
  margin: '8vh auto',
  padding: '20px 24px 24px',
  background: theme.vars!.palette.background.paper,
  border: `1px solid ${theme.vars!.palette.divider}`,
  '& form': { display: 'grid', gap: 14, marginTop: 14 },
}));

/** Where to, once somebody is signed in: what was asked for at the door. */
function goOn() {
  const then = new URLSearchParams(window.location.search).get('then') ?? '';
  if (/^\/at\/[\w.-]+$/.test(then)) window.location.assign(at(then));
}

/** What went wrong on the way to the identity provider and back. */
const ssoRefused: Record<string, string> = {
  away: t`The identity provider does not answer. Try again in a moment, or sign in with a password.`,
  late: t`That took too long, or began in another window. Try again.`,
  no: t`You were not signed in there.`,
  proof: t`What the identity provider sent proves nothing: you were not signed in. Tell an administrator; the server’s log says why.`,
  unknown: t`You are signed in there, but nobody here has that account. Ask an administrator for one.`,
};

/** The password is right, and the code of the authenticator is asked for. */
const wantsCode = (e: Error) => e instanceof Refused && (e.problem.problems ?? []).some((p) => p.path === 'code');

/** The door: a login and its password; in a demo, one press. */
export function SignIn({ me }: { me: Me }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const { pathname, search } = useLocation();
  const asked = new URLSearchParams(search);
  const refused = ssoRefused[asked.get('sso') ?? ''];
  const { typed, put, field } = useTyped({ login: '', password: '', code: '' });
  useEffect(() => {
    document.title = t`Sign in – Nexufix`;
  }, []);
  const [code, setCode] = useState(false);
  const [inside, setInside] = useState<Me>();
  const entered = (now: Me) => {
    if (pathname === '/' && !['display', 'with', 'job'].some((name) => asked.has(name))) void go('/desk'); // a link leads where it says
    setInside(now);
  };
  const there = pathname === here(); // else the bench would be asked for first
  useEffect(() => {
    if (!inside || !there) return;
    becomes(queries, inside);
    goOn();
  }, [inside, there, queries]);
  const sign = useMutation({
    mutationFn: (body: Schemas['SignIn']) => answer(api.POST('/api/sign-in', { body })),
    onSuccess: entered,
    onError: (e) => {
      if (wantsCode(e)) setCode(true);
      else put(code ? { code: '' } : { password: '' });
    },
  });
  const passkey = useMutation({
    mutationFn: async () => {
      const optionsJSON = (await answer(api.POST('/api/sign-in/passkey'))) as unknown as Parameters<typeof startAuthentication>[0]['optionsJSON'];
      const shown = await startAuthentication({ optionsJSON });
      return answer(api.POST('/api/sign-in/passkey/shown', { body: { credential: JSON.stringify(shown) } }));
    },
    onSuccess: entered,
  });
  return (
    <Page>
      <Card className="sign-in">
        <Typography variant="h1">{t`Sign in to Nexufix`}</Typography>
        <Hint>{t`Matches displays to brackets, and makes the template and the steps of each pairing.`}</Hint>
        <form onSubmit={submits(() => sign.mutate({ login: typed.login, password: typed.password, ...(code && { code: typed.code }) }))}>
          <Typed label={t`Login`} autoFocus autoComplete="username" required {...field('login')} />
          <Typed label={t`Password`} type="password" autoComplete="current-password" {...field('password')} />
          {code && <Typed label={t`The code of your authenticator`} autoFocus inputMode="numeric" autoComplete="one-time-code" required {...field('code')} />}
          {sign.error && !wantsCode(sign.error) && <FieldError>{sign.error.message}</FieldError>}
          <Button type="submit" variant="contained" loading={sign.isPending}>
            {t`Sign in`}
          </Button>
        </form>
        {/[a-z]/i.test(window.location.hostname) && (
          <Box sx={{ mt: 2, display: 'grid', gap: 1 }}>
            <Button variant="outlined" className="by-passkey" loading={passkey.isPending} onClick={() => passkey.mutate()}>
              {t`Sign in with a passkey`}
            </Button>
            {passkey.error && <FieldError>{passkey.error instanceof Refused ? passkey.error.message : t`The browser showed no passkey. Try again, or sign in with a password.`}</FieldError>}
          </Box>
        )}
        {me.provider && (
          <Box sx={{ mt: 2, display: 'grid', gap: 1 }}>
            <Button variant="outlined" className="sso" href={at(`/sign-in/sso?then=${encodeURIComponent(asked.get('then') ?? '')}`)}>
              {t`Sign in with ${me.provider}`}
            </Button>
            {refused && <FieldError>{refused}</FieldError>}
          </Box>
        )}
        {me.others && me.others.length > 0 && (
          <Box sx={{ mt: 4 }}>
            <Head>{t`People of the demo`}</Head>
            <Hint>{t`One press signs in as one of them.`}</Hint>
            <Box sx={{ display: 'grid', gap: 1, mt: 1.5 }}>
              {me.others.map((o) => (
                <Button key={o.login} variant="outlined" color="inherit" sx={{ justifyContent: 'space-between' }} onClick={() => sign.mutate({ login: o.login })}>
                  {o.name}
                  <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                    {roleWords[o.role!]}
                  </Box>
                </Button>
              ))}
            </Box>
          </Box>
        )}
        <Spoken />
      </Card>
    </Page>
  );
}
