import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { Refused, type BenchAnswer, type Check, type Schemas } from '../api';
import { AnswerLine } from '../bench/Answer';
import { errorsByPath, type FigureErrors } from '../bench/Figures';
import { Helps } from '../bench/Findings';
import { Frame, Paper, useFitted } from '../parts/Drawing';
import { FigureTable } from '../parts/Figures';
import { Finding, FindingList, Remark } from '../parts/Finding';
import { BenchGrid, Board, Grow, Head, Hint, Nothing, Page, Quick, Side } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { Meanwhile, Said } from '../parts/Said';
import { NoPairing } from '../parts/Sheet';
import { panelOf, Tabs } from '../parts/Tabs';
import { Shape } from '../parts/Verdict';
import { useCommands } from '../state/commands';
import { useWorkspace, useSearch, useTab } from '../state/workspace';
import { useJudged, useRequest } from '../state/judged';
import { edited, otherBracket } from '../state/inputs';
import { decimal, show, type Units } from '../state/units';
import { Allowed } from '../people/Allowed';
import { useLacks } from '../people/me';
import { JobRows } from '../jobs/JobRows';
import { useJobs } from '../jobs/jobs';
import { begun, sizeToBegin, starters, unplaced, useOpenJob, useRemoveJob, useSaveJob, type Thing } from './site';
import { NotSaved } from './NotSaved';
import { useWall, type Picture } from './useWall';
import { WallFields } from './WallFields';
import { WallPicture } from './WallPicture';

const pictures = [
  ['wall', t`The wall`, t`The next drawing (m)`],
  ['holding', t`What the fasteners hold`, t`The next drawing (m)`],
  ['build_up', t`Fastener in the wall`, t`The next drawing (m)`],
  ['side', t`From the side`, t`The next drawing (m)`],
] as const;

