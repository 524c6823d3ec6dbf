import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import type { Display } from '../api';
import { useFitted } from '../parts/Drawing';
import { EditorFrame } from './EditorFrame';
import { get, put, useEditing, type Editing } from './editing';
import { Field } from './Field';
import { GaugePanel } from './GaugePanel';
import { who } from './who';

const main = [
  ['diagonal_mm', 'Diagonal'],
  ['width_mm', 'Width'],
  ['height_mm', 'Height'],
  ['depth_mm', 'Depth'],
  ['rest_plane_from_front_mm', 'Rest plane from the front'],
  ['mass_kg', 'Mass without stand'],
  ['mass_with_stand_kg', 'Mass with stand'],
] as const;
const along = [
  ['thread_depth_mm', 'thread'],
  ['setback_mm', 'rim offset'],
  ['recess_mm', 'recess'],
  ['recess_diameter_mm', 'recess Ø'],
] as const;

/** A display as a drawing of its back, its figures beside it. */
export function DisplayEditor() {
  const { id = '' } = useParams();
  return <Editor key={id} id={id} />;
}

function Editor({ id }: { id: string }) {
  const edit = useEditing<Display>('displays', id, 'display');
  const [at, setAt] = useState(''); // the figure that has the keyboard
  const doc = edit.doc;
  const title = doc ? `${doc.maker ?? ''} ${doc.model ?? doc.id}`.trim() : id;
  const origin = (path: string) => doc?.origins?.[path] ?? doc?.origin ?? 'sheet';
  const setOrigin = (path: string, o: string) => {
    if (!doc) return;
    const origins = { ...doc.origins, [path]: o } as NonNullable<Display['origins']>;
    if (o === (doc.origin ?? 'sheet')) delete origins[path];
    edit.change('origins.' + path, { ...doc, origins });
  };
  const take = (text: string) => {
    if (!doc || at === '') return;
    const path = at;
    const unit = /_(mm|kg)$/.exec(path)?.[1];
    if (!unit) return;
    let next = put(put(doc, path, undefined), path.replace(/_(mm|kg)$/, ''), text);
    next = { ...next, origins: { ...next.origins, [path]: 'bench' }, notes: { ...next.notes, [path]: { text: 'bench gauge', date: new Date().toISOString().slice(0, 10), ...(who() ? { who: who() } : {}) } } };
    edit.change('gauge ' + path, next);
  };
  const field = (path: string, label: string, more?: { words?: boolean; width?: number; placeholder?: string }) => <Field edit={edit} path={path} label={label} onFocus={() => setAt(path)} {...more} />;
  return (
    <EditorFrame edit={edit} kind="displays" id={id} title={title}>
      {doc && (
        <div className="editor">
          <Back edit={edit} />
          <div className="figures">
            <table className="pull">
              <tbody>
                {(['maker', 'model'] as const).map((n) => (
                  <tr key={n}>
                    <th scope="row">{n === 'maker' ? 'Maker' : 'Model'}</th>
                    <td colSpan={2}>{field(n, n, { words: true, width: 200 })}</td>
                  </tr>
                ))}
                <tr>
                  <th scope="row">Other names</th>
                  <td colSpan={2}>
                    <input
                      className="figure-field words"
                      style={{ width: 200 }}
                      aria-label="Other names, with commas between"
                      value={(doc.aliases ?? []).join(', ')}
                      onChange={(e) => edit.change('aliases', put(doc, 'aliases', e.target.value === '' ? undefined : e.target.value.split(',').map((x) => x.trimStart())))}
                    />
                  </td>
                </tr>
                {main.map(([path, label]) => (
                  <tr key={path}>
                    <th scope="row">{label}</th>
                    <td>{field(path, label, { placeholder: '?' })}</td>
                    <td>{(edit.figure(path).number ?? edit.figure(path).typed) !== undefined && <Origin value={origin(path)} label={label} set={(o) => setOrigin(path, o)} />}</td>
                  </tr>
                ))}
                <tr>
                  <th scope="row">Figures from</th>
                  <td colSpan={2}>
                    <Origin value={doc.origin ?? 'sheet'} label="All figures" set={(o) => edit.change('origin', put(doc, 'origin', o === 'sheet' ? undefined : o))} />
                  </td>
                </tr>
              </tbody>
            </table>
            {(doc.patterns ?? []).map((p, i) => (
              <Pattern key={i} edit={edit} index={i} field={field} origin={origin} setOrigin={setOrigin} holes={p.holes?.map((h) => h.id)} />
            ))}
            <p>
              <button
                type="button"
                className="press"
                onClick={() => edit.change('patterns+', { ...doc, patterns: [...(doc.patterns ?? []), { width_mm: 200, height_mm: 200, rows: { top: {}, bottom: {} } }] })}
              >
                Add a hole pattern
              </button>{' '}
              <button type="button" className="press" onClick={() => edit.change('zones+', { ...doc, zones: [...(doc.zones ?? []), { kind: 'port', x_mm: 0, y_mm: 0, width_mm: 60, height_mm: 40 }] })}>
                Add a zone
              </button>
            </p>
            {(doc.zones ?? []).map((z, i) => (
              <Zone key={i} edit={edit} index={i} kind={z.kind} field={field} />
            ))}
            {doc.notes && Object.keys(doc.notes).length > 0 && (
              <>
                <h2>Notes</h2>
                <ul>
                  {Object.entries(doc.notes).map(([path, n]) => (
                    <li key={path}>
                      {path}: {[n.text, n.date, n.who].filter(Boolean).join(', ')}
                    </li>
                  ))}
                </ul>
              </>
            )}
          </div>
          <div className="beside-figures">
            <NoteOn edit={edit} at={at} />
            <GaugePanel at={at} take={take} />
            <Worth edit={edit} />
          </div>
        </div>
      )}
    </EditorFrame>
  );
}

