import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Schemas, Site } from '../api';
import { useDesk } from '../state/desk';
import { FigureField } from '../parts/QuantityField';
import type { FigureErrors } from '../bench/Figures';
import { at, settled, type Wall } from '../state/question';
import { wallWords } from '../words';
import type { WallView } from './site';

interface Props {
  view: WallView;
  errors: FigureErrors;
  typedOver?: boolean; // the view is without what is typed: it stays beside what is changed
}

const ruleWords: [NonNullable<Site['place']>['rule'], string][] = [
  ['center', 'a chosen centre'],
  ['eye', 'eye height'],
  ['upper_third', 'its upper third'],
  ['above', 'above the furniture'],
  ['below', 'below a line'],
  ['overhead', 'overhead'],
];
const species: [NonNullable<Schemas['Wall']['species']>, string][] = [
  ['spruce_pine_fir', 'spruce-pine-fir, G 0.42'],
  ['hem_fir', 'hem-fir, G 0.43'],
  ['douglas_fir_larch', 'Douglas fir-larch, G 0.50'],
  ['southern_pine', 'southern pine, G 0.55'],
];
const spacings: [string, number][] = [
  ['16 in', 406.4],
  ['24 in', 609.6],
  ['400 mm', 400],
  ['450 mm', 450],
  ['600 mm', 600],
];
const backings: Record<string, string> = { wood_stud: 'Stud depth', metal_stud: 'Stud depth', timber_board: 'Board', thin_backer: 'Backer', concrete: 'Wall thickness', block: 'Wall thickness', lined_masonry: 'Masonry' };

/** What is known of the wall, of where things go on it, and of what stands
    there. Every figure can be typed in any unit. */