/** The wall: where a pairing goes on a particular one, worked on directly. */
export function WallSheet() {
  const { inputs, ask, units, job, jobError } = useWorkspace();
  const request = useRequest();
  const judged = useJudged();
  const [picture, setPicture] = useTab<Picture>('picture', ['wall', 'holding', 'build_up', 'side']);
  const wall = useWall(inputs.site ? request : undefined, picture);
  const [lit, setLit] = useState<string[]>([]);
  const [chosen, setChosen] = useState(0); // of a run
  const save = useSaveJob(request, judged.data);
  useCommands(t`On the wall`, [{ key: 'm', does: t`the next drawing`, run: () => setPicture(pictures[(pictures.findIndex(([p]) => p === picture) + 1) % pictures.length]![0]) }]);
  useEffect(() => {
    document.title = judged.data ? t`The wall – ${judged.data.title}` : t`The wall – Nexufix`;
  }, [judged.data]);

  const refused = wall.error instanceof Refused ? wall.error.problem : undefined;
  const errors = useMemo(() => {
    const out: FigureErrors = {};
    for (const [path, text] of Object.entries(errorsByPath(refused))) out[path.replace(/^request\./, '')] = text;
    return out;
  }, [refused]);

  if (job) return <NoPairing error={null} waiting />;
  if (!judged.data || !request) return <NoPairing error={judged.error} waiting={judged.isFetching} />;
  if (!inputs.site) return <Begin error={jobError} />;
  const view = wall.view;
  const nth = Math.min(chosen, (view?.placements.length ?? 1) - 1);
  const placed = view?.placements[nth];
  const moveBy = (x: number, y: number) => {
    const thing = view?.movable.find((t) => t.what === 'display' && t.index === nth);
    if (!thing) return;
    wall.move(thing, { x, y }, false, true);
    wall.drop(true);
  };
  const remove = (t: Thing) => {
    const path = {
      outlet: `wall.outlets[${t.index}]`,
      stud: view?.site.wall?.studs?.at_mm && `wall.studs.at_mm[${t.index}]`,
      furniture: `wall.furniture[${t.index}]`,
      niche: 'wall.niche',
      surface: 'place.surface_mm',
      line: 'place.line_mm',
      ceiling: 'wall.height_mm',
    }[t.what];
    if (view && path) ask((a) => edited(a, [{ path: `site.${path}`, to: null }], view.site));
  };
  return (
    <>
      <AnswerLine head data-stale={refused ? 'yes' : 'no'}>
        <Box aria-live="polite" sx={{ flex: 'none' }}>
          <Said said={view?.said} state={wall.state} />
        </Box>
        <Typography variant="h1" noWrap sx={{ minWidth: 0 }}>
          {judged.data.title}
        </Typography>
        <Grow />
        <JobBar key={inputs.site.id} onSave={(id) => save.mutate({ id })} saving={save.isPending} />
      </AnswerLine>
      {save.error && <NotSaved save={save} mine={view?.site ?? inputs.site} />}
      <Meanwhile judged={judged.data} />
      {refused && !refused.problems && (
        <Alert severity="error" square>
          {wall.error?.message}
        </Alert>
      )}
      <BenchGrid
        className={`bench wall units-${units}`}
        data-ready={view && wall.settled && !refused ? 'yes' : 'no'}
        left={
          <Side className="side left" aria-label={t`The wall's figures`}>
            {view ? <WallFields view={view} errors={errors} /> : refused && <WallFields view={unplaced(inputs.site)} errors={errors} typedOver />}
          </Side>
        }
        board={
          <Board className="board">
            <Frame className="drawing" aria-label={t`The wall`}>
              <figcaption>
                <Tabs label={t`Drawing`} of="picture" value={picture} tabs={pictures} onPick={setPicture} />
              </figcaption>
              {view?.[picture] && picture === 'wall' && (
                <WallPicture
                  view={view}
                  panel={panelOf('picture', picture)}
                  units={units}
                  lit={lit}
                  onMove={wall.move}
                  onNudge={(t, by) => (wall.move(t, by, false, true), wall.drop(true))}
                  onDrop={wall.drop}
                  onRemove={remove}
                />
              )}
              {view?.[picture] && picture !== 'wall' && <Still svg={view[picture]} panel={panelOf('picture', picture)} />}
              {!view && refused && (
                <Nothing>
                  <p>{t`It cannot be placed: a figure of the wall is not right.`}</p>
                  <p>{t`Put it right on the left; what is wrong stands there.`}</p>
                </Nothing>
              )}
              {view && !view.marks[picture] && (
                <Nothing>
                  <p>{picture === 'wall' ? t`It cannot be placed yet.` : t`There is nothing to draw yet.`}</p>
                  <p>{picture === 'wall' ? placed?.checks[0]?.text : t`Nothing is drilled, or the size of the fastener is not known.`}</p>
                  {picture === 'wall' && <p>{placed?.checks[0]?.remedy}</p>}
                </Nothing>
              )}
              {!view && !refused && <Skeleton variant="rectangular" role="status" aria-label={t`Placing…`} sx={{ flex: 1, height: 'auto' }} />}
              <Box component="p" className="snapped" role="status" sx={{ px: 1.5, pb: 1, minHeight: 20, color: 'text.secondary', fontSize: 13 }}>
                {wall.view?.snapped.join(' ') || (picture === 'wall' ? t`Drag what is on the wall, or tab to it and use the arrow keys. It snaps; Alt holds it free.` : '')}
              </Box>
            </Frame>
          </Board>
        }
        right={
          <Side className="side right" aria-label={t`Findings`}>
            {view && view.placements.length > 1 && (
              <Tabs
                label={t`Display of the run`}
                of="nth"
                value={String(nth)}
                tabs={view.placements.map((p, i) => [
                  String(i),
                  <>
                    {i + 1}&nbsp;
                    <Shape of={worst(p.checks)} />
                  </>,
                ])}
                onPick={(i) => setChosen(Number(i))}
              />
            )}
            <Box {...(view && view.placements.length > 1 && panelOf('nth', String(nth)))}>
              {placed && <Marks placed={placed} numbers={view.numbers[nth] ?? []} units={units} />}
              <Head>{t`Findings`}</Head>
              {placed && <Against placed={placed} />}
              {judged.data.help && !judged.data.help.send && <Helps help={judged.data.help} />}
              {placed && <WallFindings placed={placed} own={conditions(placed, judged.data.pairing)} onLight={setLit} onMove={moveBy} />}
            </Box>
            {view && view.others.length > 0 && (
              <>
                <Head>{t`Brackets that go there`}</Head>
                <Quick>
                  {view.others.map((o) => (
                    <Press key={o.id} data-other={o.id} onClick={() => ask((a) => otherBracket(a, o.id))}>
                      <Shape of={o.verdict} /> {o.name}
                    </Press>
                  ))}
                </Quick>
              </>
            )}
            {placed?.schools && <Heights placed={placed} units={units} />}
            {placed?.viewing && <Seen placed={placed} units={units} />}
            {view?.guide && (
              <>
                <Head>{t`By common practice`}</Head>
                <Hint>
                  {view.guide.fixing} {view.guide.hole} {view.guide.limit}
                </Hint>
              </>
            )}
            <Hint>{t`Local codes and licensed practice decide. A doubtful wall is for someone licensed to judge it. Fixed wiring is for licensed people.`}</Hint>
          </Side>
        }
      />
    </>
  );
}

