import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

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
      <Typography variant="body2" color="text.secondary">
        {name}
      </Typography>
      <Typography
        component="p"
        sx={{ fontSize: '2.5rem', lineHeight: 1.05, fontWeight: 620, fontStretch: '88%' }}
        data-testid={testId}
      >
        {value}{' '}
        <Typography component="span" color="text.secondary" sx={{ fontSize: '1.05rem' }}>
          {plusMinus}
        </Typography>
      </Typography>
    </Box>
  );
}
