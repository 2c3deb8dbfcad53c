import { useTheme } from '@mui/material/styles';

const CELL = 15;

/** A pressure grid as a contour-less field of one ink: the more load, the larger the square. The nose points up. */
export function MatDrawing({ gridKPa, label }: { gridKPa: readonly (readonly number[])[]; label: string }) {
  const { palette } = useTheme();
  const rows = gridKPa.length;
  const columns = gridKPa[0]?.length ?? 0;
  const peak = Math.max(1, ...gridKPa.flat());
  const [w, h] = [columns * CELL, rows * CELL];
  return (
    <svg
      viewBox={`-1 -14 ${w + 2} ${h + 16}`}
      width="100%"
      style={{ maxWidth: 260, display: 'block' }}
      role="img"
      aria-label={label}
    >
      <rect x={0} y={0} width={w} height={h} fill="none" stroke={palette.divider} />
      <line x1={w / 2} x2={w / 2} y1={0} y2={h} stroke={palette.divider} strokeDasharray="2 4" />
      <text x={w / 2} y={-4} textAnchor="middle" fontSize={11} fill={palette.text.secondary}>
        nose
      </text>
      {gridKPa.flatMap((row, r) =>
        row.map((v, c) => {
          if (v <= 0) return null;
          // Area by load: a square twice as loaded is twice as large, not four times.
          const side = CELL * Math.sqrt(v / peak) * 0.96;
          return (
            <rect
              key={`${r}-${c}`}
              x={(c + 0.5) * CELL - side / 2}
              y={(r + 0.5) * CELL - side / 2}
              width={side}
              height={side}
              fill={v > 0.8 * peak ? palette.primary.main : palette.text.primary}
              opacity={0.85}
            />
          );
        }),
      )}
    </svg>
  );
}
