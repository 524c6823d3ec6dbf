import { plural, t } from '@lingui/core/macro';
import { styled } from '@mui/material/styles';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Verdict } from '../api';
import { Hint } from '../parts/Page';
import { ruleWords, verdictWithin, within } from '../words';
import { reason, takes, type Matrix } from './matrix';
import type { Asked } from './Why';

export type Order = 'name' | 'fewest' | 'reason';

const names = 250; // width of the displays' names
const heads = 46; // height of the brackets' names

/** A line of the picture: a display, or the head of a group. */
interface Line {
  i: number; // the display's place in the matrix, -1 for a head
  name: string;
  n: number; // brackets that take it, or displays in the group
}

const word = (rule: string) => within(ruleWords[rule] ?? rule);

function describe(m: Matrix, row: number, column: number): string {
  const cell = m.rows[row]?.[column];
  const pair = t`${m.head.displays[row]!.name} on ${m.head.brackets[column]!.name}`;
  if (!cell) return t`${pair}: not judged yet.`;
  const why = cell.rule ? t`, by ${word(cell.rule)}${cell.alone ? t` alone` : ''}` : '';
  return t`${pair}: ${verdictWithin(cell.verdict)}${why}${cell.spacers ? t`, with spacers` : ''}${cell.sends ? t`, parts to be sent` : ''}. Enter opens it; Y says why of the display, N what the bracket nearly takes.`;
}

