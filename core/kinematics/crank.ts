import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import { fitCircle, type Circle } from '../math/circle.ts';
import { distance, isSeen, type PlanePoint } from '../math/vec.ts';
import { solveSymmetric } from '../math/solveSymmetric.ts';

export interface CrankFit {
  circle: Circle;
  /** Spindle from the toe landmark in the foot's own frame (x to the toe, y up from the sole), mm. */
  offsetMm: PlanePoint;
  /** The spindle's path used for the phase, NaN where unseen. */
  spindleMm: PlanePoint[];
}

/** The spindle lies under the toe sticker by sole, cleat and pedal stack: about 22 mm, give or take 15. */
const OFFSET_PRIOR: PlanePoint = { x: 0, y: -22 };
const OFFSET_SD = 15;

function turned(offset: PlanePoint, pitchDeg: number): PlanePoint {
  const c = Math.cos(pitchDeg * RAD_PER_DEG);
  const s = Math.sin(pitchDeg * RAD_PER_DEG);
  return { x: offset.x * c + offset.y * s, y: -offset.x * s + offset.y * c };
}

/**
 * The pedal circle. The toe landmark is not the spindle: it sits on the shoe, and its offset turns with the foot, so the
 * toe's path is not a circle. The offset that makes it one is found together with the circle: Gauss–Newton on
 * |toe + R(pitch)·offset − centre| = radius, with a weak prior on the offset (own derivation: the pitch's swing adds an
 * oscillation which is a forward and a backward circle; the backward one can only come from the offset).
 * @param toeMm toe landmark, bike-plane mm  @param pitchDeg foot pitch at the same frames, toe-down positive
 * @param spindleMm the spindle where it was marked itself; then it is used as it is
 * @param offsetSdMm how far the spindle may lie from where it usually does under the toe, SD
 */
export function fitCrank(
  toeMm: readonly PlanePoint[],
  pitchDeg: ArrayLike<number>,
  spindleMm?: readonly PlanePoint[],
  offsetSdMm = OFFSET_SD,
): CrankFit | null {
  if (spindleMm && spindleMm.filter(isSeen).length >= 12) {
    const circle = fitCircle(spindleMm.filter(isSeen));
    return circle && { circle, offsetMm: { x: NaN, y: NaN }, spindleMm: [...spindleMm] };
  }
  const usable = toeMm
    .map((p, i) => ({ p, pitch: pitchDeg[i] }))
    .filter((s) => isSeen(s.p) && Number.isFinite(s.pitch));
  if (usable.length < 12) return null;
  let offset = { ...OFFSET_PRIOR };
  let circle = fitCircle(usable.map((s) => shifted(s.p, offset, s.pitch)));
  for (let round = 0; round < 12 && circle; round += 1) {
    const { centre, radius, residual } = circle;
    // Neighbouring frames share their errors: count a quarter of them, and never trust the path below half a millimetre.
    const weight = 0.25 / Math.max(0.5, residual) ** 2;
    const a = Array.from({ length: 5 }, () => new Array<number>(5).fill(0));
    const b = new Array<number>(5).fill(0);
    for (const s of usable) {
      const q = shifted(s.p, offset, s.pitch);
      const d = distance(q, centre);
      const ux = (q.x - centre.x) / d;
      const uy = (q.y - centre.y) / d;
      const miss = d - radius;
      if (Math.abs(miss) > 4 * Math.max(1, residual)) continue;
      const c = Math.cos(s.pitch * RAD_PER_DEG);
      const n = Math.sin(s.pitch * RAD_PER_DEG);
      const row = [ux * c - uy * n, ux * n + uy * c, -ux, -uy, -1];
      for (let i = 0; i < 5; i += 1) {
        b[i] -= weight * row[i] * miss;
        for (let j = 0; j < 5; j += 1) a[i][j] += weight * row[i] * row[j];
      }
    }
    a[0][0] += 1 / offsetSdMm ** 2;
    a[1][1] += 1 / offsetSdMm ** 2;
    b[0] -= (offset.x - OFFSET_PRIOR.x) / offsetSdMm ** 2;
    b[1] -= (offset.y - OFFSET_PRIOR.y) / offsetSdMm ** 2;
    const step = solveSymmetric(a, b);
    if (!step) break;
    offset = { x: offset.x + step[0], y: offset.y + step[1] };
    circle = fitCircle(usable.map((s) => shifted(s.p, offset, s.pitch)));
    if (Math.hypot(step[0], step[1]) < 1e-3) break;
  }
  if (!circle) return null;
  return {
    circle,
    offsetMm: offset,
    spindleMm: toeMm.map((p, i) =>
      isSeen(p) && Number.isFinite(pitchDeg[i]) ? shifted(p, offset, pitchDeg[i]) : { x: NaN, y: NaN },
    ),
  };
}

function shifted(p: PlanePoint, offset: PlanePoint, pitchDeg: number): PlanePoint {
  const o = turned(offset, pitchDeg);
  return { x: p.x + o.x, y: p.y + o.y };
}

/**
 * Crank angle of every frame, unwrapped, degrees: 0 at top dead centre, growing as the crank turns when riding forward.
 * Across a gap the turn nearest to the running speed is taken; within the film the crank may stop or go back.
 * @returns NaN where the spindle is unseen
 */
export function crankAngles(
  spindleMm: readonly PlanePoint[],
  centre: PlanePoint,
  tS: ArrayLike<number>,
): Float64Array {
  const theta = new Float64Array(spindleMm.length).fill(NaN);
  let last = -1;
  let speed = 0;
  spindleMm.forEach((p, i) => {
    if (!isSeen(p)) return;
    const raw = Math.atan2(p.x - centre.x, p.y - centre.y) * DEG_PER_RAD;
    if (last < 0) {
      theta[i] = raw < 0 ? raw + 360 : raw;
    } else {
      const dt = tS[i] - tS[last];
      const expected = theta[last] + speed * dt;
      theta[i] = raw + 360 * Math.round((expected - raw) / 360);
      if (dt > 0) {
        const now = (theta[i] - theta[last]) / dt;
        // The first step sets the speed; afterwards it follows, so that one bad frame does not turn it round.
        speed = speed === 0 ? now : speed + 0.3 * (now - speed);
      }
    }
    last = i;
  });
  return theta;
}
