import { t } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { memo, useRef, useState } from 'react';
import { answer, api, type Entry } from '../api';
import { show, type Units } from '../state/units';

interface Choice extends Entry {
  typeIn?: boolean; // not in the catalogue: type it in
}

interface Props {
  kind: 'displays' | 'brackets';
  label: string;
  id: string; // what is picked, '' for none
  name: string; // and its name
  units: Units;
  width: number;
  autoFocus?: boolean;
  onPick: (id: string) => void;
  onTypeIn?: (name: string) => void;
}

/** A noun of the sentence: a field that finds what was typed, forgivingly. */
export const Picker = memo(function Picker({ kind, label, id, name, units, width, autoFocus, onPick, onTypeIn }: Props) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [focused, setFocused] = useState(false);
  const moved = useRef(false); // through the list, by arrow keys
  const wanted = open && typed !== name ? typed.trim() : '';
  const search = (q: string) => ({
    queryKey: [kind, q],
    queryFn: ({ signal }: { signal: AbortSignal }) => {
      const params = { params: { query: { q } }, signal };
      return answer(kind === 'displays' ? api.GET('/api/displays', params) : api.GET('/api/brackets', params));
    },
  });
  const found = useQuery({ ...search(wanted), enabled: open });
  const choices = (entries: Entry[]): Choice[] => (onTypeIn && wanted ? [...entries, { id: '+', name: wanted, note: '', typeIn: true }] : entries);
  const picked: Choice | null = id ? { id, name, note: '' } : null;
  const pick = (c: Choice | null | undefined) => {
    setOpen(false);
    if (c) setTyped(c.name);
    if (c?.typeIn) onTypeIn?.(c.name);
    else if (c) onPick(c.id);
  };
  // Enter takes the closest of what was typed, even when it is faster than the
  // search.
  const enter = async (field: HTMLElement) => {
    try {
      pick(choices(await queries.fetchQuery(search(wanted)))[0]);
      field.blur();
    } catch {
      // The list says what went wrong.
    }
  };
  return (
    <Autocomplete<Choice>
      sx={{ width, maxWidth: '100%', '& .MuiInputBase-root': { font: 'inherit', fontWeight: 600, color: 'primary.main' }, '& .MuiInputBase-input': { py: '2px !important' } }}
      options={found.data ? choices(found.data) : []}
      filterOptions={(all) => all}
      value={picked}
      open={open}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      inputValue={focused ? typed : name}
      onInputChange={(_, text, why) => {
        moved.current = false;
        if (why === 'reset') return; // to the name of what is picked: it is not what is typed
        setTyped(text);
        setOpen(true);
      }}
      onFocus={() => {
        setTyped(name);
        setFocused(true);
      }}
      onBlur={() => setFocused(false)}
      onKeyDown={(e) => {
        if (e.key === 'ArrowDown' || e.key === 'ArrowUp') moved.current = true;
        if (e.key !== 'Enter' || !open || moved.current || !wanted) return;
        (e as typeof e & { defaultMuiPrevented: boolean }).defaultMuiPrevented = true;
        e.preventDefault();
        void enter(e.target as HTMLElement);
      }}
      onChange={(_, c) => pick(c)}
      autoHighlight
      openOnFocus={id !== ''} // an empty bench says how to begin: the list would cover it
      selectOnFocus
      blurOnSelect
      disableClearable={false}
      clearIcon={null}
      forcePopupIcon={false}
      loading={found.isFetching}
      loadingText={t`Looking…`}
      noOptionsText={found.error ? found.error.message : t`Nothing comes close.`}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      getOptionLabel={(c) => c.name}
      getOptionKey={(c) => c.id}
      slotProps={{ popper: { sx: { minWidth: 'min(380px, 96vw)' }, placement: 'bottom-start' }, listbox: { sx: { maxHeight: '52vh' } } }}
      renderOption={({ key, ...props }, c) => (
        <li key={key} {...props} data-id={c.id}>
          {c.typeIn ? (
            <span>
              <Trans>
                Type in <b>{c.name}</b> as a new display
              </Trans>
            </span>
          ) : (
            <Box component="span" sx={{ display: 'flex', flexDirection: 'column', lineHeight: 1.25, py: 0.5, '& small': { color: 'text.secondary' } }}>
              <span>{c.name}</span>
              <small>
                {c.note}
                {c.diagonal_mm !== undefined && t`, ${(c.diagonal_mm / 25.4).toFixed(0)} in`}
                {c.diagonal_mm !== undefined && units === 'mm' && t` (${show(Math.round(c.diagonal_mm), 'mm')} mm)`}
              </small>
            </Box>
          )}
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          variant="standard"
          placeholder={label}
          autoFocus={autoFocus}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, 'aria-label': label, 'data-pick': kind, spellCheck: false },
          }}
        />
      )}
    />
  );
});
