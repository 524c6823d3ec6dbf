import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { BenchAnswer } from '../api';
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

/** What a view says while there is no pairing on the bench. */
export function NoPairing({ error }: { error: Error | null }) {
  return (
    <main className="sheet">
      <div className="nothing">
        {error ? <p className="field-error">{error.message}</p> : <p>No pairing is on the bench.</p>}
        <p>
          <Link to="/">Pick a display on the bench</Link>
        </p>
      </div>
    </main>
  );
}
