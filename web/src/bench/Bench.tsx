import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { download, Refused, type BenchAnswer } from '../api';
import { useDesk } from '../asking';
import { useBase, useJudged, useQuestion } from '../judged';
import { otherBracket } from '../question';
import { useSave } from '../sheets/saving';
import { useKeys } from '../shell/keys';
import { Stamp } from '../words';
import { Drawing } from './Drawing';
import { errorsByPath, Figures } from './Figures';
import { Findings } from './Findings';
import { Sentence } from './Sentence';
import { Start } from './Start';
import { Strip } from './Strip';

/** The bench: one pairing, drawn to scale, answering at every keystroke. */
export function Bench() {
  const { asking, ask, units } = useDesk();
  const question = useQuestion();
  const base = useBase();
  const judgedQuery = useJudged();
  const empty = !asking.display && !asking.typed;
  const judged = empty ? undefined : judgedQuery.data;
  const refused = judgedQuery.error instanceof Refused ? judgedQuery.error.problem : undefined;
  const errors = useMemo(() => errorsByPath(refused), [refused]);
  const [lit, setLit] = useState<string[]>([]);
  const [pointed, setPointed] = useState('');
  const light = useCallback((marks: string[]) => setLit(marks), []);

  const others = judged?.others;
  const at = judged?.bracket.id;
  const choose = useCallback((id: string) => ask((a) => otherBracket(a, id)), [ask]);
  const step = useCallback(
    (by: number) => {
      if (!others) return;
      const next = others[others.findIndex((o) => o.id === at) + by];
      if (next) choose(next.id);
    },
    [others, at, choose],
  );
  useKeys({ n: () => step(1), p: () => step(-1) });
  useEffect(() => {
    document.title = judged ? `${judged.title} – Nexufix` : 'Nexufix';
  }, [judged]);

  const shownElsewhere = Object.keys(errors).filter((p) => p === 'center' || p in asking.changes || Object.keys(asking.changes).some((c) => c.replace(/_(mm|kg|deg)$/, '') === p));
  const unplaced = refused && (refused.problems ?? []).length > shownElsewhere.length;
  return (
    <>
      <Sentence judged={judged} centerError={errors['center']} />
      {judged && question && <Verdict judged={judged} stale={judgedQuery.isPlaceholderData || judgedQuery.isError} />}
      {(unplaced || (judgedQuery.error && !refused?.problems)) && (
        <Alert severity="error" square>
          {judgedQuery.error?.message}
          {refused?.problems?.map((p) => (
            <div key={p.path + p.found}>
              {p.path}: {p.found}
              {p.allowed && `; allowed: ${p.allowed}`}
            </div>
          ))}
          {refused?.status === 0 && (
            <Button size="small" color="inherit" onClick={() => void judgedQuery.refetch()}>
              Try again
            </Button>
          )}
        </Alert>
      )}
      {empty && <Start />}
      {!empty && (
        <div className={`bench units-${units}`} data-ready={judged && !judgedQuery.isFetching && !judgedQuery.isPlaceholderData ? 'yes' : 'no'}>
          <aside className="side left" aria-label="Figures">
            <Figures judged={judged} base={base} errors={errors} question={question} />
          </aside>
          <main className="board" id="board">
            {judged && <Board judged={judged} lit={lit} onPoint={setPointed} />}
            {!judged && !judgedQuery.error && <p className="nothing">Judging…</p>}
          </main>
          <aside className="side right" aria-label="Findings">
            {judged && <Findings judged={judged} units={units} lit={lit} pointed={pointed} onLight={light} />}
          </aside>
          {judged && <Strip judged={judged} onPick={choose} />}
        </div>
      )}
    </>
  );
}

const pictures = [
  ['back', 'Back, from behind'],
  ['side', 'Side'],
  ['above', 'From above'],
] as const;

type Picture = (typeof pictures)[number][0];

const missing: Record<Picture, [string, string]> = {
  back: ['The back cannot be drawn yet.', 'It needs the hole pattern: how far apart the holes are, across and down.'],
  side: ['The side cannot be drawn.', 'It needs the bolts, the bracket’s profile, and the display’s depth and edges.'],
  above: ['There is nothing to swing.', 'The bracket has no swivel, or its reach or the display’s outline is not known.'],
};

