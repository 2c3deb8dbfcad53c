import CssBaseline from '@mui/material/CssBaseline';
import { createTheme, keyframes, ThemeProvider, type ThemeOptions } from '@mui/material/styles';
import useMediaQuery from '@mui/material/useMediaQuery';
import { useMemo, type ReactNode } from 'react';
import type { Studio } from '../../../core/records/types.ts';
import { paperColours, sharpColours } from './paperColours';

declare module '@mui/material/styles' {
  interface Palette {
    ink: { line: string; faint: string; band: string; predicted: string; measured: string; plate: string };
  }
  interface PaletteOptions {
    ink?: { line: string; faint: string; band: string; predicted: string; measured: string; plate: string };
  }
}

const breathes = keyframes({ from: { opacity: 1 }, '50%': { opacity: 0.35 }, to: { opacity: 1 } });

/**
 * What shows that work goes on: the whole line breathes. One that runs to and fro has the page laid out anew sixty times a second, which
 * takes a tenth of the computer from the work itself.
 */
const working = (animation: string): ThemeOptions['components'] => ({
  MuiLinearProgress: {
    styleOverrides: {
      bar1: { '.MuiLinearProgress-indeterminate > &': { width: '100%', opacity: 0.6, animation } },
      bar2: { '.MuiLinearProgress-indeterminate > &': { display: 'none' } },
    },
  },
});

/** Nothing slides, fades or ripples for who asked the system for less motion; nor does the line of what goes on: words beside it say so. */
const STILL: ThemeOptions = {
  transitions: {
    create: () => 'none',
    duration: {
      shortest: 0,
      shorter: 0,
      short: 0,
      standard: 0,
      complex: 0,
      enteringScreen: 0,
      leavingScreen: 0,
    },
  },
  components: { MuiButtonBase: { defaultProps: { disableRipple: true } }, ...working('none') },
};

/**
 * The predicted curve is shown by its dashes first, then by its blue.
 * @param still whether the system asks for less motion  @param sharp for more contrast
 */
export function paperTheme(dark: boolean, { still = false, sharp = false } = {}) {
  const c = sharp ? sharpColours(dark) : paperColours(dark);
  const options: ThemeOptions = {
    palette: {
      mode: dark ? 'dark' : 'light',
      primary: { main: c.accent, contrastText: c.onAccent },
      secondary: { main: c.second },
      background: { default: c.background, paper: c.sheet },
      text: { primary: c.text, secondary: c.quiet },
      divider: c.rule,
      // A note is ink on paper; only what asks for something has a colour.
      info: { main: c.quiet },
      success: { main: c.second },
      warning: { main: c.warning },
      error: { main: c.error },
      ink: {
        line: c.text,
        faint: c.faint,
        band: c.band,
        predicted: c.predicted,
        measured: c.measured,
        plate: c.plate,
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
      ...working(`${breathes} 1.8s ease-in-out infinite`),
      MuiCssBaseline: {
        styleOverrides: {
          // On a wide screen it is looked at from further off: everything that is written grows.
          html: { '@media (min-width: 1700px)': { fontSize: '112.5%' } },
          body: { fontVariantNumeric: 'tabular-nums lining-nums' },
        },
      },
      // Riders’ names and words are no business of the browser’s own suggestions.
      MuiTextField: { defaultProps: { autoComplete: 'off' } },
      MuiButton: { defaultProps: { disableElevation: true }, styleOverrides: { root: { minHeight: 44 } } },
      MuiIconButton: { styleOverrides: { root: { minWidth: 44, minHeight: 44, borderRadius: 3 } } },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiToggleButton: {
        styleOverrides: {
          root: { minHeight: 44, textTransform: 'none', color: c.quiet },
        },
      },
      MuiTableCell: { styleOverrides: { root: { padding: '6px 10px' } } },
    },
  };
  return createTheme(options, ...(still ? [STILL] : []));
}

/** The house's own look, light or dark, by the settings or the system. */
export function StudioTheme({ studio, children }: { studio: Studio; children: ReactNode }) {
  const systemDark = useMediaQuery('(prefers-color-scheme: dark)');
  const dark = studio.theme === 'dark' || (studio.theme === 'system' && systemDark);
  const still = useMediaQuery('(prefers-reduced-motion: reduce)');
  const sharp = useMediaQuery('(prefers-contrast: more)');
  const theme = useMemo(() => paperTheme(dark, { still, sharp }), [dark, still, sharp]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      {children}
    </ThemeProvider>
  );
}
