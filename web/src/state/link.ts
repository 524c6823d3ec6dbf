import type { Display, Site } from '../api';
import { nothing, type Edit, type Inputs, type ToldTrial, type Typed } from './inputs';

// What a link says of what was typed, beyond what the address names: as JSON in one parameter.

type Spoken = Pick<Inputs, 'typed' | 'changes' | 'schools' | 'trials' | 'topHoles' | 'spacers' | 'tilt' | 'swivel' | 'site' | 'edits'>;

const names = ['typed', 'changes', 'schools', 'trials', 'topHoles', 'spacers', 'tilt', 'swivel', 'edits'] as const;
const longest = 6000; // letters that every program takes in an address

/** What was typed, for an address; '' for nothing, or for more than an address takes. A wall that is
    saved as a job is named by it. */
export function spoken(a: Inputs): string {
  const out: Partial<Record<keyof Spoken, unknown>> = {};
  for (const name of names) if (JSON.stringify(a[name]) !== JSON.stringify(nothing[name])) out[name] = a[name];
  if (a.site && !a.site.id) out.site = a.site;
  if (Object.keys(out).length === 0) return '';
  const text = JSON.stringify(out);
  return text.length > longest ? '' : text;
}

const object = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x);
const each = <T>(x: unknown, is: (v: unknown) => v is T): x is Record<string, T> => object(x) && Object.values(x).every(is);
const text = (x: unknown): x is string => typeof x === 'string';
const typed = (x: unknown): x is Typed => object(x) && text(x.text) && (x.unit === 'mm' || x.unit === 'in');
const trial = (x: unknown): x is ToldTrial => object(x) && ['thread', 'length', 'outcome', 'gap', 'turns', 'tolerance', 'said', 'unit'].every((n) => text(x[n]));
const edits = (x: unknown): x is Edit[] => Array.isArray(x) && x.every((e) => object(e) && text(e.path));
const trials = (x: unknown): x is ToldTrial[] => Array.isArray(x) && x.every(trial);

/** What an address says was typed. What has another shape is left out: anybody can write a link. */
export function heard(said: string | null): Partial<Inputs> {
  let x: unknown;
  try {
    x = JSON.parse(said ?? '{}');
  } catch {
    return {};
  }
  if (!object(x)) return {};
  const out: Partial<Inputs> = {};
  if (object(x.typed) && text(x.typed.id)) out.typed = x.typed as unknown as Display;
  if (each(x.changes, typed)) out.changes = x.changes;
  if (each(x.schools, text)) out.schools = x.schools;
  if (each(x.trials, trials)) out.trials = x.trials;
  if (edits(x.edits)) out.edits = x.edits;
  if (object(x.site) && object(x.site.wall) && object(x.site.place)) out.site = x.site as unknown as Site;
  for (const name of ['topHoles', 'spacers', 'tilt', 'swivel'] as const) if (typeof x[name] === 'number' && Number.isFinite(x[name])) out[name] = x[name];
  return out;
}
