import { RAD_PER_DEG } from '../core/math/angles.ts';
import type { Vec2 } from '../core/math/vec.ts';
import { project, type Camera } from './camera.ts';
import { gaussian, seededRandom } from './random.ts';
import { crankAngleDeg, footToPlane, poseAt, type Harmonic, type VirtualRider } from './rider.ts';

/** What a virtual rider shows from the front and the rear, mm and degrees. */
export interface FrontalBody {
  /** Between the middles of the feet. */
  stanceMm: number;
  hipWidthMm: number;
  asisWidthMm: number;
  shoulderWidthMm: number;
  /** Each knee against its foot, outward +, on its own crank arm's turn. */
  kneeOutMm: Record<'left' | 'right', { mean: number; waves: Harmonic[] }>;
  /** Left hip higher +, on the right arm's turn. */
  pelvisTiltDeg: { mean: number; waves: Harmonic[] };
  shoulderTiltDeg: number;
  /** Pelvis to the rider's right. */
  hipShiftMm: { mean: number; waves: Harmonic[] };
}

export const FRONTAL_BODY: FrontalBody = {
  stanceMm: 266,
  hipWidthMm: 330,
  asisWidthMm: 236,
  shoulderWidthMm: 370,
  kneeOutMm: {
    right: { mean: 6, waves: [{ order: 1, amplitude: 9, phaseDeg: 150 }] },
    left: { mean: 6, waves: [{ order: 1, amplitude: 10, phaseDeg: 140 }] },
  },
  pelvisTiltDeg: { mean: 0, waves: [{ order: 1, amplitude: 1.2, phaseDeg: 80 }] },
  shoulderTiltDeg: 0,
  hipShiftMm: { mean: 0, waves: [{ order: 1, amplitude: 5, phaseDeg: 60 }] },
};

/** A point of the scene: forward and up in the bike plane, and to the rider's right. */
export interface Place extends Vec2 {
  right: number;
}

const waves = (w: { mean: number; waves: Harmonic[] }, thetaDeg: number): number =>
  w.mean +
  w.waves.reduce((s, h) => s + h.amplitude * Math.sin((h.order * thetaDeg + h.phaseDeg) * RAD_PER_DEG), 0);

/** The body from ahead or behind at a crank angle of the right arm: where every sticker of that view is. */
export function frontalPlaces(
  { rider, body, view }: { rider: VirtualRider; body: FrontalBody; view: 'front' | 'rear' },
  { thetaDeg, tS }: { thetaDeg: number; tS: number },
): Record<string, Place> {
  const out: Record<string, Place> = {};
  const tilt = waves(body.pelvisTiltDeg, thetaDeg) * RAD_PER_DEG;
  const shift = waves(body.hipShiftMm, thetaDeg);
  const across = (at: Vec2, half: number, tiltRad: number): { R: Place; L: Place } => ({
    R: { x: at.x, y: at.y - half * Math.sin(tiltRad), right: shift + half * Math.cos(tiltRad) },
    L: { x: at.x, y: at.y + half * Math.sin(tiltRad), right: shift - half * Math.cos(tiltRad) },
  });
  const level = poseAt(rider, thetaDeg, tS).joints;
  const pairs = {
    hip: across(level.hip, body.hipWidthMm / 2, tilt),
    [view === 'front' ? 'asis' : 'psis']:
      view === 'front'
        ? across({ x: level.hip.x + 62, y: level.hip.y + 78 }, body.asisWidthMm / 2, tilt)
        : across({ x: level.hip.x - 100, y: level.hip.y + 92 }, 48, tilt),
    shoulder: across(level.shoulder, body.shoulderWidthMm / 2, body.shoulderTiltDeg * RAD_PER_DEG),
  };
  for (const [bone, p] of Object.entries(pairs)) {
    out[`${bone}R`] = p.R;
    out[`${bone}L`] = p.L;
  }
  for (const [letter, side, turn] of [
    ['R', 'right', 0],
    ['L', 'left', 180],
  ] as const) {
    const own = thetaDeg + turn;
    const pose = poseAt(rider, own, tS);
    const sign = side === 'right' ? 1 : -1;
    const foot = sign * (body.stanceMm / 2);
    const at = (p: Vec2, right: number): Place => ({ x: p.x, y: p.y, right });
    const knee = pose.joints.knee;
    const ahead = view === 'front' ? 48 : -52;
    out[`knee${letter}`] = at(
      { x: knee.x + ahead, y: knee.y },
      foot + sign * waves(body.kneeOutMm[side], own),
    );
    out[`ankle${letter}`] = at(
      { x: pose.joints.ankle.x + (view === 'front' ? 30 : -45), y: pose.joints.ankle.y },
      foot + sign * 0.2 * waves(body.kneeOutMm[side], own),
    );
    const toe =
      view === 'front'
        ? footToPlane(pose.spindle, pose.footPitchDeg, 0, rider.soleAboveMm + 56)
        : footToPlane(pose.spindle, pose.footPitchDeg, -46, 2);
    out[`toe${letter}`] = at(toe, foot);
  }
  return out;
}