const Scrolled = styled('div')(({ theme }) => ({
  position: 'relative',
  flex: 1,
  minHeight: 200,
  overflow: 'auto',
  border: `1px solid ${theme.vars!.palette.divider}`,
  background: theme.vars!.palette.background.paper,
  '&:focus-visible': { outline: `2px solid ${theme.vars!.palette.primary.main}` },
  '& canvas': { position: 'sticky', top: 0, left: 0, display: 'block' },
  '& .extent': { position: 'absolute', top: 0, left: 0, pointerEvents: 'none' },
  // What is drawn is said by one cell, where the keyboard is.
  '& [role="row"]': { position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' },
}));

const Pictured = styled('div')({ display: 'flex', flexDirection: 'column', flex: 1, minWidth: 0, minHeight: 0 });

interface Props {
  matrix: Matrix;
  typed: string;
  sort: Order;
  only: string;
  open: (row: number, column: number) => void;
  why: (asked: Asked) => void;
}

export function Picture({ matrix, typed, sort, only, open, why }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const extent = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState({ row: 0, column: 0 });
  const [{ width, tall }, setSize] = useState({ width: 0, tall: 0 });

  // Brackets that take most come first; displays as asked.
  const columns = useMemo(() => {
    const count = matrix.head.brackets.map((_, j) => matrix.rows.reduce((n, r) => n + (takes(r?.[j]) ? 1 : 0), 0));
    return count.map((n, j) => ({ n, j })).sort((a, b) => b.n - a.n || a.j - b.j);
  }, [matrix]);
  const rows = useMemo<Line[]>(() => {
    const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
    const left = new Set(matrix.end?.left);
    const fit = (i: number) => matrix.rows[i]?.filter(takes).length ?? 0;
    const list = matrix.head.displays
      .map((d, i) => ({ i, name: d.name.toLowerCase(), n: fit(i) }))
      .filter(({ i, name, n }) => {
        if (!words.every((w) => name.includes(w))) return false;
        if (only === 'none') return n === 0 && matrix.rows[i] !== undefined;
        if (only === 'near') return n === 0 && matrix.rows[i]?.some((c) => c.alone);
        if (only === 'one') return n === 1;
        if (only === 'left') return left.has(i);
        if (only.startsWith('rule:')) return matrix.rows[i]?.some((c) => c.rule === only.slice(5) && !takes(c));
        return true;
      });
    if (sort === 'fewest') list.sort((a, b) => a.n - b.n || a.name.localeCompare(b.name));
    return sort === 'reason' ? grouped(matrix, list) : list;
  }, [matrix, typed, sort, only]);

  const high = rows.length > 60 ? 16 : 20;
  const wide = Math.max(16, Math.min(110, Math.floor((width - names) / Math.max(1, columns.length))));

  useEffect(() => {
    const b = box.current;
    if (!b) return;
    const size = new ResizeObserver(() => setSize({ width: b.clientWidth, tall: b.clientHeight }));
    size.observe(b);
    return () => size.disconnect();
  }, []);

  useEffect(() => {
    const b = box.current;
    const c = canvas.current;
    if (!b || !c || width === 0) return;
    if (extent.current) {
      extent.current.style.height = `${heads + rows.length * high}px`;
      extent.current.style.width = `${names + columns.length * wide}px`;
    }
    const draw = () => {
      const scale = window.devicePixelRatio || 1;
      if (c.width !== width * scale || c.height !== tall * scale) {
        c.width = width * scale;
        c.height = tall * scale;
        c.style.width = `${width}px`;
        c.style.height = `${tall}px`;
      }
      const g = c.getContext('2d')!;
      const style = getComputedStyle(document.documentElement);
      const ink = (name: string) => style.getPropertyValue(`--mui-palette-${name}`).trim();
      const colour: Record<Verdict, string> = {
        fits: ink('success-main'),
        fits_with_conditions: ink('warning-main'),
        missing_data: ink('info-main'),
        does_not_fit: ink('error-main'),
      };
      const sign: Record<Verdict, string> = { fits: '✓', fits_with_conditions: '△', missing_data: '◇', does_not_fit: '×' };
      g.setTransform(scale, 0, 0, scale, 0, 0);
      g.fillStyle = ink('background-paper');
      g.fillRect(0, 0, width, tall);
      g.font = `13px 'Source Sans 3', 'DejaVu Sans', sans-serif`;
      g.textBaseline = 'middle';
      const first = Math.floor(b.scrollTop / high);
      const across = Math.floor(b.scrollLeft / wide);
      for (let r = first; r < Math.min(rows.length, first + Math.ceil(tall / high) + 1); r++) {
        const y = heads + r * high - b.scrollTop;
        const { i } = rows[r]!;
        if (i < 0) {
          g.fillStyle = ink('background-paper');
          g.fillRect(0, y, width, high);
          g.fillStyle = ink('text-primary');
          g.font = `600 13px 'Source Sans 3', 'DejaVu Sans', sans-serif`;
          g.fillText(rows[r]!.name, 6, y + high / 2 + 1);
          g.font = `13px 'Source Sans 3', 'DejaVu Sans', sans-serif`;
          continue;
        }
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
          g.fillStyle = fits ? ink('background-paper') : ink('text-secondary');
          const text = wide > 70 && cell.rule ? `${sign[cell.verdict]} ${word(cell.rule)}` : sign[cell.verdict];
          g.fillText(wide > 70 ? clipped(g, text, wide - 10) : text, x + (wide > 70 ? 7 : wide / 2 - 5), y + high / 2 + 1);
        }
        g.fillStyle = ink('background-paper');
        g.fillRect(0, y, names, high);
        g.fillStyle = ink('text-primary');
        g.fillText(clipped(g, matrix.head.displays[i]!.name, names - 40), 6, y + high / 2 + 1);
        g.fillStyle = ink('text-secondary');
        g.textAlign = 'right';
        g.fillText(String(rows[r]!.n), names - 8, y + high / 2 + 1);
        g.textAlign = 'left';
      }
      g.fillStyle = ink('background-paper');
      g.fillRect(0, 0, width, heads);
      g.fillStyle = ink('text-primary');
      columns.forEach(({ j, n }, k) => {
        const x = names + k * wide - b.scrollLeft;
        if (x < names - wide || x > width) return;
        const name = matrix.head.brackets[j]!.name;
        if (wide > 50) {
          g.fillStyle = ink('text-primary');
          g.fillText(clipped(g, name, wide - 8), x + 5, 14);
          g.fillStyle = ink('text-secondary');
          g.fillText(`${n}`, x + 5, 33);
          return;
        }
        g.save();
        g.translate(x + wide / 2, heads - 4);
        g.rotate(-Math.PI / 2);
        g.fillText(clipped(g, name, heads - 8), 0, 0);
        g.restore();
      });
      g.fillStyle = ink('background-paper');
      g.fillRect(0, 0, names, heads);
      const shown = rows.filter(({ i }) => i >= 0).length;
      g.fillStyle = ink('text-secondary');
      g.fillText(plural(shown, { one: 'One display; how many brackets take it', other: '# displays; how many brackets take it' }), 6, 33);
      const k = columns.findIndex(({ j }) => j === at.column);
      const r = rows.findIndex(({ i }) => i === at.row);
      if (r >= 0) {
        g.strokeStyle = ink('text-primary');
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
  }, [matrix, rows, columns, width, tall, wide, high, at]);

  // What the pointer is on: a cell, a display's name or a bracket's.
  const under = (e: React.MouseEvent) => {
    const b = box.current!;
    const r = b.getBoundingClientRect();
    const [left, top] = [e.clientX - r.left, e.clientY - r.top];
    const row = rows[Math.floor((top - heads + b.scrollTop) / high)];
    const column = columns[Math.floor((left - names + b.scrollLeft) / wide)];
    return { row: top > heads && row && row.i >= 0 ? row.i : undefined, column: left > names ? column?.j : undefined };
  };
  const move = (e: React.KeyboardEvent) => {
    const first = rows.findIndex(({ i }) => i >= 0);
    const r = Math.max(
      first,
      rows.findIndex(({ i }) => i === at.row),
    );
    const k = columns.findIndex(({ j }) => j === at.column);
    const page = Math.floor((box.current?.clientHeight ?? 0) / high) - 3;
    const step = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
      Home: [-rows.length, 0],
      End: [rows.length, 0],
    }[e.key];
    const here = rows.some(({ i }) => i === at.row); // it may be filtered out
    if (e.key === 'Enter' && here) open(at.row, at.column);
    if (e.key === 'y' && here) why({ display: at.row });
    if (e.key === 'n') why({ bracket: at.column });
    if (!step || first < 0) return;
    e.preventDefault();
    let nr = Math.min(rows.length - 1, Math.max(first, r + step[0]!));
    if (rows[nr]!.i < 0) nr += step[0]! < 0 ? -1 : 1; // over a group's head
    const nk = Math.min(columns.length - 1, Math.max(0, k + step[1]!));
    setAt({ row: rows[nr]!.i, column: columns[nk]!.j });
    const b = box.current!;
    const y = nr * high;
    if (y < b.scrollTop) b.scrollTop = y;
    if (y + high > b.scrollTop + b.clientHeight - heads) b.scrollTop = y + high - b.clientHeight + heads;
    const x = nk * wide;
    if (x < b.scrollLeft) b.scrollLeft = x;
    if (x + wide > b.scrollLeft + b.clientWidth - names) b.scrollLeft = x + wide - b.clientWidth + names;
  };
  const said = rows.length === 0 ? t`No display is like that.` : rows.some(({ i }) => i === at.row) ? describe(matrix, at.row, at.column) : t`Arrow keys go to the displays that are shown.`;
  return (
    <Pictured>
      <Hint>{said}</Hint>
      <Scrolled
        ref={box}
        className="picture"
        role="grid"
        aria-label={t`Displays by brackets`}
        aria-rowcount={rows.length}
        aria-colcount={columns.length}
        aria-activedescendant="matrix-cell"
        tabIndex={0}
        data-rows={rows.filter(({ i }) => i >= 0).length}
        onKeyDown={move}
        onMouseMove={(e) => {
          const { row, column } = under(e);
          if (row !== undefined && column !== undefined && (row !== at.row || column !== at.column)) setAt({ row, column });
        }}
        onClick={(e) => {
          const { row, column } = under(e);
          if (row !== undefined && column !== undefined) open(row, column);
          else if (row !== undefined) why({ display: row });
          else if (column !== undefined) why({ bracket: column });
        }}
      >
        <canvas ref={canvas} aria-hidden="true" />
        <div className="extent" ref={extent} />
        <div role="row" aria-rowindex={Math.max(1, rows.findIndex(({ i }) => i === at.row) + 1)}>
          <div role="gridcell" id="matrix-cell" aria-colindex={columns.findIndex(({ j }) => j === at.column) + 1}>
            {said}
          </div>
        </div>
      </Scrolled>
    </Pictured>
  );
}

/** The lines under heads: first the displays that nothing fits, by what keeps most brackets from them. */
function grouped(matrix: Matrix, list: Line[]): Line[] {
  const groups = new Map<string, Line[]>();
  for (const line of list) {
    const why = reason(matrix.rows[line.i]);
    groups.set(why, [...(groups.get(why) ?? []), line]);
  }
  return [...groups]
    .sort(([a, x], [b, y]) => Number(a === '') - Number(b === '') || y.length - x.length)
    .flatMap(([why, lines]) => [{ i: -1, n: lines.length, name: why ? t`Nothing fits, mostly by ${word(why)}: ${lines.length}` : t`Something fits: ${lines.length}` }, ...lines]);
}

function clipped(g: CanvasRenderingContext2D, text: string, width: number): string {
  if (g.measureText(text).width <= width) return text;
  let n = text.length;
  while (n > 1 && g.measureText(text.slice(0, n) + '…').width > width) n--;
  return text.slice(0, n) + '…';
}
