import Typography from '@mui/material/Typography';
import Link from '@mui/material/Link';
import { Link as RouterLink } from 'react-router';
import type { FitSession, Take } from '../../core/records/types.ts';

/** As long as nothing was moved and each film stands alone: what a second film of the same set-up is good for. */
export function OnceMore({
  session,
  take,
  to,
}: {
  session: FitSession;
  take: Take;
  /** Where the second film is taken in; left out on that page itself. */
  to?: string;
}) {
  const twice = session.takes.some((t) => t.baselineOf !== null);
  if (twice || session.changes.length > 0 || take.tracking.state === 'none') return null;
  return (
    <Typography variant="body2" color="textSecondary" data-testid="once-more">
      Before anything is moved: let the rider get off and on again, and{' '}
      {to ? (
        <Link component={RouterLink} to={to} relative="path">
          film once more
        </Link>
      ) : (
        'film once more'
      )}
      , saying “Repeats, off the bike and on again” with that film. How this rider sits down anew then tells
      what is a change and what is not; until then the usual rider’s spread is taken.
    </Typography>
  );
}
