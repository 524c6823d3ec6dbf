import Tab from '@mui/material/Tab';
import MuiTabs from '@mui/material/Tabs';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { ReactNode } from 'react';

interface Props<T extends string> {
  label: string;
  value: T;
  of: string; // the name under which tests and keys find them: data-picture, data-mode, …
  tabs: readonly (readonly [T, ReactNode, string?])[]; // name, words, what else is to be said
  onPick: (to: T) => void;
}

const idOf = (of: string, value: string) => `${of}-${value || 'none'}`;

/** What of a screen is shown: one of a few, each with its panel. */
export function Tabs<T extends string>({ label, value, of, tabs, onPick }: Props<T>) {
  return (
    <MuiTabs aria-label={label} value={value} selectionFollowsFocus onChange={(_, to: T) => onPick(to)}>
      {tabs.map(([name, words, title]) => (
        <Tab key={name} value={name} label={words} title={title} id={idOf(of, name)} aria-controls={`panel-${of}`} {...{ [`data-${of}`]: name || 'none' }} />
      ))}
    </MuiTabs>
  );
}

/** What makes an element the panel of tabs. */
export const panelOf = (of: string, value: string) => ({ id: `panel-${of}`, role: 'tabpanel', 'aria-labelledby': idOf(of, value) }) as const;

/** One of a few that are all seen at once, as a setting. */
export function Few<T extends string>({ label, value, of, tabs, onPick }: Props<T>) {
  return (
    <ToggleButtonGroup aria-label={label} value={value} onChange={(_, to: T | null) => to !== null && onPick(to)}>
      {tabs.map(([name, words, title]) => (
        <ToggleButton sx={{ whiteSpace: 'nowrap' }} key={name} value={name} title={title} {...{ [`data-${of}`]: name || 'none' }}>
          {words}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
