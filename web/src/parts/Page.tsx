import Box from '@mui/material/Box';
import FormHelperText from '@mui/material/FormHelperText';
import { styled } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

// What screens are laid out with.

/** A screen that is read from top to bottom. */
export const Page = styled('main')({ flex: 1, minHeight: 0, overflow: 'auto', padding: '14px 18px', '& h2:not(:first-of-type)': { marginTop: 14 } });

/** What can be done, in a row. */
const row = { display: 'flex', alignItems: 'center', gap: 8, marginBottom: 12, flexWrap: 'wrap' } as const;
export const Tools = styled('div')(row);
export const ToolsForm = styled('form')(row);

export const Grow = styled('span')({ flex: 1 });

/** Small things beside each other. */
export const Quick = styled('div')({ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '4px 8px', margin: '4px 0' });

export const PlainList = styled('ul')({ listStyle: 'none', padding: 0, margin: 0, '& > li': { margin: '4px 0' } });

/** What is to be minded. */
export const Warn = styled('p')(({ theme }) => ({ borderLeft: `3px solid ${theme.vars!.palette.warning.main}`, paddingLeft: 9, margin: '4px 0' }));

/** The head of a part of a screen. */
export function Head({ children, id }: { children: ReactNode; id?: string }) {
  return (
    <Typography variant="h2" id={id} sx={{ mb: 1.5, color: 'text.secondary' }}>
      {children}
    </Typography>
  );
}

/** A word on how something is meant. */
export function Hint({ children, id, live }: { children: ReactNode; id?: string; live?: 'status' | 'polite' }) {
  return (
    <Typography
      variant="body2"
      id={id}
      role={live === 'status' ? 'status' : undefined}
      aria-live={live === 'polite' ? 'polite' : undefined}
      sx={{ mb: 1.5, color: 'text.secondary' }}
    >
      {children}
    </Typography>
  );
}

/** What is wrong, where no field has room to say it. */
export function FieldError({ children, id }: { children: ReactNode; id?: string }) {
  return (
    <FormHelperText error component="p" role="alert" className="field-error" id={id}>
      {children}
    </FormHelperText>
  );
}

/** Why there is nothing here, and what to do about it. */
export function Nothing({ children }: { children: ReactNode }) {
  return (
    <Box className="nothing" sx={{ m: 'auto', maxWidth: 400, p: 5, textAlign: 'center', color: 'text.secondary', '& p': { my: 1.5 } }}>
      {children}
    </Box>
  );
}

/** The bench's three columns, and the strip below them. On a narrow window they follow each other. */
export const BenchGrid = styled('div')(({ theme }) => ({
  flex: 1,
  minHeight: 0,
  display: 'grid',
  gridTemplateColumns: '276px minmax(0, 1fr) 346px',
  gridTemplateRows: 'minmax(0, 1fr) auto',
  [theme.breakpoints.down('md')]: { display: 'flex', flexDirection: 'column', flex: 'none' },
}));

/** A column beside the drawing. */
export const Side = styled('aside')(({ theme }) => ({
  overflow: 'auto',
  minHeight: 0,
  padding: '10px 14px',
  '& h2:not(:first-of-type), & .MuiToggleButtonGroup-root + h2': { marginTop: 14 },
  [theme.breakpoints.up('md')]: {
    '&.left': { borderRight: `1px solid ${theme.vars!.palette.divider}` },
    '&.right': { borderLeft: `1px solid ${theme.vars!.palette.divider}`, background: theme.vars!.palette.background.paper },
  },
  [theme.breakpoints.down('md')]: { overflow: 'visible', '&.right': { order: -1 } },
}));

/** Where the drawings are. */
export const Board = styled('main')(({ theme }) => ({
  minWidth: 0,
  minHeight: 0,
  display: 'flex',
  background: theme.vars!.palette.background.paper,
  overflow: 'hidden',
  [theme.breakpoints.down('md')]: { order: -2, flexWrap: 'wrap' },
}));
