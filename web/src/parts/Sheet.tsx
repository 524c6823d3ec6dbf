import Alert from '@mui/material/Alert';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Refused, type BenchAnswer } from '../api';
import { Stamp } from '../words';

/** The head of a view of the pairing that is on the bench. */
export function SheetHead({ judged, children }: { judged: BenchAnswer; children?: ReactNode }) {
  return (
    <div className="tools">
      <h1>{judged.title}</h1>
      <Stamp verdict={judged.pairing.verdict} />
      <span className="grow" />
      {children}
    </div>
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
          {p.path.replace(/^site\./, 'the wall: ').replace(/^wall\./, '').replaceAll('_', ' ')}: {p.found}
          {p.allowed && !p.found.includes('allowed:') && `; allowed: ${p.allowed}`}
        </div>
      ))}
    </Alert>
  );
}

/** What a view says while there is no pairing on the bench. */
export function NoPairing({ error }: { error: Error | null }) {
  return (
    <main className="sheet">
      <div className="nothing">
        {error ? <Refusal error={error} /> : <p>No pairing is on the bench.</p>}
        <p>
          <Link to="/">Pick a display on the bench</Link>
        </p>
      </div>
    </main>
  );
}
