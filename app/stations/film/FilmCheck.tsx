import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import type { Vec2 } from '../../../core/math/vec.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { yawDeg } from '../../../core/camera/keystone.ts';
import { scaleFromWidth } from '../../../core/camera/frontalScale.ts';
import {
  isFrontal,
  LANDMARKS,
  plainName,
  SIDE_LANDMARKS,
  type SideLandmark,
} from '../../../core/landmarks/landmarks.ts';
import { toPlane } from '../../../core/camera/plane.ts';
import {
  checkSetUp,
  distanceFromCrank,
  type CheckVerdict,
  type SetUpFacts,
} from '../../../core/kinematics/setupCheck.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { spawnTracker } from '../../workers/spawn';
import type { Look } from '../../workers/track.worker';
import { scaleOf } from '../../../core/visit/readOptions.ts';
import { sideReading, useTakeResults } from '../../jobs/useTakeResults';

const WORDS: Record<CheckVerdict, string> = {
  good: 'good',
  usable: 'usable',
  again: 'film again',
  open: 'open',
};
/** Told by shape before colour: full, half, crossed, empty. */
const SHAPES: Record<CheckVerdict, string> = {
  good: 'M2 2 H12 V12 H2 Z',
  usable: 'M2 7 H12 V12 H2 Z',
  again: 'M2 2 L12 12 M12 2 L2 12',
  open: '',
};

/** Where a landmark comes nearest to the picture's edge. */
function nearestEdge(take: Take, tracks: Tracks | null): SetUpFacts['edgePx'] {
  const { widthPx, heightPx } = take.video;
  let best: SetUpFacts['edgePx'] = null;
  const look = (key: string, x: number, y: number): void => {
    const px = Math.min(x, y, widthPx - 1 - x, heightPx - 1 - y);
    if (Number.isFinite(px) && (!best || px < best.px)) best = { px, landmark: plainName(key) };
  };
  for (const key of LANDMARKS) {
    const track = tracks?.landmarks[key];
    if (track) track.xPx.forEach((x, i) => look(key, x, track.yPx[i]));
    else if (take.marks[key]) look(key, take.marks[key].x, take.marks[key].y);
  }
  return best;
}

/** The frame on which the toe is fastest, seen on both its neighbours. */
function fastestToe(tracks: Tracks | null) {
  const toe = tracks?.landmarks.toe ?? tracks?.landmarks.toeR;
  if (!tracks || !toe) return null;
  let best: { frame: number; at: Vec2; velocityPxPerS: Vec2; speed: number } | null = null;
  for (let i = 1; i < tracks.tS.length - 1; i += 1) {
    const dt = tracks.tS[i + 1] - tracks.tS[i - 1];
    const v = { x: (toe.xPx[i + 1] - toe.xPx[i - 1]) / dt, y: (toe.yPx[i + 1] - toe.yPx[i - 1]) / dt };
    const speed = Math.hypot(v.x, v.y);
    if (Number.isFinite(toe.xPx[i]) && speed > (best?.speed ?? 0))
      best = { frame: i, at: { x: toe.xPx[i], y: toe.yPx[i] }, velocityPxPerS: v, speed };
  }
  return best && { frame: best.frame, at: best.at, velocityPxPerS: best.velocityPxPerS };
}

/** The joints of the marked frame in the bike's plane, mm from the picture's middle. */
function jointsOf(session: FitSession, take: Take): SetUpFacts['jointsMm'] {
  const scale = scaleOf(session);
  if (!scale?.ok || SIDE_LANDMARKS.some((k) => !take.marks[k])) return null;
  const middle = toPlane(scale, { x: take.video.widthPx / 2, y: take.video.heightPx / 2 });
  return Object.fromEntries(
    SIDE_LANDMARKS.map((k) => {
      const p = toPlane(scale, take.marks[k]!);
      return [k, { x: p.x - middle.x, y: p.y - middle.y }];
    }),
  ) as Record<SideLandmark, Vec2>;
}

