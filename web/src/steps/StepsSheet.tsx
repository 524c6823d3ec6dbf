import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Skeleton from '@mui/material/Skeleton';
import { styled } from '@mui/material/styles';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { memo, useEffect, useRef, useState } from 'react';
import { at } from '../base';
import { answer, api, download, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Standing } from '../review/Standing';
import { lightUp, tagOf, useFitted } from '../parts/Drawing';
import { Head, Hint, Page, Warn } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { LanguageChoice, useLanguage } from '../parts/Language';
import { NoPairing, Refusal, SheetHead } from '../parts/Sheet';
import { Allowed } from '../people/Allowed';
import { useLacks } from '../people/me';
import { useCommands } from '../state/commands';
import { useWorkspace } from '../state/workspace';
import { useJudged, useRequest } from '../state/judged';
import { otherWall, withSchool, type Wall } from '../state/inputs';
import { languageWords, schoolWords, wallWords } from '../words';
import { NotSaved } from '../wall/NotSaved';
import { useSaveJob } from '../wall/site';
import { Conflicts, LeftOut, StepEditor } from './StepEditor';
import { Photos } from './Photos';
import { Symptoms } from './Symptoms';
import { When } from '../parts/When';

type Step = Schemas['Step'];

const Columns = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 300px',
  gap: 28,
  maxWidth: 1240,
  [theme.breakpoints.down('md')]: { gridTemplateColumns: '1fr' },
  '& ol.sequence': { listStyle: 'none', margin: 0, padding: 0 },
  '& ol.sequence > li': {
    padding: '10px 0 14px 44px',
    borderTop: `1px solid ${theme.vars!.palette.divider}`,
    position: 'relative',
    display: 'grid',
    gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 340px)',
    gap: '0 20px',
    scrollMarginTop: 50,
    [theme.breakpoints.down('sm')]: { gridTemplateColumns: '1fr', paddingLeft: 34 },
  },
  '& .number': { position: 'absolute', left: 4, top: 7, fontSize: 21, fontWeight: 600, color: theme.vars!.palette.primary.main },
  '& h3.title': { fontSize: 16, fontWeight: 600, margin: '0 0 3px' },
  '& p': { margin: '2px 0' },
  '& ul': { margin: '3px 0', paddingLeft: 18 },
  '& li[data-part].at': { background: theme.vars!.palette.action.hover },
  '& .meta, & .needs': { color: theme.vars!.palette.text.secondary, fontSize: 13 },
  '& .do-not': { fontWeight: 700, color: theme.vars!.palette.error.main },
  '& figure': { margin: 0, background: theme.vars!.palette.background.paper, border: `1px solid ${theme.vars!.palette.divider}`, padding: 6, alignSelf: 'start' },
  '& figure svg': { display: 'block', width: '100%', height: 'auto', maxHeight: 640, margin: 'auto' },
  '& aside > h2': { marginTop: 14 },
  '& aside p': { marginBottom: 7 },
}));

const stageWords: Record<Step['stage'], string> = {
  unpack: t`Unpack`,
  display: t`On the display, face down`,
  wall: t`On the wall`,
  hang: t`Hang it`,
  finish: t`Finish`,
};

const schools = [
  ['marking_school', t`Holes are marked`, ['template', 'tape']],
  ['level_school', t`Level`, ['spirit_level', 'laser']],
  ['cables_school', t`Cables`, ['by_outlet', 'before', 'after']],
  ['stand_school', t`Stand off`, ['before', 'after']],
] as const;

