import { deDE } from '@mui/material/locale';
import { createTheme } from '@mui/material/styles';
import { locale } from '../i18n';
import type {} from '@mui/material/themeCssVarsAugmentation';

/** Fills of a drawing's parts, and what lights up; drawing.css puts them on. */
interface Drawing {
  body: string;
  panel: string;
  insert: string;
  bolt: string;
  washer: string;
  spacer: string;
  plate: string;
  arm: string;
  zone: string;
  hatch: string;
  lit: string;
}

declare module '@mui/material/styles' {
  interface Palette {
    drawing: Drawing;
    field: string; // borders of fields, 3:1 to the paper
  }
  interface PaletteOptions {
    drawing: Drawing;
    field: string;
  }
}

// A drawing office: paper, ink, one warm accent. Fits, conditions, missing and fails are the
// palette's success, warning, info and error.
const light = {
  primary: { main: '#9c4410' },
  success: { main: '#1f6236' },
  warning: { main: '#7d5200' },
  info: { main: '#34557f' },
  error: { main: '#a3221a' },
  background: { default: '#f3eee4', paper: '#fffdf8' },
  text: { primary: '#22252a', secondary: '#575a61' },
  divider: '#d8d0c0',
  field: '#85827a',
  drawing: {
    body: '#f2ede2',
    panel: '#bccad6',
    insert: '#e3cb8c',
    bolt: '#d3d6db',
    washer: '#e9e9ee',
    spacer: '#f0dccd',
    plate: '#dfe5ea',
    arm: '#dbe2e9',
    zone: '#ece4cf',
    hatch: '#a9a79f',
    lit: '#c4571a',
  },
};

const dark = {
  primary: { main: '#f0a067' },
  success: { main: '#7fd09a' },
  warning: { main: '#e9bd62' },
  info: { main: '#9fc0ec' },
  error: { main: '#ff9c92' },
  background: { default: '#191b1f', paper: '#22252a' },
  text: { primary: '#ece7dc', secondary: '#b3b0a8' },
  divider: '#3c4047',
  field: '#7b7e85',
  drawing: {
    body: '#33343a',
    panel: '#4a5c6e',
    insert: '#7b6a3a',
    bolt: '#6b7078',
    washer: '#565a62',
    spacer: '#6a5041',
    plate: '#465059',
    arm: '#46525d',
    zone: '#4d4734',
    hatch: '#72757c',
    lit: '#ff9d5c',
  },
};

// Fingers need more room than a pointer (WCAG 2.2, 2.5.8 and 2.5.5: 24 and 44 px).
const finger = '@media (pointer: coarse)';

