import { plural, t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { deDE } from '@mui/x-data-grid/locales';
import { DataGrid, type GridColDef, type GridRowSelectionModel } from '@mui/x-data-grid';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { submits, useTyped } from '../parts/form';
import { useNavigate } from 'react-router';
import { answer, api, type Schemas } from '../api';
import { Choice } from '../parts/Choice';
import { Hint, Nothing, ToolsForm } from '../parts/Page';
import { Go, Press } from '../parts/Press';
import { QuantityInput } from '../parts/QuantityField';
import { useNotice } from '../shell/notice';
import { useWorkspace } from '../state/workspace';
import { locale } from '../i18n';
import { show, showMass } from '../state/units';
import { originWords } from '../words';

type Line = Schemas['DisplayLine'];

export function useCatalogue() {
  return useQuery({ queryKey: ['catalogue'], queryFn: ({ signal }) => answer(api.GET('/api/catalogue', { signal })) });
}

const nothingYet = (
  <Nothing>
    <p>{t`The catalogue is empty.`}</p>
    <p>
      <Trans>
        <Go to="/catalogue/import">Import a file</Go>, or type a display in on the <Go to="/">bench</Go>.
      </Trans>
    </p>
  </Nothing>
);

const quiet = { borderColor: 'divider', '& .MuiDataGrid-columnSeparator': { color: 'divider' }, '--DataGrid-containerBackground': 'var(--mui-palette-background-paper)' };

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
  localeText: locale === 'de' ? deDE.components.MuiDataGrid.defaultProps.localeText : undefined,
} as const;

const unitsSaid = (units: 'mm' | 'in') => t`Lengths in ${units === 'in' ? t`inches, masses in pounds` : t`millimetres, masses in kilograms`}`;

type BracketLine = Schemas['BracketLine'];

/** A column of lengths in the units people read. Columns of figures have no menu, to show their names whole. */
function length<R extends Line | BracketLine>(field: keyof R & string, name: string, units: 'mm' | 'in', width = 88): GridColDef<R> {
  const valueFormatter = (v: number | undefined) => show(v, units);
  return { field, headerName: name, description: `${name}, ${units}`, type: 'number', width, valueFormatter, disableColumnMenu: true };
}

/** A column of masses. */
function mass<R extends Line | BracketLine>(field: keyof R & string, name: string, what: string, units: 'mm' | 'in'): GridColDef<R> {
  const valueFormatter = (v: number | undefined) => showMass(v, units, field);
  return { field, headerName: name, description: `${what}, ${units === 'in' ? 'lb' : 'kg'}`, type: 'number', width: 92, valueFormatter, disableColumnMenu: true };
}

/** All displays: filtered, sorted, several changed at once. */
export function DisplayGrid() {
  const all = useCatalogue();
  const { units } = useWorkspace();
  const go = useNavigate();
  const [picked, setPicked] = useState<GridRowSelectionModel>({ type: 'include', ids: new Set() });
  const columns = useMemo<GridColDef<Line>[]>(
    () => [
      { field: 'maker', headerName: t`Maker`, width: 98 },
      { field: 'model', headerName: t`Model`, flex: 1, minWidth: 150 },
      length('diagonal_mm', t`Diagonal`, units),
      length('width_mm', t`Width`, units),
      length('height_mm', t`Height`, units),
      length('depth_mm', t`Depth`, units),
      mass('mass_kg', t`Mass`, t`Mass without stand`, units),
      { field: 'patterns', headerName: t`Hole pattern`, width: 142 },
      { field: 'origin', headerName: t`Origin`, width: 96, valueFormatter: (v: string) => originWords[v] ?? v },
      { field: 'odd', headerName: t`To check`, flex: 1, minWidth: 120 },
      { field: 'id', headerName: t`Id`, width: 130 },
    ],
    [units],
  );
  if (all.error) return <Alert severity="error">{all.error.message}</Alert>;
  if (all.data?.displays.length === 0) return nothingYet;
  const ids = picked.type === 'include' ? [...picked.ids].map(String) : (all.data?.displays ?? []).map((d) => d.id).filter((id) => !picked.ids.has(id));
  return (
    <>
      <Together ids={ids} />
      <Twins />
      <Box sx={{ flex: 1, minHeight: 260, bgcolor: 'background.paper' }}>
        <DataGrid
          {...grid}
          rows={all.data?.displays ?? []}
          columns={columns}
          loading={all.isLoading}
          checkboxSelection
          rowSelectionModel={picked}
          onRowSelectionModelChange={setPicked}
          onRowDoubleClick={({ id }) => void go(`/catalogue/displays/${String(id)}`)}
          onCellKeyDown={({ id, field }, e) => {
            if (e.key === 'Enter' && field !== '__check__') void go(`/catalogue/displays/${String(id)}`);
          }}
        />
      </Box>
    </>
  );
}