/** The step sequence of the pairing on the bench. */
export function StepsSheet() {
  const { inputs, ask, units, canUndo, undo } = useWorkspace();
  const request = useRequest();
  const judged = useJudged();
  const saveJob = useSaveJob(request, judged.data);
  const [editing, setEditing] = useState('');
  const [failed, setFailed] = useState('');
  const [getting, setGetting] = useState('');
  const [lang, setLang] = useLanguage();
  const sequence = useQuery({
    queryKey: ['steps', request, lang],
    gcTime: 20_000,
    enabled: request !== undefined,
    queryFn: ({ signal }) => answer(api.POST('/api/steps', { body: request!, params: { query: { format: 'json', figures: 'yes', lang } }, signal })) as Promise<Schemas['Sequence']>,
    placeholderData: keepPreviousData,
  });
  const get = (format: string) => {
    if (!request || getting) return;
    setFailed('');
    setGetting(format);
    const paper = units === 'in' ? '&paper=letter' : '';
    void download(`/api/steps?format=${format}&lang=${lang}${paper}`, request, `steps.${format}`)
      .catch((e: Error) => setFailed(e.message))
      .finally(() => setGetting(''));
  };
  const lacks = useLacks('edit');
  useCommands(t`Steps`, [
    { key: 'd', does: t`download the pack`, run: () => get('pdf') },
    { key: 'mod+s', does: t`save the job`, run: () => inputs.site?.id && !lacks && !saveJob.isPending && saveJob.mutate({ id: inputs.site.id }) },
    { key: 'x', does: t`when something is wrong`, run: () => document.querySelector<HTMLElement>('[data-pick="symptom"]')?.focus() },
  ]);
  if (!judged.data || !request) return <NoPairing error={judged.error} waiting={judged.isFetching} />;
  const s = sequence.data;
  const inUse = judged.data.policy_in_use;
  const file = (format: string, words: string, title: string, main = false) => (
    <Button
      variant={main ? 'contained' : 'text'}
      color={main ? 'primary' : 'inherit'}
      title={title}
      disabled={!s || (!main && s.steps.length === 0)}
      loading={getting === format}
      onClick={() => get(format)}
    >
      {words}
    </Button>
  );
  return (
    <Page className={`units-${units} prints`}>
      <SheetHead judged={judged.data} state={judged.state}>
        <Choice label={t`Wall`} width={160} value={inputs.wall} options={Object.entries(wallWords).map(([w, name]) => [w, t`on ${name}`])} onPick={(w) => ask((a) => otherWall(a, w as Wall))} />
        <LanguageChoice value={lang} onPick={setLang} />
        {inputs.site && (
          <>
            <Button color="inherit" disabled={!canUndo} onClick={undo} title={t`Undo the last change (z)`}>
              {t`Undo`}
            </Button>
            <Allowed act="edit">
              <Button
                color="inherit"
                disabled={!inputs.site.id}
                loading={saveJob.isPending}
                title={t`Save the job with what was changed of its steps (Ctrl+S)`}
                onClick={() => saveJob.mutate({ id: inputs.site!.id })}
              >
                {t`Save job`}
              </Button>
            </Allowed>
          </>
        )}
        {inputs.site && inputs.siteRevision > 0 && (
          <Button color="inherit" href={at(`/at/${inputs.site.id}?units=${units}&lang=${lang}`)} title={t`A step a screen; once opened it works without a network`}>
            {t`At the wall`}
          </Button>
        )}
        {file('md', t`Markdown`, t`The steps as plain text`)}
        {file('html', t`Telephone`, t`One page to hand over: it works without a network`)}
        {file('zip', 'ZIP', t`All of it in one folder, as a ZIP`)}
        {file('pdf', t`Pack PDF`, t`Cover, parts, steps, measure card and template, on ${units === 'in' ? t`Letter` : 'A4'} (d)`, true)}
      </SheetHead>
      {saveJob.error && inputs.site && <NotSaved save={saveJob} mine={inputs.site} />}
      {failed && <Alert severity="error">{failed}</Alert>}
      {sequence.error && <Refusal error={sequence.error} />}
      {sequence.isLoading && <Skeleton variant="rectangular" height={320} sx={{ maxWidth: 860 }} />}
      {s && s.blocked.length > 0 && (
        <Alert severity="error" role="alert" className="blocked" sx={{ mb: 2.5 }}>
          <b>{t`Do not install.`}</b>
          <ul>
            {s.blocked.map((b) => (
              <li key={b.rule + b.text}>
                {b.text} {b.remedy}
              </li>
            ))}
          </ul>
          {s.steps.length === 0 && t`There are no steps until that is settled.`}
        </Alert>
      )}
      {s && <Conflicts conflicts={s.conflicts} steps={s.steps} />}
      {s && <LeftOut hidden={s.hidden} />}
      {s && s.steps.length > 0 && (
        <Columns className="steps">
          <Sequence s={s} changes={inputs.site?.step_changes ?? none} editing={inputs.site ? editing : ''} onEdit={inputs.site ? setEditing : undefined} />
          <aside>
            <section className="tools" aria-label={t`How it is done`}>
              <Head>{t`How it is done`}</Head>
              <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 156px', gap: '4px 8px', alignItems: 'center', mb: 2 }}>
                {schools.map(([name, label, choices]) => {
                  const standard = inUse[name] ?? choices[0];
                  return [
                    <span key={`${name} is`}>{label}</span>,
                    <Choice
                      key={name}
                      label={label}
                      setting={name}
                      value={inputs.schools[name] ?? standard}
                      changed={Boolean(inputs.schools[name])}
                      options={choices.map((c) => [c, schoolWords[`${name}.${c}`] ?? schoolWords[c] ?? c])}
                      onPick={(to) => ask((a) => ({ schools: withSchool(a.schools, name, to, standard) }))}
                    />,
                  ];
                })}
              </Box>
            </section>
            {inputs.site ? (
              inputs.site.id && inputs.siteRevision > 0 && <Standing subject={{ job: inputs.site.id }} revision={inputs.siteRevision} />
            ) : (
              <Standing subject={{ display: judged.data.display.id, bracket: inputs.bracket, turn_deg: request.turn_deg, wall: inputs.wall }} />
            )}
            <Symptoms symptoms={s.symptoms} />
            {!inputs.site && (
              <Hint>
                <Trans>
                  To change steps, <Go to="/wall">describe the wall</Go>: changes are saved with its job.
                </Trans>
              </Hint>
            )}
            {s.untranslated && (
              <section className="untranslated" aria-label={t`Printed in English`}>
                <Head>{t`Printed in English`}</Head>
                <Hint>
                  <Trans>
                    There are no words for these in {languageWords[lang]}. Those of the bracket are typed in <Go to={`/catalogue/brackets/${inputs.bracket}`}>its editor</Go>.
                  </Trans>
                </Hint>
                <ul>
                  {s.untranslated.map((t) => (
                    <li key={t}>{t}</li>
                  ))}
                </ul>
              </section>
            )}
            <Summary s={s} />
          </aside>
        </Columns>
      )}
    </Page>
  );
}

