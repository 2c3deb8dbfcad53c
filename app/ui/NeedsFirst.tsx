import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';

/** What a station shows before it has what it works on: what is missing, and the way there. */
export function NeedsFirst({
  title,
  text,
  to,
  action,
}: {
  title: string;
  text: string;
  to: string;
  action: string;
}) {
  return (
    <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', p: 4 }}>
      <Box sx={{ maxWidth: 480, borderLeft: 3, borderColor: 'primary.main', pl: 3 }}>
        <Typography variant="h1" component="h2" gutterBottom>
          {title}
        </Typography>
        <Typography sx={{ mb: 2 }}>{text}</Typography>
        <Button variant="contained" component={Link} to={to} relative="path">
          {action}
        </Button>
      </Box>
    </Box>
  );
}
