import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { DataGrid, type GridColDef, type GridRowSelectionModel } from '@mui/x-data-grid';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { useDesk } from '../state/desk';
import { useNotice } from '../shell/notice';
import { show } from '../state/units';

type Line = Schemas['DisplayLine'];

export function useShelves() {
  return useQuery({ queryKey: ['catalogue'], queryFn: ({ signal }) => answer(api.GET('/api/catalogue', { signal })) });
}

const nothingYet = (
  <div className="nothing">
    <p>The catalogue is empty.</p>
    <p>
      <Link to="/catalogue/import">Import a file</Link>, or type a display in on the <Link to="/">bench</Link>.
    </p>
  </div>
);

const quiet = { borderColor: 'divider', '& .MuiDataGrid-columnSeparator': { color: 'divider' }, '--DataGrid-containerBackground': 'var(--paper)' };

// Styles that the grid makes at run time carry the page's nonce.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;

const grid = {
  nonce,
  sx: quiet,
  density: 'compact',
  disableRowSelectionOnClick: true,
  initialState: { pagination: { paginationModel: { pageSize: 100 } } },
  pageSizeOptions: [25, 100],
  showToolbar: true,
} as const;

/** Lengths in the units people read. */
function length(field: keyof Line & string, name: string, units: 'mm' | 'in', width = 108): GridColDef<Line> {
  return { field, headerName: name, description: `${name}, ${units}`, type: 'number', width, valueFormatter: (v: number | undefined) => show(v, units) };
}

/** All displays: filtered, sorted, several changed at once. */
export function DisplayGrid() {
  const shelves = useShelves();
  const { units } = useDesk();
  const go = useNavigate();
  const [picked, setPicked] = useState<GridRowSelectionModel>({ type: 'include', ids: new Set() });
  const columns = useMemo<GridColDef<Line>[]>(
    () => [
      { field: 'maker', headerName: 'Maker', width: 110 },
      { field: 'model', headerName: 'Model', flex: 1, minWidth: 150 },
      length('diagonal_mm', 'Diagonal', units),
      length('width_mm', 'Width', units),
      length('height_mm', 'Height', units),
      length('depth_mm', 'Depth', units),
      { field: 'mass_kg', headerName: 'Mass', description: units === 'in' ? 'Mass without stand, lb' : 'Mass without stand, kg', type: 'number', width: 100, valueFormatter: (v: number | undefined) => (v === undefined ? '' : units === 'in' ? String(Math.ceil(v / 0.045359237) / 10) : String(v)) },
      { field: 'patterns', headerName: 'Hole pattern', width: 150 },
      { field: 'origin', headerName: 'Origin', width: 86 },
      { field: 'odd', headerName: 'To check', flex: 1, minWidth: 140 },
      { field: 'id', headerName: 'Id', width: 150 },
    ],
    [units],
  );
  if (shelves.error) return <Alert severity="error">{shelves.error.message}</Alert>;
  if (shelves.data?.displays.length === 0) return nothingYet;
  const ids = picked.type === 'include' ? [...picked.ids].map(String) : (shelves.data?.displays ?? []).map((d) => d.id).filter((id) => !picked.ids.has(id));
  return (
    <>
      <Together ids={ids} />
      <Twins />
      <div className="grid">
        <DataGrid
          {...grid}
          rows={shelves.data?.displays ?? []}
          columns={columns}
          loading={shelves.isLoading}
          checkboxSelection
          rowSelectionModel={picked}
          onRowSelectionModelChange={setPicked}
          onRowDoubleClick={({ id }) => void go(`/catalogue/displays/${String(id)}`)}
          onCellKeyDown={({ id, field }, e) => {
            if (e.key === 'Enter' && field !== '__check__') void go(`/catalogue/displays/${String(id)}`);
          }}
        />
      </div>
    </>
  );
}

