import { t } from '@lingui/core/macro';
import Typography from '@mui/material/Typography';
import { roleWords } from '../words';
import { Hint, Page } from '../parts/Page';
import type { Me } from './me';
import { Own, SecondFactor, SignOut } from './Own';

/** What is asked of somebody before anything else. */
export function First({ me }: { me: Me }) {
  return me.given ? <FirstPassword me={me} /> : <FirstSecond me={me} />;
}

/** Before anything else: a second factor, which is asked for of the role. */
function FirstSecond({ me }: { me: Me }) {
  return (
    <Page className="first-second" sx={{ maxWidth: 700, mx: 'auto', pt: 6 }}>
      <Typography variant="h1">{me.name}</Typography>
      <Hint>{t`Whoever is ${roleWords[me.role!]!} here signs in with a second factor: an authenticator on a telephone, or a passkey. Set one up, then go on.`}</Hint>
      <SecondFactor />
      <p>
        <SignOut />
      </p>
    </Page>
  );
}

/** Before anything else: a password of one's own, in place of the one that was given. */
function FirstPassword({ me }: { me: Me }) {
  return (
    <Page className="first-password" sx={{ maxWidth: 700, mx: 'auto', pt: 6 }}>
      <Typography variant="h1">{me.name}</Typography>
      <Hint>{t`The password that you signed in with was given to you. Choose one of your own: nobody else knows it then.`}</Hint>
      <Own me={me} />
    </Page>
  );
}
