import Box from '@mui/material/Box';
import TextField, { type TextFieldProps } from '@mui/material/TextField';

/** A field with its label above it. */
export function Typed({ label, width, ...field }: TextFieldProps & { label: string; width?: number }) {
  return (
    <Box component="label" sx={{ display: 'block', width, maxWidth: '100%', color: 'text.secondary' }}>
      {label}
      <TextField fullWidth size="small" {...field} />
    </Box>
  );
}