/** A note beside the figure that has the keyboard: how it was come by. */
function NoteOn({ edit, at }: { edit: Editing<Display>; at: string }) {
  const doc = edit.doc!;
  const figure = /_(mm|kg)$/.test(at) ? at : '';
  const note = figure ? doc.notes?.[figure] : undefined;
  const write = (text: string) => {
    const notes = { ...doc.notes, [figure]: { text, date: new Date().toISOString().slice(0, 10), ...(who() ? { who: who() } : {}) } };
    if (text === '') delete notes[figure];
    edit.change('note ' + figure, { ...doc, notes });
  };
  return (
    <section aria-label="Note">
      <h2>Note{figure && ` on ${figure}`}</h2>
      {figure ? (
        <>
          <input className="figure-field words" aria-label={`Note on ${figure}`} placeholder="how it was come by" maxLength={400} value={note?.text ?? ''} onChange={(e) => write(e.target.value)} />
          {note && <p className="hint">{[note.date, note.who].filter(Boolean).join(', ')}</p>}
        </>
      ) : (
        <p className="hint">Put the keyboard on a figure.</p>
      )}
    </section>
  );
}

function Origin({ value, label, set }: { value: string; label: string; set: (o: string) => void }) {
  return (
    <select className="figure-field words origin" aria-label={`Origin of ${label}`} value={value} onChange={(e) => set(e.target.value)}>
      <option value="bench">measured</option>
      <option value="sheet">data sheet</option>
      <option value="caller">caller</option>
    </select>
  );
}

type FieldOf = (path: string, label: string, more?: { words?: boolean; width?: number; placeholder?: string }) => React.ReactNode;

