import Table from '@mui/material/Table';
import { styled } from '@mui/material/styles';

/** A table of computed figures: what, and its numbers, with what they could be at worst in small. */
export const FigureTable = styled(Table)(({ theme }) => ({
  marginBottom: 4,
  '& th': { fontSize: 12, fontWeight: 400, color: theme.vars!.palette.text.secondary, padding: '0 6px 2px 0', borderBottom: 0, lineHeight: 1.2 },
  '& td': { padding: '4px 6px 4px 0', borderTop: `1px solid ${theme.vars!.palette.divider}`, borderBottom: 0 },
  '& .what': { fontWeight: 600 },
  '& small': { color: theme.vars!.palette.text.secondary, display: 'block', fontSize: 12 },
  '& td.num, & th.num': { textAlign: 'right', whiteSpace: 'nowrap' },
  '& th.num': { whiteSpace: 'normal' },
  '& tr.lit td': { background: `color-mix(in srgb, ${theme.vars!.palette.drawing.lit} 9%, transparent)` },
}));
