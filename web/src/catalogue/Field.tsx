import { useDesk } from '../state/desk';
import { nudge, show } from '../state/units';
import type { Editing } from './editing';

/** A figure of the document: typed in any unit, nudged by key. */
export function Field<T extends object>({ edit, path, label, words, placeholder, width, onFocus }: { edit: Editing<T>; path: string; label: string; words?: boolean; placeholder?: string; width?: number; onFocus?: () => void }) {
  const { units } = useDesk();
  const { number, typed } = edit.figure(path);
  const mass = path.endsWith('_kg');
  const raw = words ? String((edit.doc && getText(edit, path)) ?? '') : typed ?? (mass && number !== undefined ? (units === 'in' ? `${number} kg` : String(number)) : path.endsWith('_mm') ? show(number, units) : number === undefined ? '' : String(number));
  const error = edit.errors[path.replace(/_(mm|kg|deg)$/, '')];
  return (
    <input
      className={`figure-field${words ? ' words' : ''}`}
      style={width ? { width: units === 'in' ? width * 1.4 : width } : undefined} // fractions are longer
      value={raw}
      placeholder={placeholder}
      aria-label={label}
      aria-invalid={error ? true : undefined}
      title={error ?? label}
      data-path={path}
      spellCheck={false}
      autoComplete="off"
      onFocus={onFocus}
      onChange={(e) => edit.type(path, e.target.value)}
      onKeyDown={(e) => {
        if (words || mass || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
        const next = nudge(raw, (e.key === 'ArrowUp' ? 0.5 : -0.5) * (e.shiftKey ? 10 : 1), units);
        if (next === undefined) return;
        e.preventDefault();
        edit.type(path, next);
      }}
    />
  );
}

function getText<T extends object>(edit: Editing<T>, path: string): unknown {
  return path.split('.').reduce<unknown>((d, n) => (d == null ? undefined : (d as Record<string, unknown>)[n]), edit.doc);
}
