import Typography from '@mui/material/Typography';
import type { MeasuredChange as Measured } from '../../../core/plan/terms/change.ts';
import { measureName, quotedWay } from '../../../core/protocol/convention.ts';
import { isMeasureKey, type MeasureKey } from '../../../core/protocol/protocols.ts';
import { useStudio } from '../../session/useStudio';

const signed = (v: number): string =>
  `${v > 0 ? '+' : ''}${v.toFixed(1)}`.replace('-', '−').replace(/^[+−]0\.0$/, '0.0');

/**
 * What a change did to the figures while the camera ran: those that moved by more than their ±, and the knee in any case.
 * @param predicted by how much a figure was predicted to move; null where nothing was
 * @param word for that: predicted, or known
 */
export function MeasuredChange({
  measured,
  predicted,
  word = 'predicted',
}: {
  measured: Measured;
  predicted: (key: string) => number | null;
  word?: string;
}) {
  const { jointConvention } = useStudio();
  const shown = measured.figures.filter(
    (f) =>
      isMeasureKey(f.key) && (f.key === 'kneeFlexionMinDeg' || Math.abs(f.after - f.before) > f.uncertainty),
  );
  return (
    <div data-testid="measured">
      {shown.map(({ key, before, after, uncertainty }) => {
        const way = quotedWay(key, jointConvention);
        const by = way * (after - before);
        const wanted = predicted(key);
        return (
          <Typography key={key} variant="body2">
            {measureName(key as MeasureKey, jointConvention)}{' '}
            <strong>
              {signed(by)}° ± {uncertainty.toFixed(1)}
            </strong>
            {Math.abs(by) <= uncertainty && ', within noise'}
            {wanted !== null && `, ${word} ${signed(way * wanted)}`}
          </Typography>
        );
      })}
      <Typography variant="body2" color="textSecondary">
        Measured live: {measured.turnsBefore} turns before, {measured.turnsAfter} after
        {measured.satAnew && '; the rider rose or rested in between, so that sitting down anew is in the ±'}.
      </Typography>
    </div>
  );
}
