import { t } from '@lingui/core/macro';
import { useSyncExternalStore } from 'react';
import { at, here } from '../base';
import { answer, api, Refused } from '../api';
import { wallWords } from '../words';
import { forgetDrafts } from './drafts';
import { heard, spoken } from './link';
import { nothing, opened, otherWall, type Inputs, type Turn, type Wall } from './inputs';
import { withUnit, type Units } from './units';

// What is asked has one owner: this store. The address says what matters of it, so that a link
// or a second window gives the same; the whole of it, with what is half typed, is saved with the
// entry of the window's history, so that Back, Forward and a reload bring it back.

interface Workspace {
  inputs: Inputs;
  before: Partial<Inputs>[]; // patches that undo the last changes, the latest last
  mark: string; // of the last change: those in a row with one mark are undone as one
  units: Units;
  tabs: Record<string, string>; // what is open of a screen, by name
  letters: boolean; // single-key shortcuts are on
  job: string; // named by the address and not opened yet
  jobError: string;
}

type Change = Partial<Inputs> | ((a: Inputs) => Partial<Inputs>);

/** What is saved with an entry of the window's history. */
interface Saved {
  who?: string; // whose it is
  inputs: Inputs;
  before: Partial<Inputs>[];
}

const sessionKey = 'nexufix.inputs';
const whoKey = 'nexufix.who';

/** The views of what is asked: their address says it. That of another view is its own. */
const benchViews = ['/', '/wall', '/template', '/steps'];
export const isBench = (pathname: string) => benchViews.includes(pathname);
const benchTabs = ['panel', 'larger', 'drawing', 'picture', 'paper', 'sheet', 'lang'];
const walls = Object.keys(wallWords);
const ownParams = ['display', 'bracket', 'turn', 'wall', 'centre', 'job', 'units', 'with'];
const mostUndone = 100;

function stored(of: Storage, name: string): string | null {
  try {
    return of.getItem(name);
  } catch {
    return null; // a browser that keeps nothing
  }
}

function store(of: Storage, name: string, value: string) {
  try {
    of.setItem(name, value);
  } catch {
    // Nothing is saved then; it works all the same.
  }
}

/** What an address asks, on top of what was asked in this window when it is of the same display. */
function asked(address: URLSearchParams): Inputs {
  let a = nothing;
  try {
    a = { ...nothing, ...(JSON.parse(stored(sessionStorage, sessionKey) || '{}') as Partial<Inputs>) };
  } catch {
    // Something old: start empty.
  }
  const display = address.get('display');
  const bracket = address.get('bracket');
  const said = heard(address.get('with'));
  if (display && (display !== a.display || (bracket ?? '') !== a.bracket)) a = { ...nothing, display, bracket: bracket ?? '' };
  else if (said.typed && said.typed.id !== a.typed?.id) a = { ...nothing, bracket: bracket ?? '' };
  if (address.has('with')) a = { ...a, ...said };
  const turn = Number(address.get('turn'));
  if (turn === 90 || turn === 270) a = { ...a, turn: turn as Turn };
  const wall = address.get('wall');
  if (wall && walls.includes(wall)) a = { ...a, ...otherWall(a, wall as Wall) };
  const centre = address.get('centre');
  if (centre && !a.center) a = { ...a, center: { text: centre, unit: 'mm' } };
  return a;
}

const tabsOf = (address: URLSearchParams) => Object.fromEntries([...address].filter(([name]) => !ownParams.includes(name)));

const who = () => stored(sessionStorage, whoKey) ?? '';

/** What an entry of the history asks: what is saved with it, or what its address says. */
function entry(): Pick<Workspace, 'inputs' | 'before' | 'tabs' | 'units' | 'job'> {
  let address = new URLSearchParams(window.location.search);
  let saved = (window.history.state as { workspace?: Saved } | null)?.workspace;
  const others = saved !== undefined && (saved.who ?? '') !== who();
  if (others) {
    saved = undefined;
    window.history.replaceState(null, '', window.location.pathname); // what was typed stands in the address, too
    address = new URLSearchParams();
  }
  const inputs = saved ? { ...nothing, ...saved.inputs } : asked(isBench(here()) ? address : new URLSearchParams());
  const units = address.get('units') ?? stored(localStorage, 'nexufix.units');
  const job = isBench(here()) ? (address.get('job') ?? '') : '';
  return { inputs, before: saved?.before ?? [], tabs: tabsOf(address), units: units === 'in' ? 'in' : 'mm', job: job !== inputs.site?.id ? job : '' };
}

