import type { Bracket, Display, Request, Site } from '../api';
import { withUnit, type Units } from './units';

export type Turn = 0 | 90 | 270;
export type Wall = NonNullable<Request['wall']>;

/** A figure as typed, with the unit its field had then. */
export interface Typed {
  text: string;
  unit: Units;
}

/** A trial bolt as a caller tells it. */
export interface ToldTrial {
  thread: string;
  length: string;
  outcome: string;
  gap: string;
  turns: string;
  tolerance: string;
  said: string; // in the caller's words
  unit: Units; // of bare figures, but the bolt's length, which is metric by name
}

/** The trial for the server, its figures as they were typed. */
export function asTrial(t: ToldTrial): Tree {
  const out: Tree = { thread: t.thread, length: withUnit(t.length, 'mm'), outcome: t.outcome };
  const measured = t.outcome === 'stopped' || t.outcome === 'rests';
  if (measured && t.gap.trim()) out.gap = withUnit(t.gap, t.unit);
  if ((t.outcome === 'stopped' || t.outcome === 'seated') && t.turns.trim()) out.turns = Number(t.turns.replace(',', '.'));
  if (t.tolerance.trim()) out.tolerance = withUnit(t.tolerance, t.unit);
  return out;
}

/** What the bench is inputs: picks, and figures changed to see what follows. */
export interface Inputs {
  display: string; // id in the catalogue, '' for none
  typed: Display | null; // a display that is typed in instead
  bracket: string; // '' for the best one
  ownBracket: Bracket | null; // a saved pairing's bracket, as it was then
  turn: Turn;
  wall: Wall;
  center: Typed | null; // height of the display's centre
  topHoles: number | null; // where the top hole row is wanted, mm below the hook
  spacers: number | null; // how far the arms stay behind the back, mm; null as what stands out asks
  trials: Record<string, ToldTrial[]>; // by the path of a row or hole in the display
  tilt: number; // degrees the drawing from the side is tilted by
  swivel: number; // and the one from above is swung by
  changes: Record<string, Typed>; // by path: display.patterns[0].width_mm
  schools: Record<string, string>; // by policy field
  site: Site | null; // the wall it is placed on, and where
  siteRevision: number; // of the job that the site was opened from, 0 for none
}

export const nothing: Inputs = {
  display: '',
  typed: null,
  bracket: '',
  ownBracket: null,
  turn: 0,
  wall: 'wood_stud',
  center: null,
  topHoles: null,
  spacers: null,
  trials: {},
  tilt: 0,
  swivel: 0,
  changes: {},
  schools: {},
  site: null,
  siteRevision: 0,
};

type Tree = Record<string, unknown>;

/** What stands at a path of a document, made on the way where it is missing. */
function reach(document: Tree, path: string[]): Tree {
  return path.reduce<Tree>((here, name, i) => {
    here[name] ??= /^\d+$/.test(path[i + 1] ?? '') ? [] : {};
    return here[name] as Tree;
  }, document);
}

/** Puts a figure into a document as text, in the field without a unit; an
    empty one takes it out. */
function put(document: Tree, path: string[], value: string | number) {
  const last = path[path.length - 1]!;
  const target = reach(document, path.slice(0, -1));
  delete target[last];
  if (value !== '') target[last.replace(/_(mm|kg|deg)$/, '')] = value;
}

export function steps(path: string): string[] {
  return path.replace(/\[(\d+)\]/g, '.$1').split('.');
}

/** The value at a path of a document. */
export function at(document: unknown, path: string): unknown {
  return steps(path).reduce<unknown>((d, name) => (d == null ? undefined : (d as Tree)[name]), document);
}

const plainText = /\.(thread|model|name)$/;
const plainNumber = /\.(count|gravity)$/;

/** A figure as typed, with its field's unit. */
function figure(path: string, { text, unit }: Typed): string | number {
  if (plainText.test(path) || !text.trim()) return text.trim() && text;
  if (plainNumber.test(path)) {
    const n = Number(text.replace(',', '.'));
    return Number.isNaN(n) ? text : n;
  }
  if (path.endsWith('_deg')) return withUnit(text, '°');
  return withUnit(text, path.endsWith('_kg') ? (unit === 'in' ? 'lb' : 'kg') : unit);
}

