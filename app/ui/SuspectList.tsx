import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useInUnits } from './useInUnits';
import type { Suspect, SuspectsOf } from '../../core/suspects/suspects.ts';

const SHOWN = 3;

/** One suspect: what speaks for and against it, the test that decides, and what to try. */
function OneSuspect({ suspect: s }: { suspect: Suspect }) {
  return (
    <li>
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
      {s.unknown.map((t) => (
        <Typography key={t} variant="body2" color="textSecondary">
          ? {t}
        </Typography>
      ))}
      <Typography variant="body2" color="textSecondary">
        Test: {s.test}. Try: {s.change}.
      </Typography>
    </li>
  );
}

/** What each complaint makes us want to look at first; the rest of the suspects a tap away. */
export function SuspectList({ list: ranked }: { list: readonly SuspectsOf[] }) {
  const list = useInUnits()(ranked);
  if (list.length === 0) {
    return (
      <Typography color="textSecondary">
        No complaint so far. Tap a place on the outlines, and what to look at first appears here.
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
              <OneSuspect key={s.key} suspect={s} />
            ))}
          </Box>
          {suspects.length > SHOWN && (
            <Box component="details" sx={{ mt: 0.5 }}>
              <Box component="summary" sx={{ cursor: 'pointer', py: 1.25 }}>
                <Typography component="span" variant="body2" color="textSecondary">
                  Then:{' '}
                  {suspects
                    .slice(SHOWN)
                    .map((s) => s.what)
                    .join(', ')}
                </Typography>
              </Box>
              <Box component="ol" start={SHOWN + 1} sx={{ m: 0, pl: 2.5, '& li': { mt: 0.75 } }}>
                {suspects.slice(SHOWN).map((s) => (
                  <OneSuspect key={s.key} suspect={s} />
                ))}
              </Box>
            </Box>
          )}
        </Box>
      ))}
    </>
  );
}
