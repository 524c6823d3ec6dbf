import { t } from '@lingui/core/macro';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { Bracket, Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { FieldError, Hint, Quick } from '../parts/Page';
import { Press, Remove } from '../parts/Press';
import { wallWords } from '../words';
import type { Acts, Editing } from './editing';
import { Field, Line, Lines, Pick } from './Field';
import { useFieldError, useText, useValue } from './fields';

type Step = Schemas['AssemblyStep'];

const stages: [Step['stage'], string][] = [
  ['unpack', t`while unpacking`],
  ['display', t`on the display, face down`],
  ['wall', t`on the wall`],
  ['hang', t`as it hangs`],
  ['finish', t`at the end`],
];

// What an own step can wait for beside the others of its own: the steps of every installation.
const everyones = [
  'unpack',
  'facedown',
  'settings',
  'try',
  'bolt',
  'caps',
  'snap',
  'offsets',
  'find',
  'prove',
  'mark',
  'drill',
  'plugs',
  'plate',
  'pull',
  'cables',
  'lift',
  'lock',
  'level',
  'tension',
];

const figures = '{bolt} {gap} {turns} {spacer} {top_holes} {pattern} {profile} {reach} {wall_gap} {lift_over} {height_adjust} {tilt_down} {tilt_up} {swivel} {mass} {people} {depth} {fastener}';

/** The steps that only this bracket has. They take their place among those of every installation. */
export function Assembly({ edit }: { edit: Editing<Bracket> }) {
  const doc = edit.doc!;
  const list = doc.assembly ?? [];
  /** Two steps change places: i and the one before it. */
  const swap = (i: number) => edit.acts.change(t`assembly ${i}`, [`assembly[${i - 1}]`, list[i]], [`assembly[${i}]`, list[i - 1]]);
  const free = () => {
    let n = list.length + 1;
    while (list.some((s) => s.id === `own_${n}`)) n++;
    return `own_${n}`;
  };
  return (
    <>
      <Hint>{t`What only this mount has: a slide lock, clips, a cable channel. Figures of the pairing stand in braces: ${figures}.`}</Hint>
      {list.map((s, i) => (
        <Accordion key={i} className="own-step" defaultExpanded={s.title === ''} slotProps={{ transition: { unmountOnExit: true, timeout: 0 } }}>
          <AccordionSummary expandIcon="▾">
            {s.title || t`A step without a title`}
            <Box component="span" sx={{ ml: 2, fontWeight: 400, color: 'text.secondary' }}>
              {stages.find(([of]) => of === s.stage)?.[1]}
            </Box>
            {Object.keys(edit.errors).some((p) => p.startsWith(`assembly[${i}]`)) && (
              <Box component="span" sx={{ ml: 2, color: 'error.main', fontWeight: 400 }}>
                {t`cannot be saved yet`}
              </Box>
            )}
          </AccordionSummary>
          <AccordionDetails>
            <OwnStep edit={edit} at={`assembly[${i}]`} step={s} others={list.filter((o) => o.id !== s.id).map((o) => o.id)} n={i + 1} />
            <Quick>
              <Press disabled={i === 0} onClick={() => swap(i)}>
                {t`Earlier`}
              </Press>
              <Press disabled={i === list.length - 1} onClick={() => swap(i + 1)}>
                {t`Later`}
              </Press>
              <Press onClick={() => edit.acts.set(`assembly[${i}]`, null)}>{t`Take this step out`}</Press>
            </Quick>
          </AccordionDetails>
        </Accordion>
      ))}
      <Quick>
        <Press onClick={() => edit.acts.set(`assembly[${list.length}]`, { id: free(), stage: 'display', title: '', text: '', after: ['bolt'] })}>{t`Add a step`}</Press>
      </Quick>
    </>
  );
}

interface OwnProps {
  edit: Editing<Bracket>;
  at: string;
  step: Step;
  others: string[];
  n: number;
}

function OwnStep({ edit, at, step, others, n }: OwnProps) {
  const doc = edit.doc!;
  const of = edit.acts;
  const change = (path: string, value: unknown) => of.set(`${at}.${path}`, value);
  const words = (path: string, label: string, rows: number) => <Words of={of} path={`${at}.${path}`} label={label} rows={rows} n={n} />;
  const parts = step.parts ?? [];
  const plain = (doc.kit ?? []).filter((k) => k.kind === 'part' && k.name);
  const after = (useValue(of, `${at}.after`) ?? []) as string[];
  const listed = (path: string, list: unknown[]) => change(path, list.length > 0 ? list : null);
  const when = (useValue(of, `${at}.when`) ?? {}) as NonNullable<Step['when']>;
  const fielded = new Set(['title', 'text', 'check', 'caution', 'minutes', 'when.depth_below_mm', 'when.depth_at_or_above_mm'].map((f) => `${at}.${f}`));
  const wrong = Object.entries(edit.errors).filter(([path]) => path.startsWith(at) && !fielded.has(path));
  return (
    <>
      {words('title', t`Title`, 1)}
      {words('text', t`What is done`, 2)}
      {words('check', t`Right when`, 1)}
      {words('caution', t`Caution`, 1)}
      <Lines sx={{ mt: 2 }}>
        <Line label={t`When`} wide>
          <Pick of={of} path={`${at}.stage`} label={t`Stage of step ${n}`} options={stages} />
        </Line>
        <Line label={t`After`} wide>
          {after.map((id, i) => (
            <Box component="span" key={id} sx={{ mr: 2 }}>
              {id}{' '}
              <Remove
                what={t`after ${id}, step ${n}`}
                act={() =>
                  listed(
                    'after',
                    after.filter((_, k) => k !== i),
                  )
                }
              />
            </Box>
          ))}
          <Choice
            label={t`Step ${n} waits for`}
            value=""
            options={[['', t`add a step it waits for…`], ...[...others, ...everyones].filter((id) => !after.includes(id)).map((id) => [id, id] as const)]}
            onPick={(id) => id && listed('after', [...after, id])}
          />
        </Line>
        <Line label={t`Parts`} wide>
          {parts.map((p, i) => (
            <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr 62px 30px', gap: 1, alignItems: 'center' }}>
              <span>
                {p.name}
                {p.bag ? t`, bag ${p.bag}` : ''}
              </span>
              <Field of={edit.acts} path={`${at}.parts[${i}].count`} label={t`Count of ${p.name}, step ${n}`} step={1} />
              <Remove
                what={t`${p.name}, step ${n}`}
                act={() =>
                  listed(
                    'parts',
                    parts.filter((_, k) => k !== i),
                  )
                }
              />
            </Box>
          ))}
          <Choice
            label={t`Parts of step ${n}`}
            value=""
            options={[['', plain.length > 0 ? t`add a part of the kit…` : t`no plain parts in the kit`], ...plain.map((k, i) => [String(i), `${k.name}${k.bag ? t`, bag ${k.bag}` : ''}`] as const)]}
            onPick={(i) => {
              const k = plain[Number(i)];
              if (i && k) listed('parts', [...parts, { name: k.name!, bag: k.bag, count: k.count }]);
            }}
          />
        </Line>
        <Line label={t`Only on`} wide>
          <Choice
            label={t`Wall of step ${n}`}
            value={when.wall?.[0] ?? ''}
            options={[['', t`every wall`], ...Object.entries(wallWords)]}
            onPick={(to) => change('when', tidy({ ...when, wall: to ? [to] : undefined }))}
          />
        </Line>
        <Line label={t`Spacers`} wide>
          <Choice
            label={t`Spacers of step ${n}`}
            value={when.spacers === undefined ? '' : String(when.spacers)}
            options={[
              ['', t`either way`],
              ['true', t`only where there are some`],
              ['false', t`only where there are none`],
            ]}
            onPick={(to) => change('when', tidy({ ...when, spacers: to === '' ? undefined : to === 'true' }))}
          />
        </Line>
        <Line label={t`Displays less deep than`}>
          <Field of={edit.acts} path={`${at}.when.depth_below_mm`} label={t`Depth below, step ${n}`} placeholder={t`any`} />
        </Line>
        <Line label={t`Minutes`}>
          <Field of={edit.acts} path={`${at}.minutes`} label={t`Minutes of step ${n}`} step={1} placeholder="2" />
        </Line>
      </Lines>
      {wrong.map(([path, text]) => (
        <FieldError key={path}>
          {path.slice(at.length + 1)}: {text}
        </FieldError>
      ))}
    </>
  );
}

/** A text of an own step. */
function Words({ of, path, label, rows, n }: { of: Acts; path: string; label: string; rows: number; n: number }) {
  const wrong = useFieldError(of, path);
  return (
    <Box component="label" sx={{ display: 'block', mt: 1.5, color: 'text.secondary' }}>
      {label}
      <TextField
        multiline
        minRows={rows}
        fullWidth
        size="small"
        value={useText(of, path, true)}
        error={Boolean(wrong)}
        helperText={wrong}
        onChange={(e) => of.type(path, e.target.value.replaceAll('\n', ' '))}
        slotProps={{ htmlInput: { 'data-path': path, 'aria-label': t`${label}, step ${n}` } }}
      />
    </Box>
  );
}

/** A condition without what is not said; none where nothing is. */
function tidy(when: Record<string, unknown>): unknown {
  const said = Object.entries(when).filter(([, value]) => value !== undefined);
  return said.length > 0 ? Object.fromEntries(said) : null;
}
