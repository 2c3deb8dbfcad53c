import Box from '@mui/material/Box';

/** A key on the keyboard, beside what it does. */
export const Key = ({ children }: { children: string }) => (
  <Box
    component="kbd"
    aria-hidden
    sx={{
      font: 'inherit',
      fontSize: '0.85em',
      border: 1,
      borderColor: 'currentcolor',
      borderRadius: '3px',
      px: 0.6,
      ml: 0.5,
      opacity: 0.8,
    }}
  >
    {children}
  </Box>
);
