import { RAD_PER_DEG } from '../core/math/angles.ts';
import type { Vec2 } from '../core/math/vec.ts';
import { gaussian, seededRandom } from './random.ts';
import {
  crankAngleDeg,
  extrasOf,
  hipStickerMm,
  poseAt,
  type ExtraKey,
  type JointKey,
  type Pose,
  type VirtualRider,
} from './rider.ts';

export interface Filming {
  rider: VirtualRider;
  seconds?: number;
  rate?: number;
  /** Localisation noise of every landmark on every frame, SD in each direction. */
  noisePx?: number;
  facing?: 'left' | 'right';
  /** Crank angle at a time; the rider's own when left out. */
  theta?: (tS: number) => number;
  /** Time stamps; even ones at the rate when left out. */
  stamps?: readonly number[];
  /** Where each sticker sits beside its bone, mm; it keeps to the world's axes unless it turns with its limb. */
  stickerOffMm?: Partial<Record<JointKey, Vec2>>;
  stickersTurn?: boolean;
  mmPerPx?: number;
  seed?: number;
  /** With the points of head, back, pelvis, grip and pedal too. */
  extras?: boolean;
}

interface Path {
  xPx: Float64Array;
  yPx: Float64Array;
  confidence: Float32Array;
}

export const FILMED_MM_PER_PX = 2.75;
const CENTRE = { x: 600, y: 500 };

/** A sticker's place beside its bone, turned as the limb is that carries it. */
export function turnedWithLimb(off: Vec2, key: string, { joints, footPitchDeg }: Pose): Vec2 {
  const towards = (a: Vec2, b: Vec2): number => Math.atan2(b.y - a.y, b.x - a.x);
  const by =
    key === 'knee'
      ? towards(joints.hip, joints.knee)
      : key === 'ankle'
        ? towards(joints.knee, joints.ankle)
        : key === 'heel' || key === 'toe'
          ? -footPitchDeg * RAD_PER_DEG
          : 0;
  return {
    x: off.x * Math.cos(by) - off.y * Math.sin(by),
    y: off.x * Math.sin(by) + off.y * Math.cos(by),
  };
}

/** What a perfect camera and a perfect tracker leave of a rider: pixels, y down, the bottom bracket at (600, 500). */
export function filmed(f: Filming): {
  tS: Float64Array;
  landmarks: Record<JointKey, Path> & Partial<Record<ExtraKey, Path>>;
} {
  const rate = f.rate ?? 60;
  const n = f.stamps?.length ?? Math.round((f.seconds ?? 7) * rate);
  const tS = Float64Array.from({ length: n }, (_, i) => f.stamps?.[i] ?? i / rate);
  const random = seededRandom(f.seed ?? 1);
  const noise = f.noisePx ?? 0;
  const scale = f.mmPerPx ?? FILMED_MM_PER_PX;
  const side = f.facing === 'left' ? -1 : 1;
  const landmarks = {} as Record<JointKey | ExtraKey, Path>;
  tS.forEach((t, i) => {
    const pose = poseAt(f.rider, f.theta ? f.theta(t) : crankAngleDeg(f.rider, t), t);
    const places = {
      ...pose.joints,
      hip: hipStickerMm(f.rider, pose),
      ...(f.extras && extrasOf(pose, f.rider.headAboveBackMm)),
    };
    for (const [key, p] of Object.entries(places) as [JointKey, Vec2][]) {
      const path = (landmarks[key] ??= {
        xPx: new Float64Array(n),
        yPx: new Float64Array(n),
        confidence: new Float32Array(n).fill(1),
      });
      const offset = f.stickerOffMm?.[key] ?? { x: 0, y: 0 };
      const off = f.stickersTurn ? turnedWithLimb(offset, key, pose) : offset;
      path.xPx[i] = CENTRE.x + (side * (p.x + off.x)) / scale + noise * gaussian(random);
      path.yPx[i] = CENTRE.y - (p.y + off.y) / scale + noise * gaussian(random);
    }
  });
  return { tS, landmarks };
}
