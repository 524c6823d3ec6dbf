import { t } from '@lingui/core/macro';
import { figureName } from '../words';
import Alert from '@mui/material/Alert';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { Refused, faultOf, type BenchAnswer } from '../api';
import { Grow, Nothing, Page, Tools } from './Page';
import { Go } from './Press';
import { Meanwhile, Said } from './Said';
import type { State } from '../state/judged';

/** The head of a view of the pairing that is on the bench. */
export function SheetHead({ judged, state, children }: { judged: BenchAnswer; state: State; children?: ReactNode }) {
  return (
    <>
      <Tools className="tools">
        <Typography variant="h1">{judged.title}</Typography>
        <Said said={judged.said} state={state} />
        <Grow />
        {children}
      </Tools>
      <Meanwhile judged={judged} />
    </>
  );
}

/** Why there is no answer: every figure that is refused, by its place. */
export function Refusal({ error }: { error: Error }) {
  const problems = error instanceof Refused ? (error.problem.problems ?? []) : [];
  return (
    <Alert severity="warning">
      {error.message}
      {problems.map((p) => (
        <div key={p.path + p.found}>
          {/^site\./.test(p.path) ? t`the wall: ${figureName(p.path.replace(/^site\.(wall\.)?/, ''))}` : figureName(p.path.replace(/^wall\./, ''))}: {faultOf(p)}
        </div>
      ))}
    </Alert>
  );
}

/** What a view says while there is no pairing on the bench, or none yet. */
export function NoPairing({ error, waiting }: { error: Error | null; waiting?: boolean }) {
  return (
    <Page>
      <Nothing>
        {waiting && !error ? (
          <p role="status">{t`Judging…`}</p>
        ) : (
          <>
            {error ? <Refusal error={error} /> : <Typography variant="h1">{t`No pairing is on the bench`}</Typography>}
            <p>
              <Go to="/">{t`Pick a display on the bench`}</Go>
            </p>
          </>
        )}
      </Nothing>
    </Page>
  );
}
