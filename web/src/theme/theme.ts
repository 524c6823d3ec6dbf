import { createTheme } from '@mui/material/styles';

// A drawing office: paper, ink, one warm accent.
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#9c4410' },
        background: { default: '#f3eee4', paper: '#fffdf8' },
        text: { primary: '#22252a', secondary: '#575a61' },
        divider: '#d8d0c0',
      },
    },
    dark: {
      palette: {
        primary: { main: '#f0a067' },
        background: { default: '#191b1f', paper: '#22252a' },
        text: { primary: '#ece7dc', secondary: '#b3b0a8' },
        divider: '#3c4047',
      },
    },
  },
  shape: { borderRadius: 3 },
  typography: {
    fontFamily: "'Source Sans 3', 'DejaVu Sans', Arial, sans-serif",
    fontSize: 13.5,
    button: { textTransform: 'none', fontWeight: 600 },
    fontWeightMedium: 600,
    fontWeightBold: 600,
  },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiTooltip: { defaultProps: { arrow: true, enterDelay: 400 } },
  },
});
