import { styled } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { Choice } from '../parts/Choice';
import { QuantityInput } from '../parts/QuantityField';
import { useWorkspace } from '../state/workspace';
import { show, showMass, unitOf } from '../state/units';
import { originWords } from '../words';
import { bare, editorErrors, get, type Editing } from './editing';

interface Props<T extends object> {
  edit: Editing<T>;
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
}

/** A figure of the document that is edited: typed in any unit, moved by key. */
export function Field<T extends object>({ edit, path, words, step, ...rest }: Props<T>) {
  const { units } = useWorkspace();
  const { number, typed } = edit.figure(path);
  const stands = path.endsWith('_mm') ? show(number, units) : path.endsWith('_kg') ? showMass(number, units) : number === undefined ? '' : String(number);
  return (
    <QuantityInput
      {...rest}
      path={path}
      words={words}
      text={words ? String(get(edit.doc, path) ?? '') : (typed ?? stands)}
      unit={words ? undefined : unitOf(path, units)}
      step={step ?? (path.endsWith('_mm') ? 0.5 : 0)}
      error={edit.errors[bare(path)]}
      errorAt={rest.bare ? editorErrors : undefined}
      onText={(text) => edit.type(path, text, words ? 'words' : 'figure')}
    />
  );
}

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
