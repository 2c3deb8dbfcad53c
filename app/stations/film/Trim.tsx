import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { Take } from '../../../core/records/types.ts';

/** The part of the film that is followed and read. The film itself stays whole. */
export function Trim({
  take,
  frame,
  onChange,
}: {
  take: Take;
  frame: number;
  onChange: (trim: Take['trim']) => void;
}) {
  const last = take.video.frames - 1;
  const { from, to } = take.trim ?? { from: 0, to: last };
  const put = (a: number, b: number): void => onChange(a === 0 && b === last ? null : { from: a, to: b });
  return (
    <Box>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.25 }}>
        Read from frame {from} to {to}
        {take.trim ? ` of ${last}` : ', the whole film'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button size="small" variant="outlined" disabled={frame >= to} onClick={() => put(frame, to)}>
          Begin here
        </Button>
        <Button size="small" variant="outlined" disabled={frame <= from} onClick={() => put(from, frame)}>
          End here
        </Button>
        {take.trim && (
          <Button size="small" onClick={() => onChange(null)}>
            Whole film
          </Button>
        )}
      </Box>
    </Box>
  );
}