/** Changes one figure of all picked displays. */
function Together({ ids }: { ids: string[] }) {
  const { typed, put } = useTyped<{ field: 'maker' | 'origin'; text: string }>({ field: 'maker', text: '' });
  const { field, text } = typed;
  const tell = useNotice();
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: () => answer(api.POST('/api/together', { body: { ids, [field]: text.trim() } as never })),
    onError: (e) => tell({ text: e.message }),
    onSuccess: ({ changed, batch }) =>
      tell({
        text: t`${changed} displays changed.`,
        action: {
          name: t`Undo`,
          act: () =>
            void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(
              () => queries.invalidateQueries(),
              (e: Error) => tell({ text: e.message }),
            ),
        },
      }),
    onSettled: () => queries.invalidateQueries(),
  });
  const { units } = useWorkspace();
  if (ids.length === 0) return <Hint>{t`Enter or a double click opens a display. Tick several to change them together. ${unitsSaid(units)}.`}</Hint>;
  return (
    <ToolsForm className="tools" onSubmit={submits(() => text.trim() && change.mutate())}>
      <span>{t`${ids.length} picked: set`}</span>
      <Choice
        label={t`Figure to set`}
        width={100}
        value={field}
        options={[
          ['maker', 'maker'],
          ['origin', 'origin'],
        ]}
        onPick={(to) => put({ field: to as typeof field, text: '' })}
      />
      <span>{t`to`}</span>
      {field === 'origin' ? (
        <Choice label={t`Value to set`} width={120} value={text} options={[['', 'choose'], ...Object.entries(originWords)]} onPick={(to) => put({ text: to })} />
      ) : (
        <QuantityInput label={t`Value to set`} words width={160} text={text} onText={(to) => put({ text: to })} />
      )}
      <Button variant="outlined" type="submit" disabled={text.trim() === ''} loading={change.isPending}>
        {t`Set`}
      </Button>
    </ToolsForm>
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
      tell({
        text: t`Merged.`,
        action: {
          name: t`Undo`,
          act: () =>
            void answer(api.POST('/api/batches/{id}/undo', { params: { path: { id: batch } } })).then(
              () => queries.invalidateQueries(),
              (e: Error) => tell({ text: e.message }),
            ),
        },
      }),
    onSettled: () => queries.invalidateQueries(),
  });
  if (!twins.data || twins.data.length === 0) return null;
  const [first] = twins.data;
  const [a, b] = first!.displays;
  return (
    <Hint>
      {plural(twins.data.length, { one: 'Two displays could be one:', other: '# pairs of displays could be one:' })} {t`${a!.name} (${a!.id}) and ${b!.name} (${b!.id}).`}{' '}
      <Press disabled={merge.isPending} onClick={() => merge.mutate([a!.id, b!.id])}>
        {t`Merge into ${a!.id}`}
      </Press>
    </Hint>
  );
}

/** All brackets. */
export function BracketGrid() {
  const all = useCatalogue();
  const { units } = useWorkspace();
  const go = useNavigate();
  const columns = useMemo<GridColDef<BracketLine>[]>(
    () => [
      { field: 'name', headerName: t`Name`, flex: 1, minWidth: 140 },
      { field: 'revision', headerName: t`Revision`, width: 105 },
      { field: 'kind', headerName: t`Kind`, width: 120 },
      mass('rated_load_kg', t`Rated load`, t`Rated load`, units),
      length('diagonal_min_mm', t`Screen from`, units, 116),
      length('diagonal_max_mm', t`Screen up to`, units, 120),
      length('profile_mm', t`Profile`, units),
      length('reach_mm', t`Reach`, units),
      { field: 'threads', headerName: t`Threads`, width: 150 },
      { field: 'parts', headerName: t`Kit lines`, type: 'number', width: 96, disableColumnMenu: true },
      { field: 'id', headerName: t`Id`, width: 130 },
    ],
    [units],
  );
  if (all.error) return <Alert severity="error">{all.error.message}</Alert>;
  if (all.data?.brackets.length === 0) return nothingYet;
  return (
    <>
      <Hint>{t`Enter or a double click opens a bracket. ${unitsSaid(units)}.`}</Hint>
      <Box sx={{ flex: 1, minHeight: 260, bgcolor: 'background.paper' }}>
        <DataGrid
          {...grid}
          rows={all.data?.brackets ?? []}
          columns={columns}
          loading={all.isLoading}
          onRowDoubleClick={({ id }) => void go(`/catalogue/brackets/${String(id)}`)}
          onCellKeyDown={({ id }, e) => {
            if (e.key === 'Enter') void go(`/catalogue/brackets/${String(id)}`);
          }}
        />
      </Box>
    </>
  );
}
