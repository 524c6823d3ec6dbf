import { createContext, useCallback, useContext, useEffect, useMemo, useReducer, useState, type ReactNode } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { nothing, type Asking, type Turn, type Wall } from './question';
import type { Units } from './units';
import { wallWords } from '../words';

interface Desk {
  asking: Asking;
  /** Changes the question. Changes in a row with the same mark are undone as one. */
  ask: (part: Partial<Asking> | ((a: Asking) => Partial<Asking>), mark?: string) => void;
  undo: () => void;
  canUndo: boolean;
  units: Units;
  toggleUnits: () => void;
  letters: boolean; // single-key shortcuts are on
  setLetters: (on: boolean) => void;
}

const DeskContext = createContext<Desk | null>(null);

export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error('useDesk outside of DeskProvider');
  return desk;
}

interface History {
  now: Asking;
  before: Asking[];
  mark: string;
}

type Move = { kind: 'ask'; part: Partial<Asking> | ((a: Asking) => Partial<Asking>); mark: string } | { kind: 'undo' };

function move(h: History, m: Move): History {
  if (m.kind === 'undo') {
    const last = h.before.at(-1);
    return last ? { now: last, before: h.before.slice(0, -1), mark: '' } : h;
  }
  const part = typeof m.part === 'function' ? m.part(h.now) : m.part;
  const before = m.mark && m.mark === h.mark ? h.before : [...h.before.slice(-99), h.now];
  return { now: { ...h.now, ...part }, before, mark: m.mark };
}

const saved = 'nexufix.asking';
const walls = Object.keys(wallWords);

/** What was asked before a reload, or what the address says. */
function start(address: URLSearchParams): Asking {
  let a = nothing;
  try {
    a = { ...nothing, ...(JSON.parse(sessionStorage.getItem(saved) ?? '{}') as Partial<Asking>) };
  } catch {
    // A browser that keeps nothing, or something old: start empty.
  }
  const display = address.get('display');
  const bracket = address.get('bracket');
  if (display && (display !== a.display || (bracket ?? '') !== a.bracket)) a = { ...nothing, display, bracket: bracket ?? '' };
  const turn = Number(address.get('turn'));
  if (turn === 90 || turn === 270) a = { ...a, turn: turn as Turn };
  const wall = address.get('wall');
  if (wall && walls.includes(wall)) a = { ...a, wall: wall as Wall };
  return a;
}

function remembered(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

function remember(name: string, value: string) {
  try {
    localStorage.setItem(name, value);
  } catch {
    // Nothing is saved then; it works all the same.
  }
}

export function DeskProvider({ children }: { children: ReactNode }) {
  const { search } = useLocation();
  const go = useNavigate();
  const [history, dispatch] = useReducer(move, undefined, () => ({ now: start(new URLSearchParams(search)), before: [], mark: '' }) as History);
  const [units, setUnits] = useState<Units>(() => (remembered('nexufix.units') === 'in' ? 'in' : 'mm'));
  const [letters, setLettersState] = useState(() => remembered('nexufix.letters') !== 'off');
  const asking = history.now;

  useEffect(() => {
    try {
      sessionStorage.setItem(saved, JSON.stringify(asking));
    } catch {
      // As above.
    }
    const next = new URLSearchParams();
    if (asking.display) next.set('display', asking.display);
    if (asking.bracket) next.set('bracket', asking.bracket);
    if (asking.turn) next.set('turn', String(asking.turn));
    if (asking.wall !== nothing.wall) next.set('wall', asking.wall);
    // The window knows of a view that was gone to in the same breath.
    if (next.toString() !== new URLSearchParams(search).toString()) void go({ pathname: window.location.pathname, search: next.toString() }, { replace: true });
  }, [asking, search, go]);

  const ask = useCallback<Desk['ask']>((part, mark = '') => dispatch({ kind: 'ask', part, mark }), []);
  const undo = useCallback(() => dispatch({ kind: 'undo' }), []);
  const toggleUnits = useCallback(
    () =>
      setUnits((u) => {
        const next = u === 'mm' ? 'in' : 'mm';
        remember('nexufix.units', next);
        return next;
      }),
    [],
  );
  const setLetters = useCallback((on: boolean) => {
    remember('nexufix.letters', on ? 'on' : 'off');
    setLettersState(on);
  }, []);
  const canUndo = history.before.length > 0;
  const desk = useMemo(
    () => ({ asking, ask, undo, canUndo, units, toggleUnits, letters, setLetters }),
    [asking, ask, undo, canUndo, units, toggleUnits, letters, setLetters],
  );
  return <DeskContext value={desk}>{children}</DeskContext>;
}
