import { RAD_PER_DEG } from '../core/math/angles.ts';
import { gaussian, seededRandom } from './random.ts';
import { crankAngleDeg, type VirtualRider } from './rider.ts';

/**
 * Stand-ins for a trainer and a pressure mat, driven by a virtual rider. They tell what such devices tell, at their rates and with their
 * noise; nothing of it is measured on anybody.
 */
export interface Riding {
  rider: Pick<VirtualRider, 'cadenceRpm' | 'startThetaDeg' | 'unevenness' | 'backDeg'>;
  powerW: number;
  /** Left leg's share of the power. */
  leftPercent: number;
  massKg: number;
  /** The saddle's, nose up positive, and how wide its supportive part is. */
  tiltDeg: number;
  widthMm: number;
  sitBonesMm: number;
  /** How far the pelvis sits to the left. */
  leftByMm: number;
  seed: number;
}

export interface TrainerReading {
  tS: number;
  powerW: number;
  cadenceRpm: number;
  leftPercent: number | null;
}

export interface MatReading {
  tS: number;
  gridKPa: number[][];
}

/** A trainer tells four times a second, a mat ten times. */
export const TRAINER_HZ = 4;
export const MAT_HZ = 10;
/** Rows from the nose back, columns from the left, and a cell's side. */
export const MAT_ROWS = 18;
export const MAT_COLUMNS = 12;
export const MAT_CELL_MM = 15;

/** The crank's own speed at a time, rpm. */
const cadenceAt = (r: Riding['rider'], tS: number): number =>
  (crankAngleDeg(r as VirtualRider, tS + 0.125) - crankAngleDeg(r as VirtualRider, tS - 0.125)) / (0.25 * 6);

/** What the trainer tells at a time: power rises with the crank's speed and wanders, the share of the legs by half a point. */
export function trainerAt(of: Riding, tS: number): TrainerReading {
  const random = seededRandom(of.seed + Math.round(1000 * tS));
  const cadenceRpm = cadenceAt(of.rider, tS) + 0.3 * gaussian(random);
  const drift = 1 + 0.015 * Math.sin(2 * Math.PI * 0.11 * tS + of.seed);
  return {
    tS,
    powerW: Math.round(of.powerW * drift * (cadenceRpm / of.rider.cadenceRpm) + 1.5 * gaussian(random)),
    cadenceRpm: Math.round(10 * cadenceRpm) / 10,
    leftPercent: Math.round(10 * (of.leftPercent + 0.4 * gaussian(random))) / 10,
  };
}

const bell = (d2: number, sd: number): number => Math.exp((-0.5 * d2) / (sd * sd));

/**
 * The grid on the saddle at a time, kPa. Two sit bones carry, more in front the lower the back and the further the nose points down;
 * each leg's push lifts its own side. The sum of all cells is the weight that the saddle bears.
 */
export function matAt(of: Riding, tS: number): MatReading {
  const random = seededRandom(of.seed + 7919 + Math.round(1000 * tS));
  const theta = crankAngleDeg(of.rider as VirtualRider, tS) * RAD_PER_DEG;
  // A back near level carries the pelvis forward; five degrees of nose-down as much as ten of back.
  const forward = Math.min(0.75, Math.max(0.08, 0.42 - 0.006 * of.rider.backDeg - 0.03 * of.tiltDeg));
  // What is not on pedals and bar: a little less than half of the body when the back is low and the effort is steady.
  const onSaddleN = of.massKg * 9.81 * (0.42 + 0.001 * of.rider.backDeg);
  const sway = 0.14 * Math.sin(theta);
  const shares = {
    left: (1 - forward) * (0.5 + of.leftByMm / 60 + sway),
    right: (1 - forward) * (0.5 - of.leftByMm / 60 - sway),
    front: forward,
  };
  // Bones beyond the supportive part press on its edge: the load gathers.
  const overhang = Math.max(0, of.sitBonesMm + 12 - of.widthMm + 20);
  const sd = Math.max(13, 19 - 0.25 * overhang);
  const half = Math.min(of.sitBonesMm / 2, of.widthMm / 2 - 14);
  const places = [
    { x: -half + of.leftByMm, y: 165, share: shares.left, sd },
    { x: half + of.leftByMm, y: 165, share: shares.right, sd },
    { x: of.leftByMm, y: 78 + 2 * of.tiltDeg, share: shares.front, sd: 20 },
  ];
  const weights = Array.from({ length: MAT_ROWS }, (_, row) =>
    Array.from({ length: MAT_COLUMNS }, (_, column) => {
      const y = (row + 0.5) * MAT_CELL_MM;
      const x = (column + 0.5 - MAT_COLUMNS / 2) * MAT_CELL_MM;
      return places.reduce(
        (s, p) => s + (p.share / (p.sd * p.sd)) * bell((x - p.x) ** 2 + (y - p.y) ** 2, p.sd),
        0,
      );
    }),
  );
  const all = weights.flat().reduce((s, w) => s + w, 0);
  const cellM2 = (MAT_CELL_MM / 1000) ** 2;
  return {
    tS,
    gridKPa: weights.map((row) =>
      row.map((w) => {
        const kPa = ((w / all) * onSaddleN) / cellM2 / 1000 + 0.15 * gaussian(random);
        // Below what a cell can feel it tells nothing.
        return kPa < 0.8 ? 0 : Math.round(10 * kPa) / 10;
      }),
    ),
  };
}
