import Typography from '@mui/material/Typography';
import type { MeasureReading } from '../../core/protocol/measures.ts';
import { conventionWord, measureName, quoted, type Convention } from '../../core/protocol/convention.ts';

/** A measure to be read from some metres: its name, and under it the figure with its ±. @param size of the figure */
export function GlanceFigure({
  m,
  convention,
  size,
  nameSx,
}: {
  m: MeasureReading;
  convention: Convention;
  size: string;
  nameSx?: { fontSize: string; minHeight: string };
}) {
  return (
    <>
      <Typography component="span" sx={{ display: 'block', lineHeight: 1.2, ...nameSx }}>
        {measureName(m.key, convention)}{' '}
        <Typography component="span" color="textSecondary">
          {conventionWord(m.key, convention)}
        </Typography>
      </Typography>
      <Typography
        component="span"
        sx={{ display: 'block', fontSize: size, fontWeight: 640, lineHeight: 1, fontStretch: '88%' }}
      >
        {quoted(m.key, m.value, convention).toFixed(0).replace('-', '−')}
        <Typography component="span" sx={{ fontSize: '0.32em', color: 'text.secondary' }}>
          {m.unit === 'mm' ? ' mm' : '°'} ±{m.uncertainty.toFixed(0)}
        </Typography>
      </Typography>
    </>
  );
}