let now: Workspace = { ...entry(), mark: '', letters: stored(localStorage, 'nexufix.letters') !== 'off', jobError: '' };
const listeners = new Set<() => void>();

/** The address's part that says what is asked. */
function search({ inputs: a, tabs, units, job }: Workspace): string {
  const q = new URLSearchParams();
  if (a.display) q.set('display', a.display);
  if (a.bracket) q.set('bracket', a.bracket);
  if (a.turn) q.set('turn', String(a.turn));
  if (a.wall !== nothing.wall) q.set('wall', a.wall);
  if (a.center?.text.trim()) q.set('centre', withUnit(a.center.text, a.center.unit));
  if (job || a.site?.id) q.set('job', job || a.site!.id); // one that is not open yet, too
  const said = spoken(a);
  if (said) q.set('with', said);
  for (const [name, value] of Object.entries(tabs)) if (benchTabs.includes(name)) q.set(name, value);
  if (units === 'in' || a.display || a.typed) q.set('units', units);
  return q.size > 0 ? `?${q}` : '';
}

let written = search(now); // what the address says now

const between = 150; // ms: browsers refuse an address that is written at every key
let timer = 0;

function write(push: boolean) {
  window.clearTimeout(timer);
  timer = 0;
  if (leaving) return;
  const { inputs, before } = now;
  store(sessionStorage, sessionKey, JSON.stringify(inputs));
  const was = (window.history.state ?? {}) as { idx?: number };
  const saved: Saved = { who: who(), inputs, before: before.slice(-30) };
  const older = written;
  written = search(now);
  const url = window.location.pathname + (isBench(here()) ? written : window.location.search);
  if (push) window.history.pushState({ ...was, idx: (was.idx ?? 0) + 1, key: Math.random().toString(36).slice(2, 10), workspace: saved }, '', url);
  else window.history.replaceState({ ...was, workspace: saved }, '', url);
  if (written !== older) listeners.forEach((l) => l());
}

/** How a change is written down: as an entry of its own, in the one there is, in it after a
    moment, or by the screen that is gone to. */
type How = 'push' | 'now' | 'soon' | 'there';

function change(part: Partial<Workspace>, how: How = 'now') {
  if ((how === 'push' || how === 'there') && timer) write(false); // what was typed belongs to the entry before
  now = { ...now, ...part };
  listeners.forEach((l) => l());
  if (how === 'soon') timer ||= window.setTimeout(() => write(false), between);
  else if (how !== 'there') write(how === 'push');
}

/** The old values of what a change changes: the patch that undoes it. */
function undoing(a: Inputs, part: Partial<Inputs>): Partial<Inputs> {
  return Object.fromEntries(Object.keys(part).map((name) => [name, a[name as keyof Inputs]]));
}

/** Whether Back should lead to where this was asked. */
function elsewhere(a: Inputs, b: Inputs): boolean {
  return a.display !== b.display || a.typed?.id !== b.typed?.id || a.bracket !== b.bracket || a.wall !== b.wall || a.turn !== b.turn || a.site?.id !== b.site?.id;
}

/** Changes the request. Changes in a row with the same mark are undone as one. */
export function ask(change_: Change, mark = '') {
  put(change_, mark);
}

/** Changes the request on the way to another screen. */
export function askThere(change_: Change) {
  put(change_, '', 'there');
}

function put(change_: Change, mark: string, how?: How) {
  const part = typeof change_ === 'function' ? change_(now.inputs) : change_;
  const inputs = { ...now.inputs, ...part };
  const patch = undoing(now.inputs, part);
  const last = now.before.at(-1);
  // One with the change before: what that one had not touched is undone with it.
  const before = mark && mark === now.mark && last ? [...now.before.slice(0, -1), { ...patch, ...last }] : [...now.before.slice(1 - mostUndone), patch];
  change({ inputs, before, mark, job: '', jobError: '' }, how ?? (elsewhere(now.inputs, inputs) ? 'push' : mark ? 'soon' : 'now'));
}

