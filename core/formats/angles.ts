import Papa from 'papaparse';
import { wrap360 } from '../geometry/angles.ts';
import { ANGLE_KEYS, type AngleKey, type AnyAngleKey } from '../stroke/angles.ts';
import type { FrontalReading } from '../frontal/readFrontal.ts';
import { GRID_DEG } from '../stroke/curves.ts';
import type { Reading } from '../stroke/read.ts';

const columnOf = (key: AnyAngleKey): string =>
  `${key.replace(/Deg$/, '').replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)}_deg`;

/** Every frame of every counted stroke: `stroke,theta_deg,knee_flexion_deg,…` (strokes from 1, degrees to a thousandth). */
export function writeAnglesCsv(reading: Reading): string {
  const keys = Object.keys(reading.frameAnglesDeg) as AnyAngleKey[];
  const used = reading.strokes.filter((s) => !s.fault);
  const data: string[][] = [];
  reading.tS.forEach((t, i) => {
    const stroke = used.findIndex((s) => t >= s.startS && t < s.endS);
    if (stroke < 0 || !Number.isFinite(reading.thetaDeg[i])) return;
    data.push([
      `${stroke + 1}`,
      wrap360(reading.thetaDeg[i]).toFixed(3),
      ...keys.map((key) => {
        const v = reading.frameAnglesDeg[key]![i];
        return Number.isFinite(v) ? v.toFixed(3) : '';
      }),
    ]);
  });
  return `${Papa.unparse({ fields: ['stroke', 'theta_deg', ...keys.map(columnOf)], data }, { newline: '\n' })}\n`;
}

export interface AngleSummary {
  min: number;
  max: number;
  minAtThetaDeg: number;
  maxAtThetaDeg: number;
  at: Record<'0' | '90' | '180' | '270', number>;
  strokeSdDeg: number;
  uncertaintyDeg: number;
}

export interface Summary {
  strokes: number;
  cadenceRpm: number;
  crank: { centreXPx: number; centreYPx: number; radiusPx: number; residualPx: number };
  angles: Record<AngleKey, AngleSummary>;
  kneeOverSpindleMm: number;
  hipTravelMm: { vertical: number; foreAft: number };
}

/** What a reading says, as plain figures for files and for the command line. */
export function summarise(reading: Reading): Summary {
  const r = (v: number): number => Number(v.toFixed(4));
  return {
    strokes: reading.usedStrokes,
    cadenceRpm: r(reading.cadenceRpm),
    crank: {
      centreXPx: r(reading.crank.centrePx.x),
      centreYPx: r(reading.crank.centrePx.y),
      radiusPx: r(reading.crank.radiusPx),
      residualPx: r(reading.crank.residualPx),
    },
    angles: Object.fromEntries(
      ANGLE_KEYS.map((key) => {
        const a = reading.angles[key];
        return [
          key,
          {
            min: r(a.min),
            max: r(a.max),
            minAtThetaDeg: r(a.minAtThetaDeg),
            maxAtThetaDeg: r(a.maxAtThetaDeg),
            at: { '0': r(a.at['0']), '90': r(a.at['90']), '180': r(a.at['180']), '270': r(a.at['270']) },
            strokeSdDeg: r(a.strokeSdDeg),
            uncertaintyDeg: r(a.uncertainty.absoluteDeg),
          },
        ];
      }),
    ) as Record<AngleKey, AngleSummary>,
    kneeOverSpindleMm: r(reading.body.kneeOverSpindleMm.value),
    hipTravelMm: {
      vertical: r(reading.body.hipTravelMm.vertical.value),
      foreAft: r(reading.body.hipTravelMm.foreAft.value),
    },
  };
}

/** The mean curves from the front or the rear, a row every 2.5° of the crank: `theta_deg,knee_left_mm,…`; outward +. */
export function writeFrontalCsv(r: FrontalReading): string {
  const { left, right } = r.legs;
  const columns: [string, readonly number[] | undefined][] = [
    ['knee_left_mm', left.kneeLateralMm.meanOnGrid],
    ['knee_right_mm', right.kneeLateralMm.meanOnGrid],
    ['knee_over_foot_left_mm', left.kneeOverFootMm.meanOnGrid],
    ['knee_over_foot_right_mm', right.kneeOverFootMm.meanOnGrid],
    ['pelvis_deg', r.pelvis?.curve.meanOnGrid],
    ['shoulders_deg', r.shoulders?.curve.meanOnGrid],
    ['hip_shift_mm', r.hipShiftMm?.curve.meanOnGrid],
  ];
  const there = columns.filter((c): c is [string, readonly number[]] => c[1] !== undefined);
  const data = GRID_DEG.map((t, i) => [t.toFixed(1), ...there.map(([, v]) => v[i].toFixed(2))]);
  return `${Papa.unparse({ fields: ['theta_deg', ...there.map(([name]) => name)], data }, { newline: '\n' })}\n`;
}
