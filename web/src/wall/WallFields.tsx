import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { styled } from '@mui/material/styles';
import { memo, type ReactNode } from 'react';
import type { Schemas, Site } from '../api';
import type { FigureErrors } from '../bench/Figures';
import { Choice } from '../parts/Choice';
import { FieldError, Group, Head, Hint, Quick } from '../parts/Page';
import { Go, Press, Remove } from '../parts/Press';
import { FigureLine, FigureList, QuantityField } from '../parts/QuantityField';
import { ask, useWorkspace } from '../state/workspace';
import { at, centerPath, edited, otherWall, type Typed, type Wall } from '../state/inputs';
import { useCalm } from '../state/steady';
import { baseWords, figureName, wallWords } from '../words';
import type { WallView } from './site';

interface Props {
  view: WallView;
  errors: FigureErrors;
  typedOver?: boolean; // the view is without what is typed: it stays beside what is changed
}

const Rule = styled('div')(({ theme }) => ({
  borderTop: `1px solid ${theme.vars!.palette.divider}`,
  marginTop: 4,
  paddingTop: 3,
  '& h3': { margin: 0, fontSize: 13, fontWeight: 600, display: 'flex', alignItems: 'center', justifyContent: 'space-between' },
}));

/** Something on the wall, whose name is said with each of its fields. */
function Thing({ name, onRemove, what = name, children }: { name: string; onRemove: () => void; what?: string; children: ReactNode }) {
  return (
    <Rule role="group" aria-label={name}>
      <h3>
        {name} <Remove what={what} act={onRemove} />
      </h3>
      {children}
    </Rule>
  );
}

const ruleWords: [NonNullable<Site['place']>['rule'], string][] = [
  ['center', t`a chosen centre`],
  ['eye', t`eye height`],
  ['upper_third', t`its upper third`],
  ['above', t`above the furniture`],
  ['below', t`below a line`],
  ['overhead', t`overhead`],
  ['bottom', t`its bottom edge`],
  ['top', t`its top edge`],
];
const blockKinds: [string, string][] = [
  ['', t`kind of block: not known`],
  ['solid', t`solid blocks`],
  ['hollow', t`hollow blocks`],
  ['aerated', t`aerated blocks`],
  ['old_brick', t`old brick`],
];
const boardKinds: [string, string][] = [
  ['', t`kind of board: not known`],
  ['ply', t`plywood`],
  ['osb', 'OSB'],
  ['particle', t`particle board`],
];
const species: [NonNullable<Schemas['Wall']['species']>, string][] = [
  ['spruce_pine_fir', t`spruce-pine-fir, G 0.42`],
  ['hem_fir', t`hem-fir, G 0.43`],
  ['douglas_fir_larch', t`Douglas fir-larch, G 0.50`],
  ['southern_pine', t`southern pine, G 0.55`],
];
const spacings: [string, number][] = [
  ['16 in', 406.4],
  ['24 in', 609.6],
  ['400 mm', 400],
  ['450 mm', 450],
  ['600 mm', 600],
];
const ofBoard = ['timber_board', 'thin_backer'];
/** On these a swinging arm asks for a backing behind the board. */
const thin = ['metal_stud', ...ofBoard];

/** What is known of the wall, of where things go on it, and of what stands
    there. Every figure can be typed in any unit. */