/** A drawing that nothing is moved in. */
function Still({ svg, panel }: { svg: string; panel: object }) {
  const box = useRef<HTMLDivElement>(null);
  useFitted(box, svg);
  return <Paper ref={box} {...panel} dangerouslySetInnerHTML={{ __html: svg }} />;
}

/** Before there is a wall: one to begin with, or a job that is saved. */
function Begin({ error }: { error: string }) {
  const { ask, inputs, units } = useWorkspace();
  const { jobs } = useJobs({ kind: 'job', sort: 'changed', limit: 50 });
  const remove = useRemoveJob();
  return (
    <Page>
      <Box className="begin">
        {error && <Alert severity="warning">{error}</Alert>}
        <Typography variant="h1">{t`No wall has been described`}</Typography>
        <p>{t`Begin with a wall ${sizeToBegin(units)}, and put the measured figures in:`}</p>
        <Quick>
          {starters.map(([name, wall, more], i) => (
            <Button
              key={name}
              variant="outlined"
              autoFocus={i === 0}
              data-begin={wall}
              onClick={() => ask({ wall, site: begun(wall, more, units), edits: [], siteRevision: 0, center: inputs.center })}
            >
              {name}
            </Button>
          ))}
        </Quick>
        {jobs.length > 0 && (
          <>
            <Head>{t`Or open a job`}</Head>
            <JobRows jobs={jobs} onRemove={(j) => void remove(j.id)} />
            <Go to="/jobs">{t`All jobs`}</Go>
          </>
        )}
      </Box>
    </Page>
  );
}

/** The job that is open, to be saved under a name. */
function JobBar({ onSave, saving }: { onSave: (id: string) => void; saving: boolean }) {
  const { inputs, ask, undo, canUndo } = useWorkspace();
  const open = useOpenJob();
  const [name, setName] = useState(inputs.site?.id ?? '');
  const id = name
    .trim()
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9._-]+/g, '-')
    .replace(/^[^A-Za-z0-9]+/, '')
    .slice(0, 80);
  const { jobs } = useJobs({ kind: 'job', q: name || undefined, limit: 200 });
  const form = useRef<HTMLFormElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const search = useSearch();
  const another = jobs.some((j) => j.id === id) && id !== inputs.site?.id;
  const lacks = useLacks('edit');
  useCommands(t`The job`, [
    // What is open here is saved; without a name it asks for one.
    { key: 'mod+s', does: t`save the job`, run: () => (id && !another && !saving ? form.current?.requestSubmit() : field.current?.focus()) },
  ]);
  return (
    <Bar
      ref={form}
      className="job-bar"
      onSubmit={(e) => {
        e.preventDefault();
        if (another) void open(id);
        else if (id && !lacks) onSave(id);
      }}
    >
      <Autocomplete
        freeSolo
        disableClearable
        options={jobs.map((j) => j.id)}
        inputValue={name}
        onInputChange={(_, text) => setName(text)}
        sx={{ width: { xs: 150, md: 220 } }}
        renderInput={(params) => (
          <TextField
            {...params}
            placeholder={t`a name to save it under`}
            inputRef={field}
            slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, 'aria-label': t`Job`, spellCheck: false } }}
          />
        )}
      />
      {another ? (
        <Button color="inherit" type="submit">
          {t`Open`}
        </Button>
      ) : (
        <Allowed act="edit">
          <Button color="inherit" type="submit" disabled={!id} loading={saving}>
            {t`Save job`}
          </Button>
        </Allowed>
      )}
      <Button color="inherit" disabled={!canUndo} onClick={undo} title={t`Undo (z)`}>
        {t`Undo`}
      </Button>
      <Button color="inherit" onClick={() => ask({ site: null, edits: [], siteRevision: 0 })} title={t`Another wall; z undoes it`}>
        {t`Close`}
      </Button>
      <Button variant="contained" component={Link} to={{ pathname: '/template', search }}>
        {t`Template`}
      </Button>
    </Bar>
  );
}

