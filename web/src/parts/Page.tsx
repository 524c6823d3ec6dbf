import Box from '@mui/material/Box';
import FormHelperText from '@mui/material/FormHelperText';
import { styled, type Theme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import visuallyHidden from '@mui/utils/visuallyHidden';
import useMediaQuery from '@mui/material/useMediaQuery';
import { Fragment, useId, type ReactElement, type ReactNode } from 'react';

// What screens are laid out with.

/** All that is below the bar. */
export const Main = styled('main')({ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', '&:focus': { outline: 'none' } });

/** A screen that is read from top to bottom. */
export const Page = styled('div')({ flex: 1, minHeight: 0, overflow: 'auto', padding: '14px 18px', '& h2:not(:first-of-type)': { marginTop: 14 } });

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

/** The head of a view whose drawing says what it is of: for who hears the page, and on paper. */
export function UnseenHead({ children }: { children: ReactNode }) {
  return (
    <Typography variant="h1" sx={visuallyHidden}>
      {children}
    </Typography>
  );
}

/** Fields that are of one thing: its name is said with each of theirs. */
export function Group({ name, children, beside }: { name: string; children: ReactNode; beside?: ReactNode }) {
  const id = useId();
  return (
    <Box role="group" aria-labelledby={id} sx={{ mt: 3.5 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Head id={id}>{name}</Head>
        {beside}
      </Box>
      {children}
    </Box>
  );
}

/** A word on how something is meant. */
export function Hint({ children, id, live }: { children: ReactNode; id?: string; live?: 'status' | 'polite' }) {
  return (
    <Typography variant="body2" id={id} role={live === 'status' ? 'status' : undefined} aria-live={live === 'polite' ? 'polite' : undefined} sx={{ mb: 1.5, color: 'text.secondary' }}>
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
export function Nothing({ children, ...rest }: { children: ReactNode; id?: string; role?: 'tabpanel'; 'aria-labelledby'?: string }) {
  return (
    <Box {...rest} className="nothing" sx={{ m: 'auto', maxWidth: 400, p: 5, textAlign: 'center', color: 'text.secondary', '& p': { my: 1.5 } }}>
      {children}
    </Box>
  );
}

const Grid = styled('div')(({ theme }) => ({
  flex: 1,
  minHeight: 0,
  display: 'grid',
  gridTemplateColumns: '276px minmax(0, 1fr) 346px',
  gridTemplateRows: 'minmax(0, 1fr) auto',
  [theme.breakpoints.down('md')]: { display: 'flex', flexDirection: 'column', flex: 'none' },
}));

interface Columns {
  left: ReactElement;
  board: ReactElement;
  right: ReactElement;
  strip?: ReactNode;
  className: string;
  'data-ready': 'yes' | 'no';
}

/** The bench's three columns, and the strip below them. On a narrow window they follow each other, what is looked at
    first, and the keyboard goes through them as they stand. */
export function BenchGrid({ left, board, right, strip, ...rest }: Columns) {
  const narrow = useMediaQuery<Theme>((theme) => theme.breakpoints.down('md'));
  const parts = {
    left: <Fragment key="left">{left}</Fragment>,
    board: <Fragment key="board">{board}</Fragment>,
    right: <Fragment key="right">{right}</Fragment>,
    strip: <Fragment key="strip">{strip}</Fragment>,
  };
  return <Grid {...rest}>{narrow ? [parts.strip, parts.board, parts.right, parts.left] : [parts.left, parts.board, parts.right, parts.strip]}</Grid>;
}

/** A column beside the drawing. */
export const Side = styled('section')(({ theme }) => ({
  overflow: 'auto',
  minHeight: 0,
  padding: '10px 14px',
  '& h2:not(:first-of-type), & .MuiToggleButtonGroup-root + h2, & [role=tabpanel] > h2:first-of-type': { marginTop: 14 },
  [theme.breakpoints.up('md')]: {
    '&.left': { borderRight: `1px solid ${theme.vars!.palette.divider}` },
    '&.right': { borderLeft: `1px solid ${theme.vars!.palette.divider}`, background: theme.vars!.palette.background.paper },
  },
  [theme.breakpoints.down('md')]: { overflow: 'visible' },
}));

/** Where the drawings are. */
export const Board = styled('div')(({ theme }) => ({
  minWidth: 0,
  minHeight: 0,
  display: 'flex',
  background: theme.vars!.palette.background.paper,
  overflow: 'hidden',
  [theme.breakpoints.down('md')]: { flexWrap: 'wrap' },
}));
