import { t } from '@lingui/core/macro';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { SxProps, Theme } from '@mui/material/styles';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import visuallyHidden from '@mui/utils/visuallyHidden';
import { useDeferredValue, useState, type Key, type ReactNode } from 'react';
import { regional } from '../i18n';
import { ShortField } from './ShortField';

/** A column: what stands in it, and by what it is sorted and found, if it is. */
export interface Column<T> {
  head: string; // empty: what can be done with a row
  cell: (row: T, n: number) => ReactNode;
  by?: (row: T) => string | number | undefined;
  sort?: string; // what the one who gives the rows calls it, where they are sorted there
  sx?: SxProps<Theme>;
}

interface Props<T> {
  label: string;
  rows: readonly T[];
  columns: (Column<T> | false | undefined)[];
  id: (row: T) => Key;
  data?: (row: T) => Record<`data-${string}`, string>; // by which a row is known
  className?: string;
  sorted?: { by?: string; down?: boolean; onSort?: (by: string) => void }; // by whoever gives the rows, who finds and counts them, too
  more?: { fetching: boolean; show: () => void }; // rows that were not given yet
  sx?: SxProps<Theme>;
}

const aPage = 50; // rows that are shown, and as many more each time
const aGlance = 12; // rows among which nothing has to be searched

/** Where there is no room for columns, a row is as many lines as it takes, each with its column's head before it. */
const look = {
  '& td': { verticalAlign: 'top', overflowWrap: 'anywhere' },
  '@media (max-width: 700px)': {
    '& thead': { display: 'none' },
    '& tr': { display: 'block', borderTop: 1, borderColor: 'divider', py: 1 },
    '& td': { display: 'block', border: 0, py: 0.25, maxWidth: 'none !important' },
    // eslint-disable-next-line lingui/no-unlocalized-strings -- a property of style
    '& td[data-head]:not(:first-of-type):not(:empty)::before': { content: 'attr(data-head)', color: 'text.secondary' },
  },
} as const;

const compare = (a: string | number | undefined, b: string | number | undefined) =>
  a === undefined || b === undefined
    ? Number(a === undefined) - Number(b === undefined)
    : typeof a === 'number' && typeof b === 'number'
      ? a - b
      : String(a).localeCompare(String(b), regional, { numeric: true });

/** A list of things with some figures each: sorted by a press on a head, narrowed by words where it is long, and shown a page at a time. */
export function Rows<T>({ label, rows, columns: all, id, data, className, sorted, more, sx }: Props<T>) {
  const columns = all.filter((c) => !!c);
  const [sort, setSort] = useState<{ at: number; down: boolean }>();
  const [typed, setTyped] = useState('');
  const [most, setMost] = useState(aPage);
  const words = useDeferredValue(typed).toLocaleLowerCase(regional).split(/\s+/).filter(Boolean);
  const keys = columns.flatMap((c) => c.by ?? []);
  const searched = !sorted && keys.length > 0 && rows.length > aGlance;
  let found = searched && words.length > 0 ? rows.filter((r) => holds(keys.map((k) => k(r) ?? '').join('\n'), words)) : rows;
  const by = sort && columns[sort.at]?.by;
  if (by) found = [...found].sort((a, b) => (sort.down ? -1 : 1) * compare(by(a), by(b)));
  const shown = sorted ? found : found.slice(0, most);
  const press = (c: Column<T>, at: number) => {
    if (sorted) sorted.onSort?.(c.sort!);
    else setSort(sort?.at !== at ? { at, down: false } : sort.down ? undefined : { at, down: true });
  };
  const now = (c: Column<T>, at: number) => (sorted ? c.sort === sorted.by && (sorted.down ? 'desc' : 'asc') : sort?.at === at && (sort.down ? 'desc' : 'asc')) || undefined;
  return (
    <Box sx={sx}>
      {searched && (
        <Box className="narrow" sx={{ display: 'flex', gap: 2, alignItems: 'center', maxWidth: 460, mb: 1 }}>
          <ShortField label={t`Find in: ${label}`} value={typed} onChange={setTyped} maxLength={200} />
          <span role="status">{found.length < rows.length && t`${found.length} of ${rows.length}`}</span>
        </Box>
      )}
      <Table size="small" aria-label={label} className={className} sx={look}>
        <TableHead>
          <TableRow>
            {columns.map((c, at) => (
              <TableCell key={c.head || at} sortDirection={now(c, at)}>
                {(sorted ? sorted.onSort && c.sort : c.by && rows.length > 1) ? (
                  <TableSortLabel active={!!now(c, at)} direction={now(c, at) ?? 'asc'} onClick={() => press(c, at)}>
                    {c.head}
                  </TableSortLabel>
                ) : (
                  c.head || <span style={visuallyHidden}>{t`What can be done`}</span>
                )}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {shown.map((r, n) => (
            <TableRow key={id(r)} {...data?.(r)}>
              {columns.map((c, at) => (
                <TableCell key={c.head || at} sx={c.sx} data-head={c.head && `${c.head}: `}>
                  {c.cell(r, n)}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {(more || shown.length < found.length) && (
        <Button variant="outlined" sx={{ mt: 1 }} loading={more?.fetching} onClick={more ? more.show : () => setMost(most + aPage)}>
          {more ? t`Show more` : t`Show more, of ${found.length}`}
        </Button>
      )}
    </Box>
  );
}

const holds = (text: string, words: string[]) => words.every((w) => text.toLocaleLowerCase(regional).includes(w));