/** Changes one figure of all picked displays. */
function Together({ ids }: { ids: string[] }) {
  const [field, setField] = useState<'maker' | 'origin'>('maker');
  const [text, setText] = useState('');
  const tell = useNotice();
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: () => answer(api.POST('/api/together', { body: { ids, [field]: text.trim() } as never })),
    onError: (e) => tell({ text: e.message }),
    onSuccess: ({ changed, batch }) =>
      tell({
        text: `${changed} displays changed.`,
        action: { name: 'Undo', act: () => void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(() => queries.invalidateQueries(), (e: Error) => tell({ text: e.message })) },
      }),
    onSettled: () => queries.invalidateQueries(),
  });
  const { units } = useDesk();
  if (ids.length === 0)
    return <p className="hint">Enter or a double click opens a display. Tick several to change them together. Lengths in {units === 'in' ? 'inches, masses in pounds' : 'millimetres, masses in kilograms'}.</p>;
  return (
    <form
      className="tools"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim()) change.mutate();
      }}
    >
      <span>{ids.length} picked: set</span>
      <select className="figure-field words" style={{ width: 100 }} aria-label="Figure to set" value={field} onChange={(e) => setField(e.target.value as 'maker' | 'origin')}>
        <option value="maker">maker</option>
        <option value="origin">origin</option>
      </select>
      <span>to</span>
      {field === 'origin' ? (
        <select className="figure-field words" style={{ width: 110 }} aria-label="Value to set" value={text} onChange={(e) => setText(e.target.value)}>
          <option value="">choose</option>
          <option value="bench">measured</option>
          <option value="sheet">data sheet</option>
          <option value="caller">caller</option>
        </select>
      ) : (
        <input className="figure-field words" style={{ width: 150 }} aria-label="Value to set" value={text} onChange={(e) => setText(e.target.value)} />
      )}
      <Button size="small" variant="outlined" type="submit" disabled={change.isPending || text.trim() === ''}>
        Set
      </Button>
    </form>
  );
}

/** Displays that could be one and the same. */
function Twins() {
  const twins = useQuery({ queryKey: ['duplicates'], queryFn: ({ signal }) => answer(api.GET('/api/duplicates', { signal })) });
  const tell = useNotice();
  const queries = useQueryClient();
  const merge = useMutation({
    mutationFn: ([keep, gone]: [string, string]) => answer(api.POST('/api/merge', { body: { keep, gone } })),
    onError: (e) => tell({ text: e.message }),
    onSuccess: ({ batch }) =>
      tell({ text: 'Merged.', action: { name: 'Undo', act: () => void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(() => queries.invalidateQueries(), (e: Error) => tell({ text: e.message })) } }),
    onSettled: () => queries.invalidateQueries(),
  });
  if (!twins.data || twins.data.length === 0) return null;
  const [first] = twins.data;
  const [a, b] = first!.displays;
  return (
    <p className="hint">
      {twins.data.length === 1 ? 'Two displays' : `${twins.data.length} pairs of displays`} could be one: {a!.name} ({a!.id}) and {b!.name} ({b!.id}).{' '}
      <button type="button" className="press" disabled={merge.isPending} onClick={() => merge.mutate([a!.id, b!.id])}>
        Merge into {a!.id}
      </button>
    </p>
  );
}

/** All brackets. */
export function BracketGrid() {
  const shelves = useShelves();
  const { units } = useDesk();
  const go = useNavigate();
  const columns = useMemo<GridColDef<Schemas['BracketLine']>[]>(() => {
    const l = (field: string, name: string): GridColDef<Schemas['BracketLine']> => ({ field, headerName: `${name}, ${units}`, type: 'number', width: 110, valueFormatter: (v: number | undefined) => show(v, units) });
    return [
      { field: 'name', headerName: 'Name', flex: 1, minWidth: 140 },
      { field: 'revision', headerName: 'Revision', width: 90 },
      { field: 'kind', headerName: 'Kind', width: 120 },
      { field: 'rated_load_kg', headerName: 'Rated, kg', type: 'number', width: 100 },
      l('diagonal_min_mm', 'From'),
      l('diagonal_max_mm', 'Up to'),
      l('profile_mm', 'Profile'),
      l('reach_mm', 'Reach'),
      { field: 'threads', headerName: 'Threads', width: 140 },
      { field: 'parts', headerName: 'Kit lines', type: 'number', width: 90 },
      { field: 'id', headerName: 'Id', width: 130 },
    ];
  }, [units]);
  if (shelves.error) return <Alert severity="error">{shelves.error.message}</Alert>;
  if (shelves.data?.brackets.length === 0) return nothingYet;
  return (
    <>
      <p className="hint">Enter or a double click opens a bracket.</p>
      <div className="grid">
        <DataGrid
          {...grid}
          rows={shelves.data?.brackets ?? []}
          columns={columns}
          loading={shelves.isLoading}
          onRowDoubleClick={({ id }) => void go(`/catalogue/brackets/${String(id)}`)}
          onCellKeyDown={({ id }, e) => {
            if (e.key === 'Enter') void go(`/catalogue/brackets/${String(id)}`);
          }}
        />
      </div>
    </>
  );
}
