import Box from '@mui/material/Box';
import { ThemeProvider } from '@mui/material/styles';
import { useMemo, type ReactNode, type RefObject } from 'react';
import { paperTheme } from '../../ui/theme/StudioTheme';

/** Drawings as they go on paper: dark ink on light ground, whatever the page's theme. */
export function OnPaper({ children, box }: { children: ReactNode; box?: RefObject<HTMLDivElement | null> }) {
  const theme = useMemo(() => paperTheme(false), []);
  return (
    <ThemeProvider theme={theme}>
      <Box ref={box} sx={{ bgcolor: 'background.paper', color: 'text.primary' }}>
        {children}
      </Box>
    </ThemeProvider>
  );
}
