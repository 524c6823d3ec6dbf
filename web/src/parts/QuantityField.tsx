import { useRef } from 'react';
import { useDesk } from '../state/desk';
import type { Typed } from '../state/question';
import { nudge, show } from '../state/units';

interface Props {
  label: string;
  value: number | undefined; // as it stands, mm
  typed: Typed | undefined; // as changed
  shown?: string; // instead of value, for what is no length
  placeholder?: string;
  step?: number; // mm a key press moves it by
  pick?: string;
  words?: boolean;
  error?: string;
  onType: (t: Typed | null) => void;
}

/** A figure that can be typed in any unit, nudged with the arrow keys, and pulled sideways
    by the handle before it: in the field itself a mouse selects text, and changes nothing. */
export function FigureField({ label, value, typed, shown, placeholder, step = 0.5, pick, words, error, onType }: Props) {
  const { units } = useDesk();
  const pull = useRef<{ x: number; text: string; moved: number } | null>(null);
  const stands = shown ?? show(value, units);
  const text = typed ? (typed.unit === units || words ? typed.text : foreign(typed)) : stands;
  const type = (t: string) => onType(t === stands ? null : { text: t, unit: units });
  const by = (times: number, from = text) => {
    const next = nudge(from, times * step, units);
    if (next !== undefined) type(next);
  };
  const empty = placeholder && !words && /^\d+(\.\d+)?$/.test(placeholder) ? show(Number(placeholder), units) : placeholder;
  const handle = !words && text.trim() !== '' && (
    <span
      className="pull-handle"
      aria-hidden="true"
      title="Drag sideways to pull the figure"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
        pull.current = { x: e.clientX, text, moved: 0 };
      }}
      onPointerMove={(e) => {
        const p = pull.current;
        if (!p || e.buttons !== 1) return;
        const moved = Math.trunc((e.clientX - p.x) / 6);
        if (moved === p.moved) return;
        p.moved = moved;
        by(moved, p.text);
      }}
      onPointerUp={() => {
        pull.current = null;
      }}
    />
  );
  return (
    <span className="figure-pull">
    {handle}
    <input
      className={`figure-field${typed ? ' changed' : ''}${words ? ' words' : ''}`}
      value={text}
      placeholder={empty}
      aria-label={label}
      aria-invalid={error ? true : undefined}
      title={error ?? (words ? label : `${label}. Arrow keys move it.`)}
      data-pick={pick}
      spellCheck={false}
      autoComplete="off"
      onChange={(e) => type(e.target.value)}
      onKeyDown={(e) => {
        if (words || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
        e.preventDefault();
        by((e.key === 'ArrowUp' ? 1 : -1) * (e.shiftKey ? 10 : 1));
      }}
    />
    </span>
  );
}

/** What was typed in the other system keeps its unit. */
export function foreign(t: Typed): string {
  return /[a-z"'″”′’°]/i.test(t.text) || t.text.trim() === '' ? t.text : `${t.text}${t.unit}`;
}