export function WallFields({ view, errors, typedOver }: Props) {
  const { asking, ask, units } = useDesk();
  const site = view.site;
  const wall = site.wall!;
  const place = site.place ?? { rule: 'center' as const };
  // Changes of what there is are made on the server's answer, which what was
  // typed is in already.
  const edit = (change: (s: Site) => Site) => ask((a) => (typedOver ? { site: change(structuredClone(view.site)) } : settled(a, change(structuredClone(view.site)))));
  const editWall = (part: Partial<Schemas['Wall']>) => edit((s) => ({ ...s, wall: { ...s.wall!, ...part } }));

  const field = (path: string, label: string, more: { step?: number; placeholder?: string; plain?: boolean } = {}) => {
    const value = at(site, path) as number | undefined;
    const key = `site.${path}`;
    const words = more.plain || /_(kg|deg)$/.test(path);
    const shown = value === undefined ? '' : path.endsWith('_kg') ? `${value} kg` : path.endsWith('_deg') ? `${value}°` : String(value);
    return (
      <FigureField
        label={label}
        value={words ? undefined : value}
        shown={words ? shown : undefined}
        words={words}
        typed={asking.changes[key]}
        step={more.step ?? 10}
        placeholder={more.placeholder ?? '?'}
        error={errors[key.replace(/_(mm|kg|deg)$/, '')]}
        onType={(t) =>
          ask((a) => {
            const changes = { ...a.changes };
            if (t) changes[key] = t;
            else delete changes[key];
            return { changes };
          }, key)
        }
      />
    );
  };
  const row = (path: string, label: string, more?: Parameters<typeof field>[2], beside?: ReactNode) => (
    <tr key={path}>
      <th scope="row">{label}</th>
      <td>
        {field(path, label, more)}
        {beside}
      </td>
    </tr>
  );
  const centred = place.rule === 'center';
  const mine = Object.entries(errors).filter(([path]) => path.startsWith('site.'));
  const studs = wall.type === 'wood_stud' || wall.type === 'metal_stud';
  const mode = wall.studs?.outlet !== undefined ? 'outlet' : wall.studs?.at_mm ? 'marked' : wall.studs ? 'spacing' : 'none';
  const strength = view.placements.find((p) => p.strength)?.strength;
  const shown = (n: number | undefined, unit = '') => (n === undefined ? '–' : `${n}${unit}`);
  /** Never more than there is. */
  const tenths = (n: number | undefined) => (n === undefined ? undefined : Math.floor(n * 10 + 1e-6) / 10);
  const middle = view.placements[0]?.display_x_mm ?? (wall.width_mm ?? 3000) / 2;
  const setStuds = (to: string) => {
    const width_mm = wall.studs?.width_mm ?? 38;
    const hung = (wall.outlets ?? []).findIndex((o) => o.stud);
    if (to === 'none') editWall({ studs: undefined });
    if (to === 'spacing') editWall({ studs: { first_mm: 200, spacing_mm: 406.4, width_mm } });
    if (to === 'marked') editWall({ studs: { at_mm: view.things.filter((t) => t.what === 'stud').map((t) => t.x_mm).concat(view.things.some((t) => t.what === 'stud') ? [] : [middle]), width_mm } });
    if (to === 'outlet' && hung >= 0) editWall({ studs: { outlet: hung, spacing_mm: wall.studs?.spacing_mm ?? 406.4, width_mm } });
  };
  return (
    <>
      {mine.map(([path, text]) => (
        <p key={path} className="field-error" role="alert">
          {path.slice(path.lastIndexOf('.') + 1).replaceAll('_', ' ')}: {text}
        </p>
      ))}
      <h2>Wall</h2>
      <select className="figure-field" aria-label="Wall" value={asking.wall} onChange={(e) => ask({ wall: e.target.value as Wall })}>
        {Object.entries(wallWords).map(([w, name]) => (
          <option key={w} value={w}>
            {name}
          </option>
        ))}
      </select>
      <table className="pull">
        <tbody>
          {row('wall.width_mm', 'Width')}
          {row('wall.height_mm', 'Floor to ceiling')}
          {row('wall.covering_mm', 'Covering', { step: 0.5 })}
          {(wall.type === 'lined_masonry' || wall.type === 'hollow_board') && row('wall.cavity_mm', 'Cavity', { step: 1 })}
          {backings[wall.type] && row('wall.backing_mm', backings[wall.type]!, { step: 1, placeholder: wall.type === 'wood_stud' ? '63.5' : '?' })}
        </tbody>
      </table>
      <label className="tick">
        <input type="checkbox" data-wall="vehicle" checked={wall.vehicle ?? false} onChange={(e) => editWall({ vehicle: e.target.checked || undefined })} /> In a vehicle
      </label>
      {studs && (
        <>
          {wall.type === 'wood_stud' && (
            <select className="figure-field" aria-label="Wood" value={wall.species ?? 'spruce_pine_fir'} onChange={(e) => editWall({ species: e.target.value as 'hem_fir' })}>
              {species.map(([s, name]) => (
                <option key={s} value={s}>
                  {name}
                </option>
              ))}
            </select>
          )}
          <h2>Studs</h2>
          <select className="figure-field" aria-label="Studs" value={mode} onChange={(e) => setStuds(e.target.value)}>
            <option value="none">not found yet</option>
            <option value="spacing">at a spacing, from the first</option>
            <option value="marked">marked one by one</option>
            <option value="outlet" disabled={!(wall.outlets ?? []).some((o) => o.stud)}>
              from an outlet that hangs on one
            </option>
          </select>
          <table className="pull">
            <tbody>
              {mode === 'spacing' && row('wall.studs.first_mm', 'First', { step: 1 })}
              {(mode === 'spacing' || mode === 'outlet') && row('wall.studs.spacing_mm', 'Spacing', { step: 1 })}
              {wall.studs && row('wall.studs.width_mm', 'Width', { step: 0.5 })}
              {mode === 'marked' &&
                wall.studs!.at_mm!.map((_, i) => row(`wall.studs.at_mm.${i}`, `Stud ${i + 1}`, { step: 1 }, <Remove what={`stud ${i + 1}`} act={() => edit((s) => withoutStud(s, i))} />))}
            </tbody>
          </table>
          {(mode === 'spacing' || mode === 'outlet') && (
            <p className="quick">
              {spacings.map(([name, mm]) => (
                <button key={name} type="button" className="press" onClick={() => editWall({ studs: { ...wall.studs, spacing_mm: mm } })}>
                  {name}
                </button>
              ))}
            </p>
          )}
          <button
            type="button"
            className="press"
            data-add="stud"
            onClick={() => editWall({ studs: { width_mm: wall.studs?.width_mm ?? 38, at_mm: [...view.things.filter((t) => t.what === 'stud').map((t) => t.x_mm), nextStud(view, middle)].sort((a, b) => a - b) } })}
          >
            Add a stud
          </button>
        </>
      )}
      {(studs || wall.type === 'hollow_board') && (
        <select
          className={`figure-field${asking.schools.wall_school ? ' changed' : ''}`}
          aria-label="Where studs are lacking"
          value={asking.schools.wall_school ?? ''}
          onChange={(e) =>
            ask((a) => {
              const schools = { ...a.schools, wall_school: e.target.value };
              if (!e.target.value) delete (schools as Record<string, string>).wall_school;
              return { schools };
            })
          }
        >
          <option value="">no stud: company policy</option>
          <option value="studs_only">no stud: studs only</option>
          <option value="stud_and_anchors">no stud: one stud, anchors</option>
          <option value="toggles_for_light">no stud: toggles (light loads)</option>
        </select>
      )}
      <h2>Where it goes</h2>
      <select className="figure-field" aria-label="Height by" value={place.rule} onChange={(e) => edit((s) => ({ ...s, place: { ...s.place, rule: e.target.value as 'eye' } }))}>
        {ruleWords.map(([r, name]) => (
          <option key={r} value={r}>
            height by {name}
          </option>
        ))}
      </select>
      <table className="pull">
        <tbody>
          {centred && (
            <tr>
              <th scope="row">Centre</th>
              <td>
                <FigureField
                  label="Centre"
                  value={place.center_mm}
                  typed={asking.center ?? undefined}
                  placeholder="1070"
                  step={10}
                  error={errors['site.place.center'] ?? errors['center']}
                  onType={(center) => ask({ center }, 'center')}
                />
              </td>
            </tr>
          )}
          {row('place.x_mm', 'Middle across', { placeholder: 'of the wall' })}
          {row('place.eye_mm', 'Eye height')}
          {row('place.distance_mm', 'Viewed from')}
          {place.rule === 'eye' && row('place.angle_deg', 'Angle up', { placeholder: '0°' })}
          {row('place.surface_mm', 'Furniture below', { placeholder: 'none' })}
          {row('place.accessory_mm', 'On or under it', { placeholder: '0', step: 5 })}
          {row('place.line_mm', 'Line above', { placeholder: 'none' })}
          {(place.rule === 'above' || place.rule === 'below') && row('place.gap_mm', 'Gap', { step: 5, placeholder: 'as needed' })}
          {place.rule === 'overhead' && row('place.bottom_mm', 'Bottom edge', { placeholder: '2030' })}
        </tbody>
      </table>
      <label className="tick">
        <input type="checkbox" checked={place.public ?? false} onChange={(e) => edit((s) => ({ ...s, place: { ...s.place!, public: e.target.checked || undefined } }))} /> A public way
      </label>
      <h2>Run of equal displays</h2>
      <table className="pull">
        <tbody>
          <tr>
            <th scope="row">Displays</th>
            <td>
              <select
                className="figure-field"
                aria-label="Displays"
                value={site.run?.count ?? 1}
                onChange={(e) => edit((s) => ({ ...s, run: Number(e.target.value) > 1 ? { gap_mm: 10, ...s.run, count: Number(e.target.value) } : undefined }))}
              >
                {[1, 2, 3, 4, 5, 6, 8, 10, 12].concat([1, 2, 3, 4, 5, 6, 8, 10, 12].includes(site.run?.count ?? 1) ? [] : [site.run!.count]).map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </select>
            </td>
          </tr>
          {site.run && row('run.gap_mm', 'Gap', { step: 1, placeholder: '0' })}
        </tbody>
      </table>
      <h2>On the wall</h2>
      {(wall.furniture ?? []).map((f, i) => (
        <fieldset key={i} className="thing">
          <legend>
            {f.name || 'Furniture'} <Remove what={f.name || 'furniture'} act={() => edit((s) => ({ ...s, wall: { ...s.wall!, furniture: without(s.wall!.furniture, i) } }))} />
          </legend>
          <table className="pull">
            <tbody>
              {row(`wall.furniture.${i}.name`, 'Name', { plain: true, placeholder: 'cabinet' })}
              {row(`wall.furniture.${i}.x_mm`, 'Middle')}
              {row(`wall.furniture.${i}.width_mm`, 'Width')}
              {row(`wall.furniture.${i}.height_mm`, 'Height')}
            </tbody>
          </table>
        </fieldset>
      ))}
      {(wall.outlets ?? []).map((o, i) => (
        <fieldset key={i} className="thing">
          <legend>
            Outlet {i + 1} <Remove what={`outlet ${i + 1}`} act={() => edit((s) => withoutOutlet(s, i))} />
          </legend>
          <table className="pull">
            <tbody>
              {row(`wall.outlets.${i}.x_mm`, 'Across')}
              {row(`wall.outlets.${i}.y_mm`, 'Up')}
              <tr>
                <th scope="row">Its stud</th>
                <td>
                  <select
                    className="figure-field"
                    aria-label={`Stud of outlet ${i + 1}`}
                    value={o.stud ?? ''}
                    onChange={(e) => edit((s) => ({ ...s, wall: { ...s.wall!, outlets: s.wall!.outlets!.map((x, n) => (n === i ? { ...x, stud: (e.target.value || undefined) as 'left' | undefined } : x)) } }))}
                  >
                    <option value="" disabled={wall.studs?.outlet === i}>
                      not known
                    </option>
                    <option value="left">on its left</option>
                    <option value="right">on its right</option>
                  </select>
                </td>
              </tr>
            </tbody>
          </table>
        </fieldset>
      ))}
      {wall.niche && (
        <fieldset className="thing">
          <legend>
            Niche <Remove what="niche" act={() => editWall({ niche: undefined })} />
          </legend>
          <table className="pull">
            <tbody>
              {row('wall.niche.x_mm', 'Middle')}
              {row('wall.niche.width_mm', 'Width')}
              {row('wall.niche.bottom_mm', 'Bottom')}
              {row('wall.niche.height_mm', 'Height')}
            </tbody>
          </table>
        </fieldset>
      )}
      <p className="quick">
        <button type="button" className="press" data-add="furniture" onClick={() => editWall({ furniture: [...(wall.furniture ?? []), { x_mm: middle, width_mm: 1200, height_mm: 700 }] })}>
          Add furniture
        </button>
        <button type="button" className="press" data-add="outlet" onClick={() => editWall({ outlets: [...(wall.outlets ?? []), { x_mm: middle + 700, y_mm: 300, kind: 'power' }] })}>
          Add an outlet
        </button>
        {!wall.niche && (
          <button
            type="button"
            className="press"
            data-add="niche"
            onClick={() => editWall({ niche: { x_mm: middle, width_mm: 1600, bottom_mm: Math.max(0, (view.placements[0]?.bottom_height_mm ?? 900) - 150), height_mm: 1100 } })}
          >
            Add a niche
          </button>
        )}
      </p>
      {strength && (
        <>
          <h2>Strength: what is assumed</h2>
          <table className="pull">
            <tbody>
              {row('assume.load_kg', 'Load', { placeholder: shown(strength.load_kg, ' kg') })}
              {row('assume.reach_mm', 'Reach', { placeholder: shown(strength.reach_mm) })}
              {row('assume.aside_mm', 'Load aside', { placeholder: shown(strength.load_aside_mm) })}
              {strength.in_wood && row('assume.penetration_mm', 'In the wood', { step: 1, placeholder: shown(tenths(strength.penetration_mm)) })}
              {strength.in_wood && row('assume.gravity', 'G of the wood', { plain: true, placeholder: shown(strength.gravity) })}
            </tbody>
          </table>
          <p className="hint">
            Turning about the plate’s lower edge: {strength.moment_nm} N·m. One fastener may hold {strength.holds_pull_n} N pulled and {strength.holds_across_n} N across, under a permanent load
            {strength.in_wood ? `; ${tenths(strength.penetration_mm)} mm of it in wood of G ${strength.gravity}, ${tenths(strength.thread_mm)} of that threaded, its tip not counted` : ', by its rating'}
            {strength.item && `. Counted with ${strength.item}`}
            {strength.ultimate_pull_n !== undefined && `. It would come out at about ${strength.ultimate_pull_n} N`}.
          </p>
          <p className="hint">
            All ways it can stand are looked at: closed, straight out, swung aside as far as its arm and its swivel go; the worst counts.
            {strength.handling !== undefined && (
              <>
                {' '}
                How hard people lean on it is in <Link to="/policy">the policy</Link>.
              </>
            )}
            {wall.vehicle && ' In a vehicle three times all weights count, and half as much again outwards and sideways.'}
          </p>
        </>
      )}
      <p className="hint">{units === 'mm' ? 'Millimetres' : 'Inches'} unless a unit is typed. Measure the wall: nothing here knows it better.</p>
    </>
  );
}

function Remove({ what, act }: { what: string; act: () => void }) {
  return (
    <button type="button" className="press remove" aria-label={`Remove ${what}`} title={`Remove ${what}`} onClick={act}>
      ×
    </button>
  );
}

/** A list without one of its entries; a list that would be empty is none. */
function without<T>(list: T[] | undefined, i: number): T[] | undefined {
  const left = (list ?? []).filter((_, n) => n !== i);
  return left.length > 0 ? left : undefined;
}

export function withoutStud(s: Site, i: number): Site {
  const at_mm = without(s.wall!.studs?.at_mm, i);
  return { ...s, wall: { ...s.wall!, studs: at_mm && { ...s.wall!.studs, at_mm } } };
}

/** Studs that were told by the outlet are not known without it. */
export function withoutOutlet(s: Site, i: number): Site {
  const told = s.wall!.studs?.outlet;
  const studs = told === undefined || told < i ? s.wall!.studs : told === i ? undefined : { ...s.wall!.studs, outlet: told - 1 };
  return { ...s, wall: { ...s.wall!, studs, outlets: without(s.wall!.outlets, i) } };
}

/** Where a new stud goes: the usual distance right of the last, or under the
    display. */
function nextStud(view: WallView, middle: number): number {
  const last = Math.max(-1, ...view.things.filter((t) => t.what === 'stud').map((t) => t.x_mm));
  const next = last + 406.4;
  return last < 0 || next > (view.site.wall?.width_mm ?? Infinity) ? middle : next;
}
