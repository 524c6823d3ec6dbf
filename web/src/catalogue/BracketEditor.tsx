import { Fragment, useEffect, useRef } from 'react';
import { useParams } from 'react-router';
import type { Bracket, Schemas } from '../api';
import { means, useFitted } from '../parts/Drawing';
import { EditorFrame } from './EditorFrame';
import { get, put, useEditing, type Editing } from './editing';
import { Field } from './Field';
import { fastenerWords, wallWords } from '../words';

const main = [
  ['rated_load_kg', 'Rated load'],
  ['diagonal_min_mm', 'Diagonals from'],
  ['diagonal_max_mm', 'Diagonals up to'],
  ['mass_kg', 'Mass'],
  ['plate_thickness_mm', 'Plate where the bolt passes'],
  ['slot_width_mm', 'Slot width'],
  ['head_room_mm', 'Head room'],
  ['profile_mm', 'Wall to arms, closed'],
  ['reach_mm', 'Wall to arms, drawn out'],
  ['lift_over_mm', 'Lift over the hook'],
  ['tilt_down_deg', 'Tilts down'],
  ['tilt_up_deg', 'Tilts up'],
  ['swivel_deg', 'Swivels'],
  ['arm_swing_deg', 'Arm swings aside'],
  ['tilt_pivot.below_hook_mm', 'Tilt pivot below the hook'],
  ['tilt_pivot.behind_arm_mm', 'Tilt pivot behind the arms'],
  ['swivel_pivot.behind_arm_mm', 'Swivel pivot behind the arms'],
  ['hung_mass_kg', 'Its part on the display'],
] as const;

/** Figures in newton metres, of what is not a length or a mass. */
const moments = [
  ['rated_moment_nm', 'Rated moment, N·m'],
  ['tilt_hold_nm', 'Tilt joint holds, N·m'],
  ['slip_nm', 'Ball slips at, N·m'],
] as const;

/** A bracket as drawings: its arms and wall plate, and its kit laid out. */
export function BracketEditor() {
  const { id = '' } = useParams();
  return <Editor key={id} id={id} />;
}

function Editor({ id }: { id: string }) {
  const edit = useEditing<Bracket>('brackets', id, 'bracket');
  const doc = edit.doc;
  const row = (path: string, label: string) => (
    <tr key={path}>
      <th scope="row">{label}</th>
      <td>
        <Field edit={edit} path={path} label={label} placeholder="–" />
      </td>
    </tr>
  );
  return (
    <EditorFrame edit={edit} kind="brackets" id={id} title={doc ? `${doc.name ?? doc.id}${doc.revision ? `, revision letter ${doc.revision}` : ''}` : id}>
      {doc && (
        <div className="editor">
          <Picture svg={edit.drawn.data?.picture ?? ''} title="Arms and wall plate, from the front. Press a part to go to its figure." onPress={(tag) => focus(tag)} />
          <div className="figures">
            <table className="pull">
              <tbody>
                <tr>
                  <th scope="row">Name</th>
                  <td>
                    <Field edit={edit} path="name" label="Name" words width={180} />
                  </td>
                </tr>
                <tr>
                  <th scope="row">Maker’s revision letter</th>
                  <td>
                    <Field edit={edit} path="revision" label="Maker’s revision letter" words width={60} />
                  </td>
                </tr>
                {main.map(([path, label]) => row(path, label))}
                {moments.map(([path, label]) => (
                  <tr key={path}>
                    <th scope="row">{label}</th>
                    <td>
                      <Plain edit={edit} path={path} value={doc[path]} label={label} optional />
                    </td>
                  </tr>
                ))}
                {doc.interface.type === 'arms' ? (
                  <>
                    {row('interface.width_min_mm', 'Patterns from, wide')}
                    {row('interface.width_max_mm', 'Patterns up to, wide')}
                    {row('interface.arm_width_mm', 'Arm width')}
                    {row('interface.arm_top_mm', 'Arm above the hook line')}
                    {row('interface.arm_bottom_mm', 'Arm below the hook line')}
                    {row('interface.rail_width_mm', 'Rail')}
                  </>
                ) : (
                  <>
                    {row('interface.center_below_hook_mm', 'Pattern centre below the hook')}
                    {row('interface.width_mm', 'Plate width')}
                    {row('interface.height_mm', 'Plate height')}
                  </>
                )}
                {doc.wall_plate && (
                  <>
                    {row('wall_plate.width_mm', 'Wall plate width')}
                    {row('wall_plate.height_mm', 'Wall plate height')}
                    {row('wall_plate.thickness_mm', 'Wall plate thickness')}
                    {row('wall_plate.washer_mm', 'Washer under its heads')}
                    {row('wall_plate.hook_above_datum_mm', 'Hook line above the datum')}
                  </>
                )}
              </tbody>
            </table>
            {doc.interface.slots_mm && <Slots edit={edit} />}
            {doc.wall_plate?.holes && doc.wall_plate.holes.length > 0 && <Holes edit={edit} />}
          </div>
          <div className="beside-figures kit">
            <Picture svg={edit.drawn.data?.kit ?? ''} title="The kit, laid out. Press a part to go to its line." onPress={(tag) => focus(tag)} />
            <Kit edit={edit} />
          </div>
        </div>
      )}
    </EditorFrame>
  );
}

