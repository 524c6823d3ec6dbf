import { t } from '@lingui/core/macro';
import FormHelperText from '@mui/material/FormHelperText';
import OutlinedInput from '@mui/material/OutlinedInput';
import { styled } from '@mui/material/styles';
import { useId, useRef, type ReactNode } from 'react';
import { useUnits } from '../state/workspace';
import { foreign, type Typed } from '../state/inputs';
import { decimal, hasUnit, nudge, show, showMass, unitOf } from '../state/units';
import { useCalm } from '../state/steady';
import { useDragging } from './dragging';

interface InputProps {
  label: string;
  text: string;
  onText: (text: string) => void;
  unit?: string; // of a bare figure; shown behind it
  bare?: boolean; // its unit is said elsewhere: there is no room in the field
  word?: string; // said in the field instead
  words?: boolean; // a text, not a figure
  step?: number; // what an arrow key moves it by: mm, or the field's unit where that is no length; 0 for none
  placeholder?: string;
  changed?: boolean;
  error?: string;
  errorAt?: string; // id of where the error is said, when not below the field
  pick?: string; // its name for the shell's keys
  path?: string; // its place in a document
  setting?: string;
  hole?: string;
  width?: number;
  maxLength?: number;
  autoFocus?: boolean;
  onFocus?: () => void;
}

const Pulled = styled('span')({ position: 'relative', display: 'inline-flex', flexDirection: 'column', width: '100%', verticalAlign: 'middle' });

/** It shows where the pointer is: in a narrow table there is no room for all of them. */
const Handle = styled('span')(({ theme }) => ({
  position: 'absolute',
  top: 3,
  bottom: 3,
  left: -9,
  width: 8,
  borderLeft: `3px dotted ${theme.vars!.palette.field}`,
  cursor: 'ew-resize',
  touchAction: 'none',
  opacity: 0,
  '.figure-pull:hover &, tr:hover > td:only-of-type &': { opacity: 1 },
  '&:hover': { borderLeftColor: theme.vars!.palette.primary.main },
  '@media (pointer: coarse)': { opacity: 1, width: 20, left: -20 },
}));

const Unit = styled('span')(({ theme }) => ({ color: theme.vars!.palette.text.secondary, fontSize: '0.82em', paddingRight: 5, whiteSpace: 'nowrap', fontWeight: 400 }));

const figures = { '& input': { textAlign: 'right' } } as const;

/** A field for a figure with its unit. It holds what was typed, letter by letter; the server reads
    it. The first click on a figure selects it, as Tab does, so that the next key replaces it.
    Arrow keys move a plain figure, with Shift ten times as far; the handle before it is pulled
    sideways. The wheel, and selecting by mouse, change nothing. */
