import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, answer, download, type Schemas } from '../api';
import { useDesk } from '../state/desk';
import { useJudged, useSiteQuestion } from '../state/judged';
import type { Wall } from '../state/question';
import { wallWords } from '../words';
import { NoPairing, Refusal, SheetHead } from '../parts/Sheet';

/** The step sequence of the pairing on the bench. */
export function StepsSheet() {
  const { asking, ask, units } = useDesk();
  const question = useSiteQuestion();
  const judged = useJudged();
  const [failed, setFailed] = useState('');
  const sequence = useQuery({
    queryKey: ['steps', question],
    enabled: question !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/steps', { body: question!, params: { query: { format: 'json' } }, signal })),
    placeholderData: keepPreviousData,
  });
  if (!judged.data || !question) return <NoPairing error={judged.error} />;
  const s = sequence.data;
  return (
    <main className={`sheet units-${units}`}>
      <SheetHead judged={judged.data}>
        <select className="noun" aria-label="Wall" value={asking.wall} onChange={(e) => ask({ wall: e.target.value as Wall })}>
          {Object.entries(wallWords).map(([w, name]) => (
            <option key={w} value={w}>
              on {name}
            </option>
          ))}
        </select>
        <Button size="small" color="inherit" onClick={() => window.print()}>
          Print
        </Button>
        <Button
          size="small"
          variant="contained"
          disabled={!s || s.steps.length === 0}
          onClick={() => {
            setFailed('');
            download('/api/steps?format=md', question, 'steps.md').catch((e: Error) => setFailed(e.message));
          }}
        >
          Markdown
        </Button>
      </SheetHead>
      {failed && <Alert severity="error">{failed}</Alert>}
      {sequence.error && <Refusal error={sequence.error} />}
      {s && s.blocked.length > 0 && (
        <Alert severity="error" role="alert" className="blocked">
          <b>Do not install.</b>
          <ul>
            {s.blocked.map((b) => (
              <li key={b.rule + b.text}>
                {b.text} {b.remedy}
              </li>
            ))}
          </ul>
          {s.steps.length === 0 && 'There are no steps until that is settled.'}
        </Alert>
      )}
      {s && s.steps.length > 0 && <Sequence s={s} section={judged.data.section} back={judged.data.back} />}
    </main>
  );
}

function Sequence({ s, section, back }: { s: Schemas['Sequence']; section: string; back: string }) {
  return (
    <div className="steps">
      <ol>
        {s.steps.map((step) => (
          <li key={step.id} data-step={step.id}>
            <h3>{step.title}</h3>
            {s.blocked.length > 0 && <p className="do-not">Do not install: see above.</p>}
            {step.text.map((t) => (
              <p key={t}>{t}</p>
            ))}
            {step.mind.map((t) => (
              <p key={t} className="warn">
                Mind: {t}
              </p>
            ))}
            {step.caution && <p className="warn">{step.caution}</p>}
            <Parts parts={step.parts} />
            {step.check && (
              <p className="check">
                <b>Right when:</b> {step.check}
              </p>
            )}
            <p className="meta">
              {step.people === 1 ? 'One person' : `${step.people} people`}, about {step.minutes} min
              {step.tools.length > 0 && `. Tools: ${step.tools.join(', ')}`}
            </p>
            {step.id === 'bolt' && <figure className="step-figure" aria-label="Section through the bolts" dangerouslySetInnerHTML={{ __html: section }} />}
            {step.id === 'facedown' && <figure className="step-figure" aria-label="Back of the display" dangerouslySetInnerHTML={{ __html: back }} />}
          </li>
        ))}
      </ol>
      <aside>
        <section className="cautions">
          <h2>Cautions</h2>
          {s.cautions.map((c) => (
            <p key={c} className="warn">
              {c}
            </p>
          ))}
        </section>
        <h2>
          People and time
        </h2>
        <p>
          {s.lift?.text} About {s.minutes} minutes in all.
        </p>
        {s.supply.length > 0 && (
          <>
            <h2>To be supplied</h2>
            <Parts parts={s.supply} />
          </>
        )}
        <h2>Parts</h2>
        <Parts parts={s.parts} />
        <h2>Tools</h2>
        <ul>
          {s.tools.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
        {s.leftovers.length > 0 && (
          <>
            <h2>Should be left over</h2>
            <Parts parts={s.leftovers} />
          </>
        )}
      </aside>
    </div>
  );
}

function Parts({ parts }: { parts: Schemas['StepPart'][] }) {
  if (parts.length === 0) return null;
  return (
    <ul>
      {parts.map((p) => (
        <li key={p.name + p.bag + String(p.supplied)}>
          {p.count} × {p.name}
          {p.supplied ? <b> (supplied)</b> : p.bag ? ` (bag ${p.bag})` : ''}
        </li>
      ))}
    </ul>
  );
}
