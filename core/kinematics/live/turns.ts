import type { AnyAngleKey } from '../angles.ts';
import type { StrokeValues } from '../curves.ts';
import type { Reading } from '../read.ts';

/** The figures that are followed turn by turn, each by its measure's own key; degrees. */
const FIGURES = {
  kneeFlexionMinDeg: ['kneeFlexionDeg', (s) => s.min],
  kneeFlexionMaxDeg: ['kneeFlexionDeg', (s) => s.max],
  hipAngleMinDeg: ['hipAngleDeg', (s) => s.min],
  backAngleDeg: ['backAngleDeg', (s) => s.mean],
  shoulderAngleDeg: ['shoulderAngleDeg', (s) => s.mean],
  elbowFlexionDeg: ['elbowFlexionDeg', (s) => s.mean],
  footPitch90Deg: ['footPitchDeg', (s) => s.at90],
  footPitch180Deg: ['footPitchDeg', (s) => s.at180],
  ankleRangeDeg: ['ankleAngleDeg', (s) => s.max - s.min],
} as const satisfies Record<string, readonly [AnyAngleKey, (s: StrokeValues) => number]>;

export type LiveKey = keyof typeof FIGURES;
export const LIVE_KEYS = Object.keys(FIGURES) as LiveKey[];

const OVER_THE_TURN: readonly LiveKey[] = ['backAngleDeg', 'shoulderAngleDeg', 'elbowFlexionDeg'];
/** Whether a figure is a mean over the turn: less of it is anew with each. */
export const isMeanFigure = (key: LiveKey): boolean => OVER_THE_TURN.includes(key);

/** One whole turn of the crank with its own figures; those whose landmarks were not seen on all of it are left out. */
export interface Turn {
  startS: number;
  endS: number;
  cadenceRpm: number;
  figures: Partial<Record<LiveKey, number>>;
  /** Where the rider sat: the hip about the bottom bracket in the bike's plane, mean over the turn. */
  hip?: { forwardMm: number; upMm: number };
}

/** A reading's counted turns, one by one. */
export function turnsOf(reading: Reading): Turn[] {
  const used = reading.strokes.filter((s) => !s.fault);
  const turns = used.map(({ startS, endS, cadenceRpm }): Turn => ({ startS, endS, cadenceRpm, figures: {} }));
  for (const key of LIVE_KEYS) {
    const [angle, value] = FIGURES[key];
    for (const row of reading.angles[angle]?.perStroke ?? []) turns[row.stroke].figures[key] = value(row);
  }
  const hip = reading.standIns.includes('hip') ? undefined : reading.body.paths.hip;
  const ups = new Map(hip?.y.perStroke.map((row) => [row.stroke, row.mean]));
  for (const { stroke, mean } of hip?.x.perStroke ?? []) {
    const up = ups.get(stroke);
    if (up !== undefined) turns[stroke].hip = { forwardMm: mean, upMm: up };
  }
  return turns;
}