export function WallFields({ view, errors, typedOver }: Props) {
  const { inputs, units } = useWorkspace();
  const site = view.site;
  const wall = site.wall!;
  const place = site.place ?? { rule: 'center' as const };
  /** Puts something on the site, by its path; null takes it away. */
  const set = (...to: [string, unknown][]) =>
    ask((a) =>
      edited(
        a,
        to.map(([path, to]) => ({ path: `site.${path}`, to })),
        typedOver ? undefined : view.site,
      ),
    );

  const withField = new Set([centerPath(inputs)]); // errors that are said at their fields
  const field = (path: string, label: string, more: { step?: number; placeholder?: string; words?: boolean } = {}) => {
    const key = `site.${path}`;
    if (!inList(path)) withField.add(key);
    return <WallField {...more} path={path} label={label} value={at(site, path) as number | string | undefined} typed={inputs.changes[key]} error={errors[key]} />;
  };
  const row = (path: string, label: string, more?: Parameters<typeof field>[2], beside?: ReactNode) => (
    <FigureLine key={path} label={label}>
      {beside ? (
        <Quick sx={{ flexWrap: 'nowrap', m: 0 }}>
          {field(path, label, more)}
          {beside}
        </Quick>
      ) : (
        field(path, label, more)
      )}
    </FigureLine>
  );
  const tick = (name: 'wet' | 'treated' | 'open_left' | 'open_right' | 'vehicle', label: string) => (
    <FormControlLabel sx={{ display: 'flex' }} control={<Checkbox data-wall={name} checked={wall[name] ?? false} onChange={(e) => set([`wall.${name}`, e.target.checked || null])} />} label={label} />
  );
  const centred = place.rule === 'center';
  const calm = useCalm(inputs.changes);
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
    if (to === 'none') set(['wall.studs', null]);
    if (to === 'spacing') set(['wall.studs', { first_mm: 200, spacing_mm: 406.4, width_mm }]);
    if (to === 'marked') {
      const found = view.movable.filter((t) => t.what === 'stud').map((t) => t.x_mm);
      set(['wall.studs', { at_mm: found.length > 0 ? found : [middle], width_mm }]);
    }
    if (to === 'outlet' && hung >= 0) set(['wall.studs', { outlet: hung, spacing_mm: wall.studs?.spacing_mm ?? 406.4, width_mm }]);
  };
  // A cavity, and a kind of block, that are on record count on other kinds of wall too.
  const fields = (
    <>
      <FigureList>
        {row('title', t`Title`, { words: true, placeholder: site.id || t`what people call it` })}
        {row('location', t`Place`, { words: true, placeholder: t`where it is to hang` })}
        {row('reference', t`Reference`, { words: true, placeholder: t`the customer’s` })}
      </FigureList>
      <Group name={t`Wall`}>
        <Choice label={t`Wall`} value={inputs.wall} options={Object.entries(wallWords)} onPick={(w) => ask((a) => otherWall(a, w as Wall))} />
        <FigureList>
          {row('wall.width_mm', t`Width`)}
          {row('wall.height_mm', t`Floor to ceiling`)}
          {row('wall.covering_mm', t`Covering`, { step: 0.5 })}
          {(wall.type === 'lined_masonry' || wall.type === 'hollow_board' || wall.cavity_mm !== undefined) && row('wall.cavity_mm', t`Cavity`, { step: 1 })}
          {baseWords[wall.type] && row('wall.backing_mm', baseWords[wall.type] ?? '', { step: 1, placeholder: wall.type === 'wood_stud' ? '63.5' : '?' })}
          {wall.type === 'metal_stud' && row('wall.steel_mm', t`Sheet`, { step: 0.1, placeholder: '0.46' })}
        </FigureList>
        {(wall.type === 'block' || wall.block_kind) && <Choice label={t`Blocks`} value={wall.block_kind ?? ''} options={blockKinds} onPick={(k) => set(['wall.block_kind', k || null])} />}
        {ofBoard.includes(wall.type) && <Choice label={t`Board`} value={wall.board_kind ?? ''} options={boardKinds} onPick={(k) => set(['wall.board_kind', k || null])} />}
        {(wall.type === 'wood_stud' || ofBoard.includes(wall.type)) && tick('wet', t`Wet wood`)}
        {(wall.type === 'wood_stud' || ofBoard.includes(wall.type)) && tick('treated', t`Treated wood`)}
        {thin.includes(wall.type) && (
          <FormControlLabel
            control={<Checkbox data-wall="backing" checked={Boolean(wall.backing)} onChange={(e) => set(['wall.backing', e.target.checked ? { thickness_mm: 18, kind: 'ply' } : null])} />}
            label={t`A backing is let in behind the board`}
          />
        )}
        {wall.backing && <FigureList>{row('wall.backing.thickness_mm', t`Backing`, { step: 1 })}</FigureList>}
        {tick('open_left', t`Open at the left end`)}
        {tick('open_right', t`Open at the right end`)}
        {tick('vehicle', t`In a vehicle`)}
      </Group>
      {studs && (
        <>
          {wall.type === 'wood_stud' && <Choice label={t`Wood`} value={wall.species ?? 'spruce_pine_fir'} options={species} onPick={(to) => set(['wall.species', to])} />}
          <Group name={t`Studs`}>
            <Choice
              label={t`Studs`}
              value={mode}
              options={[
                ['none', t`not found yet`],
                ['spacing', t`at a spacing, from the first`],
                ['marked', t`marked one by one`],
                ['outlet', t`from an outlet that hangs on one`, !(wall.outlets ?? []).some((o) => o.stud)],
              ]}
              onPick={setStuds}
            />
            <FigureList>
              {mode === 'spacing' && row('wall.studs.first_mm', t`First`, { step: 1 })}
              {(mode === 'spacing' || mode === 'outlet') && row('wall.studs.spacing_mm', t`Spacing`, { step: 1 })}
              {wall.studs && row('wall.studs.width_mm', t`Width`, { step: 0.5 })}
              {mode === 'marked' &&
                wall.studs!.at_mm!.map((_, i) => row(`wall.studs.at_mm[${i}]`, t`Stud ${i + 1}`, { step: 1 }, <Remove what={t`stud ${i + 1}`} act={() => set([`wall.studs.at_mm[${i}]`, null])} />))}
            </FigureList>
            {(mode === 'spacing' || mode === 'outlet') && (
              <Quick>
                {spacings.map(([name, mm]) => (
                  <Press key={name} onClick={() => set(['wall.studs.spacing_mm', mm])}>
                    {name}
                  </Press>
                ))}
              </Quick>
            )}
            <Press
              data-add="stud"
              onClick={() =>
                set([
                  'wall.studs',
                  {
                    width_mm: wall.studs?.width_mm ?? 38,
                    at_mm: [...view.movable.filter((t) => t.what === 'stud').map((t) => t.x_mm), nextStud(view, middle)].sort((a, b) => a - b),
                  },
                ])
              }
            >
              {t`Add a stud`}
            </Press>
          </Group>
        </>
      )}
      {(studs || wall.type === 'hollow_board') && (
        <Choice
          label={t`Where studs are lacking`}
          value={inputs.schools.wall_school ?? ''}
          changed={Boolean(inputs.schools.wall_school)}
          options={[
            ['', t`no stud: company policy`],
            ['studs_only', t`no stud: studs only`],
            ['stud_and_anchors', t`no stud: one stud, anchors`],
            ['toggles_for_light', t`no stud: toggles (light loads)`],
          ]}
          onPick={(wall_school) =>
            ask((a) => {
              const schools: Record<string, string> = { ...a.schools, wall_school };
              if (!wall_school) delete schools.wall_school;
              return { schools };
            })
          }
        />
      )}
      <Group name={t`Where it goes`}>
        <Choice label={t`Height by`} value={place.rule} options={ruleWords.map(([r, name]) => [r, t`height by ${name}`])} onPick={(r) => set(['place.rule', r])} />
        <FigureList>
          {centred && (
            <FigureLine label={t`Centre`}>
              <QuantityField
                label={t`Centre`}
                of="center_mm"
                value={place.center_mm}
                typed={inputs.center ?? undefined}
                placeholder="1070"
                step={10}
                error={errors[centerPath(inputs)]}
                onType={(center) => ask({ center }, 'center')}
              />
            </FigureLine>
          )}
          {row('place.x_mm', t`Middle across`, { placeholder: t`of the wall` })}
          {row('place.eye_mm', t`Eye height`)}
          {row('place.distance_mm', t`Viewed from`)}
          {place.rule === 'eye' && row('place.angle_deg', t`Angle up`, { placeholder: '0°' })}
          {row('place.surface_mm', t`Furniture below`, { placeholder: t`none` })}
          {row('place.accessory_mm', t`On or under it`, { placeholder: '0', step: 5 })}
          {row('place.line_mm', t`Line above`, { placeholder: t`none` })}
          {(place.rule === 'above' || place.rule === 'below') && row('place.gap_mm', t`Gap`, { step: 5, placeholder: t`as needed` })}
          {(place.rule === 'overhead' || place.rule === 'bottom') && row('place.bottom_mm', t`Bottom edge`, { placeholder: place.rule === 'overhead' ? '2030' : '?' })}
          {place.rule === 'top' && row('place.top_mm', t`Top edge`, { placeholder: '?' })}
          {row('wanted_tilt_deg', t`Tilt wanted`, { placeholder: t`any` })}
          {row('wanted_swivel_deg', t`Swivel wanted`, { placeholder: t`any` })}
        </FigureList>
        <FormControlLabel
          control={
            <Checkbox data-wall="people_below" checked={wall.people_below ?? !wall.niche} onChange={(e) => set(['wall.people_below', e.target.checked === !wall.niche ? null : e.target.checked])} />
          }
          label={t`People go below it`}
        />
        <FormControlLabel control={<Checkbox checked={place.public ?? false} onChange={(e) => set(['place.public', e.target.checked || null])} />} label={t`Public walkway`} />
      </Group>
      <Group name={t`Run of equal displays`}>
        <FigureList>
          <FigureLine label={t`Displays`}>
            <Choice
              label={t`Displays`}
              value={site.run?.count ?? 1}
              options={[...new Set([1, 2, 3, 4, 5, 6, 8, 10, 12, site.run?.count ?? 1])].sort((a, b) => a - b).map((n) => [n, String(n)])}
              onPick={(n) => set(['run', Number(n) > 1 ? { gap_mm: 10, ...site.run, count: Number(n) } : null])}
            />
          </FigureLine>
          {site.run && row('run.gap_mm', t`Gap`, { step: 1, placeholder: '0' })}
        </FigureList>
      </Group>
      <Head>{t`On the wall`}</Head>
      {(wall.furniture ?? []).map((f, i) => (
        <Thing key={i} name={f.name || t`Furniture`} onRemove={() => set([`wall.furniture[${i}]`, null])}>
          <FigureList>
            {row(`wall.furniture[${i}].name`, t`Name`, { words: true, placeholder: t`cabinet` })}
            {row(`wall.furniture[${i}].x_mm`, t`Middle`)}
            {row(`wall.furniture[${i}].width_mm`, t`Width`)}
            {row(`wall.furniture[${i}].height_mm`, t`Height`)}
            {row(`wall.furniture[${i}].depth_mm`, t`Depth`, { placeholder: '600' })}
          </FigureList>
        </Thing>
      ))}
      {(wall.outlets ?? []).map((o, i) => (
        <Thing key={i} name={t`Outlet ${i + 1}`} what={t`outlet ${i + 1}`} onRemove={() => set([`wall.outlets[${i}]`, null])}>
          <FigureList>
            {row(`wall.outlets[${i}].x_mm`, t`Across`)}
            {row(`wall.outlets[${i}].y_mm`, t`Up`)}
            <FigureLine label={t`Its stud`}>
              <Choice
                label={t`Stud of outlet ${i + 1}`}
                value={o.stud ?? ''}
                options={[
                  ['', t`not known`, wall.studs?.outlet === i],
                  ['left', t`on its left`],
                  ['right', t`on its right`],
                ]}
                onPick={(to) => set([`wall.outlets[${i}].stud`, to || null])}
              />
            </FigureLine>
          </FigureList>
        </Thing>
      ))}
      {wall.niche && (
        <Thing name={t`Niche`} what={t`niche`} onRemove={() => set(['wall.niche', null])}>
          <FigureList>
            {row('wall.niche.x_mm', t`Middle`)}
            {row('wall.niche.width_mm', t`Width`)}
            {row('wall.niche.bottom_mm', t`Bottom`)}
            {row('wall.niche.height_mm', t`Height`)}
          </FigureList>
        </Thing>
      )}
      <Quick>
        <Press data-add="furniture" onClick={() => set([`wall.furniture[${wall.furniture?.length ?? 0}]`, { x_mm: middle, width_mm: 1200, height_mm: 700 }])}>
          {t`Add furniture`}
        </Press>
        <Press data-add="outlet" onClick={() => set([`wall.outlets[${wall.outlets?.length ?? 0}]`, { x_mm: middle + 700, y_mm: 300, kind: 'power' }])}>
          {t`Add an outlet`}
        </Press>
        {!wall.niche && (
          <Press data-add="niche" onClick={() => set(['wall.niche', { x_mm: middle, width_mm: 1600, bottom_mm: Math.max(0, (view.placements[0]?.bottom_height_mm ?? 900) - 150), height_mm: 1100 }])}>
            {t`Add a niche`}
          </Press>
        )}
      </Quick>
      {strength && (
        <>
          <Group name={t`Strength: what is assumed`}>
            <FigureList>
              {row('assume.load_kg', t`Load`, { placeholder: shown(strength.load_kg, ' kg') })}
              {row('assume.reach_mm', t`Reach`, { placeholder: shown(strength.reach_mm) })}
              {row('assume.aside_mm', t`Load aside`, { placeholder: shown(strength.eccentricity_mm) })}
              {strength.in_wood && row('assume.penetration_mm', t`In the wood`, { step: 1, placeholder: shown(tenths(strength.penetration_mm)) })}
              {strength.in_wood && row('assume.gravity', t`G of the wood`, { placeholder: shown(strength.gravity) })}
            </FigureList>
            <Hint>
              {t`Turning about the plate’s lower edge: ${strength.moment_nm} N·m. One fastener may hold ${strength.capacity_pull_n} N pulled and ${strength.capacity_shear_n} N across, under a permanent load`}
              {strength.in_wood
                ? t`; ${tenths(strength.penetration_mm) ?? ''} mm of it in wood of G ${strength.gravity ?? ''}, ${tenths(strength.thread_mm) ?? ''} of that threaded, its tip not counted`
                : t`, by its rating`}
              {strength.item && t`. Counted with ${strength.item}`}
              {strength.ultimate_pull_n !== undefined && t`. It would come out at about ${strength.ultimate_pull_n} N`}.
            </Hint>
            <Hint>
              {t`All ways it can stand are looked at: closed, straight out, swung aside as far as its arm and its swivel go; the worst counts.`}
              {strength.handling !== undefined && (
                <>
                  {' '}
                  <Trans>
                    How hard people lean on it is in <Go to="/policy">the policy</Go>.
                  </Trans>
                </>
              )}
              {wall.vehicle && t` In a vehicle three times all weights count, and half as much again outwards and sideways.`}
            </Hint>
          </Group>
        </>
      )}
      <Hint>
        {units === 'mm' ? t`Millimetres unless a unit is typed.` : t`Inches unless a unit is typed.`} {t`Measure the wall: nothing here knows it better.`}
      </Hint>
    </>
  );
  return (
    <>
      {calm &&
        Object.entries(errors)
          .filter(([path]) => path.startsWith('site.') && !withField.has(path))
          .map(([path, text]) => (
            <FieldError key={path} id={errorId(path)}>
              {figureName(path)}: {text}
            </FieldError>
          ))}
      {fields}
    </>
  );
}