export function QuantityInput(p: InputProps) {
  const units = useUnits();
  const id = useId();
  const length = p.unit === 'mm' || p.unit === 'in';
  const step = p.words ? 0 : (p.step ?? (length ? 0.5 : 0));
  const by = (times: number, from = p.text) => {
    const next = nudge(from, times * step, length ? units : 'mm');
    if (next !== undefined) p.onText(next);
  };
  const entered = useRef(false); // by the mouse button that is down
  const fresh = useRef(false); // it has got the focus, and nothing was done in it yet
  const handle = useRef<HTMLSpanElement>(null);
  const { handlers } = useDragging<{ text: string; moved: number }>(
    {
      take: () => ({ text: p.text, moved: 0 }),
      move: (pulled, { x }) => {
        const moved = Math.trunc(x / 6);
        if (moved === pulled.moved) return;
        pulled.moved = moved;
        by(moved, pulled.text);
      },
    },
    handle,
  );
  const shownUnit = p.text === '' ? undefined : p.bare ? p.word : hasUnit(p.text) ? undefined : p.unit;
  const calm = useCalm(p.text);
  const said = p.error && !p.errorAt && calm;
  const names: Record<string, string | undefined> = { 'data-pick': p.pick, 'data-path': p.path, 'data-setting': p.setting, 'data-hole': p.hole };
  return (
    <Pulled className="figure-pull" sx={p.width ? { width: p.width } : undefined}>
      {step > 0 && p.text.trim() !== '' && (
        <Handle ref={handle} className="pull-handle" aria-hidden="true" title={t`Drag sideways to pull the figure`} onMouseDown={(e) => e.preventDefault()} {...handlers} />
      )}
      <OutlinedInput
        value={p.text}
        placeholder={p.placeholder}
        error={Boolean(p.error)}
        autoFocus={p.autoFocus}
        onFocus={() => {
          fresh.current = true;
          p.onFocus?.();
        }}
        onChange={(e) => p.onText(e.target.value)}
        onKeyDown={(e) => {
          fresh.current = false;
          if (step === 0 || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
          e.preventDefault();
          by((e.key === 'ArrowUp' ? 1 : -1) * (e.shiftKey ? 10 : 1));
        }}
        endAdornment={shownUnit && <Unit aria-hidden="true">{shownUnit}</Unit>}
        className={p.changed ? 'changed' : undefined}
        sx={p.words ? undefined : figures}
        slotProps={{
          input: {
            'aria-label': p.label,
            'aria-invalid': p.error ? true : undefined,
            'aria-describedby': p.error ? (p.errorAt ?? id) : undefined,
            title: p.error ?? (p.unit ? `${p.label}, ${p.unit}` : p.label) + (step > 0 ? `. ${t`Arrow keys move it.`}` : ''),
            ...names,
            maxLength: p.maxLength,
            spellCheck: false,
            autoComplete: 'off',
            onMouseDown: (e) => {
              entered.current = !p.words && document.activeElement !== e.currentTarget;
              // A finger's tap is left alone: it is what brings up the keyboard on the screen.
              if (p.words || entered.current || !fresh.current || matchMedia('(pointer: coarse)').matches) return;
              e.preventDefault(); // a click on a selection would end it
              e.currentTarget.select();
              fresh.current = false;
            },
            onMouseUp: ({ currentTarget: field }) => {
              if (!entered.current) return;
              if (field.selectionStart === field.selectionEnd) field.select();
              entered.current = fresh.current = false;
            },
          },
        }}
      />
      {said && (
        <FormHelperText error id={id} role="alert" className="field-error">
          {p.error}
        </FormHelperText>
      )}
    </Pulled>
  );
}

interface Props extends Omit<InputProps, 'text' | 'onText' | 'unit' | 'changed'> {
  of: string; // what its path ends in says what it is a figure of: …_mm, …_kg, …_deg
  value: number | string | undefined; // as it stands
  typed: Typed | undefined; // as changed
  parts?: 64 | 16; // of an inch that it is shown in
  onType: (t: Typed | null) => void;
}

/** A figure that stands somewhere, and what is typed over it, in the unit its field had then. */
export function QuantityField({ of, value, typed, onType, placeholder, parts, ...rest }: Props) {
  const units = useUnits();
  const stands = typeof value !== 'number' ? (value ?? '') : of.endsWith('_mm') ? show(value, units, parts) : of.endsWith('_kg') ? showMass(value, units, of) : decimal(value);
  const plain = rest.words || !/_(mm|kg)$/.test(of);
  const text = typed ? (typed.unit === units || plain ? typed.text : foreign(typed, of)) : stands;
  const empty = placeholder && of.endsWith('_mm') && /^\d+(\.\d+)?$/.test(placeholder) ? show(Number(placeholder), units, parts) : placeholder;
  return (
    <QuantityInput
      {...rest}
      text={text}
      onText={(t) => onType(t === stands ? null : { text: t, unit: units })}
      unit={rest.words ? undefined : unitOf(of, units)}
      placeholder={empty}
      changed={typed !== undefined}
    />
  );
}

/** For a field that is entered to be typed over. */
export const selectAll = () => {
  if (document.activeElement instanceof HTMLInputElement) document.activeElement.select();
};

/** Figures below each other: what each is, and its field. */
export const FigureList = styled('div')({ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 46%)', columnGap: 10, rowGap: 3, margin: '4px 0', alignItems: 'center' });

/** A press on what a figure is leads into its field; who hears the page is told by the field itself. */
export const toItsField = (e: React.MouseEvent<HTMLElement>) => e.currentTarget.nextElementSibling?.querySelector<HTMLElement>('input:not([type=checkbox]), select')?.focus();

/** A line of such a list. */
export function FigureLine({ label, children }: { label: ReactNode; children: ReactNode }) {
  return (
    <>
      <FigureLabel onClick={toItsField}>{label}</FigureLabel>
      <div>{children}</div>
    </>
  );
}

const FigureLabel = styled('div')(({ theme }) => ({ color: theme.vars!.palette.text.secondary, lineHeight: 1.2 }));
