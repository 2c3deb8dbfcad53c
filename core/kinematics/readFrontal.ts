import { FRONTAL_LANDMARKS, FRONTAL_NEEDED } from '../landmarks/landmarks.ts';
import { cutoffFor, noteNoise, smoothPaths } from './paths.ts';
import { cutStrokes } from './strokes.ts';
import { framesInStrokes, framesSeen, withoutLandmarks, type Tracks } from '../tracking/tracks.ts';
import { LEAST_FRAMES, type FrontalOptions, type FrontalResult } from './frontalReading.ts';
import { frontalMotion } from './frontalMotion.ts';
import { frontalMeasures, type OwnTurn } from './frontalMeasures.ts';

/**
 * Reads a film from the front or the rear: crank phase from the feet's rise and fall, knee paths, pelvis and shoulders, stance
 * (handbook: measuring, front and rear). Lateral +: the rider's right, whichever side it is on the picture.
 */
export function readFrontal(tracks: Tracks, options: FrontalOptions): FrontalResult {
  const tooFew = (frames: number): FrontalResult => ({
    ok: false,
    reason: 'too-few-frames',
    detail: `${frames} frames with their own time stamps; ${LEAST_FRAMES} are the least.`,
  });
  if (tracks.tS.length < LEAST_FRAMES) return tooFew(tracks.tS.length);
  const missing = FRONTAL_NEEDED.find((key) => framesSeen(tracks, key) < LEAST_FRAMES);
  if (missing)
    return {
      ok: false,
      reason: 'landmark-missing',
      detail: `“${missing}” is not seen, or on too few frames of whole strokes.`,
    };
  if (!options.crankMm && !options.width)
    return { ok: false, reason: 'no-scale', detail: 'Neither a width nor the crank’s length is known.' };
  const keys = FRONTAL_LANDMARKS.filter((key) => framesSeen(tracks, key) >= LEAST_FRAMES);
  const noTurn: FrontalResult = {
    ok: false,
    reason: 'no-stroke',
    detail: 'The feet do not rise and fall in turn through a whole stroke.',
  };
  const found = frontalMotion(tracks, keys, options);
  if (!found.ok) return found.frames === null ? noTurn : tooFew(found.frames);
  const { paths: mm, thetaDeg, mmPerPx, crankRatio, distanceMm } = found.motion;
  // The left leg is half a turn behind: its strokes are cut on its own arm's angle.
  const own = {
    right: turnOf(thetaDeg, mm.tS),
    left: turnOf(
      thetaDeg.map((t) => t + 180),
      mm.tS,
    ),
  };
  const { strokes, used } = own.right;
  // Half a turn behind, the other leg may have no whole stroke in a short film.
  if (used.length === 0 || own.left.used.length === 0) return noTurn;
  const scarce = keys.filter((key) =>
    [own.left, own.right].some(({ strokeOf }) => framesInStrokes(mm.raw[key], strokeOf) < LEAST_FRAMES),
  );
  if (scarce.length > 0) return readFrontal(withoutLandmarks(tracks, scarce), options);
  const cadenceRpm = (60 * used.length) / used.reduce((s, k) => s + k.endS - k.startS, 0);
  const smooth = smoothPaths(mm, cutoffFor(cadenceRpm));
  noteNoise(mm, smooth, mmPerPx);
  return {
    ok: true,
    view: options.view,
    mmPerPx,
    tiltDeg: options.width?.tiltDeg ?? 0,
    scaleFrom: options.crankMm ? 'crank' : 'width',
    crankRatio,
    distanceMm,
    thetaDeg,
    tS: mm.tS,
    frames: mm.frames,
    strokes,
    usedStrokes: used.length,
    provisional: used.length < 5,
    cadenceRpm,
    ...frontalMeasures(options, found.motion, own, smooth),
    landmarks: mm.notes,
  };
}

/** A crank arm's turn, with the strokes cut on it. */
function turnOf(theta: Float64Array, tS: Float64Array): OwnTurn {
  const strokes = cutStrokes(theta, tS);
  const used = strokes.filter((s) => !s.fault);
  return {
    theta,
    strokes,
    used,
    strokeOf: Int32Array.from(tS, (t) => used.findIndex((s) => t >= s.startS && t < s.endS)),
  };
}