interface WallFieldProps {
  path: string;
  label: string;
  value: number | string | undefined;
  typed: Typed | undefined;
  error?: string;
  step?: number;
  placeholder?: string;
  words?: boolean;
}

/** A figure of the wall; drawn again only when it is itself another. */
const WallField = memo(function WallField({ path, step, placeholder, ...rest }: WallFieldProps) {
  const key = `site.${path}`;
  const type = (t: Typed | null) =>
    ask((a) => {
      const changes = { ...a.changes };
      if (t) changes[key] = t;
      else delete changes[key];
      return { changes };
    }, key);
  return (
    <QuantityField {...rest} of={path} parts={16} step={step ?? (path.endsWith('_mm') ? 10 : 0)} placeholder={placeholder ?? '?'} errorAt={inList(path) ? errorId(key) : undefined} onType={type} />
  );
});

/** Whether a figure stands in a list, where there is no room below its field. */
const inList = (path: string) => /\[\d+\]/.test(path);

const errorId = (path: string) => `error-${path.replace(/\W+/g, '-')}`;

/** Where a new stud goes: the usual distance right of the last, or under the
    display. */
function nextStud(view: WallView, middle: number): number {
  const last = Math.max(-1, ...view.movable.filter((t) => t.what === 'stud').map((t) => t.x_mm));
  const next = last + 406.4;
  return last < 0 || next > (view.site.wall?.width_mm ?? Infinity) ? middle : next;
}
