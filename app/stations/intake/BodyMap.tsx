import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { curveCatmullRomClosed, line } from 'd3';
import { useEffect, useRef, useState } from 'react';
import { REGIONS, type Complaint, type RegionKey, type Side } from '../../../core/intake/intake.ts';

/** Half an outline, from the neck down the outside and up the inside; the other half is its mirror. Own drawing. */
const HALF: readonly [number, number][] = [
  [6, 38],
  [14, 44],
  [28, 50],
  [35, 60],
  [39, 88],
  [46, 116],
  [49, 132],
  [46, 145],
  [41, 143],
  [39, 128],
  [33, 104],
  [28, 78],
  [24, 72],
  [22, 92],
  [23, 112],
  [28, 134],
  [29, 158],
  [24, 196],
  [24, 214],
  [23, 238],
  [17, 272],
  [22, 284],
  [8, 285],
  [9, 268],
  [8, 238],
  [8, 206],
  [6, 176],
  [2, 148],
];

const BODY = line<[number, number]>().curve(curveCatmullRomClosed.alpha(0.6))([
  ...HALF,
  ...[...HALF].reverse().map(([x, y]): [number, number] => [-x, y]),
])!;

/** A left sole seen from below, little toe to the left; the right one is its mirror. Own drawing. */
const SOLE = line<[number, number]>().curve(curveCatmullRomClosed.alpha(0.6))([
  [4, 8],
  [14, 12],
  [19, 26],
  [17, 46],
  [9, 66],
  [9, 86],
  [10, 104],
  [2, 114],
  [-8, 108],
  [-12, 92],
  [-13, 66],
  [-19, 44],
  [-16, 24],
  [-6, 12],
])!;

interface Place {
  region: RegionKey;
  /** From the middle line, towards the rider's own side. */
  x: number;
  y: number;
  rx: number;
  ry: number;
}

const PLACES: Record<'front' | 'back' | 'sole', readonly Place[]> = {
  front: [
    { region: 'hands', x: 45, y: 139, rx: 8, ry: 9 },
    { region: 'wrist', x: 42, y: 124, rx: 6, ry: 6 },
    { region: 'outerHip', x: 27, y: 146, rx: 5, ry: 9 },
    { region: 'hipFront', x: 15, y: 130, rx: 8, ry: 8 },
    { region: 'softTissue', x: 0, y: 152, rx: 7, ry: 8 },
    { region: 'kneeFront', x: 16, y: 204, rx: 6, ry: 10 },
    { region: 'kneeInside', x: 6, y: 204, rx: 4, ry: 10 },
    { region: 'kneeOutside', x: 26, y: 204, rx: 4.5, ry: 10 },
    { region: 'ankle', x: 18, y: 268, rx: 6, ry: 6 },
  ],
  back: [
    { region: 'neck', x: 0, y: 44, rx: 17, ry: 8 },
    { region: 'betweenShoulders', x: 0, y: 72, rx: 11, ry: 10 },
    { region: 'lowBack', x: 0, y: 112, rx: 16, ry: 10 },
    { region: 'sitBones', x: 12, y: 146, rx: 8, ry: 7 },
    { region: 'buttock', x: 16, y: 163, rx: 8, ry: 8 },
    { region: 'kneeBehind', x: 16, y: 206, rx: 8, ry: 9 },
    { region: 'calf', x: 16, y: 246, rx: 8, ry: 17 },
  ],
  sole: [
    { region: 'toes', x: 4, y: 13, rx: 10, ry: 6 },
    { region: 'forefoot', x: 2, y: 34, rx: 12, ry: 12 },
    { region: 'footOutside', x: -14, y: 64, rx: 5, ry: 18 },
  ],
};

const name = (key: RegionKey): string => REGIONS.find((r) => r.key === key)!.name;
const sided = (key: RegionKey): boolean => REGIONS.find((r) => r.key === key)!.sided === true;

interface Props {
  complaints: readonly Complaint[];
  selected: string | null;
  onTap: (region: RegionKey, side: Side) => void;
}

/** A finger is not a pencil: what lies so near a place means it, screen px from its middle. */
const REACH_PX = 24;
/** So many times as large the outlines are looked at, at the most. */
const MOST_ZOOM = 3;

/** The place that is meant by a tap beside all of them; null where none is near, and where one was hit itself. */
function nearestPlace(map: SVGSVGElement, hit: Element, at: { x: number; y: number }): SVGGElement | null {
  if (hit.closest('g[role=button]')) return null;
  const far = [...map.querySelectorAll<SVGGElement>('g[role=button]')].map((place) => {
    const box = place.getBoundingClientRect();
    return { place, px: Math.hypot(at.x - (box.left + box.right) / 2, at.y - (box.top + box.bottom) / 2) };
  });
  const near = far.reduce((a, b) => (b.px < a.px ? b : a));
  return near.px <= REACH_PX ? near.place : null;
}

