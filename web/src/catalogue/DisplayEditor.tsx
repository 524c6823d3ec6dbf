import { plural, t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import { useCallback, useEffect, useState } from 'react';
import { useLocation, useParams } from 'react-router';
import type { Display } from '../api';
import { Head, Hint, Quick } from '../parts/Page';
import { Press } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { useWorkspace } from '../state/workspace';
import { threads } from '../state/inputs';
import { figureName } from '../words';
import { Editable } from './Editable';
import { useEditing, type Acts, type Editing } from './editing';
import { useValue } from './fields';
import { Columns, EditorFrame, Effects, Section } from './EditorFrame';
import { Field, Line, Lines, Origin, Pick } from './Field';
import { GaugePanel } from './GaugePanel';
import { who } from './who';

const main = [
  ['diagonal_mm', t`Diagonal`],
  ['width_mm', t`Width`],
  ['height_mm', t`Height`],
  ['depth_mm', t`Depth`],
  ['rest_plane_from_front_mm', t`Rest plane from the front`],
  ['mass_kg', t`Mass without stand`],
  ['mass_with_stand_kg', t`Mass with stand`],
  ['cg_right_mm', t`Weight right of the middle`],
  ['cg_above_center_mm', t`Weight above the middle`],
] as const;
const along = [
  ['thread_depth_mm', t`Thread depth`, t({ message: 'thread', context: 'a column' })],
  ['setback_mm', t`Rim offset`, t({ message: 'rim offset', context: 'a column' })],
  ['recess_mm', t`Recess depth`, t({ message: 'recess', context: 'a column' })],
  ['recess_diameter_mm', t`Recess Ø`, t({ message: 'recess Ø', context: 'a column' })],
] as const;

/** A display as a drawing of its back, its figures beside it. */
export function DisplayEditor() {
  const { id = '' } = useParams();
  return <Editor key={id} id={id} />;
}

type FieldOf = (path: string, label: string, more?: { words?: boolean; bare?: boolean; placeholder?: string }) => React.ReactNode;

/** A note of today, by whoever sits here. */
const noted = (text: string) => ({ text, date: new Date().toISOString().slice(0, 10), ...(who() ? { who: who() } : {}) });

function Editor({ id }: { id: string }) {
  const edit = useEditing<Display>('displays', id, 'display');
  const [at, setAt] = useState(''); // the figure that has the keyboard
  const doc = edit.doc;
  const wanted = decodeURIComponent(useLocation().hash.slice(1)); // the figure to begin with
  const there = doc !== undefined;
  useEffect(() => {
    if (there && wanted) document.querySelector<HTMLElement>(`[data-path=${JSON.stringify(wanted)}]`)?.focus();
  }, [there, wanted]);
  const title = doc ? `${doc.maker ?? ''} ${doc.model ?? doc.id}`.trim() : id;
  const of = edit.acts;
  const take = (text: string) => {
    if (/_(mm|kg)$/.test(at)) of.change(t`gauge ${at}`, [at, text], [`origins.${at}`, 'bench'], [`notes.${at}`, noted(t`bench gauge`)]);
  };
  const field: FieldOf = (path, label, more) => <Field of={of} path={path} label={label} onAt={setAt} {...more} />;
  return (
    <EditorFrame edit={edit} kind="displays" id={id} title={title}>
      {doc && (
        <Columns className="editor">
          <Back edit={edit} at={at} />
          <div className="figures">
            <Section title={t`The display`}>
              <Lines>
                <Line label={t`Maker`} wide>
                  {field('maker', 'maker', { words: true })}
                </Line>
                <Line label={t`Model`} wide>
                  {field('model', 'model', { words: true })}
                </Line>
                <Line label={t`Other names`} wide>
                  <Aliases of={of} />
                </Line>
                {main.map(([path, label]) => (
                  <Line key={path} label={label} beside={<Origin of={of} path={path} label={label} />}>
                    {field(path, label, { placeholder: '?' })}
                  </Line>
                ))}
                <Line label={t`Figures are`} beside={<Origin of={of} label={t`All figures`} />}>
                  {null}
                </Line>
              </Lines>
            </Section>
            {(doc.patterns ?? []).map((p, i) => (
              <Pattern key={i} of={of} index={i} field={field} holes={p.holes?.map((h) => h.id)} />
            ))}
            {(doc.zones ?? []).length > 0 && (
              <Section title={t`Zones: ${doc.zones!.length}`}>
                {doc.zones!.map((z, i) => (
                  <Zone key={i} of={of} index={i} kind={z.kind} field={field} />
                ))}
              </Section>
            )}
            <Quick>
              <Press onClick={() => of.set(`patterns[${doc.patterns?.length ?? 0}]`, { width_mm: 200, height_mm: 200, rows: { top: {}, bottom: {} } })}>{t`Add a hole pattern`}</Press>
              <Press data-path="zones" onClick={() => of.set(`zones[${doc.zones?.length ?? 0}]`, { kind: 'port', x_mm: 0, y_mm: 0, width_mm: 60, height_mm: 40 })}>
                {t`Add a zone`}
              </Press>
            </Quick>
            {doc.notes && Object.keys(doc.notes).length > 0 && (
              <Section title={t`Notes`}>
                <Box component="ul" sx={{ m: 0, pl: 4.5 }}>
                  {Object.entries(doc.notes).map(([path, n]) => (
                    <li key={path}>
                      {figureName(path)}: {[n.text, n.date, n.who].filter(Boolean).join(', ')}
                    </li>
                  ))}
                </Box>
              </Section>
            )}
          </div>
          <div className="beside">
            <Effects edit={edit} />
            <NoteOn of={of} at={at} />
            <GaugePanel at={at} take={take} />
            <Worth edit={edit} />
          </div>
        </Columns>
      )}
    </EditorFrame>
  );
}

/** The other names of a display, with commas between. */
function Aliases({ of }: { of: Acts }) {
  const names = (useValue(of, 'aliases') ?? []) as string[];
  const type = (text: string) => of.set('aliases', text === '' ? null : text.split(',').map((x) => x.trimStart()));
  return <QuantityInput label={t`Other names, with commas between`} words text={names.join(', ')} onText={type} />;
}

/** A note beside the figure that has the keyboard: how it was come by. */
function NoteOn({ of, at }: { of: Acts; at: string }) {
  const figure = /_(mm|kg)$/.test(at) ? at : '';
  const note = useValue(of, `notes.${figure}`) as { text: string; date?: string; who?: string } | null | undefined;
  const write = (text: string) => of.set(`notes.${figure}`, text === '' ? null : noted(text));
  return (
    <section aria-label={t`Note`}>
      <Head>{figure ? t`Note on the ${figureName(figure)}` : t`Note`}</Head>
      {figure ? (
        <>
          <QuantityInput label={t`Note on ${figure}`} words placeholder={t`how it was come by`} maxLength={400} text={note?.text ?? ''} onText={write} />
          {note && <Hint>{[note.date, note.who].filter(Boolean).join(', ')}</Hint>}
        </>
      ) : (
        <Hint>{t`Select a field first.`}</Hint>
      )}
    </section>
  );
}

interface PatternProps {
  of: Acts;
  index: number;
  field: FieldOf;
  holes?: string[];
}

function Pattern({ of, index, field, holes }: PatternProps) {
  const { units } = useWorkspace();
  const at = `patterns[${index}]`;
  const rows = holes
    ? holes.map((h, i) => [`${at}.holes[${i}]`, h] as const)
    : ([
        [`${at}.rows.top`, t`Top`],
        [`${at}.rows.bottom`, t`Bottom`],
      ] as const);
  return (
    <Section title={t`Hole pattern ${index + 1}`}>
      <Lines>
        <Line label={t`Pattern width`}>{field(`${at}.width_mm`, t`Pattern width`)}</Line>
        <Line label={t`Pattern height`}>{field(`${at}.height_mm`, t`Pattern height`)}</Line>
        <Line label={t`Thread`}>
          <Pick of={of} path={`${at}.thread`} label={t`Thread`} options={[['', t`not known`], ...threads.map((t) => [t, t] as const)]} />
        </Line>
        <Line label={t`Centre below the top`}>{field(`${at}.center_below_top_mm`, t`Centre below the top`, { placeholder: '?' })}</Line>
      </Lines>
      <Box
        className="holes"
        sx={{
          display: 'grid',
          gridTemplateColumns: '46px repeat(4, minmax(0, 1fr)) 112px',
          gap: '4px 5px',
          alignItems: 'center',
          mt: 1.5,
          '& > span': { color: 'text.secondary', lineHeight: 1.1, fontSize: 12.5 },
          '& .MuiInputBase-root': { fontSize: 14 },
        }}
      >
        <span>{units}</span>
        {along.map(([n, label, word]) => (
          <span key={n} title={label}>
            {word}
          </span>
        ))}
        <span>{t({ message: 'depth from', context: 'a column' })}</span>
        {rows.map(([path, name]) => [
          <span key={path}>{name}</span>,
          ...along.map(([n, , word]) => <div key={path + n}>{field(`${path}.${n}`, `${name}: ${word}`, { bare: true, placeholder: '?' })}</div>),
          <Origin key={`${path} from`} of={of} path={`${path}.thread_depth_mm`} label={t`${name}: thread depth`} always />,
        ])}
      </Box>
      <Press onClick={() => of.set(at, null)}>{t`Take the pattern out`}</Press>
    </Section>
  );
}

/** What is measured of a zone, by its kind. */
const zoneFigures: Record<string, [string, string][]> = {
  port: [
    ['plug_mm', t`Plug stands out`],
    ['setback_mm', t`Socket lies in by`],
    ['cable_bend_mm', t`Cable needs behind it`],
  ],
  vent: [['clear_mm', t`Air it needs behind it`]],
  label: [],
  protrusion: [['out_mm', t`Stands out`]],
  pocket: [['depth_mm', t`Pocket depth`]],
};

function Zone({ of, index, kind, field }: { of: Acts; index: number; kind: string; field: FieldOf }) {
  const at = `zones[${index}]`;
  return (
    <Box sx={{ borderTop: index > 0 ? 1 : 0, borderColor: 'divider', py: 1 }}>
      <Lines>
        <Line label={t`Zone ${index + 1}`} beside={<Press onClick={() => of.set(at, null)}>{t`Take out`}</Press>}>
          <Pick of={of} path={`${at}.kind`} label={t`Kind of zone ${index + 1}`} options={['port', 'vent', 'label', 'protrusion', 'pocket'].map((k) => [k, k] as const)} />
        </Line>
        <Line label={t`Width and height`} beside={field(`${at}.height_mm`, t`Zone height`)}>
          {field(`${at}.width_mm`, t`Zone width`)}
        </Line>
        <Line label={t`Right of and above the centre`} beside={field(`${at}.y_mm`, t`Zone above the centre`)}>
          {field(`${at}.x_mm`, t`Zone right of the centre`)}
        </Line>
        {zoneFigures[kind]!.map(([name, label]) => (
          <Line key={name} label={label}>
            {field(`${at}.${name}`, label, { placeholder: '?' })}
          </Line>
        ))}
      </Lines>
    </Box>
  );
}

/** The back, drawn by the server. */
function Back({ edit, at }: { edit: Editing<Display>; at: string }) {
  const { doc } = edit;
  const { change, value } = edit.acts;
  const zones = {
    place: (n: number): [number, number] => [Number(value(`zones[${n}].x_mm`) ?? 0), Number(value(`zones[${n}].y_mm`) ?? 0)],
    move: (n: number, x: number, y: number) => change(t`move zone ${n}`, [`zones[${n}].x_mm`, x], [`zones[${n}].y_mm`, y]),
  };
  const figureOf = useCallback((tag: string) => figureOn(doc!, tag), [doc]);
  return (
    <Editable
      of={edit.acts}
      svg={edit.drawn?.picture ?? ''}
      title={t`Back of the display`}
      caption={t`From behind. Press a dimension or a hole and type its figure; drag a zone, or move it with the arrow keys.`}
      at={at}
      figureOf={figureOf}
      tagFor={tagFor}
      zones={zones}
    />
  );
}

/** The figure that a part of the back shows. */
function figureOn(doc: Display, tag: string): [string, string] | undefined {
  const [what, n, third] = tag.split('.');
  if (tag === 'outline.width' || tag === 'outline') return ['width_mm', t`Width`];
  if (tag === 'outline.height') return ['height_mm', t`Height`];
  if (what === 'pattern') return third === 'height' ? [`patterns[${n}].height_mm`, t`Pattern height`] : [`patterns[${n}].width_mm`, t`Pattern width`];
  if (what !== 'hole') return undefined;
  const own = doc.patterns?.[Number(n)]?.holes?.findIndex((h) => h.id === third) ?? -1;
  const row = third?.startsWith('T') ? 'top' : 'bottom';
  return [`patterns[${n}].${own >= 0 ? `holes[${own}]` : `rows.${row}`}.thread_depth_mm`, t`Thread depth, ${own >= 0 ? third! : row === 'top' ? t`top` : t`bottom`}`];
}

function tagFor(path: string): string {
  const pattern = /^patterns\[(\d+)\]\.(width|height)/.exec(path);
  if (pattern) return `pattern.${pattern[1]}.${pattern[2]}`;
  const hole = /^patterns\[(\d+)\]\.(rows|holes)/.exec(path);
  if (hole) return `hole.${hole[1]}`;
  const zone = /^zones\[(\d+)\]/.exec(path);
  if (zone) return `zone.${zone[1]}`;
  return { width_mm: 'outline.width', height_mm: 'outline.height' }[path] ?? '';
}

/** Figures that would settle most pairings. */
function Worth({ edit }: { edit: Editing<Display> }) {
  const worth = edit.drawn?.priorities ?? [];
  return (
    <section aria-label={t`Worth measuring`}>
      <Head>{t`Worth measuring`}</Head>
      {edit.drawn?.not_tried && <Hint>{edit.drawn.not_tried}</Hint>}
      {worth.length === 0 && !edit.drawn?.not_tried && <Hint>{t`Nothing that is measured better would settle a pairing.`}</Hint>}
      <Box component="ul" sx={{ my: 1, pl: 4.5 }}>
        {worth.slice(0, 6).map((w) => (
          <li key={w.figure + w.holes.join()}>
            {figureName(w.figure)}
            {w.holes.length > 0 && t` at ${w.holes.join(', ')}`}:{' '}
            {w.known
              ? plural(w.pairings, { one: 'would clear up # pairing', other: 'would clear up # pairings' })
              : plural(w.pairings, { one: 'keeps open # pairing', other: 'keeps open # pairings' })}
          </li>
        ))}
      </Box>
    </section>
  );
}