/** The one palette, and how MUI's components look in it. */
export const theme = createTheme(
  {
    cssVariables: { colorSchemeSelector: 'data-scheme' },
    colorSchemes: { light: { palette: light }, dark: { palette: dark } },
    breakpoints: { values: { xs: 0, sm: 600, md: 1001, lg: 1200, xl: 1536 } },
    shape: { borderRadius: 3 },
    spacing: 4,
    typography: {
      fontFamily: "'Source Sans 3', 'DejaVu Sans', Arial, sans-serif",
      fontSize: 14,
      htmlFontSize: 16,
      body1: { fontSize: 15, lineHeight: 1.4 },
      body2: { fontSize: 13, lineHeight: 1.35 },
      caption: { fontSize: 12, lineHeight: 1.3 },
      h1: { fontSize: 19, fontWeight: 600, lineHeight: 1.25 },
      h2: { fontSize: 13, fontWeight: 600, lineHeight: 1.35 },
      h3: { fontSize: 15, fontWeight: 600, lineHeight: 1.3 },
      button: { textTransform: 'none', fontWeight: 600, fontSize: 14, lineHeight: 1.4 },
      fontWeightMedium: 600,
      fontWeightBold: 600,
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: ({ vars }) => ({
          'html, body, #root': { height: '100%' },
          body: { fontVariantNumeric: 'tabular-nums', fontSize: 15, lineHeight: 1.4 },
          'h1, h2, h3, p, figure': { margin: 0 },
          'h1:focus, main:focus': { outline: 'none' }, // the keyboard goes on from there
          ':where(a)': { color: vars!.palette.primary.main },
          kbd: {
            font: 'inherit',
            fontSize: 11,
            border: `1px solid ${vars!.palette.divider}`,
            borderBottomWidth: 2,
            borderRadius: 3,
            padding: '0 4px',
            color: vars!.palette.text.secondary,
            background: vars!.palette.background.default,
          },
          '@media (prefers-reduced-motion: reduce)': { '*': { transition: 'none !important', animation: 'none !important' } },
        }),
      },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: {
          root: ({ theme: t }) => ({
            '&:focus-visible': { outline: `2px solid ${t.vars!.palette.primary.main}`, outlineOffset: 1 },
            [finger]: { minHeight: 44, minWidth: 44 },
          }),
        },
      },
      MuiButton: { defaultProps: { size: 'small' }, styleOverrides: { root: { minWidth: 24, minHeight: 24, padding: '3px 9px', whiteSpace: 'nowrap', flex: 'none' } } },
      MuiLink: {
        styleOverrides: {
          root: ({ theme: t }) => ({
            textUnderlineOffset: 3,
            '&:focus-visible': { outline: `2px solid ${t.vars!.palette.primary.main}`, outlineOffset: 2 },
          }),
        },
      },
      MuiToggleButtonGroup: { defaultProps: { size: 'small', exclusive: true } },
      MuiToggleButton: {
        styleOverrides: {
          root: ({ theme: t }) => ({
            padding: '1px 8px',
            minHeight: 24,
            fontSize: 13,
            lineHeight: 1.5,
            color: t.vars!.palette.text.secondary,
            borderColor: t.vars!.palette.divider,
            '&.Mui-selected, &.Mui-selected:hover': {
              color: t.vars!.palette.text.primary,
              backgroundColor: t.vars!.palette.background.paper,
              boxShadow: `inset 0 -2px 0 ${t.vars!.palette.primary.main}`,
            },
          }),
        },
      },
      MuiTabs: { styleOverrides: { root: { minHeight: 28 } } },
      MuiTab: {
        styleOverrides: {
          root: ({ theme: t }) => ({
            padding: '2px 9px',
            minHeight: 28,
            minWidth: 24,
            fontSize: 13,
            lineHeight: 1.5,
            color: t.vars!.palette.text.secondary,
            '&.Mui-selected': { color: t.vars!.palette.text.primary },
          }),
        },
      },
      MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
      MuiInputBase: {
        styleOverrides: {
          root: { fontSize: 'inherit', lineHeight: 1.35, minHeight: 24, [finger]: { minHeight: 44 } },
          input: ({ theme: t }) => ({
            height: 'auto',
            fontVariantNumeric: 'tabular-nums',
            '&::placeholder': { color: t.vars!.palette.text.secondary, opacity: 1, fontWeight: 400 },
          }),
        },
      },
      MuiOutlinedInput: {
        defaultProps: { size: 'small', notched: false },
        styleOverrides: {
          root: ({ theme: t }) => ({
            backgroundColor: t.vars!.palette.background.paper,
            '& .MuiOutlinedInput-notchedOutline, &:hover:not(.Mui-focused, .Mui-error) .MuiOutlinedInput-notchedOutline': { borderColor: t.vars!.palette.field },
            // What differs from what stands.
            '&.changed': { color: t.vars!.palette.primary.main, fontWeight: 600 },
            '&.changed .MuiOutlinedInput-notchedOutline': { borderColor: `${t.vars!.palette.primary.main} !important` },
            '& legend': { display: 'none' },
            '& fieldset': { top: 0 },
          }),
          input: { padding: '3px 6px' },
          adornedEnd: { paddingRight: 0, '&.MuiInputBase-root > input': { paddingRight: 3 } },
        },
      },
      MuiNativeSelect: { styleOverrides: { icon: { right: 2 } } },
      MuiFormHelperText: { styleOverrides: { root: { margin: '1px 0 2px', fontSize: 12.5, lineHeight: 1.3 } } },
      MuiFormControlLabel: { styleOverrides: { root: { margin: '1px 0 1px -4px', gap: 4 }, label: { fontSize: 'inherit' } } },
      MuiCheckbox: { defaultProps: { size: 'small' }, styleOverrides: { root: { padding: 3, '& svg': { fontSize: 18 } } } },
      MuiTableCell: {
        styleOverrides: {
          root: ({ theme: t }) => ({ padding: '4px 10px 4px 0', borderColor: t.vars!.palette.divider, fontSize: 'inherit', lineHeight: 1.35, verticalAlign: 'top' }),
          head: ({ theme: t }) => ({ fontWeight: 400, color: t.vars!.palette.text.secondary }),
        },
      },
      MuiAccordion: { defaultProps: { disableGutters: true, elevation: 0, square: true }, styleOverrides: { root: { background: 'none', '&::before': { display: 'none' } } } },
      MuiAccordionSummary: {
        styleOverrides: {
          root: ({ theme: t }) => ({ minHeight: 28, padding: 0, fontFamily: 'inherit', color: t.vars!.palette.text.secondary, fontWeight: 600, fontSize: 13 }),
          content: { margin: '3px 0' },
        },
      },
      MuiAccordionDetails: { styleOverrides: { root: { padding: '0 0 6px' } } },
      MuiAlert: { styleOverrides: { root: { padding: '2px 12px', fontSize: 14 }, message: { '& ul': { margin: '4px 0', paddingLeft: 18 } } } },
      MuiTooltip: { defaultProps: { arrow: true, enterDelay: 400 } },
      MuiAutocomplete: {
        styleOverrides: {
          root: {
            '& .MuiOutlinedInput-root': { padding: '0 !important' },
            '& .MuiOutlinedInput-root .MuiAutocomplete-input': { padding: '3px 6px' },
            '& .MuiInput-root': { paddingRight: '0 !important' },
          },
        },
      },
    },
  },
  ...(locale === 'de' ? [deDE] : []),
);

const lightVars = Object.assign({}, ...theme.generateStyleSheets().flatMap((sheet) => Object.entries(sheet).flatMap(([of, vars]) => (of.includes('dark') ? [] : [vars])))) as Record<string, string>;

/** A print is dark ink on white paper, whatever the screen shows. */
export const inkOnPaper = { '@media print': { ':root, [data-scheme]': { ...lightVars, '--mui-palette-background-paper': 'white', '--mui-palette-background-default': 'white' } } };