/** How the film was set up, thing by thing: what was measured, what it does to the angles, how to cure it. */
export function FilmCheck({ session, take, blob }: { session: FitSession; take: Take; blob: Blob | null }) {
  const got = useTakeResults(session, [take])?.[0];
  const tracks = got && got.kind !== 'missing' ? got.tracks : null;
  const side = sideReading(got);
  const ahead = got?.kind === 'frontal' && got.result.ok ? got.result : null;
  const cadenceRpm = side?.cadenceRpm ?? ahead?.cadenceRpm ?? take.cadenceRpm;
  const crankRatio = side?.crank.ratio ?? null;
  const aheadMm = ahead?.distanceMm ?? null;
  const [look, setLook] = useState<Look | null>(null);
  const key = JSON.stringify([
    take.id,
    take.markedFrame,
    take.marks,
    take.tracking.revision,
    tracks !== null,
  ]);
  useEffect(() => {
    if (!blob) return undefined;
    let ended = false;
    const worker = spawnTracker();
    const marks = Object.fromEntries(Object.entries(take.marks).map(([k, m]) => [k, { x: m.x, y: m.y }]));
    void worker.api
      .look(blob, { frame: take.markedFrame, marks, fast: fastestToe(tracks) })
      .then((seen) => !ended && setLook(seen))
      .catch(() => undefined)
      .finally(() => worker.end());
    return () => {
      ended = true;
      worker.end();
    };
    // `key` holds everything that is looked at.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, blob]);
  const checks = useMemo(() => {
    const scale = scaleOf(session);
    const ok = scale?.ok ? scale : null;
    const across = scaleFromWidth(take.width);
    const distanceMm = distanceFromCrank(crankRatio) ?? aheadMm;
    return checkSetUp({
      widthPx: take.video.widthPx,
      heightPx: take.video.heightPx,
      framesPerS: take.video.framesPerS,
      cadenceRpm,
      levelDeg: ok?.levelDeg ?? (isFrontal(take.view) && across.ok ? across.tiltDeg : null),
      yawDeg: ok?.keystone ? yawDeg(ok.keystone, ok.mmPerPx, distanceMm ?? 4000) : null,
      distanceMm,
      jointsMm: jointsOf(session, take),
      edgePx: nearestEdge(take, tracks),
      exposure: look?.exposure ?? null,
      smear: look?.smear ?? null,
      sticker: look?.sticker
        ? {
            ...look.sticker,
            landmark: plainName(look.sticker.landmark),
            without: look.sticker.without.map(plainName),
          }
        : null,
    });
  }, [session, take, cadenceRpm, crankRatio, aheadMm, tracks, look]);
  return (
    <Box component="section" aria-label="Set-up check">
      <Typography variant="h2" gutterBottom>
        How it was filmed
      </Typography>
      {checks.map((c) => (
        <Box
          key={c.key}
          data-testid={`check-${c.key}`}
          sx={{
            display: 'grid',
            gridTemplateColumns: '14px 1fr auto',
            columnGap: 1,
            alignItems: 'baseline',
            py: 0.5,
            borderBottom: 1,
            borderColor: 'divider',
          }}
        >
          <Box
            component="svg"
            viewBox="0 0 14 14"
            aria-hidden
            sx={{ width: 12, height: 12, stroke: 'currentColor', strokeWidth: 1.2, fill: 'none' }}
          >
            <rect x="2" y="2" width="10" height="10" />
            <path
              d={SHAPES[c.verdict]}
              fill={c.verdict === 'again' ? 'none' : 'currentColor'}
              strokeWidth={c.verdict === 'again' ? 2.4 : 1}
            />
          </Box>
          <Typography variant="body2">
            <strong>{c.name}</strong>: {c.found}
          </Typography>
          <Typography variant="body2" sx={{ fontWeight: c.verdict === 'again' ? 640 : 400 }}>
            {WORDS[c.verdict]}
          </Typography>
          {(c.effect || c.cure) && (
            <Typography variant="body2" color="textSecondary" sx={{ gridColumn: '2 / 4' }}>
              {c.effect} {c.cure && <strong>{c.cure}</strong>}
            </Typography>
          )}
        </Box>
      ))}
    </Box>
  );
}
