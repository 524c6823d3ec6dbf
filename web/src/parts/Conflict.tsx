import { t } from '@lingui/core/macro';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import type { Schemas } from '../api';
import { shown } from '../state/units';
import { useUnits } from '../state/workspace';
import { figureName } from '../words';
import { Rows } from './Rows';

interface Props {
  mine: unknown;
  theirs: Schemas['TheirVersion'];
  changed?: string[]; // what is mine in it, where that can be made in theirs; otherwise mine is whole
  onSettle: (whose: 'mine' | 'theirs') => void;
}

/** A save that came too late: mine and theirs side by side, to be settled. */
export function Conflict({ mine, theirs, changed, onSettle }: Props) {
  const units = useUnits();
  const isMine = (path: string) => !changed || changed.some((c) => path === c || path.startsWith(`${c}.`) || path.startsWith(`${c}[`) || c.startsWith(`${path}.`) || c.startsWith(`${path}[`));
  const other = theirs.saved?.display ?? theirs.saved?.bracket ?? theirs.saved?.job;
  return (
    <Alert severity="warning" className="stale" sx={{ mb: 2 }}>
      <p>
        {theirs.removed
          ? t`${theirs.who || t`Somebody else`} took it out while you changed it.`
          : t`${theirs.who || t`Somebody else`} saved revision ${theirs.number} while you changed it. The two differ:`}
      </p>
      {other && (
        <Rows
          label={t`What differs`}
          rows={byFigure(differences(mine, other))}
          id={(d) => d.path}
          columns={[
            { head: t`Figure`, cell: (d) => <span title={d.path}>{figureName(d.path)}</span> },
            { head: t`Yours`, cell: (d) => (!isMine(d.path) ? t`not changed by you` : d.a === '–' ? d.a : shown(d.path, d.a, units)) },
            { head: t`Theirs`, cell: (d) => (d.b === '–' ? d.b : shown(d.path, d.b, units)) },
          ]}
        />
      )}
      <Button color="inherit" onClick={() => onSettle('mine')}>
        {changed && other ? t`Make my changes in theirs` : t`Keep my version`}
      </Button>
      {other && (
        <Button color="inherit" onClick={() => onSettle('theirs')}>
          {t`Take theirs`}
        </Button>
      )}
    </Alert>
  );
}

type Tree = { [name: string]: unknown };

const bare = (path: string) => path.replace(/_(mm|kg|deg)$/, '');

/** A figure that was typed stands beside the one that is saved, whose name has its unit. */
function byFigure(all: { path: string; a: string; b: string }[]) {
  const rows = new Map<string, { path: string; a: string; b: string }>();
  for (const d of all) {
    const row = rows.get(bare(d.path));
    rows.set(bare(d.path), row ? { path: d.path, a: row.a === '–' ? d.a : row.a, b: row.b === '–' ? d.b : row.b } : d);
  }
  return [...rows.values()];
}

/** What differs between two documents, by path. */
function differences(a: unknown, b: unknown, path = ''): { path: string; a: string; b: string }[] {
  if (JSON.stringify(a) === JSON.stringify(b)) return [];
  const object = (x: unknown): x is Tree => typeof x === 'object' && x !== null;
  if (object(a) && object(b)) {
    const names = [...new Set([...Object.keys(a), ...Object.keys(b)])];
    return names.flatMap((n) => differences(a[n], b[n], path ? (Array.isArray(a) ? `${path}[${n}]` : `${path}.${n}`) : n));
  }
  const say = (x: unknown) => (x === undefined ? '–' : typeof x === 'string' ? x : JSON.stringify(x));
  return [{ path, a: say(a), b: say(b) }];
}