function changed<T extends object>(base: T, kind: string, changes: Record<string, Typed>): T {
  const mine = Object.entries(changes).filter(([path]) => path.startsWith(kind + '.'));
  if (mine.length === 0) return base;
  const out = structuredClone(base) as Tree;
  for (const [path, typed] of mine) put(out, steps(path).slice(1), figure(path, typed));
  return out as T;
}

/** Trials stand in for a hole's recess and depth. */
function withTrials(d: Display, trials: Record<string, ToldTrial[]>): Display {
  const told = Object.entries(trials).filter(([, list]) => list.length > 0);
  if (told.length === 0) return d;
  const out = structuredClone(d) as unknown as Tree;
  for (const [path, list] of told) {
    const way = steps(path);
    const pattern = at(out, way.slice(0, 2).join('.'));
    if (pattern === undefined) continue; // the pattern is not known yet
    const hole = reach(out, way);
    hole.trials = list.map(asTrial);
    for (const name of ['recess', 'recess_mm', 'thread_depth', 'thread_depth_mm']) delete hole[name];
  }
  return out as unknown as Display;
}

/** A display typed in has a pattern once both of its sides are given. */
function withoutHalfPattern(d: Display): Display {
  const whole = (p: unknown) => {
    const has = (n: string) => at(p, n) !== undefined || at(p, n + '_mm') !== undefined;
    return has('width') && has('height');
  };
  return { ...d, patterns: d.patterns?.filter(whole) };
}

/** The request for the server; undefined while there is nothing to ask. */
export function request(a: Inputs, base: { display?: Display; bracket?: Bracket }, units: Units): Request | undefined {
  const q: Request & { center?: string; accessories?: string } = { turn_deg: a.turn, wall: a.wall, units };
  const touched = (kind: string) => Object.keys(a.changes).some((p) => p.startsWith(kind + '.'));
  const called = Object.values(a.trials).some((list) => list.length > 0);
  if (a.typed) q.display = withTrials(withoutHalfPattern(changed(a.typed, 'display', a.changes)), a.trials);
  else if (!a.display) return undefined;
  else if (touched('display') || called) {
    if (!base.display) return undefined;
    q.display = withTrials(changed(base.display, 'display', a.changes), a.trials);
  } else q.display_id = a.display;
  if (a.bracket && (a.ownBracket || touched('bracket'))) {
    if (!base.bracket) return undefined;
    q.bracket = changed(base.bracket, 'bracket', a.changes);
  } else if (a.bracket) q.bracket_id = a.bracket;
  if (a.center?.text.trim()) q.center = withUnit(a.center.text, a.center.unit);
  else if (siteCenter(a) !== undefined) q.center_mm = siteCenter(a);
  const load = a.changes['accessories_kg'];
  if (load?.text.trim()) q.accessories = withUnit(load.text, load.unit === 'in' ? 'lb' : 'kg');
  if (a.topHoles !== null) q.top_holes_mm = a.topHoles;
  if (a.spacers !== null) q.arm_clearance_mm = a.spacers;
  // The bench judges without a wall, but by what the job asks of the movement.
  const site = siteOf(a) as Record<string, unknown> | undefined;
  for (const of of ['wanted_tilt', 'wanted_tilt_deg', 'wanted_swivel', 'wanted_swivel_deg']) {
    if (site?.[of] !== undefined) (q as Record<string, unknown>)[of] = site[of];
  }
  if (a.tilt) q.tilt_deg = a.tilt;
  if (a.swivel) q.swivel_deg = a.swivel;
  if (Object.keys(a.schools).length > 0) q.policy = a.schools as Request['policy'];
  return q;
}

/** The height of the centre that the site says. */
export function siteCenter(a: Inputs): number | undefined {
  return a.site?.place?.rule === 'center' ? a.site.place.center_mm : undefined;
}

/** The site for the server: what is set up, with what is typed over it. */
function siteOf(a: Inputs): Site | undefined {
  if (!a.site) return undefined;
  const site = changed(a.site, 'site', a.changes);
  const place: Site['place'] & { center?: string } = { ...site.place, rule: site.place?.rule ?? 'center' };
  if (place.rule === 'center' && a.center?.text.trim()) {
    delete place.center_mm;
    place.center = withUnit(a.center.text, a.center.unit);
  }
  return { ...site, id: site.id || 'site', display: a.display || 'display', bracket: a.bracket || 'bracket', wall: { ...site.wall, type: a.wall }, place };
}

