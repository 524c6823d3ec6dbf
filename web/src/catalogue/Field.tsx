import { t } from '@lingui/core/macro';
import { styled } from '@mui/material/styles';
import { memo, type ReactNode } from 'react';
import { Choice } from '../parts/Choice';
import { QuantityInput, toItsField } from '../parts/QuantityField';
import { useUnits } from '../state/workspace';
import { unitOf } from '../state/units';
import { originWords } from '../words';
import { editorErrors, type Acts } from './editing';
import { useFieldError, useText, useValue } from './fields';

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
export const Field = memo(function Field({ of, onAt, onFocus, place, step, ...p }: Look & { of: Acts }) {
  const units = useUnits();
  return (
    <QuantityInput
      {...p}
      text={useText(of, p.path, p.words)}
      error={useFieldError(of, p.path)}
      unit={p.words ? undefined : unitOf(p.path, units)}
      step={step ?? (p.path.endsWith('_mm') ? 0.5 : 0)}
      errorAt={p.bare ? editorErrors : undefined}
      onText={(text) => of.type(p.path, text)}
      onFocus={() => (onFocus ?? onAt)?.(place ?? p.path)}
    />
  );
});

interface Picked {
  of: Acts;
  path: string;
  label: string;
  options: readonly (readonly [value: string, words: string])[];
  standard?: string; // that is not written down
}

/** One of a few at a place of the document. */
export function Pick({ of, path, label, options, standard = '' }: Picked) {
  return <Choice label={label} value={String(useValue(of, path) ?? standard)} options={options} onPick={(to) => of.set(path, to === standard ? null : to)} />;
}

const origins = Object.entries(originWords);

/** Where a figure comes from; without a path, where all do that say nothing else. Nothing is asked of one that is not known. */
export function Origin({ of, path, label, always }: { of: Acts; path?: string; label: string; always?: boolean }) {
  const all = String(useValue(of, 'origin') ?? 'sheet');
  const known = useText(of, path ?? 'origin') !== '';
  if (!path) return <Pick of={of} path="origin" label={t`Origin of ${label}`} options={origins} standard="sheet" />;
  return known || always ? <Pick of={of} path={`origins.${path}`} label={t`Origin of ${label}`} options={origins} standard={all} /> : null;
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
      <span onClick={toItsField}>{label}</span>
      <div className={wide ? 'wide' : ''}>{children}</div>
      {!wide && <div>{beside}</div>}
    </>
  );
}