const Bar = styled('form')({ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 6 });

function worst(checks: Check[]): Check['status'] {
  for (const s of ['fail', 'unknown', 'caution'] as const) if (checks.some((c) => c.status === s)) return s;
  return 'pass';
}

type Placed = Schemas['Placement'];

/** The numbers that are marked. */
function Marks({ placed, numbers, units }: { placed: Placed; numbers: number[]; units: Units }) {
  if (placed.points.length === 0) return null;
  const mm = (n: number | null | undefined) => (n == null ? '–' : wallFigure(n, units));
  const unit = units === 'mm' ? '\u00a0mm' : '';
  return (
    <>
      <Head>{t`To mark`}</Head>
      <Typography sx={{ mb: 1 }}>{t`Level line ${mm(placed.datum_height_mm)}${unit} above the floor; middle ${mm(placed.display_x_mm)}${unit} from the left end.`}</Typography>
      <FigureTable className="bolts">
        <TableHead>
          <TableRow>
            <TableCell>{t`Hole`}</TableCell>
            <TableCell className="num">{t`from the middle`}</TableCell>
            <TableCell className="num">{t`above the floor`}</TableCell>
            <TableCell className="num">{t`utilisation`}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {placed.points.map((p, i) => (
            <TableRow key={`${p.plate ?? 0} ${p.hole}`} data-hole={p.hole}>
              <TableCell className="what">
                {numbers[i]} {p.hole}
                {p.plate ? t`, plate ${p.plate}` : ''}
              </TableCell>
              <TableCell className="num">
                {mm(Math.abs(p.from_center_line_mm))} {p.from_center_line_mm < 0 ? t`left` : t`right`}
              </TableCell>
              <TableCell className="num">{mm(p.y_mm)}</TableCell>
              <TableCell className="num">{p.utilisation === undefined ? '–' : `${Math.ceil(p.utilisation * 100)} %`}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </FigureTable>
    </>
  );
}

/** As on a wall: halves of a millimetre, or sixteenths of an inch. */
function wallFigure(mm: number, units: Units): string {
  return units === 'mm' ? decimal(Math.round(mm * 2) / 2) : `${show((Math.round((mm / 25.4) * 16) / 16) * 25.4, 'in')}″`;
}

const schoolWords: Record<string, string> = {
  center: t`chosen centre`,
  eye: t`eye height`,
  upper_third: t`upper third`,
  above: t`above furniture`,
  below: t`below a line`,
  overhead: t`overhead`,
  bottom: t`bottom edge`,
  top: t`top edge`,
};

/** Every height rule beside the one that is used. */
function Heights({ placed, units }: { placed: Placed; units: Units }) {
  const { ask } = useWorkspace();
  return (
    <>
      <Head>{t`Heights of the centre`}</Head>
      <FigureTable className="heights">
        <TableBody>
          {placed.schools!.map((s) => (
            <TableRow key={s.rule} className={s.used ? 'lit' : ''} data-school={s.rule} title={s.why}>
              <TableCell>
                <Press disabled={s.used || s.center_height_mm == null} onClick={() => ask((a) => ({ site: { ...a.site!, place: { ...a.site!.place, rule: s.rule as 'eye' } } }))}>
                  {schoolWords[s.rule]}
                </Press>
                <small>{s.against.length > 0 ? s.against.join('; ') : s.why}</small>
              </TableCell>
              <TableCell className="num">{s.center_height_mm == null ? '–' : wallFigure(s.center_height_mm, units)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </FigureTable>
    </>
  );
}

function Seen({ placed, units }: { placed: Placed; units: Units }) {
  const v = placed.viewing!;
  const degrees = (n: number) => `${Math.round(Math.abs(n) * 10) / 10}°`;
  return (
    <>
      <Head>{t`Seen from`}</Head>
      <Hint>
        {t`It fills 40° of the view at ${wallFigure(v.fills_40_deg_mm, units)} and 30° at ${wallFigure(v.fills_30_deg_mm, units)}.`}{' '}
        {v.fills_deg !== undefined && t`From where it is viewed it fills ${degrees(v.fills_deg)}.`}{' '}
        {v.up_deg !== undefined && (v.up_deg < 0 ? t`Its middle is ${degrees(v.up_deg)} below the eye;` : t`Its middle is ${degrees(v.up_deg)} above the eye;`)}{' '}
        {v.up_deg !== undefined && t`level to 15° below is comfortable, and up to 5° above still feels level.`}
      </Hint>
    </>
  );
}

const order = ['fail', 'unknown', 'caution', 'note', 'pass'];

function WallFindings({ placed, own, onLight, onMove }: { placed: Placed; own: Check[]; onLight: (marks: string[]) => void; onMove: (x: number, y: number) => void }) {
  const helps = (c: Check): [number, number] | undefined => {
    if (c.status !== 'fail') return undefined;
    if ((c.rule === 'studs' || c.rule === 'strength') && placed.move_x_mm !== undefined) return [placed.move_x_mm, 0];
    if ((c.rule === 'below' || c.rule === 'above') && placed.move_y_mm !== undefined) return [0, placed.move_y_mm];
    return undefined;
  };
  const sorted = [...placed.checks, ...own].sort((a, b) => order.indexOf(a.status) - order.indexOf(b.status));
  return (
    <FindingList onPointerLeave={() => onLight([])}>
      {sorted.map((c, i) => (
        <Finding key={c.rule + i} check={c} brief={c.status === 'pass'} onLight={onLight}>
          {c.remedy && <Remark>{c.remedy}</Remark>}
          {own.includes(c) && (
            <Remark>
              <Trans>
                On any wall: see <Go to="/">the bench</Go>.
              </Trans>
            </Remark>
          )}
          {helps(c) && (
            <Press data-act="move" onClick={() => onMove(...helps(c)!)}>
              {t`Move it there`}
            </Press>
          )}
        </Finding>
      ))}
    </FindingList>
  );
}

/** What the pairing asks for on any wall, beside what is against it. */
function conditions(placed: Schemas['Placement'], pairing: BenchAnswer['pairing']): Check[] {
  return pairing.checks.filter((c) => (c.status === 'caution' || c.status === 'unknown') && !placed.blocked.some((b) => b.text === c.text) && !placed.checks.some((p) => p.rule === c.rule));
}

/** What is against it before any wall: the pairing's own reasons. */
function Against({ placed }: { placed: Schemas['Placement'] }) {
  const own = placed.blocked.filter((b) => !placed.checks.some((c) => c.text === b.text));
  if (own.length === 0) return null;
  return (
    <Box role="alert" className="against" sx={{ my: 1.5, pl: 2.5, borderLeft: 3, borderColor: 'error.main', '& ul': { my: 1, pl: 4.5 } }}>
      <p>
        <Trans>
          <strong>Do not install.</strong> The pairing itself is not right: see <Go to="/">the bench</Go>.
        </Trans>
      </p>
      <ul>
        {own.map((b) => (
          <li key={b.rule + b.text}>
            {b.text} {b.remedy}
          </li>
        ))}
      </ul>
    </Box>
  );
}