function Pattern({ edit, index, field, origin, setOrigin, holes }: { edit: Editing<Display>; index: number; field: FieldOf; origin: (p: string) => string; setOrigin: (p: string, o: string) => void; holes?: string[] }) {
  const at = `patterns[${index}]`;
  const rows = holes ? holes.map((h, i) => [`${at}.holes[${i}]`, h] as const) : ([[`${at}.rows.top`, 'Top'], [`${at}.rows.bottom`, 'Bottom']] as const);
  const doc = edit.doc!;
  return (
    <>
      <h2>
        Hole pattern {index + 1}{' '}
        <button type="button" className="press" onClick={() => edit.change(`${at}-`, { ...doc, patterns: doc.patterns!.filter((_, i) => i !== index) })}>
          Take out
        </button>
      </h2>
      <p className="line">
        {field(`${at}.width_mm`, 'Pattern width', { width: 62 })} × {field(`${at}.height_mm`, 'Pattern height', { width: 62 })}{' '}
        <select className="figure-field words" style={{ width: 90 }} aria-label="Thread" value={String(get(doc, `${at}.thread`) ?? '')} onChange={(e) => edit.change(`${at}.thread`, put(doc, `${at}.thread`, e.target.value || undefined))}>
          <option value="">thread ?</option>
          {['M4', 'M5', 'M6', 'M8'].map((t) => (
            <option key={t}>{t}</option>
          ))}
        </select>
        , centre {field(`${at}.center_below_top_mm`, 'Centre below the top', { width: 70, placeholder: '?' })} below the top
      </p>
      <table className="pull holes">
        <thead>
          <tr>
            <th />
            {along.map(([n, word]) => (
              <th key={n} scope="col">
                {word}
              </th>
            ))}
            <th scope="col">depth from</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([path, name]) => (
            <tr key={path}>
              <th scope="row">{name}</th>
              {along.map(([n, word]) => (
                <td key={n}>{field(`${path}.${n}`, `${name}: ${word}`, { width: 58, placeholder: n === 'thread_depth_mm' ? '?' : '0' })}</td>
              ))}
              <td>
                <Origin value={origin(`${path}.thread_depth_mm`)} label={`${name}: thread depth`} set={(o) => setOrigin(`${path}.thread_depth_mm`, o)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Zone({ edit, index, kind, field }: { edit: Editing<Display>; index: number; kind: string; field: FieldOf }) {
  const at = `zones[${index}]`;
  const doc = edit.doc!;
  return (
    <p className="line zone-line">
      <select className="figure-field words" style={{ width: 100 }} aria-label={`Kind of zone ${index + 1}`} value={kind} onChange={(e) => edit.change(`${at}.kind`, put(doc, `${at}.kind`, e.target.value))}>
        {['port', 'vent', 'label', 'protrusion'].map((k) => (
          <option key={k}>{k}</option>
        ))}
      </select>{' '}
      {field(`${at}.width_mm`, 'Zone width', { width: 54 })} × {field(`${at}.height_mm`, 'Zone height', { width: 54 })} at {field(`${at}.x_mm`, 'Zone right of the centre', { width: 58 })},{' '}
      {field(`${at}.y_mm`, 'Zone above the centre', { width: 58 })}
      {kind === 'protrusion' ? <> out {field(`${at}.out_mm`, 'Stands out', { width: 50, placeholder: '?' })}</> : <> plug {field(`${at}.plug_mm`, 'Plug stands out', { width: 50, placeholder: '–' })}</>}{' '}
      <button type="button" className="press" onClick={() => edit.change(`${at}-`, { ...doc, zones: doc.zones!.filter((_, i) => i !== index) })}>
        Take out
      </button>
    </p>
  );
}

/** The back, drawn by the server; zones are dragged, or nudged by key. */
function Back({ edit }: { edit: Editing<Display> }) {
  const box = useRef<HTMLDivElement>(null);
  const drag = useRef<{ zone: number; x: number; y: number; px: number; py: number; scale: number } | null>(null);
  const svg = edit.drawn.data?.picture ?? '';
  const held = useRef(''); // tag of the zone that has the keyboard
  // Each zone takes the keyboard, one stop for all its parts.
  useEffect(() => {
    const seen = new Set<string>();
    box.current?.querySelector('svg')?.setAttribute('role', 'group'); // a picture has no parts that take the keyboard
    box.current?.querySelectorAll('[data-tag^="zone."]').forEach((part) => {
      const tag = part.getAttribute('data-tag')!;
      if (seen.has(tag)) return;
      seen.add(tag);
      part.setAttribute('tabindex', '0');
      part.setAttribute('role', 'button');
      part.setAttribute('aria-label', `Zone ${Number(tag.slice(5)) + 1}: drag it, or move it with the arrow keys`);
      // A new picture has no memory of it, unless something else has taken the keyboard.
      if (tag === held.current && document.activeElement === document.body) (part as SVGElement).focus({ preventScroll: true });
    });
  }, [svg]);
  useFitted(box, svg);
  const zoneOf = (e: { target: EventTarget }) => {
    const tag = (e.target as Element).closest?.('[data-tag^="zone."]')?.getAttribute('data-tag');
    return tag ? Number(tag.slice(5)) : undefined;
  };
  const move = (zone: number, x: number, y: number) => {
    if (edit.doc) edit.change(`move zone ${zone}`, put(put(edit.doc, `zones[${zone}].x_mm`, x), `zones[${zone}].y_mm`, y));
  };
  const place = (zone: number): [number, number] => [Number(get(edit.doc, `zones[${zone}].x_mm`) ?? 0), Number(get(edit.doc, `zones[${zone}].y_mm`) ?? 0)];
  return (
    <figure className="drawing" aria-label="Back of the display">
      <figcaption>Back of the display, from behind. Press a part to go to its figure; drag a zone, or move it with the arrow keys.</figcaption>
      <div
        ref={box}
        onPointerDown={(e) => {
          const zone = zoneOf(e);
          const picture = box.current?.querySelector('svg');
          if (zone === undefined || !picture) return;
          const [x, y] = place(zone);
          drag.current = { zone, x, y, px: e.clientX, py: e.clientY, scale: picture.viewBox.baseVal.width / picture.getBoundingClientRect().width };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d || e.buttons !== 1) return;
          // Seen from behind: to the right on the screen is to the left.
          move(d.zone, Math.round(d.x - (e.clientX - d.px) * d.scale), Math.round(d.y - (e.clientY - d.py) * d.scale));
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onClick={(e) => goTo((e.target as Element).closest('[data-tag]')?.getAttribute('data-tag') ?? '')}
        onKeyDown={(e) => {
          const zone = zoneOf(e);
          const step = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
          if (zone === undefined || !step) return;
          e.preventDefault();
          const [x, y] = place(zone);
          const by = e.shiftKey ? 10 : 1;
          move(zone, x + step[0]! * by, y + step[1]! * by);
        }}
        onFocus={(e) => {
          const zone = zoneOf(e);
          held.current = zone === undefined ? '' : `zone.${zone}`;
        }}
        onBlur={(e) => {
          if (e.relatedTarget) held.current = '';
        }}
        dangerouslySetInnerHTML={{ __html: svg }}
      />
    </figure>
  );
}

/** Goes from a part of the drawing to its figure. */
function goTo(tag: string) {
  const [what, n, hole] = tag.split('.');
  const row = hole?.startsWith('T') ? 'top' : 'bottom';
  const paths = { outline: ['width_mm'], pattern: [`patterns[${n}].width_mm`], hole: [`patterns[${n}].rows.${row}.thread_depth_mm`, `patterns[${n}].holes[0].thread_depth_mm`], zone: [] }[what ?? ''] ?? [];
  for (const path of paths) {
    const field = document.querySelector<HTMLInputElement>(`[data-path="${CSS.escape(path)}"]`);
    if (field) {
      field.focus();
      field.select();
      return;
    }
  }
}

const figureWords: Record<string, string> = { mass_kg: 'mass', diagonal_mm: 'diagonal', thread_depth_mm: 'thread depth', recess_mm: 'recess depth', recess_diameter_mm: 'recess Ø', setback_mm: 'rim offset' };

/** Figures that would settle most pairings. */
function Worth({ edit }: { edit: Editing<Display> }) {
  const worth = edit.drawn.data?.worth ?? [];
  return (
    <section aria-label="Worth measuring">
      <h2>Worth measuring</h2>
      {edit.drawn.data?.left_out && <p className="hint">{edit.drawn.data.left_out}</p>}
      {worth.length === 0 && !edit.drawn.data?.left_out && <p className="hint">Nothing that is measured better would settle a pairing.</p>}
      <ul>
        {worth.slice(0, 6).map((w) => (
          <li key={w.figure + w.holes.join()}>
            {figureWords[w.figure] ?? w.figure}
            {w.holes.length > 0 && ` at ${w.holes.join(', ')}`}: {w.known ? 'would clear up' : 'keeps open'} {w.pairings} {w.pairings === 1 ? 'pairing' : 'pairings'}
          </li>
        ))}
      </ul>
    </section>
  );
}