/** The steps, by stage. A figure stands where it is first needed. */
const none: Schemas['StepChange'][] = [];

interface SequenceProps {
  s: Schemas['Sequence'];
  changes: Schemas['StepChange'][];
  editing: string; // the step that is edited; '' for none
  onEdit?: (id: string) => void; // undefined without a job to keep it in
}

const Sequence = memo(function Sequence({ s, changes, editing, onEdit }: SequenceProps) {
  const names = new Map(s.steps.map((x, i) => [x.id, i + 1]));
  const seen = new Set<string>();
  return (
    <ol className="sequence">
      {s.steps.map((step, i) => {
        const figure = step.figure && !seen.has(step.figure) ? s.figures?.[step.figure] : undefined;
        if (step.figure) seen.add(step.figure);
        const begins = step.stage !== s.steps[i - 1]?.stage;
        return (
          <li key={step.id} data-step={step.id}>
            {begins && (
              <Box sx={{ gridColumn: '1 / -1', ml: '-40px' }}>
                <Head>{stageWords[step.stage]}</Head>
              </Box>
            )}
            <OneStep step={step} number={i + 1} numbers={names} blocked={s.blocked.length > 0} figure={figure} onEdit={onEdit} />
            {editing === step.id && onEdit && <StepEditor step={step} order={s.steps} changes={changes} onClose={() => onEdit('')} />}
          </li>
        );
      })}
    </ol>
  );
});

interface OneProps {
  step: Step;
  number: number;
  numbers: Map<string, number>;
  blocked: boolean;
  figure?: string;
  onEdit?: (id: string) => void;
}

