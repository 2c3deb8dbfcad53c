import { mean } from '../math/statistics.ts';
import Joi from 'joi';
import type { Ridden } from './ridden.ts';

/** What a trainer read over a stretch of riding, means. */
export interface TrainerSummary {
  /** A simulated one, or a file by its name. */
  source: string;
  seconds: number;
  powerW: number;
  cadenceRpm: number;
  /** Left leg's share of the power; null where the trainer can't tell. */
  leftPercent: number | null;
}

/** What a pressure mat on the saddle read over a stretch of riding, mean over time. */
export interface MatSummary {
  source: string;
  seconds: number;
  /** Rows from the saddle's nose to its back, columns from left to right, kPa. */
  gridKPa: number[][];
  cellMm: number;
  leftPercent: number;
  frontPercent: number;
  peakKPa: number;
}

export interface TakeDevices {
  trainer: TrainerSummary | null;
  mat: MatSummary | null;
}

export const NO_DEVICES: TakeDevices = { trainer: null, mat: null };

/** One reading of a trainer. */
export interface TrainerSample {
  tS: number;
  powerW: number;
  cadenceRpm: number;
  leftPercent: number | null;
}

/** One reading of a mat: the grid at a time. */
export interface MatFrame {
  tS: number;
  gridKPa: number[][];
}

/**
 * Means over a stretch. The share of the legs is weighed by the power it was ridden with; a coasting second tells nothing of it.
 * @returns null where nothing was read
 */
export function summariseTrainer(samples: readonly TrainerSample[], source: string): TrainerSummary | null {
  if (samples.length === 0) return null;
  const shared = samples.filter((s) => s.leftPercent !== null && s.powerW > 0);
  const watts = shared.reduce((s, v) => s + v.powerW, 0);
  return {
    source,
    seconds: samples.at(-1)!.tS - samples[0].tS,
    powerW: mean(samples.map((s) => s.powerW)),
    cadenceRpm: mean(samples.map((s) => s.cadenceRpm)),
    leftPercent: watts > 0 ? shared.reduce((s, v) => s + v.leftPercent! * v.powerW, 0) / watts : null,
  };
}

/** Left and front shares of a grid's load, %, and its peak. A middle column or row counts half to either side. */
export function loadOf(gridKPa: readonly (readonly number[])[]): {
  leftPercent: number;
  frontPercent: number;
  peakKPa: number;
} {
  let all = 0;
  let left = 0;
  let front = 0;
  let peakKPa = 0;
  const rows = gridKPa.length;
  gridKPa.forEach((row, r) =>
    row.forEach((v, c) => {
      all += v;
      left += v * Math.min(1, Math.max(0, row.length / 2 - c));
      front += v * Math.min(1, Math.max(0, rows / 2 - r));
      peakKPa = Math.max(peakKPa, v);
    }),
  );
  return all > 0
    ? { leftPercent: (100 * left) / all, frontPercent: (100 * front) / all, peakKPa }
    : { leftPercent: 50, frontPercent: 50, peakKPa: 0 };
}

/** The mean grid of a stretch and what it says; null where nothing was read or nobody sat on it. */
export function summariseMat(frames: readonly MatFrame[], cellMm: number, source: string): MatSummary | null {
  if (frames.length === 0) return null;
  const gridKPa = frames[0].gridKPa.map((row, r) =>
    row.map((_, c) => Math.round(100 * mean(frames.map((f) => f.gridKPa[r][c]))) / 100),
  );
  const load = loadOf(gridKPa);
  if (load.peakKPa === 0) return null;
  return { source, seconds: frames.at(-1)!.tS - frames[0].tS, gridKPa, cellMm, ...load };
}

/** What the devices read, as it stands beside a change. */
export function riddenOf({ trainer, mat }: TakeDevices): Ridden {
  const to = (v: number | null | undefined, step: number): number | null =>
    v === null || v === undefined ? null : Math.round(v / step) * step;
  return {
    powerW: to(trainer?.powerW, 1),
    cadenceRpm: to(trainer?.cadenceRpm, 1),
    leftPercent: to(trainer?.leftPercent, 0.5),
    saddleLeftPercent: to(mat?.leftPercent, 0.5),
    saddleFrontPercent: to(mat?.frontPercent, 0.5),
    saddlePeakKPa: to(mat?.peakKPa, 0.5),
  };
}

const share = Joi.number().min(0).max(100);
const source = Joi.string().min(1).max(300).required();
const seconds = Joi.number().min(0).max(1e6).required();

export const devicesSchema = Joi.object<TakeDevices, true>({
  trainer: Joi.object<TrainerSummary, true>({
    source,
    seconds,
    powerW: Joi.number().min(0).max(3000).required(),
    cadenceRpm: Joi.number().min(0).max(300).required(),
    leftPercent: share.allow(null).required(),
  })
    .allow(null)
    .required(),
  mat: Joi.object<MatSummary, true>({
    source,
    seconds,
    gridKPa: Joi.array()
      .items(Joi.array().items(Joi.number().min(0).max(2000)).min(2).max(64))
      .min(2)
      .max(64)
      .required(),
    cellMm: Joi.number().min(1).max(100).required(),
    leftPercent: share.required(),
    frontPercent: share.required(),
    peakKPa: Joi.number().min(0).max(2000).required(),
  })
    .allow(null)
    .required(),
});