/** Where a place lands on the picture of a camera ahead of the bike or behind it. */
export function projectFrontal(camera: Camera, view: 'front' | 'rear', p: Place): Vec2 & { pxPerMm: number } {
  const side = view === 'front' ? -1 : 1;
  return project({ ...camera, facing: 'right' }, { x: side * p.right, y: p.y }, -side * p.x);
}

export interface FrontalFilming {
  rider: VirtualRider;
  body: FrontalBody;
  view: 'front' | 'rear';
  camera: Camera;
  seconds: number;
  rate: number;
  noisePx?: number;
  /** Each sticker beside its bone, mm: across and up. */
  stickerOffMm?: Partial<Record<string, Vec2>>;
  seed?: number;
}

/** What a perfect tracker leaves of a rider filmed from ahead or behind: every sticker in pixels. */
export function filmedFrontal(f: FrontalFilming): {
  tS: Float64Array;
  landmarks: Record<string, { xPx: Float64Array; yPx: Float64Array; confidence: Float32Array }>;
} {
  const n = Math.round(f.seconds * f.rate);
  const random = seededRandom(f.seed ?? 1);
  const noise = f.noisePx ?? 0;
  const landmarks: ReturnType<typeof filmedFrontal>['landmarks'] = {};
  const tS = Float64Array.from({ length: n }, (_, i) => i / f.rate);
  tS.forEach((t, i) => {
    const places = frontalPlaces(
      { rider: f.rider, body: f.body, view: f.view },
      { thetaDeg: crankAngleDeg(f.rider, t), tS: t },
    );
    for (const [key, p] of Object.entries(places)) {
      const track = (landmarks[key] ??= {
        xPx: new Float64Array(n),
        yPx: new Float64Array(n),
        confidence: new Float32Array(n).fill(1),
      });
      const off = f.stickerOffMm?.[key] ?? { x: 0, y: 0 };
      const seen = projectFrontal(f.camera, f.view, { x: p.x, y: p.y + off.y, right: p.right + off.x });
      track.xPx[i] = seen.x + noise * gaussian(random);
      track.yPx[i] = seen.y + noise * gaussian(random);
    }
  });
  return { tS, landmarks };
}

/** Two ends of a bar across the bike, for the scale, on the picture. */
export function barOnPicture(
  camera: Camera,
  view: 'front' | 'rear',
  bar: { x: number; y: number; widthMm: number },
): { right: Vec2; left: Vec2 } {
  const end = (right: number): Vec2 => {
    const { x, y } = projectFrontal(camera, view, { x: bar.x, y: bar.y, right });
    return { x, y };
  };
  return { right: end(bar.widthMm / 2), left: end(-bar.widthMm / 2) };
}
