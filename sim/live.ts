import { RAD_PER_DEG } from '../core/math/angles.ts';
import type { Vec2 } from '../core/math/vec.ts';
import { FILMED_MM_PER_PX } from './filmed.ts';
import { gaussian } from './random.ts';
import { crankAngleDeg, hipStickerMm, poseAt, type JointKey, type VirtualRider } from './rider.ts';

/** What a rider does beside pedalling, from a time on and for so long. */
export interface Doing {
  kind: 'hand-off' | 'sit-up' | 'rise' | 'hand-back';
  fromS: number;
  forS: number;
  /** While the hand is off. */
  trunk?: 'holds' | 'wobbles' | 'falls';
  /** How far behind the hoods the hand rests. */
  behindMm?: number;
}

/** A rider before a camera that runs on. */
export interface Live {
  rider: VirtualRider;
  /** How far the saddle has been raised at a time, mm; nothing when left out. */
  raisedMm?: (tS: number) => number;
  /** How far the rider has slid forward, mm, and how much further the toes point down, degrees. */
  slidMm?: (tS: number) => number;
  toesDownDeg?: (tS: number) => number;
  doings?: readonly Doing[];
  noisePx?: number;
  facing?: 'left' | 'right';
}

const EASE_S = 0.35;
const CENTRE = { x: 600, y: 500 };

/** From 0 before to 1 during, smoothly. */
function share({ fromS, forS }: Doing, tS: number): number {
  const up = Math.min(1, Math.max(0, (tS - fromS) / EASE_S));
  const down = Math.min(1, Math.max(0, (fromS + forS - tS) / EASE_S));
  const k = Math.min(up, down);
  return k * k * (3 - 2 * k);
}

const turnedAbout = (centre: Vec2, p: Vec2, byDeg: number): Vec2 => {
  const [c, s] = [Math.cos(byDeg * RAD_PER_DEG), Math.sin(byDeg * RAD_PER_DEG)];
  const [x, y] = [p.x - centre.x, p.y - centre.y];
  return { x: centre.x + x * c - y * s, y: centre.y + x * s + y * c };
};

const mixed = (a: Vec2, b: Vec2, k: number): Vec2 => ({ x: a.x + k * (b.x - a.x), y: a.y + k * (b.y - a.y) });

/** How far the back turns up while a doing lasts, degrees. */
function backTurnDeg({ kind, trunk = 'holds', fromS }: Doing, tS: number): number {
  if (kind === 'sit-up') return 24;
  if (kind === 'rise') return -3;
  if (trunk === 'falls') return -9;
  return trunk === 'wobbles' ? 5 * Math.sin(2 * Math.PI * 0.9 * (tS - fromS)) : 1;
}

type Joints = Record<JointKey, Vec2>;

/** The joints as a doing moves them. */
function done(doing: Doing, tS: number, joints: Joints): Joints {
  const k = share(doing, tS);
  if (k === 0) return joints;
  const { hip } = joints;
  if (doing.kind === 'hand-back') {
    const by = k * (doing.behindMm ?? 0);
    return {
      ...joints,
      wrist: { x: joints.wrist.x - by, y: joints.wrist.y },
      elbow: { x: joints.elbow.x - by / 2, y: joints.elbow.y },
    };
  }
  const back = k * backTurnDeg(doing, tS);
  const shoulder = turnedAbout(hip, joints.shoulder, back);
  if (doing.kind === 'rise') {
    const up = (p: Vec2): Vec2 => ({ x: p.x + 60 * k, y: p.y + 110 * k });
    return {
      ...joints,
      hip: up(hip),
      shoulder: up(shoulder),
      elbow: mixed(joints.elbow, up(joints.elbow), 0.5),
    };
  }
  // Beside the thigh, or on it.
  const wrist = mixed(joints.wrist, { x: hip.x + 120, y: hip.y - 60 }, k);
  return {
    ...joints,
    shoulder,
    wrist,
    elbow: mixed(turnedAbout(hip, joints.elbow, back), mixed(shoulder, wrist, 0.5), k),
  };
}

/** Where a running camera sees the rider's stickers at a time, px; the bottom bracket at (600, 500). */
export function seenLive(
  { rider, doings = [], noisePx = 0, facing = 'right', ...moved }: Live,
  tS: number,
  random: () => number,
): Record<JointKey, Vec2> {
  const { x, y } = rider.hipMm;
  const sits: VirtualRider = {
    ...rider,
    hipMm: { x: x + (moved.slidMm?.(tS) ?? 0), y: y + (moved.raisedMm?.(tS) ?? 0) },
    footPitchMeanDeg: rider.footPitchMeanDeg - (moved.toesDownDeg?.(tS) ?? 0),
  };
  const pose = poseAt(sits, crankAngleDeg(rider, tS), tS);
  const joints = doings.reduce((j, d) => done(d, tS, j), { ...pose.joints, hip: hipStickerMm(sits, pose) });
  const side = facing === 'left' ? -1 : 1;
  return Object.fromEntries(
    Object.entries(joints).map(([key, p]) => [
      key,
      {
        x: CENTRE.x + (side * p.x) / FILMED_MM_PER_PX + noisePx * gaussian(random),
        y: CENTRE.y - p.y / FILMED_MM_PER_PX + noisePx * gaussian(random),
      },
    ]),
  ) as Record<JointKey, Vec2>;
}
