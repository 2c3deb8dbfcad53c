import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { SxProps, Theme } from '@mui/material/styles';

/** What goes on for a moment, in words and as the line that shows that it does. */
export function Working({ words, sx }: { words: string; sx?: SxProps<Theme> }) {
  return (
    <Box sx={sx}>
      <Typography variant="body2" color="textSecondary" aria-hidden sx={{ mb: 0.5 }}>
        {words}…
      </Typography>
      <LinearProgress aria-label={words} />
    </Box>
  );
}
