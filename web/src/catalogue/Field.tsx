import { styled } from '@mui/material/styles';
import { memo, type ReactNode } from 'react';
import { Choice } from '../parts/Choice';
import { QuantityInput } from '../parts/QuantityField';
import { useUnits } from '../state/workspace';
import { show, showMass, unitOf } from '../state/units';
import { originWords } from '../words';
import { editorErrors, type Editing } from './editing';

interface Props<T extends object> extends Look {
  edit: Editing<T>;
}

interface Look {
  path: string;
  label: string;
  words?: boolean;
  bare?: boolean; // its unit is said elsewhere
  word?: string; // said in the field instead
  step?: number;
  placeholder?: string;
  width?: number;
  hole?: string;
  autoFocus?: boolean;
  onFocus?: () => void;
  onAt?: (place: string) => void; // told its place when it gets the keyboard
  place?: string; // where that is not its path
}

/** A figure of the document that is edited: typed in any unit, moved by key. */
export function Field<T extends object>({ edit, ...look }: Props<T>) {
  const { path, words } = look;
  const units = useUnits();
  const { number, typed } = edit.figure(path);
  const stands = path.endsWith('_mm') ? show(number, units) : path.endsWith('_kg') ? showMass(number, units) : number === undefined ? '' : String(number);
  return <Typing {...look} text={words ? String(edit.value(path) ?? '') : (typed ?? stands)} error={edit.errors[path]} type={edit.type} />;
}

/** Only the field that changes is drawn anew: an editor has two hundred. */
const Typing = memo(function Typing({ onAt, onFocus, place, type, step, ...p }: Look & { text: string; error?: string; type: (path: string, text: string) => void }) {
  const units = useUnits();
  return (
    <QuantityInput
      {...p}
      unit={p.words ? undefined : unitOf(p.path, units)}
      step={step ?? (p.path.endsWith('_mm') ? 0.5 : 0)}
      errorAt={p.bare ? editorErrors : undefined}
      onText={(text) => type(p.path, text)}
      onFocus={() => (onFocus ?? onAt)?.(place ?? p.path)}
    />
  );
});

const origins = Object.entries(originWords);

/** Where a figure comes from. */
export function Origin({ value, label, set }: { value: string; label: string; set: (o: string) => void }) {
  return <Choice label={`Origin of ${label}`} value={value} options={origins} onPick={set} />;
}

/** Figures in lines: what it is, its field, where it comes from. */
export const Lines = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'minmax(96px, 1fr) 120px 112px',
  gap: '4px 8px',
  margin: '4px 0',
  alignItems: 'center',
  '& > span': { color: theme.vars!.palette.text.secondary, lineHeight: 1.2 },
  '& > .wide': { gridColumn: 'span 2' },
}));

/** One of these lines. */
export function Line({ label, wide, children, beside }: { label: string; wide?: boolean; children: ReactNode; beside?: ReactNode }) {
  return (
    <>
      <span>{label}</span>
      <div className={wide ? 'wide' : ''}>{children}</div>
      {!wide && <div>{beside}</div>}
    </>
  );
}