function OneStep({ step, number, numbers, blocked, figure, onEdit }: OneProps) {
  const picture = useRef<HTMLElement>(null);
  const [pointed, setPointed] = useState('');
  useFitted(picture, figure ?? '');
  useEffect(() => lightUp(picture.current, pointed ? [pointed] : []), [pointed, figure]);
  const needs = step.needs.filter((n) => step.id !== 'finish' && numbers.get(n.step) !== undefined);
  return (
    <>
      <Box sx={{ position: 'relative', gridColumn: figure ? undefined : '1 / -1' }}>
        <Box component="span" className="number" aria-hidden="true" sx={{ ml: '-44px', mt: '-8px' }}>
          {number}
        </Box>
        <h3 className="title">{step.title}</h3>
        {step.own && <p className="meta">{t`Of this bracket alone.`}</p>}
        {step.changed && <p className="meta">{t`Changed for this job.`}</p>}
        {step.done && (
          <p className="meta done">
            <Trans>
              Done at the wall, <When at={step.done} />.
            </Trans>
          </p>
        )}
        {blocked && <p className="do-not">{t`Do not install: see above.`}</p>}
        {step.text.map((t) => (
          <p key={t}>{t}</p>
        ))}
        <Photos photos={step.photos} />
        {step.mind.map((line) => (
          <Warn key={line}>{t`Mind: ${line}`}</Warn>
        ))}
        {step.caution && <Warn>{step.caution}</Warn>}
        <Parts parts={step.parts} at={pointed} onPoint={setPointed} />
        {step.check && (
          <p className="check">
            <b>{t`Right when:`}</b> {step.check}
          </p>
        )}
        {step.wrong && (
          <p className="wrong">
            <b>{t`If it goes wrong:`}</b> {step.wrong}
          </p>
        )}
        <p className="meta">
          {t`${plural(step.people, { one: 'One person', other: '# people' })}, about ${step.minutes} min`}
          {step.tools.length > 0 && t`. Tools: ${step.tools.join(', ')}`}
        </p>
        {onEdit && (
          <p className="tools">
            <Press aria-label={t`Change ${step.title}`} onClick={() => onEdit(step.id)}>
              {t`Change`}
            </Press>
          </p>
        )}
        {needs.length > 0 && <p className="needs">{t`After ${needs.map((n) => `${numbers.get(n.step)} (${n.why})`).join('; ')}.`}</p>}
      </Box>
      {figure && (
        <figure
          ref={picture}
          aria-label={t`Figure: ${step.title}`}
          onPointerOver={(e) => setPointed(tagOf(e.target))}
          onPointerLeave={() => setPointed('')}
          dangerouslySetInnerHTML={{ __html: figure }}
        />
      )}
    </>
  );
}

function Summary({ s }: { s: Schemas['Sequence'] }) {
  return (
    <>
      <section className="cautions">
        <Head>{t`Cautions`}</Head>
        {s.cautions.map((c) => (
          <Warn key={c}>{c}</Warn>
        ))}
      </section>
      <Head>{t`People and time`}</Head>
      <p>
        {s.lift?.text} {t`About ${s.minutes} minutes in all.`}
      </p>
      {s.steps.some((x) => x.done) && <p className="ticked">{t`At the wall ${s.steps.filter((x) => x.done).length} of ${s.steps.length} steps are done.`}</p>}
      {s.cables.length > 0 && (
        <>
          <Head>{t`Cables`}</Head>
          <ul className="cables">
            {s.cables.map((c) => (
              <li key={c.zone}>
                {c.name}: {c.text}
              </li>
            ))}
          </ul>
        </>
      )}
      {s.supply.length > 0 && (
        <>
          <Head>{t`To be supplied`}</Head>
          <Parts parts={s.supply} />
        </>
      )}
      <Head>{t`Parts`}</Head>
      <Parts parts={s.parts} />
      <Head>{t`Tools`}</Head>
      <ul>
        {s.tools.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      {s.leftovers.length > 0 && (
        <>
          <Head>{t`Should be left over`}</Head>
          <Hint>{t`Whoever hands these over with the list need not explain them.`}</Hint>
          <Parts parts={s.leftovers} />
        </>
      )}
    </>
  );
}

function Parts({ parts, at, onPoint }: { parts: Schemas['StepPart'][]; at?: string; onPoint?: (tag: string) => void }) {
  if (parts.length === 0) return null;
  return (
    <ul>
      {parts.map((p) => (
        <li
          key={p.name + p.bag + String(p.supplied) + p.tag}
          data-part={p.tag}
          className={at && at === p.tag ? 'at' : undefined}
          onPointerEnter={() => onPoint?.(p.tag ?? '')}
          onPointerLeave={() => onPoint?.('')}
        >
          {p.count} × {p.name}
          {p.supplied ? <b>{t` (supplied)`}</b> : p.bag ? t` (bag ${p.bag})` : ''}
          {p.why && <span className="meta">: {p.why}</span>}
        </li>
      ))}
    </ul>
  );
}
