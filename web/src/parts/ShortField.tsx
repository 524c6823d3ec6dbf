import TextField from '@mui/material/TextField';

interface Props {
  label: string; // stands in it while it is empty
  value: string;
  onChange: (value: string) => void;
  width?: number; // all there is, by default
  maxLength?: number;
}

/** A line of text among the presses of a row. */
export function ShortField({ label, value, onChange, width, maxLength }: Props) {
  return (
    <TextField
      size="small"
      placeholder={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      sx={width ? { width } : { flex: 1 }}
      slotProps={{ htmlInput: { 'aria-label': label, maxLength } }}
    />
  );
}
