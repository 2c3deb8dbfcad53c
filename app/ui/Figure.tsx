import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

const VALUE_SX = {
  fontSize: '2.5rem',
  lineHeight: 1.05,
  fontWeight: 620,
  fontStretch: '88%',
  // Figures change many times a second while something is dragged: the page round them need not be laid out for that.
  contain: 'layout',
  '& span': { fontSize: '1.05rem', fontWeight: 400, fontStretch: '100%', color: 'text.secondary' },
};

/** A figure to be read from two metres, with its name over it and its unit or ± beside it. */
export function Figure({
  name,
  value,
  plusMinus,
  testId,
}: {
  name: string;
  value: string;
  plusMinus: string;
  testId?: string;
}) {
  return (
    <Box>
      <Typography variant="body2" color="textSecondary">
        {name}
      </Typography>
      <Typography component="p" sx={VALUE_SX} data-testid={testId}>
        {value} <span>{plusMinus}</span>
      </Typography>
    </Box>
  );
}
