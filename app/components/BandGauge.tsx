import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import type { Band, Verdict } from '../../core/protocol/judge.ts';

export const VERDICT_WORDS: Record<Verdict, string> = {
  in: 'in band',
  'edge-low': 'at the lower edge',
  'edge-high': 'at the upper edge',
  low: 'below the band',
  high: 'above the band',
};

/** A value with its uncertainty against its band: a drawn bar with a notch, told by place and word, not by colour. */
export function BandGauge({
  value,
  uncertainty,
  band,
  verdict,
  words = true,
}: {
  value: number;
  uncertainty: number;
  band: Band;
  verdict: Verdict;
  /** Left out where the verdict stands beside it in words. */
  words?: boolean;
}) {
  const { palette } = useTheme();
  const from = band.low ?? (band.high ?? value) - 30;
  const to = band.high ?? (band.low ?? value) + 30;
  const span = Math.max(to - from, 6);
  const x = (v: number): number => Math.min(94, Math.max(6, 50 + ((v - (from + to) / 2) / span) * 30));
  const out = verdict === 'low' || verdict === 'high';
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Box component="svg" viewBox="0 0 100 22" sx={{ width: 100, height: 22, flexShrink: 0 }} aria-hidden>
        <rect
          x={band.low === null ? 0 : x(band.low)}
          width={(band.high === null ? 100 : x(band.high)) - (band.low === null ? 0 : x(band.low))}
          y={5}
          height={12}
          fill={palette.ink.band}
        />
        {[band.low, band.high].map((v) =>
          v === null ? null : (
            <line
              key={v}
              x1={x(v)}
              x2={x(v)}
              y1={3}
              y2={19}
              stroke={palette.text.secondary}
              strokeWidth={1.2}
            />
          ),
        )}
        <line
          x1={x(value - uncertainty)}
          x2={x(value + uncertainty)}
          y1={11}
          y2={11}
          stroke={palette.text.primary}
          strokeWidth={1.4}
        />
        <path d={`M${x(value)},12 l-4,-9 h8 z`} fill={out ? palette.primary.main : palette.text.primary} />
      </Box>
      {words && (
        <Typography
          variant="body2"
          sx={{ fontWeight: out ? 650 : 400, color: out ? 'primary.main' : 'text.primary' }}
        >
          {VERDICT_WORDS[verdict]}
        </Typography>
      )}
    </Box>
  );
}