/** Goes from a part of the drawing to its figure. */
function focus(tag: string) {
  const [what, n] = tag.split('.');
  const path = { slot: `interface.slots_mm[${n}][0]`, kit: `kit[${n}].count`, arm: 'interface.arm_bottom_mm', hook: 'wall_plate.hook_above_datum_mm', plate: 'interface.width_mm' }[what ?? ''];
  const field = what === 'wall' && n ? document.querySelector<HTMLInputElement>(`[data-hole="${CSS.escape(n)}"]`) : path ? document.querySelector<HTMLInputElement>(`[data-path="${CSS.escape(path)}"]`) : null;
  field?.focus();
  field?.select();
}

function Picture({ svg, title, onPress }: { svg: string; title: string; onPress: (tag: string) => void }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const light = () => {
      const path = document.activeElement?.getAttribute('data-path') ?? '';
      const mark = /slots_mm\[(\d+)\]/.test(path) ? `slot.${RegExp.$1}` : /kit\[(\d+)\]/.test(path) ? `kit.${RegExp.$1}` : document.activeElement?.getAttribute('data-hole') ? `wall.${document.activeElement.getAttribute('data-hole')}` : '';
      box.current?.querySelectorAll('[data-tag]').forEach((p) => p.classList.toggle('lit', mark !== '' && means(mark, p.getAttribute('data-tag') ?? '')));
    };
    light();
    document.addEventListener('focusin', light);
    return () => document.removeEventListener('focusin', light);
  }, [svg]);
  useFitted(box, svg);
  return (
    <figure className="drawing" aria-label={title}>
      <figcaption>{title}</figcaption>
      <div ref={box} onClick={(e) => onPress((e.target as Element).closest('[data-tag]')?.getAttribute('data-tag') ?? '')} dangerouslySetInnerHTML={{ __html: svg }} />
    </figure>
  );
}

const number = (text: string) => Number(text.replace(',', '.'));

/** A plain number at a place without a name of its own. One that may be missing
    is taken away by emptying it. */
function Plain({ edit, path, value, label, hole, optional }: { edit: Editing<Bracket>; path: string; value?: number; label: string; hole?: string; optional?: boolean }) {
  const error = edit.errors[path];
  return (
    <input
      className="figure-field"
      style={{ width: 62 }}
      type="number"
      step="any"
      aria-label={label}
      data-path={path}
      data-hole={hole}
      value={value ?? ''}
      placeholder="–"
      title={error ?? label}
      aria-invalid={error ? true : undefined}
      onChange={(e) => edit.doc && (e.target.value !== '' || optional) && edit.change(path, put(edit.doc, path, e.target.value === '' ? undefined : number(e.target.value)))}
    />
  );
}