export function undo() {
  const patch = now.before.at(-1);
  if (patch) change({ inputs: { ...now.inputs, ...patch }, before: now.before.slice(0, -1), mark: '' });
}

export function toggleUnits() {
  const units = now.units === 'mm' ? 'in' : 'mm';
  store(localStorage, 'nexufix.units', units);
  change({ units });
}

export function setLetters(letters: boolean) {
  store(localStorage, 'nexufix.letters', letters ? 'on' : 'off');
  change({ letters });
}

/** Another screen was gone to: its entry of the history keeps what is asked as well, unless its link names another job, which is opened. */
export function arrived() {
  const named = isBench(here()) ? new URLSearchParams(window.location.search).get('job') : null;
  const come = (window.history.state as { workspace?: Saved } | null)?.workspace === undefined;
  if (!named || !come || named === (now.inputs.site?.id ?? now.job)) return write(false);
  change({ inputs: nothing, before: [], mark: '', job: named, jobError: '' });
  void openNamed();
}

/** Says who sits here now. What somebody else typed in this window, and did not save, is theirs: it goes, and the page is loaded
    anew; then true. */
export function belongsTo(id: string): boolean {
  const was = who();
  if (was === id) return false;
  store(sessionStorage, whoKey, id);
  if (was === '') {
    void openNamed(); // a link to a job that was opened at the door
    return false;
  }
  window.clearTimeout(timer);
  timer = 0;
  leaving = true;
  forgetDrafts();
  store(sessionStorage, sessionKey, '');
  window.location.replace(at('/'));
  return true;
}

let leaving = false; // nothing is written down any more

/** Opens the job that the address names. */
async function openNamed() {
  const id = now.job;
  if (!id) return;
  try {
    const saved = await answer(api.GET('/api/items/{kind}/{id}', { params: { path: { kind: 'jobs', id } } }));
    if (now.job === id && saved.job) change({ inputs: opened(saved.job, saved.revision), job: '' });
  } catch (e) {
    if (e instanceof Refused && e.problem.status === 401) return; // at the door: it is opened behind it
    if (now.job === id) change({ job: '', jobError: t`Job ${id} cannot be opened. ${(e as Error).message}` });
  }
}

window.addEventListener('popstate', () => {
  window.clearTimeout(timer);
  timer = 0;
  now = { ...now, ...entry(), mark: '' };
  listeners.forEach((l) => l());
  void openNamed();
});
window.addEventListener('pagehide', () => timer && write(false));
void openNamed();

const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** What is asked, the units it is read in, and how both are changed. */
export function useWorkspace() {
  const workspace = useSyncExternalStore(subscribe, () => now);
  return { ...workspace, ask, askThere, undo, canUndo: workspace.before.length > 0, toggleUnits, setLetters };
}

/** The units that figures are read in. */
export function useUnits(): Units {
  return useSyncExternalStore(subscribe, () => now.units);
}

/** Whether single-key shortcuts are on. */
export function useLetters(): boolean {
  return useSyncExternalStore(subscribe, () => now.letters);
}

/** The address's part that says what is asked, for links to other screens. */
export function useSearch(): string {
  return useSyncExternalStore(subscribe, () => written);
}

/** What is on the bench, as a path: who else works on it is said. '' for nothing. */
export function useSubject(): string {
  return useSyncExternalStore(subscribe, () => {
    const { display, bracket, site } = now.inputs;
    return site?.id ? `/jobs/${site.id}` : display ? `/pairings/${display}/${bracket}` : '';
  });
}

/** What of a screen is open: one of its names, the first as long as nothing was chosen. */
export function useTab<T extends string>(name: string, choices: readonly T[]): [T, (to: T) => void] {
  const chosen = useSyncExternalStore(subscribe, () => now.tabs[name]);
  const set = (to: T) => {
    const tabs = { ...now.tabs, [name]: to };
    if (to === choices[0]) delete tabs[name];
    if (!isBench(here())) {
      const address = new URLSearchParams(window.location.search);
      if (name in tabs) address.set(name, to);
      else address.delete(name);
      window.history.replaceState(window.history.state, '', window.location.pathname + (address.size > 0 ? `?${address}` : ''));
    }
    change({ tabs });
  };
  return [choices.find((c) => c === chosen) ?? choices[0]!, set];
}
