import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { answer, api, Refused, type Check, type Schemas } from '../api';
import { useDesk } from '../state/desk';
import { useFitted } from '../parts/Drawing';
import { errorsByPath, type FigureErrors } from '../bench/Figures';
import { Gauge } from '../parts/Gauge';
import { useJudged, useSiteQuestion } from '../state/judged';
import { otherBracket, settled } from '../state/question';
import { useKeys } from '../state/commands';
import { NoPairing } from '../parts/Sheet';
import { show, type Units } from '../state/units';
import { ruleWords, Shape, statusWords } from '../words';
import { begun, starters, unplaced, useOpenJob, useRemoveJob, useSaveJob, type Thing } from './site';
import { useWall } from './useWall';
import { WallFields, withoutOutlet, withoutStud } from './WallFields';
import { WallPicture } from './WallPicture';

const pictures = [
  ['wall', 'The wall'],
  ['holding', 'What the fasteners hold'],
  ['build_up', 'Fastener in the wall'],
  ['side', 'From the side'],
] as const;

/** The wall: where a pairing goes on a particular one, worked on directly. */
export function WallSheet() {
  const { asking, ask, units } = useDesk();
  const question = useSiteQuestion();
  const judged = useJudged();
  const wall = useWall(asking.site ? question : undefined);
  const [picture, setPicture] = useState<(typeof pictures)[number][0]>('wall');
  const [lit, setLit] = useState<string[]>([]);
  const [chosen, setChosen] = useState(0); // of a run
  const keep = useSaveJob(question, judged.data);
  useKeys({ m: () => setPicture(pictures[(pictures.findIndex(([p]) => p === picture) + 1) % pictures.length]![0]) });
  useEffect(() => {
    document.title = judged.data ? `The wall – ${judged.data.title}` : 'The wall – Nexufix';
  }, [judged.data]);

  const refused = wall.error instanceof Refused ? wall.error.problem : undefined;
  const errors = useMemo(() => {
    const out: FigureErrors = {};
    for (const [path, text] of Object.entries(errorsByPath(refused))) out[path.replace(/^question\./, '').replace(/\[(\d+)\]/g, '.$1')] = text;
    return out;
  }, [refused]);

  if (!judged.data || !question) return <NoPairing error={judged.error} />;
  if (!asking.site) return <Begin />;
  const view = wall.view;
  const placed = view?.placements[Math.min(chosen, view.placements.length - 1)];
  const moveBy = (x: number, y: number) => {
    const thing = view?.things.find((t) => t.what === 'display' && t.index === Math.min(chosen, view.placements.length - 1));
    if (!thing) return;
    wall.move(thing, { x, y }, false, true);
    wall.drop(true);
  };
  const remove = (t: Thing) => {
    if (!view) return;
    const s = structuredClone(view.site);
    const w = s.wall!;
    if (t.what === 'outlet') return ask((a) => settled(a, withoutOutlet(s, t.index)));
    if (t.what === 'stud' && w.studs?.at_mm) return ask((a) => settled(a, withoutStud(s, t.index)));
    if (t.what === 'furniture') w.furniture = w.furniture!.filter((_, i) => i !== t.index);
    else if (t.what === 'niche') delete w.niche;
    else if (t.what === 'surface') delete s.place!.surface_mm;
    else if (t.what === 'line') delete s.place!.line_mm;
    else if (t.what === 'ceiling') delete w.height_mm;
    else return;
    if (w.furniture?.length === 0) delete w.furniture;
    ask((a) => settled(a, s));
  };
  return (
    <>
      <div className="verdict wall-head">
        {view && (
          <span className={`stamp ${view.verdict}`} data-verdict={view.verdict}>
            <Shape of={view.verdict} />
            {{ pass: 'Fits here', caution: 'Fits with care', unknown: 'Figures missing', fail: 'Does not fit here' }[view.verdict]}
          </span>
        )}
        <h1>{judged.data.title}</h1>
        <span className="grow" />
        <JobBar key={asking.site.id} onKeep={(id) => keep.mutate(id)} keeping={keep.isPending} />
      </div>
      {refused && !refused.problems && (
        <Alert severity="error" square>
          {wall.error?.message}
        </Alert>
      )}
      <div className={`bench wall units-${units}`} data-ready={view && wall.settled && !refused ? 'yes' : 'no'}>
        <aside className="side left" aria-label="The wall's figures">
          {view ? <WallFields view={view} errors={errors} /> : refused && <WallFields view={unplaced(asking.site)} errors={errors} typedOver />}
        </aside>
        <main className="board" id="board">
          <figure className="drawing" aria-label="The wall">
            <figcaption>
              <span className="tabs" role="group" aria-label="Drawing">
                {pictures.map(([p, name]) => (
                  <button key={p} type="button" className="tab" aria-pressed={p === picture} data-picture={p} title="The next drawing (m)" onClick={() => setPicture(p)}>
                    {name}
                  </button>
                ))}
              </span>
            </figcaption>
            {view?.[picture] && picture === 'wall' && (
              <WallPicture view={view} units={units} lit={lit} onMove={wall.move} onNudge={(t, by) => (wall.move(t, by, false, true), wall.drop(true))} onDrop={wall.drop} onRemove={remove} />
            )}
            {view?.[picture] && picture !== 'wall' && <Still svg={view[picture]} />}
            {!view && refused && (
              <div className="nothing">
                <p>It cannot be placed: a figure of the wall is not right.</p>
                <p>Put it right on the left; what is wrong stands there.</p>
              </div>
            )}
            {view && !view[picture] && (
              <div className="nothing">
                <p>{picture === 'wall' ? 'It cannot be placed yet.' : 'There is nothing to draw yet.'}</p>
                <p>{picture === 'wall' ? placed?.checks[0]?.text : 'Nothing is drilled, or the size of the fastener is not known.'}</p>
                {picture === 'wall' && <p>{placed?.checks[0]?.remedy}</p>}
              </div>
            )}
            <p className="snapped" role="status">
              {wall.view?.snapped.join(' ') || (picture === 'wall' ? 'Drag what is on the wall, or tab to it and use the arrow keys. It snaps; Alt holds it free.' : '')}
            </p>
          </figure>
        </main>
        <aside className="side right" aria-label="Findings">
          {view && view.placements.length > 1 && (
            <p className="quick" role="group" aria-label="Display of the run">
              {view.placements.map((p, i) => (
                <button key={i} type="button" className="tab" aria-pressed={p === placed} onClick={() => setChosen(i)}>
                  {i + 1} <Shape of={worst(p.checks)} />
                </button>
              ))}
            </p>
          )}
          {placed && <Marks placed={placed} units={units} />}
          <h2>Findings</h2>
          {placed && <Against placed={placed} />}
          {placed && <WallFindings placed={placed} onLight={setLit} onMove={moveBy} />}
          {view && view.others.length > 0 && (
            <>
              <h2>Brackets that go there</h2>
              <p className="quick">
                {view.others.map((o) => (
                  <button key={o.id} type="button" className="press" data-other={o.id} onClick={() => ask((a) => otherBracket(a, o.id))}>
                    <Shape of={o.verdict} /> {o.name}
                  </button>
                ))}
              </p>
            </>
          )}
          {placed?.schools && <Heights placed={placed} units={units} />}
          {placed?.viewing && <Seen placed={placed} units={units} />}
          {view?.guide && (
            <>
              <h2>By common practice</h2>
              <p className="hint">
                {view.guide.fixing} {view.guide.hole} {view.guide.limit}
              </p>
            </>
          )}
          <p className="hint">Local codes and licensed practice decide. A doubtful wall is for someone licensed to judge it. Fixed wiring is for licensed people.</p>
        </aside>
      </div>
    </>
  );
}

