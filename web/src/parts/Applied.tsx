import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { Choice } from './Choice';

interface Props {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  width?: number;
  disabled?: boolean;
  busy: boolean;
  onApply: (to: string) => void;
}

/** A choice that concerns others: it is made first, as a list takes an arrow key for one, and then applied. */
export function Applied({ label, value, options, width, disabled, busy, onApply }: Props) {
  const [chosen, setChosen] = useState<string>();
  const to = chosen ?? value;
  const box = useRef<HTMLSpanElement>(null);
  const apply = () => {
    setChosen(undefined);
    box.current?.querySelector('select')?.focus(); // the button goes
    onApply(to);
  };
  return (
    <Box ref={box} component="span" className="applied" onKeyDown={(e) => e.key === 'Escape' && setChosen(undefined)} sx={{ display: 'inline-flex', alignItems: 'center', gap: 1.5 }}>
      <Choice label={label} width={width} value={to} changed={to !== value} options={options} disabled={disabled} onPick={setChosen} />
      {to !== value && (
        <Button variant="outlined" loading={busy} onClick={apply} aria-label={t`Apply: ${label}, ${options.find(([o]) => o === to)?.[1] ?? to}`}>
          {t`Apply`}
        </Button>
      )}
    </Box>
  );
}
