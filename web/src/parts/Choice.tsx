import Select from '@mui/material/Select';
import type { SxProps, Theme } from '@mui/material/styles';
import { memo } from 'react';

interface Props {
  label: string;
  value: string | number;
  options: readonly (readonly [value: string | number, words: string, disabled?: boolean])[];
  onPick: (value: string) => void;
  changed?: boolean; // it differs from what stands
  noun?: boolean; // of the sentence: without a box
  pick?: string; // its name for the shell's keys
  setting?: string;
  autoFocus?: boolean;
  disabled?: boolean;
  width?: number | string;
  onKeyDown?: (e: React.KeyboardEvent<HTMLElement>) => void;
}

/** One of a few. It is the browser's own list: letters and arrow keys choose without opening it,
    and a tablet shows it as its people know it. */
export const Choice = memo(function Choice(p: Props) {
  const sx: SxProps<Theme> = (t) => ({
    width: p.width ?? (p.noun ? 'auto' : '100%'),
    '& select.MuiNativeSelect-select': { paddingRight: '22px', minWidth: 0, ...(p.noun && { padding: '2px 22px 2px 0', fieldSizing: 'content' }) },
    ...(p.noun && { font: 'inherit', fontWeight: 600, color: t.vars!.palette.primary.main }),
    '& option': { color: t.vars!.palette.text.primary, background: t.vars!.palette.background.paper, fontWeight: 400 },
  });
  return (
    <Select
      native
      variant={p.noun ? 'standard' : 'outlined'}
      value={p.value}
      disabled={p.disabled}
      onChange={(e) => p.onPick(String(e.target.value))}
      onKeyDown={p.onKeyDown}
      className={p.changed ? 'changed' : undefined}
      sx={sx}
      inputProps={{ 'aria-label': p.label, 'data-pick': p.pick, 'data-setting': p.setting, autoFocus: p.autoFocus, title: p.noun ? undefined : p.label }}
    >
      {p.options.map(([value, words, disabled]) => (
        <option key={value} value={value} disabled={disabled}>
          {words}
        </option>
      ))}
    </Select>
  );
});
