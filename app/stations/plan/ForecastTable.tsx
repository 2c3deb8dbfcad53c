import { styled } from '@mui/material/styles';
import { memo } from 'react';
import { isOut, type Band, type Verdict } from '../../../core/protocol/judge.ts';
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

/** A measure’s line in words and plain figures, so that one that stays is not drawn anew while a control is dragged. */
interface Line {
  measureKey: string;
  name: string;
  filmed: string;
  /** What is predicted; null where nothing is (the set-up is impossible). */
  predicted: string | null;
  /** The prediction is news: heavier. */
  moves: boolean;
  verdict: Verdict;
  verdictText: string;
  value: number;
  uncertainty: number;
  band: Band;
}

function lineOf(
  m: MeasureReading,
  predicted: readonly PredictedMeasure[] | null,
  convention: Convention,
): Line {
  const f = predicted?.find((q) => q.key === m.key);
  const moves = f !== undefined && Math.abs(f.after - f.before) >= 0.5;
  const shown = f ?? { after: m.value, low: m.value, high: m.value, verdict: m.verdict };
  return {
    measureKey: m.key,
    name: measureName(m.key, convention),
    filmed: `${number(quoted(m.key, m.value, convention))}${m.unit === '°' ? '°' : ' mm'}`,
    predicted: predicted && (!f ? 'film again' : moves ? predictedText(f, m.unit, convention) : 'the same'),
    moves,
    verdict: shown.verdict,
    verdictText: verdictWords(m.key, shown.verdict, convention),
    value: shown.after,
    uncertainty: (shown.high - shown.low) / 2,
    band: m.band,
  };
}

const LineRow = memo(function LineRow(line: Line) {
  const { measureKey, name, filmed, predicted, moves, verdict, verdictText } = line;
  return (
    <tr data-testid={`predicted-${measureKey}`}>
      <td>{name}</td>
      <td className="figure">{filmed}</td>
      <td className="figure">
        <div className={moves ? 'news' : 'quiet'}>{predicted ?? '–'}</div>
        {predicted && <div className={isOut(verdict) ? 'out' : 'quiet small'}>{verdictText}</div>}
      </td>
      <td className="gauge">{predicted && <BandGauge {...line} />}</td>
    </tr>
  );
});

/** Styled as a whole: every movement of a slider draws it. */
const Lines = styled('table')(({ theme }) => ({
  ...theme.typography.body1,
  width: '100%',
  borderCollapse: 'collapse',
  '& th, & td': { padding: '6px', textAlign: 'left', borderBottom: `1px solid ${theme.palette.divider}` },
  '& th': { ...theme.typography.body2, fontWeight: 600, verticalAlign: 'bottom' },
  '& td': { lineHeight: 1.2 },
  '& .figure': { textAlign: 'right', whiteSpace: 'nowrap' },
  '& .quiet': { color: theme.palette.text.secondary },
  '& .small, & .out': { ...theme.typography.body2, lineHeight: 1.2 },
  '& .news': { fontWeight: 650 },
  '& .out': { color: theme.palette.primary.main, fontWeight: 650 },
  [theme.breakpoints.down('sm')]: { '& .gauge': { display: 'none' } },
}));

/** Every measure: as filmed, as predicted with its interval, and against its band. What does not change stands quietly. */
export const ForecastTable = memo(function ForecastTable({
  measures,
  predicted,
  convention,
}: {
  measures: readonly MeasureReading[];
  predicted: readonly PredictedMeasure[] | null;
  convention: Convention;
}) {
  return (
    <Lines aria-label="Filmed and predicted">
      <thead>
        <tr>
          <th scope="col">Measure</th>
          <th scope="col" className="figure">
            Filmed
          </th>
          <th scope="col" className="figure">
            Predicted, 95 %
          </th>
          <th scope="col" className="gauge">
            Band
          </th>
        </tr>
      </thead>
      <tbody>
        {measures.map((m) => (
          <LineRow key={m.key} {...lineOf(m, predicted, convention)} />
        ))}
      </tbody>
    </Lines>
  );
});
