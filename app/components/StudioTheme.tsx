import CssBaseline from '@mui/material/CssBaseline';
import { createTheme, ThemeProvider } from '@mui/material/styles';
import useMediaQuery from '@mui/material/useMediaQuery';
import { useMemo, type ReactNode } from 'react';
import type { Studio } from '../../core/records/types.ts';

declare module '@mui/material/styles' {
  interface Palette {
    ink: { line: string; faint: string; band: string; predicted: string; measured: string; plate: string };
  }
  interface PaletteOptions {
    ink?: { line: string; faint: string; band: string; predicted: string; measured: string; plate: string };
  }
}

/** Paper and ink with one accent, fired clay. The predicted curve is told by its dashes first, then by its blue. */
function paper(dark: boolean) {
  const quiet = dark ? '#b4ae9f' : '#55605f';
  const text = dark ? '#ece6d8' : '#1d282e';
  return createTheme({
    palette: {
      mode: dark ? 'dark' : 'light',
      primary: { main: dark ? '#e2895a' : '#a3451c', contrastText: dark ? '#1b1411' : '#fffaf2' },
      secondary: { main: dark ? '#7fb4cf' : '#23607f' },
      background: { default: dark ? '#14191c' : '#f4f0e6', paper: dark ? '#1c2226' : '#fbf8f1' },
      text: { primary: text, secondary: quiet },
      divider: dark ? '#3a4247' : '#cfc7b5',
      warning: { main: dark ? '#e0b45c' : '#8a5a00' },
      error: { main: dark ? '#f08a7c' : '#9c2b1e' },
      ink: {
        line: text,
        faint: dark ? '#3a4247' : '#d9d2c1',
        band: dark ? '#2b3a3d' : '#e2dcc6',
        predicted: dark ? '#7fb4cf' : '#23607f',
        measured: dark ? '#e2895a' : '#a3451c',
        plate: dark ? 'rgba(20,25,28,0.82)' : 'rgba(251,248,241,0.88)',
      },
    },
    shape: { borderRadius: 3 },
    typography: {
      fontFamily: "'Archivo Variable', sans-serif",
      fontSize: 14,
      h1: { fontSize: '1.7rem', fontWeight: 620, fontStretch: '92%', letterSpacing: '-0.01em' },
      h2: { fontSize: '1.2rem', fontWeight: 620, fontStretch: '94%' },
      h3: { fontSize: '1rem', fontWeight: 620 },
      overline: { fontSize: '0.72rem', letterSpacing: '0.08em', lineHeight: 1.6, fontWeight: 560 },
      button: { textTransform: 'none', fontWeight: 580 },
    },
    components: {
      MuiCssBaseline: { styleOverrides: { body: { fontVariantNumeric: 'tabular-nums lining-nums' } } },
      MuiButton: { defaultProps: { disableElevation: true }, styleOverrides: { root: { minHeight: 44 } } },
      MuiIconButton: { styleOverrides: { root: { minWidth: 44, minHeight: 44, borderRadius: 3 } } },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiToggleButton: {
        styleOverrides: {
          root: { minHeight: 44, textTransform: 'none', color: quiet },
        },
      },
      MuiTableCell: { styleOverrides: { root: { padding: '6px 10px' } } },
    },
  });
}

/** The house's own look, light or dark, by the settings or the system. */
export function StudioTheme({ studio, children }: { studio: Studio; children: ReactNode }) {
  const systemDark = useMediaQuery('(prefers-color-scheme: dark)');
  const dark = studio.theme === 'dark' || (studio.theme === 'system' && systemDark);
  const theme = useMemo(() => paper(dark), [dark]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      {children}
    </ThemeProvider>
  );
}
