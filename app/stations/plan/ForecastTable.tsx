import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { isOut } from '../../../core/protocol/judge.ts';
import type { PredictedMeasure } from '../../../core/model/forecast.ts';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import { measureName, verdictWords } from '../../../core/protocol/convention.ts';
import { quoted, type Convention } from '../../ui/words/angleText';
import { BandGauge } from '../../charts/BandGauge';

const number = (v: number): string => v.toFixed(0).replace('-', '−').replace('−0', '0');

/** A figure with the interval that holds it, in the studio's convention. */
export function predictedText(f: PredictedMeasure, unit: '°' | 'mm', convention: Convention): string {
  const ends = [quoted(f.key, f.low, convention), quoted(f.key, f.high, convention)].sort((a, b) => a - b);
  return `${number(quoted(f.key, f.after, convention))}${unit === '°' ? '°' : ' mm'} (${number(ends[0])} to ${number(ends[1])})`;
}

/** Every measure: as filmed, as predicted with its interval, and against its band. What does not change stands quietly. */
export function ForecastTable({
  measures,
  predicted,
  convention,
}: {
  measures: readonly MeasureReading[];
  predicted: readonly PredictedMeasure[] | null;
  convention: Convention;
}) {
  return (
    <Table size="small" aria-label="Filmed and predicted" sx={{ '& td, & th': { px: 0.75 } }}>
      <TableHead>
        <TableRow>
          <TableCell>Measure</TableCell>
          <TableCell align="right">Filmed</TableCell>
          <TableCell align="right">Predicted, 95 %</TableCell>
          <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' } }}>Band</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {measures.map((m) => {
          const f = predicted?.find((q) => q.key === m.key);
          const moves = f !== undefined && Math.abs(f.after - f.before) >= 0.5;
          const unit = m.unit === '°' ? '°' : ' mm';
          const shown = f ?? { after: m.value, low: m.value, high: m.value, verdict: m.verdict };
          return (
            <TableRow key={m.key} data-testid={`predicted-${m.key}`}>
              <TableCell sx={{ lineHeight: 1.2 }}>{measureName(m.key, convention)}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {number(quoted(m.key, m.value, convention))}
                {unit}
              </TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap', fontWeight: moves ? 650 : 400 }}>
                {!predicted ? (
                  '–'
                ) : !f ? (
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    film again
                  </Box>
                ) : moves ? (
                  predictedText(f, m.unit, convention)
                ) : (
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    the same
                  </Box>
                )}
                {predicted && (
                  <Typography
                    variant="body2"
                    sx={{
                      color: isOut(shown.verdict) ? 'primary.main' : 'text.secondary',
                      fontWeight: isOut(shown.verdict) ? 650 : 400,
                      lineHeight: 1.2,
                    }}
                  >
                    {verdictWords(m.key, shown.verdict, convention)}
                  </Typography>
                )}
              </TableCell>
              <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' } }}>
                {predicted && (
                  <BandGauge
                    value={shown.after}
                    uncertainty={(shown.high - shown.low) / 2}
                    band={m.band}
                    verdict={shown.verdict}
                  />
                )}
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}