function Board({ judged, lit, onPoint }: { judged: BenchAnswer; lit: string[]; onPoint: (tag: string) => void }) {
  const [only, setOnly] = useState<'' | 'section' | 'other'>('');
  const [picture, setPicture] = useState<Picture>('back');
  useKeys({
    x: () => setOnly(only === '' ? 'section' : only === 'section' ? 'other' : ''),
    m: () => setPicture(pictures[(pictures.findIndex(([p]) => p === picture) + 1) % pictures.length]![0]),
  });
  const larger = (which: 'section' | 'other') => (
    <button type="button" className="press larger" onClick={() => setOnly(only ? '' : which)} title="One drawing or both (x)">
      {only ? 'Both' : 'Larger'}
    </button>
  );
  const tabs = (
    <span className="tabs" role="group" aria-label="Drawing">
      {pictures.map(([p, name]) => (
        <button key={p} type="button" className="tab" aria-pressed={p === picture} data-picture={p} title="The next drawing (m)" onClick={() => setPicture(p)}>
          {name}
        </button>
      ))}
      {larger('other')}
    </span>
  );
  return (
    <>
      {only !== 'other' &&
        (judged.section ? (
          <Drawing svg={judged.section} title="Section through the bolts" caption={<>Section through the bolts {larger('section')}</>} lit={lit} onPoint={onPoint} />
        ) : (
          <NoSection judged={judged} />
        ))}
      {only !== 'section' &&
        (judged[picture] ? (
          <Drawing svg={judged[picture]} title={pictures.find(([p]) => p === picture)![1]} caption={tabs} lit={lit} onPoint={onPoint}>
            {picture === 'side' && <Slider of="tilt" judged={judged} />}
            {picture === 'above' && <Slider of="swivel" judged={judged} />}
          </Drawing>
        ) : (
          <figure className="drawing">
            <figcaption>{tabs}</figcaption>
            <div className="nothing">
              <p>{missing[picture][0]}</p>
              <p>{missing[picture][1]}</p>
            </div>
          </figure>
        ))}
    </>
  );
}

/** Moves the drawing through the bracket's range. */
function Slider({ of, judged }: { of: 'tilt' | 'swivel'; judged: BenchAnswer }) {
  const { asking, ask } = useDesk();
  const b = judged.bracket;
  const [low, high] = of === 'tilt' ? [-(b.tilt_up_deg ?? 0), b.tilt_down_deg ?? 0] : [-(b.swivel_deg ?? 0), b.swivel_deg ?? 0];
  return (
    <div className="slider">
      {low < high && (
        <label>
          {of === 'tilt' ? 'Tilt' : 'Swivel'} {asking[of]}°
          <input type="range" min={low} max={high} step={0.5} value={asking[of]} onChange={(e) => ask({ [of]: Number(e.target.value) }, of)} />
        </label>
      )}
      <p>{judged.motion}</p>
    </div>
  );
}

function NoSection({ judged }: { judged: BenchAnswer }) {
  const stack = judged.pairing.checks.find((c) => c.rule === 'stack');
  return (
    <div className="drawing">
      <div className="nothing">
        <p>
          <b>{stack?.status === 'unknown' ? 'The bolts cannot be chosen yet.' : 'No safe bolts for this pairing.'}</b>
        </p>
        <p>{stack?.text}</p>
        <p>{stack?.remedy}</p>
      </div>
    </div>
  );
}

function Verdict({ judged, stale }: { judged: BenchAnswer; stale: boolean }) {
  const question = useQuestion();
  const { search } = useLocation();
  const { canUndo, undo } = useDesk();
  const save = useSave();
  const [failed, setFailed] = useState('');
  return (
    <div className="verdict" aria-live="polite" data-stale={stale ? 'yes' : 'no'}>
      <Stamp verdict={judged.pairing.verdict} />
      <span className="gist">
        {gist(judged)}
        {failed && <span className="field-error"> {failed}</span>}
      </span>
      <span className="grow" />
      {canUndo && (
        <Button size="small" color="inherit" onClick={undo} title="Undo the last change (z)">
          Undo
        </Button>
      )}
      <Button size="small" color="inherit" component={Link} to={{ pathname: '/steps', search }} title="The step sequence (s)">
        Steps
      </Button>
      <Button size="small" color="inherit" component={Link} to={{ pathname: '/template', search }} title="Look at the template (t)">
        Template
      </Button>
      <Button
        size="small"
        variant="outlined"
        disabled={!judged.template || stale}
        title={judged.template ? 'Download the drilling template at full size' : 'There is no template for this pairing'}
        onClick={() => {
          setFailed('');
          if (question) download('/api/template?format=pdf', question, 'template.pdf').catch((e: Error) => setFailed(e.message));
        }}
      >
        Template PDF
      </Button>
      <Button size="small" variant="contained" disabled={stale || save.isPending} title="Save this pairing (Ctrl+S)" onClick={() => question && save.mutate(question)}>
        Save
      </Button>
    </div>
  );
}

/** The one thing to say about the answer. */
function gist(j: BenchAnswer): string {
  const worst = j.pairing.checks[0];
  const out: string[] = [];
  if (j.pairing.verdict === 'does_not_fit' || j.pairing.verdict === 'missing_data') out.push(worst?.text ?? '');
  else if (j.send) out.push(`Send ${j.send}.`);
  else if (worst && worst.status !== 'pass') out.push(worst.text);
  else out.push('The bag has all that is needed.');
  if (j.heights) out.push(j.heights.text);
  return out.join(' ');
}
