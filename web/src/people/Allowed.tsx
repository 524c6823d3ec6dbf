import Box from '@mui/material/Box';
import { cloneElement, type ReactElement } from 'react';
import { useLacks } from './me';

/** A button for who may; for others it is disabled, with the reason beside it. */
export function Allowed({ act, children }: { act: string; children: ReactElement<{ disabled?: boolean; 'aria-describedby'?: string }> }) {
  const why = useLacks(act);
  if (!why) return children;
  return (
    <Box component="span" className="not-allowed" sx={{ display: 'inline-flex', alignItems: 'center', gap: 1 }}>
      {cloneElement(children, { disabled: true, 'aria-describedby': `lacks-${act}` })}
      <Box component="span" id={`lacks-${act}`} sx={{ fontSize: 13, color: 'text.secondary', whiteSpace: 'nowrap' }}>
        {why}
      </Box>
    </Box>
  );
}