/** A drawing that nothing is moved in. */
function Still({ svg }: { svg: string }) {
  const box = useRef<HTMLDivElement>(null);
  useFitted(box, svg);
  return <div ref={box} dangerouslySetInnerHTML={{ __html: svg }} />;
}

/** Before there is a wall: one to begin with, or a job that is saved. */
function Begin() {
  const { ask, asking } = useDesk();
  const jobs = useJobs();
  const open = useOpenJob();
  const remove = useRemoveJob();
  return (
    <main className="sheet">
      <div className="begin">
        <h1>No wall has been described</h1>
        <p>Begin with a wall 3 m wide and 2.5 m high, and put the measured figures in:</p>
        <p className="quick">
          {starters.map(([name, wall, more], i) => (
            <Button key={name} variant="outlined" size="small" autoFocus={i === 0} data-begin={wall} onClick={() => ask({ wall, site: begun(wall, more), siteRevision: 0, center: asking.center })}>
              {name}
            </Button>
          ))}
        </p>
        {jobs.data && jobs.data.length > 0 && (
          <>
            <h2>Or open a job</h2>
            <ul className="plain">
              {jobs.data.map((j) => (
                <li key={j.id}>
                  <button type="button" className="press" data-job={j.id} onClick={() => void open(j.id)}>
                    {j.id}
                  </button>{' '}
                  {j.title}, {j.wall}{' '}
                  <button type="button" className="press remove" aria-label={`Remove job ${j.id}`} title="Remove" onClick={() => void remove(j.id)}>
                    ×
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </main>
  );
}

function useJobs() {
  return useQuery({ queryKey: ['jobs'], queryFn: ({ signal }) => answer(api.GET('/api/jobs', { signal })) });
}

/** The job that is open, to be saved under a name. */
function JobBar({ onKeep, keeping }: { onKeep: (id: string) => void; keeping: boolean }) {
  const { asking, ask, undo, canUndo } = useDesk();
  const jobs = useJobs();
  const open = useOpenJob();
  const [name, setName] = useState(asking.site?.id ?? '');
  const id = name
    .trim()
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9._-]+/g, '-')
    .replace(/^[^A-Za-z0-9]+/, '')
    .slice(0, 80);
  const form = useRef<HTMLFormElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const another = jobs.data?.some((j) => j.id === id) && id !== asking.site?.id;
  // Ctrl+S saves what is open here; without a name it asks for one.
  useKeys({ 'mod+s': () => (id && !another && !keeping ? form.current?.requestSubmit() : field.current?.focus()) });
  return (
    <form
      ref={form}
      className="job-bar"
      onSubmit={(e) => {
        e.preventDefault();
        if (another) void open(id);
        else if (id) onKeep(id);
      }}
    >
      <label>
        Job <input className="figure-field words" list="jobs" aria-label="Job" placeholder="a name to save it under" ref={field} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <datalist id="jobs">
        {jobs.data?.map((j) => (
          <option key={j.id} value={j.id} />
        ))}
      </datalist>
      {another ? (
        <Button size="small" color="inherit" type="submit">
          Open
        </Button>
      ) : (
        <Button size="small" color="inherit" type="submit" disabled={!id || keeping}>
          Save job
        </Button>
      )}
      <Button size="small" color="inherit" disabled={!canUndo} onClick={undo} title="Undo (z)">
        Undo
      </Button>
      <Button size="small" color="inherit" onClick={() => ask({ site: null, siteRevision: 0 })} title="Another wall; z undoes it">
        Close
      </Button>
      <Button size="small" variant="contained" component={Link} to={{ pathname: '/template', search: window.location.search }}>
        Template
      </Button>
    </form>
  );
}

function worst(checks: Check[]): Check['status'] {
  for (const s of ['fail', 'unknown', 'caution'] as const) if (checks.some((c) => c.status === s)) return s;
  return 'pass';
}

type Placed = Schemas['Placement'];

/** The numbers that are marked. */
function Marks({ placed, units }: { placed: Placed; units: Units }) {
  if (placed.points.length === 0) return null;
  const mm = (n: number | null | undefined) => (n == null ? '–' : wallFigure(n, units));
  return (
    <>
      <h2>To mark</h2>
      <p className="marks">
        Level line {mm(placed.datum_height_mm)} above the floor; middle {mm(placed.display_x_mm)} from the left end.
      </p>
      <table className="bolts">
        <thead>
          <tr>
            <th>Hole</th>
            <th className="num">from the middle</th>
            <th className="num">above the floor</th>
            <th className="num">utilisation</th>
          </tr>
        </thead>
        <tbody>
          {placed.points.map((p) => (
            <tr key={`${p.plate ?? 0} ${p.hole}`} data-hole={p.hole}>
              <td className="what">
                {p.hole}
                {p.plate ? `, plate ${p.plate}` : ''}
              </td>
              <td className="num">
                {mm(Math.abs(p.from_center_line_mm))} {p.from_center_line_mm < 0 ? 'left' : 'right'}
              </td>
              <td className="num">{mm(p.y_mm)}</td>
              <td className="num">{p.use === undefined ? '–' : `${Math.ceil(p.use * 100)} %`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** As on a wall: halves of a millimetre, or sixteenths of an inch. */
function wallFigure(mm: number, units: Units): string {
  return units === 'mm' ? String(Math.round(mm * 2) / 2) : `${show((Math.round((mm / 25.4) * 16) / 16) * 25.4, 'in')}″`;
}

const schoolWords: Record<string, string> = { center: 'chosen centre', eye: 'eye height', upper_third: 'upper third', above: 'above furniture', below: 'below a line', overhead: 'overhead' };

/** Every height rule beside the one that is used. */
function Heights({ placed, units }: { placed: Placed; units: Units }) {
  const { ask } = useDesk();
  return (
    <>
      <h2>Heights of the centre</h2>
      <table className="bolts heights">
        <tbody>
          {placed.schools!.map((s) => (
            <tr key={s.rule} className={s.used ? 'lit' : ''} data-school={s.rule} title={s.why}>
              <td>
                <button
                  type="button"
                  className="press"
                  disabled={s.used || s.center_height_mm == null}
                  onClick={() => ask((a) => ({ site: { ...a.site!, place: { ...a.site!.place, rule: s.rule as 'eye' } } }))}
                >
                  {schoolWords[s.rule]}
                </button>
                <small>{s.against.length > 0 ? s.against.join('; ') : s.why}</small>
              </td>
              <td className="num">{s.center_height_mm == null ? '–' : wallFigure(s.center_height_mm, units)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Seen({ placed, units }: { placed: Placed; units: Units }) {
  const v = placed.viewing!;
  const degrees = (n: number) => `${Math.round(Math.abs(n) * 10) / 10}°`;
  return (
    <>
      <h2>Seen from</h2>
      <p className="hint">
        It fills 40° of the view at {wallFigure(v.fills_40_deg_mm, units)} and 30° at {wallFigure(v.fills_30_deg_mm, units)}.
        {v.fills_deg !== undefined && ` From where it is viewed it fills ${degrees(v.fills_deg)}.`}
        {v.up_deg !== undefined && ` Its middle is ${degrees(v.up_deg)} ${v.up_deg < 0 ? 'below' : 'above'} the eye; level to 15° below is comfortable, and up to 5° above still feels level.`}
      </p>
    </>
  );
}

const order = ['fail', 'unknown', 'caution', 'pass'];

function WallFindings({ placed, onLight, onMove }: { placed: Placed; onLight: (marks: string[]) => void; onMove: (x: number, y: number) => void }) {
  const helps = (c: Check): [number, number] | undefined => {
    if (c.status !== 'fail') return undefined;
    if ((c.rule === 'studs' || c.rule === 'strength') && placed.move_x_mm !== undefined) return [placed.move_x_mm, 0];
    if ((c.rule === 'below' || c.rule === 'above') && placed.move_y_mm !== undefined) return [0, placed.move_y_mm];
    return undefined;
  };
  const sorted = [...placed.checks].sort((a, b) => order.indexOf(a.status) - order.indexOf(b.status));
  return (
    <div onPointerLeave={() => onLight([])}>
      {sorted.map((c, i) => (
        <section key={c.rule + i} className={c.status === 'pass' ? 'finding passed' : 'finding'} tabIndex={0} data-rule={c.rule} data-status={c.status} onPointerEnter={() => onLight(c.marks ?? [])} onFocus={() => onLight(c.marks ?? [])}>
          <div className="head">
            <Shape of={c.status} />
            <span className="rule">{ruleWords[c.rule] ?? c.rule}</span>
            {c.status !== 'pass' && <span className={`word ${c.status}`}>{statusWords[c.status]}</span>}
            {c.figure && <span className="figure">{c.figure}</span>}
          </div>
          {(c.status !== 'pass' || c.rule === 'strength') && (
            <div className={c.status}>
              <Gauge check={c} />
            </div>
          )}
          <p>{c.text}</p>
          {c.remedy && <p className="remedy">{c.remedy}</p>}
          {helps(c) && (
            <button type="button" className="press" data-act="move" onClick={() => onMove(...helps(c)!)}>
              Move it there
            </button>
          )}
        </section>
      ))}
    </div>
  );
}

/** What is against it before any wall: the pairing's own reasons. */
function Against({ placed }: { placed: Schemas['Placement'] }) {
  const own = placed.blocked.filter((b) => !placed.checks.some((c) => c.text === b.text));
  if (own.length === 0) return null;
  return (
    <div role="alert" className="against">
      <p>
        <strong>Do not install.</strong> The pairing itself is not right: see <Link to="/">the bench</Link>.
      </p>
      <ul>
        {own.map((b) => (
          <li key={b.rule + b.text}>
            {b.text} {b.remedy}
          </li>
        ))}
      </ul>
    </div>
  );
}
