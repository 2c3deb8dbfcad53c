import type { Habits, Share } from '../model/bodyModel.ts';
import type { PredictedMeasure } from '../model/forecast.ts';
import type { Band, Verdict } from '../protocol/judge.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { Refilmed } from '../model/learn.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import type { Reading } from '../kinematics/read.ts';
import { changeBy, type OwnRide } from '../protocol/ownRide.ts';

/** What was read before: a film's measure, or one on record, of which only the absolute ± is known. */
type Before = Pick<MeasureReading, 'value' | 'uncertainty' | 'unit' | 'verdict'> & {
  key: string;
  change?: number;
  parts?: MeasureReading['parts'];
};

/** The change's ± of what was read before: by the rider's own rides where both are known. */
const changeOf = (b: Before, own: OwnRide): number =>
  b.parts ? changeBy({ key: b.key as MeasureKey, change: b.change!, parts: b.parts }, own) : b.change!;

/** A measure before and after, against what was predicted. Degrees or mm. */
export interface Outcome {
  key: MeasureKey;
  unit: '°' | 'mm';
  band: Band;
  before: number;
  after: number;
  by: number;
  /** 95 % of the change. */
  uncertainty: number;
  /** Beyond it; otherwise within noise. */
  real: boolean;
  verdictBefore: Verdict;
  verdictAfter: Verdict;
  /** `counts`: predicted to move by more than its noise; a forecast of what stays tells nothing by holding. */
  predicted: { after: number; low: number; high: number; held: boolean; counts: boolean } | null;
}

/** What a film before and one after a change tell of the rider's answer: how foot pitch and back changed on the mean over the turn. */
export function refilmed(before: Reading, after: Reading, sameStickers: boolean): Refilmed {
  const of = (key: 'footPitchDeg' | 'backAngleDeg'): { by: number; uncertainty: number } => {
    const [a, b] = [before.angles[key], after.angles[key]];
    if (!a || !b) return { by: NaN, uncertainty: NaN };
    const [u, v] = [a.uncertainty, b.uncertainty];
    return {
      by: b.curve.mean - a.curve.mean,
      uncertainty: sameStickers
        ? Math.sqrt((u.changeDeg ** 2 + v.changeDeg ** 2) / 2)
        : Math.hypot(u.absoluteDeg, v.absoluteDeg),
    };
  };
  const [pitch, back] = [of('footPitchDeg'), of('backAngleDeg')];
  return {
    pitchByDeg: pitch.by,
    pitchUncertainty: pitch.uncertainty,
    backByDeg: back.by,
    backUncertainty: back.uncertainty,
  };
}

/**
 * What a change did to every measure that both films give.
 * @param sameStickers they were left on between the films: where they sit on the bone cancels
 * @param predicted what was predicted for exactly what was moved; null where nothing was
 * @param own this rider's own ride-to-ride SD, where the first set-up was filmed twice
 */
export function outcomes(
  before: readonly Before[],
  after: readonly MeasureReading[],
  {
    sameStickers,
    predicted,
    own = {},
  }: { sameStickers: boolean; predicted: readonly PredictedMeasure[] | null; own?: OwnRide },
): Outcome[] {
  return before.flatMap((b): Outcome[] => {
    const a = after.find((m) => m.key === b.key);
    if (!a) return [];
    // A change figure already stands for a difference of two such films: of two unlike ones it is their mean square.
    const uncertainty =
      sameStickers && b.change !== undefined
        ? Math.sqrt((changeOf(b, own) ** 2 + changeBy(a, own) ** 2) / 2)
        : Math.hypot(b.uncertainty, a.uncertainty);
    const by = a.value - b.value;
    const f = predicted?.find((q) => q.key === b.key);
    return [
      {
        key: a.key,
        unit: b.unit,
        band: a.band,
        before: b.value,
        after: a.value,
        by,
        uncertainty,
        real: Math.abs(by) > uncertainty,
        verdictBefore: b.verdict,
        verdictAfter: a.verdict,
        predicted: f
          ? {
              after: f.after,
              low: f.low,
              high: f.high,
              held: a.value >= f.low && a.value <= f.high,
              counts: Math.abs(f.after - f.before) > uncertainty,
            }
          : null,
      },
    ];
  });
}

/** What a share that was learned means, in a sentence. */
export function habitWords(which: keyof Habits, learned: Share, usual: Share): string {
  const percent = (v: number): string => `${Math.round(100 * v)} %`;
  const who =
    which === 'kappa'
      ? ['The foot takes', 'of a change to the leg’s length', 'the knee']
      : ['The back takes', 'of a change to the reach', 'shoulder and elbow'];
  const against =
    Math.abs(learned.mean - usual.mean) < learned.sd
      ? 'about the usual share'
      : learned.mean > usual.mean
        ? `more than usual: ${which === 'kappa' ? 'a saddle change shows less at the knee and more at the ankle' : 'a bar change shows more in the back'}`
        : `less than usual: ${which === 'kappa' ? 'a saddle change arrives nearly whole at the knee' : 'a bar change is taken by the arms'}`;
  return `${who[0]} ${percent(learned.mean)} ± ${percent(1.96 * learned.sd)} ${who[1]}, the rest goes to ${who[2]}; ${against}.`;
}
