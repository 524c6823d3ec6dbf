import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Verdict } from '../api';
import { useDesk } from '../asking';
import { nothing } from '../question';
import { ruleWords, verdictWords } from '../words';
import { useMatrix, type Cell, type Matrix } from './matrix';

const takes = (c: Cell | undefined) => c?.verdict === 'fits' || c?.verdict === 'fits_with_conditions';
const names = 250; // width of the displays' names
const heads = 46; // height of the brackets' names

/** All displays by all brackets, as a picture. */
export function MatrixSheet() {
  const { matrix, error, stopped, stop } = useMatrix();
  const [typed, setTyped] = useState('');
  const [sort, setSort] = useState<'name' | 'fewest'>('fewest');
  const [only, setOnly] = useState('');
  return (
    <main className="sheet matrix">
      <div className="tools">
        <h1>Matrix</h1>
        {matrix && <Summary matrix={matrix} />}
        <span className="grow" />
        <Button size="small" color="inherit" component="a" href="/api/matrix.csv" download="matrix.csv">
          CSV
        </Button>
        <Button size="small" color="inherit" component="a" href="/api/matrix.xlsx" download="matrix.xlsx">
          XLSX
        </Button>
      </div>
      {error && <Alert severity="error">{error.message}</Alert>}
      {matrix && !matrix.end && !error && (
        <p role="status" className="hint">
          {stopped ? 'Stopped. ' : 'Judging: '}
          {matrix.judged} of {matrix.head.displays.length} displays{' '}
          {!stopped && (
            <button type="button" className="press" onClick={stop}>
              Stop
            </button>
          )}
        </p>
      )}
      {matrix && (
        <>
          <div className="tools">
            <input className="figure-field words" style={{ width: 190 }} placeholder="Only displays named…" aria-label="Only displays named" value={typed} onChange={(e) => setTyped(e.target.value)} />
            <select className="figure-field words" style={{ width: 190 }} aria-label="Order of the displays" value={sort} onChange={(e) => setSort(e.target.value as 'name' | 'fewest')}>
              <option value="fewest">Fewest brackets first</option>
              <option value="name">By name</option>
            </select>
            <select className="figure-field words" style={{ width: 230 }} aria-label="Which displays" value={only} onChange={(e) => setOnly(e.target.value)}>
              <option value="">All displays</option>
              <option value="none">Those that nothing fits</option>
              <option value="one">Those that one bracket fits</option>
              <option value="left">Those the three leave</option>
              {matrix.head.rules.filter(Boolean).map((r) => (
                <option key={r} value={'rule:' + r}>
                  Held up by: {(ruleWords[r] ?? r).toLowerCase()}
                </option>
              ))}
            </select>
          </div>
          <Picture matrix={matrix} typed={typed} sort={sort} only={only} />
        </>
      )}
    </main>
  );
}

/** Which three brackets take most, and what is left. */
function Summary({ matrix }: { matrix: Matrix }) {
  if (!matrix.end) return null;
  const { cover, left } = matrix.end;
  const all = matrix.head.displays.length;
  if (cover.length === 0) return <span>No bracket takes any of the {all} displays.</span>;
  return (
    <span data-cover={cover.length}>
      <b>{cover.map((i) => matrix.head.brackets[i]?.name).join(', ')}</b> take {all - left.length} of {all} displays; {left.length} are left.
    </span>
  );
}

function describe(m: Matrix, row: number, column: number): string {
  const cell = m.rows[row]?.[column];
  const pair = `${m.head.displays[row]?.name} on ${m.head.brackets[column]?.name}`;
  if (!cell) return `${pair}: not judged yet.`;
  const why = cell.rule ? `, by ${(ruleWords[cell.rule] ?? cell.rule).toLowerCase()}` : '';
  return `${pair}: ${verdictWords[cell.verdict].toLowerCase()}${why}${cell.sends ? ', parts to be sent' : ''}. Enter opens it.`;
}