/** Outlines of a body to tap on: from the front, from behind, and the soles. Left and right are the rider's own. */
export function BodyMap({ complaints, selected, onTap }: Props) {
  const { palette } = useTheme();
  const [zoom, setZoom] = useState(1);
  const frame = useRef<HTMLDivElement | null>(null);
  // Looked at closely, the chosen place stays in sight; without one, what was in the middle.
  useEffect(() => {
    const box = frame.current;
    if (!box || zoom === 1) return;
    const chosen = box.querySelector('[data-chosen]')?.getBoundingClientRect();
    const { left, top, width, height } = box.getBoundingClientRect();
    const by = (from: number, to: number, side: number): number => (from + to) / 2 - side;
    box.scrollBy(
      chosen
        ? by(chosen.left, chosen.right, left + width / 2)
        : (box.scrollWidth - width) / 2 - box.scrollLeft,
      chosen ? by(chosen.top, chosen.bottom, top + height / 2) : 0,
    );
  }, [zoom]);
  const spot = (p: Place, side: Side, cx: number, key: string) => {
    const held = complaints.filter(
      (c) => c.region === p.region && (side === 'middle' || c.side === side || c.side === 'both'),
    );
    const worst = held.reduce((m, c) => Math.max(m, c.severity), 0);
    const here = held.some((c) => c.id === selected);
    const tap = (): void => onTap(p.region, side);
    return (
      <g
        key={key}
        role="button"
        data-region={p.region}
        data-side={side}
        data-chosen={here || undefined}
        tabIndex={0}
        aria-pressed={held.length > 0}
        aria-label={`${name(p.region)}${side === 'middle' ? '' : `, ${side}`}${held.length ? `: ${worst} of 10` : ''}`}
        onClick={tap}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') {
            e.preventDefault();
            tap();
          }
        }}
        style={{ cursor: 'pointer' }}
      >
        <title>{`${name(p.region)}${side === 'middle' ? '' : `, ${side}`}`}</title>
        <ellipse
          cx={cx}
          cy={p.y}
          rx={p.rx}
          ry={p.ry}
          fill={held.length ? palette.primary.main : palette.background.default}
          fillOpacity={held.length ? 0.25 + 0.06 * worst : 0.01}
          stroke={held.length ? palette.primary.main : palette.text.secondary}
          strokeWidth={here ? 2.2 : 0.9}
          strokeDasharray={held.length ? undefined : '2.5 2'}
        />
        {held.length > 0 && (
          <text
            x={cx}
            y={p.y + 3}
            textAnchor="middle"
            fontSize={8.5}
            fontWeight={640}
            fill={palette.text.primary}
          >
            {worst}
          </text>
        )}
      </g>
    );
  };
  /** Seen from the front the rider's left is on the picture's right; from behind and on the soles it is on the left. */
  const both = (view: 'front' | 'back' | 'sole', middle: number) =>
    PLACES[view].flatMap((p) =>
      sided(p.region)
        ? (['left', 'right'] as const).map((side) => {
            const towards = (side === 'left') === (view === 'front') ? 1 : -1;
            return spot(p, side, middle + towards * p.x, `${p.region}-${side}`);
          })
        : [spot(p, 'middle', middle, p.region)],
    );
  const figure = (middle: number) => (
    <g transform={`translate(${middle} 0)`} fill="none" stroke={palette.text.primary} strokeWidth={1.2}>
      <ellipse cx={0} cy={20} rx={12} ry={15} />
      <path d={BODY} />
    </g>
  );
  const side = (x: number, text: string) => (
    <text x={x} y={14} fontSize={9} textAnchor="middle" fill={palette.text.secondary}>
      {text}
    </text>
  );
  return (
    <Box
      sx={{ minWidth: 0, '& g[role=button]:focus-visible': { outline: `2px solid ${palette.primary.main}` } }}
    >
      <Box ref={frame} sx={{ overflow: 'auto', maxHeight: 430 }}>
        <svg
          viewBox="0 0 390 292"
          width={`${100 * zoom}%`}
          style={{ maxHeight: zoom > 1 ? undefined : 430, display: 'block', cursor: 'pointer' }}
          aria-label="Where it hurts"
          onClick={(e) => {
            const near = nearestPlace(e.currentTarget, e.target as Element, { x: e.clientX, y: e.clientY });
            if (near) onTap(near.dataset.region as RegionKey, near.dataset.side as Side);
          }}
        >
          {figure(66)}
          {figure(194)}
          {side(26, 'right')}
          {side(106, 'left')}
          {side(154, 'left')}
          {side(234, 'right')}
          {[
            { middle: 288, mirror: 1 },
            { middle: 350, mirror: -1 },
          ].map(({ middle, mirror }) => (
            <path
              key={middle}
              d={SOLE}
              transform={`translate(${middle} 60) scale(${1.25 * mirror} 1.25)`}
              fill="none"
              stroke={palette.text.primary}
              strokeWidth={1}
            />
          ))}
          <g transform="translate(0 52)">
            {side(288, 'left sole')}
            {side(350, 'right sole')}
          </g>
          {both('front', 66)}
          {both('back', 194)}
          <g transform="translate(0 60) scale(1 1.25)">
            {PLACES.sole.flatMap((p) => [
              spot(p, 'left', 288 + 1.25 * p.x, `${p.region}-left`),
              spot(p, 'right', 350 - 1.25 * p.x, `${p.region}-right`),
            ])}
          </g>
        </svg>
      </Box>
      <Button size="small" disabled={zoom === MOST_ZOOM} onClick={() => setZoom(zoom + 1)}>
        Larger
      </Button>
      <Button size="small" disabled={zoom === 1} onClick={() => setZoom(zoom - 1)}>
        Smaller
      </Button>
      <Typography variant="body2" color="textSecondary">
        From the front, from behind, the soles from below. Left and right are the rider’s own.
      </Typography>
    </Box>
  );
}
