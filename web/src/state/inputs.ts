import type { Bracket, Display, Request, Schemas, Site } from '../api';
import { lostWithKind } from '../gen/words.en';
import { baseWords } from '../words';
import { hasUnit, unitOf, type Units } from './units';

export type Turn = 0 | 90 | 270;
export type Wall = NonNullable<Request['wall']>;
export type Edit = Schemas['Edit'];

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

/** A trial bolt for the server, its figures as they were typed. */
export function asTrial(t: ToldTrial, units: Units) {
  const { thread, length, outcome, gap, turns, tolerance } = t;
  const mm = (text: string) => said('_mm', { text, unit: t.unit }, units);
  return { thread, length_mm: length, outcome, gap_mm: mm(gap), turns, tolerance_mm: mm(tolerance) };
}

/** What was typed, for the server: what was typed in the other system keeps its unit. */
export const said = (path: string, t: Typed, units: Units) => (t.unit === units ? t.text : foreign(t, path));

/** What was typed in the other system, with the unit it had there. */
export function foreign(t: Typed, of = '_mm'): string {
  return hasUnit(t.text) || t.text.trim() === '' ? t.text : `${t.text} ${unitOf(of, t.unit)}`.trim();
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
  edits: Edit[]; // of the site: what is added and taken away, before the changes
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
  edits: [],
  siteRevision: 0,
};

type Tree = Record<string, unknown>;

export function steps(path: string): string[] {
  return path.replace(/\[(\d+)\]/g, '.$1').split('.');
}

/** The value at a path of a document. */
export function at(document: unknown, path: string): unknown {
  return steps(path).reduce<unknown>((d, name) => (d == null ? undefined : (d as Tree)[name]), document);
}

/** The request for the server; undefined while there is nothing to ask. */
export function request(a: Inputs, units: Units): Request | undefined {
  if (!a.display && !a.typed) return undefined;
  const { site, center } = a;
  const changes = [...(site ? a.edits : [])];
  for (const [path, typed] of Object.entries(a.changes)) if (site || !path.startsWith('site.')) changes.push({ path, to: said(path, typed, units) });
  for (const [hole, told] of Object.entries(a.trials)) if (told.length > 0) changes.push({ path: `display.${hole}.trials`, to: told.map((t) => asTrial(t, units)) });
  if (center?.text.trim()) changes.push({ path: centerPath(a), to: said('_mm', center, units) });
  return {
    ...(a.typed ? { display: a.typed } : { display_id: a.display }),
    ...(a.ownBracket ? { bracket: a.ownBracket } : { bracket_id: a.bracket || undefined }),
    turn_deg: a.turn,
    wall: a.wall,
    units,
    top_holes_mm: a.topHoles ?? undefined,
    arm_clearance_mm: a.spacers ?? undefined,
    tilt_deg: a.tilt || undefined,
    swivel_deg: a.swivel || undefined,
    policy: Object.keys(a.schools).length > 0 ? (a.schools as Request['policy']) : undefined,
    site: site ? { ...site, id: site.id || 'site', display: a.display || 'display', bracket: a.bracket || 'bracket' } : undefined,
    changes: changes.length > 0 ? changes : undefined,
  };
}

/** Where the height of the centre is said: of the site, if that goes by it. */
export const centerPath = (a: Inputs) => (a.site?.place?.rule === 'center' ? 'site.place.center_mm' : 'center_mm');

/** The height of the centre that the site says. */
export function siteCenter(a: Inputs): number | undefined {
  return a.site?.place?.rule === 'center' ? a.site.place.center_mm : undefined;
}

/** What a site's answer leaves to be asked: what was typed is in it now. */
export function settled(a: Inputs, site: Site): Partial<Inputs> {
  return { site: { ...site, id: a.site?.id ?? '' }, edits: [], changes: changesOf(a, 'site', true), center: null };
}

/** The site with things on it added, taken away or chosen: on the server's answer, which what was typed is in; without
    one, as its figures are refused, beside what is typed. */
export function edited(a: Inputs, edits: Edit[], answered?: Site): Partial<Inputs> {
  if (answered) return { ...settled(a, answered), edits };
  return { edits: [...a.edits, ...edits], changes: edits.filter((e) => e.to === null).reduce((changes, e) => shifted(changes, e.path), a.changes) };
}

/** What is typed, by its path, after an entry of a list was taken away: of that one nothing, of the later ones for one earlier. */
export function shifted<T>(changes: Record<string, T>, gone: string): Record<string, T> {
  const entry = /^(.*\[)(\d+)\]$/.exec(gone);
  const moved = Object.entries(changes)
    .filter(([path]) => path !== gone && !path.startsWith(`${gone}.`))
    .map(([path, t]): [string, T] => {
      const rest = entry && path.startsWith(entry[1]!) ? /^(\d+)(.*)$/.exec(path.slice(entry[1]!.length)) : null;
      return rest && Number(rest[1]) > Number(entry![2]) ? [`${entry![1]}${Number(rest[1]) - 1}${rest[2]}`, t] : [path, t];
    });
  return Object.fromEntries(moved);
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
  const { bracket, wall, center, schools, site, edits, siteRevision } = a;
  return { ...nothing, bracket, wall, center, schools, site, edits, siteRevision, changes: changesOf(a, 'site'), ...part };
}

/** Another kind of wall: what was measured of the other kind is not so of this one. */
export function otherWall(a: Inputs, wall: Wall): Partial<Inputs> {
  if (!a.site || wall === a.wall) return { wall };
  const lost = [...lostWithKind, ...(baseWords[wall] === baseWords[a.wall] ? [] : ['backing_mm', 'backing'])];
  const stays = ([path]: [string, Typed]) => !(path.startsWith('site.wall.') && lost.includes(path.split('.')[2]!));
  return { wall, edits: [...a.edits, { path: 'site.wall.type', to: wall }], changes: Object.fromEntries(Object.entries(a.changes).filter(stays)) };
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