function Picture({ matrix, typed, sort, only }: { matrix: Matrix; typed: string; sort: string; only: string }) {
  const { ask } = useDesk();
  const go = useNavigate();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [at, setAt] = useState({ row: 0, column: 0 });
  const [width, setWidth] = useState(0);

  // Brackets that take most come first; displays as asked.
  const columns = useMemo(() => {
    const count = matrix.head.brackets.map((_, j) => matrix.rows.reduce((n, r) => n + (takes(r?.[j]) ? 1 : 0), 0));
    return count.map((n, j) => ({ n, j })).sort((a, b) => b.n - a.n || a.j - b.j);
  }, [matrix]);
  const rows = useMemo(() => {
    const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
    const left = new Set(matrix.end?.left);
    const fit = (i: number) => matrix.rows[i]?.filter(takes).length ?? 0;
    const list = matrix.head.displays.map((d, i) => ({ i, name: d.name.toLowerCase(), n: fit(i) })).filter(({ i, name, n }) => {
      if (!words.every((w) => name.includes(w))) return false;
      if (only === 'none') return n === 0 && matrix.rows[i] !== undefined;
      if (only === 'one') return n === 1;
      if (only === 'left') return left.has(i);
      if (only.startsWith('rule:')) return matrix.rows[i]?.some((c) => c.rule === only.slice(5) && !takes(c));
      return true;
    });
    if (sort === 'fewest') list.sort((a, b) => a.n - b.n || a.name.localeCompare(b.name));
    return list;
  }, [matrix, typed, sort, only]);

  const high = rows.length > 60 ? 16 : 20;
  const wide = Math.max(16, Math.min(110, Math.floor((width - names) / Math.max(1, columns.length))));

  useEffect(() => {
    const b = box.current;
    if (!b) return;
    const size = new ResizeObserver(() => setWidth(b.clientWidth));
    size.observe(b);
    return () => size.disconnect();
  }, []);

  useEffect(() => {
    const b = box.current;
    const c = canvas.current;
    if (!b || !c || width === 0) return;
    const draw = () => {
      const scale = window.devicePixelRatio || 1;
      const tall = b.clientHeight;
      if (c.width !== width * scale || c.height !== tall * scale) {
        c.width = width * scale;
        c.height = tall * scale;
        c.style.width = `${width}px`;
        c.style.height = `${tall}px`;
      }
      const g = c.getContext('2d')!;
      const style = getComputedStyle(document.documentElement);
      const ink = (name: string) => style.getPropertyValue(name).trim();
      const colour: Record<Verdict, string> = { fits: ink('--fits'), fits_with_conditions: ink('--conditions'), missing_data: ink('--missing'), does_not_fit: ink('--m-fails') };
      const sign: Record<Verdict, string> = { fits: '✓', fits_with_conditions: '△', missing_data: '◇', does_not_fit: '×' };
      g.setTransform(scale, 0, 0, scale, 0, 0);
      g.fillStyle = ink('--paper');
      g.fillRect(0, 0, width, tall);
      g.font = `13px Barlow, 'DejaVu Sans', sans-serif`;
      g.textBaseline = 'middle';
      const first = Math.floor(b.scrollTop / high);
      const across = Math.floor(b.scrollLeft / wide);
      for (let r = first; r < Math.min(rows.length, first + Math.ceil(tall / high) + 1); r++) {
        const y = heads + r * high - b.scrollTop;
        const { i } = rows[r]!;
        for (let k = across; k < columns.length; k++) {
          const x = names + k * wide - b.scrollLeft;
          if (x > width) break;
          const cell = matrix.rows[i]?.[columns[k]!.j];
          if (!cell) continue;
          const fits = takes(cell);
          g.fillStyle = colour[cell.verdict];
          g.globalAlpha = fits ? 1 : 0.16;
          g.fillRect(x + 0.5, y + 0.5, wide - 1, high - 1);
          g.globalAlpha = 1;
          g.fillStyle = fits ? ink('--paper') : ink('--ink-2');
          const text = wide > 70 && cell.rule ? `${sign[cell.verdict]} ${(ruleWords[cell.rule] ?? cell.rule).toLowerCase()}` : sign[cell.verdict];
          g.fillText(text, x + (wide > 70 ? 7 : wide / 2 - 5), y + high / 2 + 1);
        }
        g.fillStyle = ink('--paper');
        g.fillRect(0, y, names, high);
        g.fillStyle = ink('--ink');
        g.fillText(clipped(g, matrix.head.displays[i]!.name, names - 40), 6, y + high / 2 + 1);
        g.fillStyle = ink('--ink-2');
        g.textAlign = 'right';
        g.fillText(String(rows[r]!.n), names - 8, y + high / 2 + 1);
        g.textAlign = 'left';
      }
      g.fillStyle = ink('--paper');
      g.fillRect(0, 0, width, heads);
      g.fillStyle = ink('--ink');
      columns.forEach(({ j, n }, k) => {
        const x = names + k * wide - b.scrollLeft;
        if (x < names - wide || x > width) return;
        const name = matrix.head.brackets[j]!.name;
        if (wide > 50) {
          g.fillStyle = ink('--ink');
          g.fillText(clipped(g, name, wide - 8), x + 5, 14);
          g.fillStyle = ink('--ink-2');
          g.fillText(`${n}`, x + 5, 33);
          return;
        }
        g.save();
        g.translate(x + wide / 2, heads - 4);
        g.rotate(-Math.PI / 2);
        g.fillText(clipped(g, name, heads - 8), 0, 0);
        g.restore();
      });
      g.fillStyle = ink('--paper');
      g.fillRect(0, 0, names, heads);
      g.fillStyle = ink('--ink-2');
      g.fillText(`${rows.length} displays; how many brackets take it`, 6, 33);
      const k = columns.findIndex(({ j }) => j === at.column);
      const r = rows.findIndex(({ i }) => i === at.row);
      if (r >= 0) {
        g.strokeStyle = ink('--ink');
        g.lineWidth = 2;
        g.strokeRect(names + k * wide - b.scrollLeft + 1, heads + r * high - b.scrollTop + 1, wide - 2, high - 2);
      }
    };
    draw();
    b.addEventListener('scroll', draw, { passive: true });
    const scheme = new MutationObserver(draw);
    scheme.observe(document.documentElement, { attributes: true });
    return () => {
      b.removeEventListener('scroll', draw);
      scheme.disconnect();
    };
  }, [matrix, rows, columns, width, wide, high, at]);

  const open = (row: number, column: number) => {
    const display = matrix.head.displays[row];
    const bracket = matrix.head.brackets[column];
    if (!display || !bracket) return;
    ask({ ...nothing, display: display.id, bracket: bracket.id });
    void go('/');
  };
  const under = (e: React.MouseEvent) => {
    const b = box.current!;
    const r = b.getBoundingClientRect();
    const x = e.clientX - r.left - names + b.scrollLeft;
    const y = e.clientY - r.top - heads + b.scrollTop;
    const row = rows[Math.floor(y / high)];
    const column = columns[Math.floor(x / wide)];
    return row && column && e.clientY - r.top > heads && e.clientX - r.left > names ? { row: row.i, column: column.j } : undefined;
  };
  const move = (e: React.KeyboardEvent) => {
    const r = Math.max(0, rows.findIndex(({ i }) => i === at.row));
    const k = columns.findIndex(({ j }) => j === at.column);
    const page = Math.floor((box.current?.clientHeight ?? 0) / high) - 3;
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageUp: [-page, 0], PageDown: [page, 0], Home: [-rows.length, 0], End: [rows.length, 0] }[e.key];
    if (e.key === 'Enter') open(at.row, at.column);
    if (!step || rows.length === 0) return;
    e.preventDefault();
    const nr = Math.min(rows.length - 1, Math.max(0, r + step[0]!));
    const nk = Math.min(columns.length - 1, Math.max(0, k + step[1]!));
    setAt({ row: rows[nr]!.i, column: columns[nk]!.j });
    const b = box.current!;
    const y = nr * high;
    if (y < b.scrollTop) b.scrollTop = y;
    if (y + high > b.scrollTop + b.clientHeight - heads) b.scrollTop = y + high - b.clientHeight + heads;
  };
  return (
    <>
      <p className="hint" id="matrix-cell" aria-live="polite">
        {rows.length === 0 ? 'No display is like that.' : describe(matrix, at.row, at.column)}
      </p>
      <div
        ref={box}
        className="picture"
        role="application"
        aria-label="Displays by brackets"
        aria-describedby="matrix-cell"
        tabIndex={0}
        data-rows={rows.length}
        onKeyDown={move}
        onMouseMove={(e) => {
          const cell = under(e);
          if (cell && (cell.row !== at.row || cell.column !== at.column)) setAt(cell);
        }}
        onClick={(e) => {
          const cell = under(e);
          if (cell) open(cell.row, cell.column);
        }}
      >
        <canvas ref={canvas} />
        <div className="extent" style={{ height: heads + rows.length * high, width: names + columns.length * wide }} />
      </div>
    </>
  );
}

function clipped(g: CanvasRenderingContext2D, text: string, width: number): string {
  if (g.measureText(text).width <= width) return text;
  let n = text.length;
  while (n > 1 && g.measureText(text.slice(0, n) + '…').width > width) n--;
  return text.slice(0, n) + '…';
}
