import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, download, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Head, Page, Warn } from '../parts/Page';
import { NoPairing, Refusal, SheetHead } from '../parts/Sheet';
import { useDesk } from '../state/desk';
import { useJudged, useSiteQuestion } from '../state/judged';
import type { Wall } from '../state/question';
import { wallWords } from '../words';

const Columns = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 300px',
  gap: 28,
  maxWidth: 1180,
  [theme.breakpoints.down('md')]: { gridTemplateColumns: '1fr' },
  '& ol': { listStyle: 'none', margin: 0, padding: 0, counterReset: 'step' },
  '& ol > li': { counterIncrement: 'step', padding: '10px 0 12px 44px', borderTop: `1px solid ${theme.vars!.palette.divider}`, position: 'relative' },
  '& ol > li::before': { content: 'counter(step)', position: 'absolute', left: 4, top: 7, fontSize: 21, fontWeight: 600, color: theme.vars!.palette.primary.main },
  '& h2.title': { fontSize: 16, fontWeight: 600, margin: '0 0 3px' },
  '& p': { margin: '2px 0' },
  '& ul': { margin: '3px 0', paddingLeft: 18 },
  '& .meta': { color: theme.vars!.palette.text.secondary, fontSize: 13 },
  '& .do-not': { fontWeight: 700, color: theme.vars!.palette.error.main },
  '& figure': { marginTop: 8, maxWidth: 520 },
  '& figure svg': { width: '100%', height: 'auto', maxHeight: 340 },
  '& aside > h2': { marginTop: 14 },
  '& aside p': { marginBottom: 7 },
}));

/** The step sequence of the pairing on the bench. */
export function StepsSheet() {
  const { asking, ask, units } = useDesk();
  const question = useSiteQuestion();
  const judged = useJudged();
  const [failed, setFailed] = useState('');
  const sequence = useQuery({
    queryKey: ['steps', question],
    gcTime: 20_000,
    enabled: question !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/steps', { body: question!, params: { query: { format: 'json' } }, signal })),
    placeholderData: keepPreviousData,
  });
  if (!judged.data || !question) return <NoPairing error={judged.error} waiting={judged.isFetching} />;
  const s = sequence.data;
  return (
    <Page className={`units-${units} prints`}>
      <SheetHead judged={judged.data}>
        <Choice label="Wall" width={190} value={asking.wall} options={Object.entries(wallWords).map(([w, name]) => [w, `on ${name}`])} onPick={(w) => ask({ wall: w as Wall })} />
        <Button color="inherit" onClick={() => window.print()}>
          Print
        </Button>
        <Button
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
      {sequence.isLoading && <Skeleton variant="rectangular" height={320} sx={{ maxWidth: 860 }} />}
      {s && s.blocked.length > 0 && (
        <Alert severity="error" role="alert" className="blocked" sx={{ mb: 2.5 }}>
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
    </Page>
  );
}

function Sequence({ s, section, back }: { s: Schemas['Sequence']; section: string; back: string }) {
  return (
    <Columns className="steps">
      <ol>
        {s.steps.map((step) => (
          <li key={step.id} data-step={step.id}>
            <h2 className="title">{step.title}</h2>
            {s.blocked.length > 0 && <p className="do-not">Do not install: see above.</p>}
            {step.text.map((t) => (
              <p key={t}>{t}</p>
            ))}
            {step.mind.map((t) => (
              <Warn key={t}>Mind: {t}</Warn>
            ))}
            {step.caution && <Warn>{step.caution}</Warn>}
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
            {step.id === 'bolt' && <figure aria-label="Section through the bolts" dangerouslySetInnerHTML={{ __html: section }} />}
            {step.id === 'facedown' && <figure aria-label="Back of the display" dangerouslySetInnerHTML={{ __html: back }} />}
          </li>
        ))}
      </ol>
      <aside>
        <section className="cautions">
          <Head>Cautions</Head>
          {s.cautions.map((c) => (
            <Warn key={c}>{c}</Warn>
          ))}
        </section>
        <Head>People and time</Head>
        <p>
          {s.lift?.text} About {s.minutes} minutes in all.
        </p>
        {s.supply.length > 0 && (
          <>
            <Head>To be supplied</Head>
            <Parts parts={s.supply} />
          </>
        )}
        <Head>Parts</Head>
        <Parts parts={s.parts} />
        <Head>Tools</Head>
        <ul>
          {s.tools.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
        {s.leftovers.length > 0 && (
          <>
            <Head>Should be left over</Head>
            <Parts parts={s.leftovers} />
          </>
        )}
      </aside>
    </Columns>
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
