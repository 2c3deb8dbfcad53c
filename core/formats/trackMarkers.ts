import type { ImagePoint, PlanePoint } from '../math/vec.ts';
import { resample } from '../math/resample.ts';
import { frameRateOf } from '../camera/stamps.ts';
import { fromPlane, toPlane } from '../camera/plane.ts';
import type { Reading } from '../kinematics/read.ts';
import { emptyTracks, type Tracks } from '../tracking/tracks.ts';
import type { C3dMarkers } from './c3d.ts';

/** The axes of the laboratory: x forward, y to the rider's left (0: all lies in the bike's plane), z up; BB origin, mm. */
const AXES = 3;

/** What of a reading ties pixels to the bike's plane. */
export type Plane = Pick<Reading, 'map' | 'riderMmPerPx' | 'crank'>;

/** Pixels to millimetres on the rider's side of the bike, BB origin, and back. */
function planeOf({ map, riderMmPerPx, crank }: Plane): {
  toMm: (p: ImagePoint) => PlanePoint;
  toPx: (p: PlanePoint) => ImagePoint;
} {
  const own = { ...map, mmPerPx: riderMmPerPx };
  const bb = toPlane(own, crank.centrePx);
  return {
    toMm(p) {
      const q = toPlane(own, p);
      return { x: q.x - bb.x, y: q.y - bb.y };
    },
    toPx: (p) => fromPlane(own, { x: p.x + bb.x, y: p.y + bb.y }),
  };
}

/** Tracks as markers in millimetres at an even rate, with an event at every top dead centre. Uneven stamps are resampled. */
export function markersOf(tracks: Tracks, reading: Plane & Pick<Reading, 'strokes'>): C3dMarkers {
  const { toMm } = planeOf(reading);
  const { strokes } = reading;
  const { framesPerS, evenlyTimed } = frameRateOf(tracks.tS);
  const start = tracks.tS[0] ?? 0;
  const end = tracks.tS[tracks.tS.length - 1] ?? 0;
  const frames = evenlyTimed ? tracks.tS.length : Math.floor((end - start) * framesPerS) + 1;
  const grid = Float64Array.from({ length: frames }, (_, i) => start + i / framesPerS);
  const labels = Object.keys(tracks.landmarks);
  const points = labels.map((key) => {
    const { xPx, yPx } = tracks.landmarks[key];
    const xs = evenlyTimed ? xPx : resample(tracks.tS, xPx, grid);
    const ys = evenlyTimed ? yPx : resample(tracks.tS, yPx, grid);
    const out = new Float64Array(AXES * frames).fill(NaN);
    for (let i = 0; i < frames; i += 1) {
      const p = toMm({ x: xs[i], y: ys[i] });
      if (Number.isFinite(p.x) && Number.isFinite(p.y)) out.set([p.x, 0, p.y], AXES * i);
    }
    return out;
  });
  const tops = strokes.length ? [...strokes.map((s) => s.startS), strokes[strokes.length - 1].endS] : [];
  return {
    rateHz: framesPerS,
    units: 'mm',
    labels,
    points,
    frames,
    events: [...new Set(tops)].map((t) => ({ label: 'TDC', tS: t - start })),
  };
}

export type MarkedTracks = { ok: true; tracks: Tracks } | { ok: false; message: string };

/**
 * Markers back as tracks of a film.
 * @param plane of the film's own reading  @param tS the film's stamps: the file must have as many frames
 */
export function tracksOfMarkers(m: C3dMarkers, plane: Plane, tS: Float64Array): MarkedTracks {
  const { toPx } = planeOf(plane);
  if (m.frames !== tS.length)
    return {
      ok: false,
      message: `The file has ${m.frames} frames, but the film has ${tS.length}: they don’t belong together.`,
    };
  const perUnit = { mm: 1, cm: 10, m: 1000 }[m.units.toLowerCase()];
  if (perUnit === undefined)
    return {
      ok: false,
      message: `The file’s unit is “${m.units}”: millimetres, centimetres or metres are read.`,
    };
  const tracks = emptyTracks(tS, m.labels);
  m.labels.forEach((key, k) => {
    const to = tracks.landmarks[key];
    for (let i = 0; i < m.frames; i += 1) {
      const [x, , z] = m.points[k].subarray(AXES * i, AXES * i + AXES);
      if (!Number.isFinite(x)) continue;
      const p = toPx({ x: perUnit * x, y: perUnit * z });
      to.xPx[i] = p.x;
      to.yPx[i] = p.y;
      to.confidence[i] = 1;
    }
  });
  return { ok: true, tracks };
}
