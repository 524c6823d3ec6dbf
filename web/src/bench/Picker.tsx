import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, api, type Entry } from '../api';
import { show, type Units } from '../units';

interface Choice extends Entry {
  typeIn?: boolean; // not in the catalogue: type it in
}

interface Props {
  kind: 'displays' | 'brackets';
  label: string;
  id: string; // what is picked, '' for none
  name: string; // and its name
  units: Units;
  className: string;
  autoFocus?: boolean;
  onPick: (id: string) => void;
  onTypeIn?: (name: string) => void;
}

/** A noun of the sentence: a field that finds what was typed, forgivingly. */
export function Picker({ kind, label, id, name, units, className, autoFocus, onPick, onTypeIn }: Props) {
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const wanted = open && typed !== name ? typed : '';
  const found = useQuery({
    queryKey: [kind, wanted],
    enabled: open,
    queryFn: ({ signal }) =>
      answer(
        kind === 'displays'
          ? api.GET('/api/displays', { params: { query: { q: wanted } }, signal })
          : api.GET('/api/brackets', { params: { query: { q: wanted } }, signal }),
      ),
    placeholderData: keepPreviousData,
  });
  const options: Choice[] = [...(found.data ?? [])];
  if (onTypeIn && wanted.trim()) options.push({ id: '+', name: wanted.trim(), note: '', typeIn: true });
  const picked: Choice | null = id ? { id, name, note: '' } : null;
  return (
    <Autocomplete<Choice>
      className={className}
      options={options}
      filterOptions={(all) => all}
      value={picked}
      open={open}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      inputValue={open ? typed : name}
      onInputChange={(_, text, why) => {
        if (why !== 'reset' || !open) setTyped(text);
      }}
      onFocus={() => setTyped(name)}
      onChange={(_, c) => {
        setOpen(false);
        if (c?.typeIn) onTypeIn?.(c.name);
        else if (c) onPick(c.id);
      }}
      autoHighlight
      openOnFocus
      selectOnFocus
      blurOnSelect
      disableClearable={false}
      clearIcon={null}
      forcePopupIcon={false}
      loading={found.isFetching}
      loadingText="Looking…"
      noOptionsText={found.error ? found.error.message : 'Nothing comes close.'}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      getOptionLabel={(c) => c.name}
      getOptionKey={(c) => c.id}
      slotProps={{ popper: { style: { minWidth: 380 }, placement: 'bottom-start' }, listbox: { style: { maxHeight: '52vh' } } }}
      renderOption={({ key, ...props }, c) => (
        <li key={key} {...props} data-id={c.id}>
          {c.typeIn ? (
            <span>
              Type in <b>{c.name}</b> as a new display
            </span>
          ) : (
            <span className="option">
              <span>{c.name}</span>
              <small>
                {c.note}
                {c.diagonal_mm !== undefined && `, ${(c.diagonal_mm / 25.4).toFixed(0)} in`}
                {c.diagonal_mm !== undefined && units === 'mm' && ` (${show(Math.round(c.diagonal_mm), 'mm')} mm)`}
              </small>
            </span>
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
}
