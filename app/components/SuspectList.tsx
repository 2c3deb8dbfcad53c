import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { SuspectsOf } from '../../core/prescribe/suspects.ts';

const SHOWN = 3;

/** What each complaint makes us want to look at first, with the reason, the deciding test and what speaks against it. */
export function SuspectList({ list }: { list: readonly SuspectsOf[] }) {
  if (list.length === 0) {
    return (
      <Typography color="textSecondary">
        No complaint so far. Tap a place on the outlines, and what to look at first stands here.
      </Typography>
    );
  }
  return (
    <>
      {list.map(({ complaint, name, suspects }) => (
        <Box key={complaint.id} component="section" aria-label={`Suspects: ${name}`} sx={{ mb: 2.5 }}>
          <Typography variant="h3">
            {name}{' '}
            <Typography component="span" color="textSecondary">
              {complaint.severity} of 10
            </Typography>
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5, '& li': { mt: 0.75 } }}>
            {suspects.slice(0, SHOWN).map((s) => (
              <li key={s.key}>
                <Typography component="span" sx={{ fontWeight: 560 }}>
                  {s.what}
                </Typography>
                {s.for.map((t) => (
                  <Typography key={t} variant="body2">
                    + {t}
                  </Typography>
                ))}
                {s.against.map((t) => (
                  <Typography key={t} variant="body2" color="textSecondary">
                    − {t}
                  </Typography>
                ))}
                <Typography variant="body2" color="textSecondary">
                  Test: {s.test}
                </Typography>
              </li>
            ))}
          </Box>
          {suspects.length > SHOWN && (
            <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
              Then:{' '}
              {suspects
                .slice(SHOWN)
                .map((s) => s.what)
                .join(', ')}
              .
            </Typography>
          )}
        </Box>
      ))}
    </>
  );
}
