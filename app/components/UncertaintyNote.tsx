import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { AngleKey } from '../../core/stroke/angles.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { degrees } from './angleText';

/** What stands behind the ± of the angle shown. */
export function UncertaintyNote({ reading, angle }: { reading: Reading; angle: AngleKey }) {
  const u = reading.angles[angle].uncertainty;
  const parts: [string, number][] = [
    ['stickers on the bone', u.stickerDeg],
    ['finding them in the film', u.localisationDeg],
    ['level of the camera', u.levelDeg],
    ['perspective and yaw', u.pictureDeg],
    ['stroke to stroke', u.strokesDeg],
  ];
  return (
    <Box>
      <Typography variant="h3" component="p">
        ± {degrees(u.absoluteDeg)}, 95 %
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
        For a change with the stickers left on: ±{'\u00a0'}
        {degrees(u.changeDeg)}.
      </Typography>
      {parts.map(([name, sd]) => (
        <Typography key={name} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>{name}</span>
          <span>{degrees(1.96 * sd, 2)}</span>
        </Typography>
      ))}
    </Box>
  );
}
