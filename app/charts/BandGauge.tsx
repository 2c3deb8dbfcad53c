import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { verdictWords, type Convention } from '../../core/protocol/convention.ts';
import { TargetBand } from './TargetBand';
import { isOut, type Band, type Verdict } from '../../core/protocol/judge.ts';

/** A value with its uncertainty against its band: a drawn bar with a notch, shown by place and word, not by colour. */
export function BandGauge({
  value,
  uncertainty,
  band,
  verdict,
  of = null,
}: {
  value: number;
  uncertainty: number;
  band: Band;
  verdict: Verdict;
  /** Whose figure it is and how it is quoted; left out where the verdict stands beside it in words. */
  of?: { key: string; convention: Convention } | null;
}) {
  const { palette } = useTheme();
  const from = band.low ?? (band.high ?? value) - 30;
  const to = band.high ?? (band.low ?? value) + 30;
  const span = Math.max(to - from, 6);
  const x = (v: number): number => Math.min(94, Math.max(6, 50 + ((v - (from + to) / 2) / span) * 30));
  const out = isOut(verdict);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Box component="svg" viewBox="0 0 100 22" sx={{ width: 100, height: 22, flexShrink: 0 }} aria-hidden>
        <TargetBand band={band} scale={x} values="along" extent={[0, 100]} across={[5, 17]} />
        <line
          x1={x(value - uncertainty)}
          x2={x(value + uncertainty)}
          y1={11}
          y2={11}
          stroke={palette.text.primary}
          strokeWidth={1.4}
        />
        <path
          data-testid="pointer"
          d={`M${x(value)},12 l-4,-9 h8 z`}
          fill={out ? palette.primary.main : palette.text.primary}
        />
      </Box>
      {of && (
        <Typography
          variant="body2"
          sx={{ fontWeight: out ? 650 : 400, color: out ? 'primary.main' : 'text.primary' }}
        >
          {verdictWords(of.key, verdict, of.convention)}
        </Typography>
      )}
    </Box>
  );
}
