import { useTheme } from '@mui/material/styles';
import type { Band } from '../../core/protocol/judge.ts';

/**
 * Where a measure should lie: a tinted strip with a notch at each of its ends, open where the band is. Lies across a chart
 * (values upright) or along a gauge (values from left to right).
 */
export function TargetBand({
  band,
  scale,
  values,
  extent,
  across,
  text = null,
  inside = false,
}: {
  band: Band;
  /** From a value to px. */
  scale: (v: number) => number;
  /** Which way values run. */
  values: 'upright' | 'along';
  /** The ends of the scale in px, for a band that is open: least value first. */
  extent: readonly [number, number];
  /** From where to where the strip reaches the other way, px. */
  across: readonly [number, number];
  text?: string | null;
  /** The words stand in the strip, at its left, where lines cross above it. */
  inside?: boolean;
}) {
  const { palette } = useTheme();
  const low = band.low === null ? extent[0] : scale(band.low);
  const high = band.high === null ? extent[1] : scale(band.high);
  const [first, size] = [Math.min(low, high), Math.max(0, Math.abs(high - low))];
  const [from, to] = across;
  const ends = [band.low, band.high].filter((v) => v !== null);
  return (
    <g>
      <rect
        {...(values === 'upright'
          ? { x: from, width: to - from, y: first, height: size }
          : { y: from, height: to - from, x: first, width: size })}
        fill={palette.ink.band}
      />
      {ends.map((v) => (
        <path
          key={v}
          d={
            values === 'upright'
              ? `M${from},${scale(v)} H${to} M${from - 6},${scale(v) - 4} L${from},${scale(v)} L${from - 6},${scale(v) + 4}`
              : `M${scale(v)},${from - 2} V${to + 2}`
          }
          stroke={palette.text.secondary}
          strokeWidth={values === 'upright' ? 1 : 1.2}
          fill="none"
        />
      ))}
      {text && (
        <text
          x={inside ? from + 8 : to - 4}
          y={inside ? first + size / 2 + 5 : first - 6}
          textAnchor={inside ? 'start' : 'end'}
        >
          {text}
        </text>
      )}
    </g>
  );
}