function Slots({ edit }: { edit: Editing<Bracket> }) {
  return (
    <>
      <h2>Slots below the hook line, mm</h2>
      {(edit.doc!.interface.slots_mm ?? []).map((s, i) => (
        <p key={i} className="line">
          {s.map((v, k) => (
            <span key={k}>
              {k === 1 && ' to '}
              <Plain edit={edit} path={`interface.slots_mm[${i}][${k}]`} value={v} label={`Slot ${i + 1}, ${k === 0 ? 'start' : 'end'}`} />
            </span>
          ))}
        </p>
      ))}
    </>
  );
}

function Holes({ edit }: { edit: Editing<Bracket> }) {
  return (
    <>
      <h2>Holes of the wall plate, mm</h2>
      <table className="pull holes">
        <thead>
          <tr>
            <th />
            <th scope="col">right</th>
            <th scope="col">up</th>
            <th scope="col">Ø</th>
            <th scope="col">travel</th>
          </tr>
        </thead>
        <tbody>
          {edit.doc!.wall_plate!.holes!.map((h, i) => (
            <tr key={h.id}>
              <th scope="row">{h.id}</th>
              {(['x_mm', 'y_mm', 'diameter_mm', 'length_mm'] as const).map((n) => (
                <td key={n}>{h[n] !== undefined && <Plain edit={edit} path={`wall_plate.holes[${i}].${n}`} value={h[n]} label={`${h.id}: ${n}`} hole={n === 'x_mm' ? h.id : undefined} />}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

const sizes: Record<string, [string, string][]> = {
  bolt: [['length_mm', 'long']],
  washer: [['thickness_mm', 'thick'], ['outer_mm', 'wide']],
  shoulder_washer: [['thickness_mm', 'thick']],
  spacer: [['length_mm', 'long'], ['outer_mm', 'wide']],
  lag: [['diameter_mm', 'Ø'], ['length_mm', 'long']],
  screw: [['diameter_mm', 'Ø'], ['length_mm', 'long']],
  ...Object.fromEntries(
    Object.keys(fastenerWords)
      .filter((k) => k !== 'lag' && k !== 'screw')
      .map((k) => [k, [['diameter_mm', 'Ø'], ['length_mm', 'long']] as [string, string][]]),
  ),
};

/** What else decides how a fastener holds, beyond its size. */
const further: [string, string][] = [
  ['embedment_min_mm', 'at least in the wall'],
  ['thread_length_mm', 'thread'],
  ['root_mm', 'Ø of its root'],
  ['sleeve_mm', 'rigid sleeve'],
  ['fu_mpa', 'steel, N/mm²'],
];

/** The walls a fastener is made for, and what else its maker says. None ticked:
    what fasteners of its kind are made for. */
function MadeFor({ edit, item, at, line }: { edit: Editing<Bracket>; item: Schemas['Item']; at: string; line: number }) {
  const made: string[] = item.for ?? [];
  const figure = (n: string, word: string) => (
    <label key={n}>
      <small>{word}</small> <Plain edit={edit} path={`${at}.${n}`} value={get(item, n) as number | undefined} label={`Line ${line}: ${word}`} optional />
    </label>
  );
  return (
    <details className="made-for">
      <summary>{made.length > 0 ? `for ${made.map((w) => wallWords[w as keyof typeof wallWords]).join(', ')}` : 'for what its kind is made for'}</summary>
      <div className="of">
      {Object.entries(wallWords).map(([w, name]) => (
        <label key={w}>
          <input
            type="checkbox"
            aria-label={`Line ${line}: made for ${name}`}
            checked={made.includes(w)}
            onChange={(e) => {
              const next = e.target.checked ? [...made, w] : made.filter((x) => x !== w);
              edit.change(`${at}.for`, put(edit.doc!, `${at}.for`, next.length > 0 ? next : undefined));
            }}
          />{' '}
          {name}
        </label>
      ))}
      </div>
      <div className="of">
        {further.map(([n, word]) => figure(n, word))}
        {rated(item.kind) && !item.ratings && figure('pull_kg', 'pulled, kg')}
        {rated(item.kind) && !item.ratings && figure('shear_kg', 'across, kg')}
        {Object.keys(item.ratings ?? {}).map((w) => (
          <Fragment key={w}>
            {figure(`ratings.${w}.pull_kg`, `pulled in ${wallWords[w as keyof typeof wallWords]}, kg`)}
            {figure(`ratings.${w}.shear_kg`, `across in ${wallWords[w as keyof typeof wallWords]}, kg`)}
          </Fragment>
        ))}
        {rated(item.kind) && (
          <select className="figure-field" aria-label={`Line ${line}: figures are`} value={item.rating_basis ?? ''} onChange={(e) => edit.change(`${at}.rating_basis`, put(edit.doc!, `${at}.rating_basis`, e.target.value || undefined))}>
            <option value="">ratings: not known of what kind</option>
            <option value="rated">rated, for use</option>
            <option value="ultimate">ultimate: a quarter counts</option>
          </select>
        )}
      </div>
    </details>
  );
}

const rated = (kind: string) => kind in fastenerWords && kind !== 'lag' && kind !== 'screw';

function Kit({ edit }: { edit: Editing<Bracket> }) {
  const doc = edit.doc!;
  const kit = doc.kit ?? [];
  const add = (item: Schemas['Item']) => edit.change('kit+', { ...doc, kit: [...kit, item] });
  return (
    <>
      <table className="pull holes kit-lines">
        <thead>
          <tr>
            <th scope="col">part</th>
            <th scope="col">bag</th>
            <th scope="col">count</th>
            <th scope="col">size, mm</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {kit.map((k, i) => (
            <Fragment key={i}>
            <tr>
              <th scope="row">{k.name ?? [k.kind.replaceAll('_', ' '), k.thread].filter(Boolean).join(' ')}</th>
              <td>
                <input className="figure-field words" style={{ width: 40 }} aria-label={`Bag of line ${i + 1}`} value={k.bag ?? ''} onChange={(e) => edit.change(`kit[${i}].bag`, put(doc, `kit[${i}].bag`, e.target.value || undefined))} />
              </td>
              <td>
                <input className="figure-field" style={{ width: 46 }} type="number" min={1} aria-label={`Count of line ${i + 1}`} data-path={`kit[${i}].count`} value={k.count} onChange={(e) => e.target.value !== '' && edit.change(`kit[${i}].count`, put(doc, `kit[${i}].count`, Number(e.target.value)))} />
              </td>
              <td className="line">
                {(sizes[k.kind] ?? []).map(([n, word]) => (
                  <Plain key={n} edit={edit} path={`kit[${i}].${n}`} value={(k as unknown as Record<string, number | undefined>)[n]} label={`Line ${i + 1}: ${word}`} optional />
                ))}
              </td>
              <td>
                <button type="button" className="press" aria-label={`Take out line ${i + 1}`} onClick={() => edit.change('kit-', { ...doc, kit: kit.filter((_, k2) => k2 !== i) })}>
                  ×
                </button>
              </td>
            </tr>
            {k.kind in fastenerWords && (
              <tr>
                <td colSpan={5}>
                  <MadeFor edit={edit} item={k} at={`kit[${i}]`} line={i + 1} />
                </td>
              </tr>
            )}
            </Fragment>
          ))}
        </tbody>
      </table>
      <p>
        <button type="button" className="press" onClick={() => add({ kind: 'bolt', thread: doc.threads[0], length_mm: 16, count: 4 } as Schemas['Item'])}>
          Add a bolt
        </button>{' '}
        <button type="button" className="press" onClick={() => add({ kind: 'spacer', threads: doc.threads, length_mm: 10, outer_mm: 18, count: 4 } as Schemas['Item'])}>
          Add a spacer
        </button>{' '}
        <button type="button" className="press" onClick={() => add({ kind: 'lag', diameter_mm: 8, length_mm: 70, count: 4 } as Schemas['Item'])}>
          Add a lag
        </button>{' '}
        <select
          className="figure-field"
          aria-label="Add a fastener for walls"
          value=""
          onChange={(e) => add({ kind: e.target.value, diameter_mm: 10, length_mm: 60, count: 4 } as Schemas['Item'])}
        >
          <option value="">Add an anchor…</option>
          {Object.entries(fastenerWords)
            .filter(([k]) => rated(k) && k !== 'anchor')
            .map(([k, word]) => (
              <option key={k} value={k}>
                {word}
              </option>
            ))}
        </select>
      </p>
    </>
  );
}