/** The request with the site, for what is done on a particular wall. */
export function onSite(q: Request | undefined, a: Inputs): Request | undefined {
  const site = siteOf(a);
  return q && site ? { ...q, site } : q;
}

/** What a site's answer leaves to be asked: what was typed is in it now. */
export function settled(a: Inputs, site: Site): Partial<Inputs> {
  return { site: { ...site, id: a.site?.id ?? '' }, changes: changesOf(a, 'site', true), center: null };
}

/** An id for a display typed in, from its name. */
export function idOf(name: string): string {
  const id = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);
  return id || 'display';
}

/** The changes of one kind, or of all others. */
function changesOf(a: Inputs, kind: string, others = false): Inputs['changes'] {
  return Object.fromEntries(Object.entries(a.changes).filter(([path]) => path.startsWith(kind + '.') !== others));
}

/** Another display: what is said of the wall, and where on it, stays. */
export function otherDisplay(a: Inputs, part: Partial<Inputs>): Inputs {
  const { bracket, wall, center, schools, site, siteRevision } = a;
  return { ...nothing, bracket, wall, center, schools, site, siteRevision, changes: changesOf(a, 'site'), ...part };
}

/** What the thickness of a wall's base is the thickness of; kinds of wall with the same words share it. */
export const bases: Record<string, string> = {
  wood_stud: 'Stud depth',
  metal_stud: 'Stud depth',
  timber_board: 'Board',
  thin_backer: 'Backer',
  concrete: 'Wall thickness',
  block: 'Wall thickness',
  lined_masonry: 'Masonry',
};

/** Another kind of wall: what was measured of the other kind is not so of this one. */
export function otherWall(a: Inputs, wall: Wall): Partial<Inputs> {
  if (!a.site?.wall || wall === a.wall) return { wall };
  const made = ['cavity', 'steel', 'block_kind', 'board_kind', 'treated', 'wet', 'species'];
  if (bases[wall] !== bases[a.wall]) made.push('backing');
  const of = (name: string) => made.includes(name.replace(/_mm$/, ''));
  const kept = Object.fromEntries(Object.entries(a.site.wall).filter(([name]) => !of(name)));
  const changes = Object.fromEntries(Object.entries(a.changes).filter(([path]) => !(path.startsWith('site.wall.') && of(path.split('.')[2]!))));
  return { wall, site: { ...a.site, wall: { ...kept, type: wall } }, changes };
}

/** The catalogue's figures again; the wall's are not the catalogue's. */
export function asInCatalogue(a: Inputs): Partial<Inputs> {
  const { wall_school } = a.schools;
  return { changes: changesOf(a, 'site'), schools: wall_school ? { wall_school } : {}, trials: {}, topHoles: null, spacers: null };
}

/** Another bracket: changes of the display stay, those of the bracket were its own. */
export function otherBracket(a: Inputs, id: string): Partial<Inputs> {
  return { bracket: id, ownBracket: null, topHoles: null, spacers: null, tilt: 0, swivel: 0, changes: changesOf(a, 'bracket', true) };
}

/** What is asked when a job is opened. */
export function opened(job: Site, revision: number): Inputs {
  const { accessories_kg, turn_deg, arm_clearance_mm, ...site } = job;
  return {
    ...nothing,
    display: job.display,
    bracket: job.bracket,
    turn: turn_deg ?? 0,
    wall: job.wall?.type ?? nothing.wall,
    spacers: arm_clearance_mm ?? null,
    changes: accessories_kg ? { accessories_kg: { text: `${accessories_kg} kg`, unit: 'mm' } } : {},
    site,
    siteRevision: revision,
  };
}

/** The threads that displays have. */
export const threads = ['M4', 'M5', 'M6', 'M8'] as const;

/** The schools that differ from the policy's, with one of them picked. */
export function withSchool(all: Record<string, string>, name: string, value: string, standard: string) {
  const out = { ...all, [name]: value };
  if (value === standard) delete out[name];
  return out;
}
