import Box from '@mui/material/Box';
import type { Check, Verdict } from '../api';
import { verdictWords } from '../words';

type Status = Verdict | Check['status'];

const paths = {
  fits: 'M2 7.5 L5.5 11 L12 3',
  pass: 'M2 7.5 L5.5 11 L12 3',
  note: 'M7 6 L7 12 M7 2 L7 3',
  fits_with_conditions: 'M7 1.5 L13 12.5 L1 12.5 Z',
  caution: 'M7 1.5 L13 12.5 L1 12.5 Z',
  missing_data: 'M7 1 L13 7 L7 13 L1 7 Z',
  unknown: 'M7 1 L13 7 L7 13 L1 7 Z',
  does_not_fit: 'M2 2 L12 12 M12 2 L2 12',
  fail: 'M2 2 L12 12 M12 2 L2 12',
} satisfies Record<Status, string>;

/** The palette's colour of a verdict or a status. */
export const statusColour = {
  fits: 'success.main',
  pass: 'success.main',
  note: 'text.secondary',
  fits_with_conditions: 'warning.main',
  caution: 'warning.main',
  missing_data: 'info.main',
  unknown: 'info.main',
  does_not_fit: 'error.main',
  fail: 'error.main',
} satisfies Record<Status, string>;

/** Verdicts and statuses have a shape each, so that colour is not needed. */
export function Shape({ of }: { of: Status }) {
  return (
    <Box component="svg" viewBox="0 0 14 14" aria-hidden="true" sx={{ width: 13, height: 13, flex: 'none', color: statusColour[of], verticalAlign: '-1px' }}>
      <path d={paths[of]} fill="none" stroke="currentColor" strokeWidth="2.2" strokeLinejoin="round" strokeLinecap="round" />
    </Box>
  );
}

/** A verdict as it is stamped on a sheet. */
export function Stamp({ verdict, words }: { verdict: Status; words?: string }) {
  return (
    <Box
      component="span"
      className="stamp"
      data-verdict={verdict}
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: '7px',
        fontWeight: 600,
        fontSize: 16,
        border: '2px solid currentColor',
        borderRadius: '3px',
        px: 2.5,
        py: 0.25,
        whiteSpace: 'nowrap',
        color: statusColour[verdict],
      }}
    >
      <Shape of={verdict} />
      {words ?? verdictWords[verdict as Verdict]}
    </Box>
  );
}
