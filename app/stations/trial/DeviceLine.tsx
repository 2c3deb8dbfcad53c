import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { Devices } from './useDevices';

/** What trainer and mat tell right now, in one line; connected here. */
export function DeviceLine({ devices }: { devices: Devices }) {
  const { on, live, toggle } = devices;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 2, flexWrap: 'wrap' }}>
      <Button variant="outlined" size="small" onClick={toggle}>
        {on ? 'Disconnect the simulated trainer and mat' : 'Connect the simulated trainer and mat'}
      </Button>
      {on && live ? (
        <Typography data-testid="device-line">
          <strong>{Math.round(live.powerW)} W</strong> · <strong>{Math.round(live.cadenceRpm)} rpm</strong>
          {live.leftPercent !== null && ` · left leg ${live.leftPercent.toFixed(1)} %`} · simulated
        </Typography>
      ) : (
        <Typography variant="body2" color="textSecondary">
          No real trainer or mat is read yet: the stand-ins ride as this rider does. Connected, their means
          over the last 20 s go with the rider’s word, marked simulated.
        </Typography>
      )}
    </Box>
  );
}
