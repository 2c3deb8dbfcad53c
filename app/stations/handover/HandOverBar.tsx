import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { differences, setupNow } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { wantsFilm } from '../../../core/visit/rounds.ts';
import { asFindings } from '../../../core/protocol/findings.ts';
import type { FilmedEnds } from './useFilmedEnds';
import { useSet } from '../../session/useSet';

/** Whether the bike is handed over as it stands, and the button that does it. */
export function HandOverBar({ session, ends }: { session: FitSession; ends: FilmedEnds | null }) {
  const { set, refused } = useSet();
  const now = setupNow(session);
  const { final } = session;
  const since = final ? differences(final, now).length : 0;
  const handOver = (): void => {
    set('final', now);
    const end = ends?.last ?? ends?.first;
    if (end) set('handOver.findings', asFindings(end.measures));
  };
  return (
    <Box
      sx={{ display: 'flex', alignItems: 'center', gap: 2, px: { xs: 2, md: 3 }, pt: 1.5, flexWrap: 'wrap' }}
      className="no-print"
    >
      <Box sx={{ flex: 1, minWidth: 240 }}>
        <Typography sx={{ fontSize: '1.25rem', fontWeight: 620 }} data-testid="handover-state">
          {!final
            ? 'Not handed over yet'
            : since === 0
              ? 'Handed over as it is now'
              : `Moved since it was handed over: ${since} ${since === 1 ? 'value' : 'values'}`}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {wantsFilm(session)
            ? 'The bike was moved since the last film: what it did is not measured.'
            : 'The next visit starts from how the bike is handed over.'}
        </Typography>
        {refused && <Alert severity="error">{refused}</Alert>}
      </Box>
      <Button
        variant={final && since === 0 ? 'outlined' : 'contained'}
        disabled={final !== null && since === 0}
        onClick={handOver}
      >
        {final ? 'Hand over again, as it is now' : 'Hand over as it is now'}
      </Button>
    </Box>
  );
}
