import { mean } from '../../math/statistics.ts';
import { saddleHeightStarts, spread as spreadOf } from '../../body/estimates.ts';
import { single } from '../../body/bodyTests.ts';
import { asItIs, preparedOnce } from '../../model/forecast.ts';
import { predict } from '../../model/predict.ts';
import { openComplaints } from '../../intake/intake.ts';
import type { LegSide } from '../../model/effects.ts';
import { measureText } from '../../protocol/convention.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import { GONIOMETER_SD_DEG } from '../../body/statics.ts';
import { staticKneeBand } from '../terms/bySchool.ts';
import { believe, type Belief, type Hint, type Sign, type Spread } from '../terms/belief.ts';
import { effectsOf, type Moves } from '../controls/controls.ts';
import { hintsFor, type Explained } from './hints.ts';
import type { FilmedSide, PlanCase } from '../terms/plan.ts';

/** A setting with what is believed of it: all sides together, and each filmed side by itself. */
export interface Setting {
  key: 'height' | 'setback';
  /** Both legs together; what a line is made from. */
  whole: Belief;
  sides: Partial<Record<LegSide, Belief>>;
  /** P that the legs want it more than `fromMm` apart; 0 unless both were filmed. */
  apart: number;
  /** By how much the left wants it otherwise than the right, + the left finds it the more too much. */
  apartMm: number;
  spread: Spread;
}

/** How a setting is weighed: with what others explain of the complaints, after how much of saddle height, or by its figures alone. */
export interface Weigh {
  bare?: boolean;
  elsewhere?: Explained;
  upMm?: number;
}

/** One school's starting height is right within so much (handbook: judgement). */
const SCHOOL_SD_MM = 12;

/**
 * Saddle height: the knees of a long-distance band's middle half lie within some 7 mm of it; who came with it wrong had it wrong by
 * 20 mm or so; from 9 to 10 mm, three of a fitter's steps, it is called off. Seven in ten have it right (so that what is stated comes true as
 * often as it is stated, closed loop).
 */
const HEIGHT: Spread = { wellSdMm: 6.5, offMm: 21, offSdMm: 8, fromMm: 9.5, wellShare: 0.7 };

/** Degrees of the knee at its straightest for a millimetre of saddle, where no film gave a model (the usual leg, usual foot). */
const USUAL_KNEE_DEG_PER_MM = 0.26;

/** What a measure does for a millimetre of a move, by this rider's own model and the share that the foot usually takes. */
function perMm(
  c: PlanCase,
  side: FilmedSide,
  key: 'kneeFlexionMinDeg' | 'kneeOverSpindleMm',
  move: (mm: number) => Moves,
): number | null {
  const prepared = preparedOnce(side.model, 72);
  const start = asItIs(prepared);
  const answer = { kappa: c.habits.kappa.mean, rho: c.habits.rho.mean };
  const [a, b] = [6, -6].map((mm) => predict(prepared, effectsOf(c.bike, move(mm)), answer));
  if (!start || !a.ok || !b.ok) return null;
  return (a.values[key] - b.values[key]) / 12;
}

const measureOf = (side: FilmedSide, key: MeasureReading['key']): MeasureReading | undefined =>
  side.measures.find((m) => m.key === key);

/** The middle that a measure is wanted at; for a band open at one end, its end. */
const middleOf = ({ band: { low, high }, value }: MeasureReading): number =>
  low !== null && high !== null ? (low + high) / 2 : (low ?? high ?? value);

/** On extensions a degree of hip that is missing asks for so much of the knee further forward (own model, usual body). */
const FORWARD_MM_PER_HIP_DEG = 9;

/** Where the knee is wanted over the spindle: on extensions further forward as the hip closes, within the band. */
function kneeWanted(c: PlanCase, side: FilmedSide, m: MeasureReading): number {
  const middle = middleOf(m);
  const hip = measureOf(side, 'hipAngleMinDeg');
  if (c.protocolId !== 'time-trial' || m.band.high === null || !hip || hip.band.low === null) return middle;
  const missing = Math.max(0, hip.band.low - hip.value);
  return Math.min(m.band.high, middle + FORWARD_MM_PER_HIP_DEG * missing);
}

/** Why on extensions the knee is wanted further forward than its band's middle. */
function hipWords(c: PlanCase, side: FilmedSide, key: MeasureReading['key']): string | null {
  const hip = measureOf(side, 'hipAngleMinDeg');
  if (key !== 'kneeOverSpindleMm' || c.protocolId !== 'time-trial' || !hip || hip.pOut.low < 0.2) return null;
  return `further forward opens the hip: ${measureText(hip, c.convention)}`;
}

/** A film's sign with the part of its doubt that both sides of one visit share (sitting, level) and the part that is each side's own. */
interface FilmSign extends Sign {
  side: LegSide;
  ownSdMm: number;
}

function filmSigns(
  c: PlanCase,
  key: 'kneeFlexionMinDeg' | 'kneeOverSpindleMm',
  move: (mm: number) => Moves,
): FilmSign[] {
  return c.sides.flatMap((side): FilmSign[] => {
    const m = measureOf(side, key);
    if (!m || (m.band.low === null && m.band.high === null)) return [];
    const slope = perMm(c, side, key, move) ?? (key === 'kneeFlexionMinDeg' ? -USUAL_KNEE_DEG_PER_MM : -0.87);
    const sd = m.uncertainty / 1.96;
    const own = Math.sqrt(Math.max(0, sd ** 2 - m.parts.ride ** 2));
    const hip = hipWords(c, side, key);
    return [
      {
        side: side.model.side,
        // A move of so much would have brought it from the middle to where it is.
        byMm: (m.value - (key === 'kneeOverSpindleMm' ? kneeWanted(c, side, m) : middleOf(m))) / slope,
        sdMm: sd / Math.abs(slope),
        ownSdMm: own / Math.abs(slope),
        // In band by itself the hip alone is the reason.
        text: [
          m.verdict === 'in' && hip ? '' : `${measureText(m, c.convention)} (${side.model.side})`,
          hip ?? '',
        ]
          .filter(Boolean)
          .join('; '),
      },
    ];
  });
}

/** Both sides of one rider as one sign: their own doubts average out, what they share does not. */
function together(signs: readonly FilmSign[]): Sign[] {
  if (signs.length < 2) return signs.map(({ byMm, sdMm, text }) => ({ byMm, sdMm, text }));
  const n = signs.length;
  const own = Math.sqrt(signs.reduce((s, q) => s + q.ownSdMm ** 2, 0)) / n;
  const shared = Math.sqrt(Math.max(0, signs.reduce((s, q) => s + q.sdMm ** 2 - q.ownSdMm ** 2, 0) / n));
  return [
    {
      byMm: signs.reduce((s, q) => s + q.byMm, 0) / n,
      sdMm: Math.hypot(own, shared),
      text: signs.map((q) => q.text).join('; '),
    },
  ];
}

/** The tape against the schools' starting heights: one sign, since they all hang on one inseam. */
function tapeSign(c: PlanCase): Sign[] {
  const inseam = single(c.body, 'inseam');
  const height = c.resolved.heightMm?.mm;
  if (inseam === null || height === undefined) return [];
  const starts = saddleHeightStarts(inseam, c.bike.crank.lengthMm).map((s) => s.mm);
  const middle = mean(starts);
  const byMm = height - middle;
  const words =
    Math.abs(byMm) < 3
      ? 'at the schools’ starting height'
      : `${Math.round(Math.abs(byMm))} mm ${byMm > 0 ? 'over' : 'under'} the schools’ starting height`;
  return [
    {
      byMm,
      sdMm: Math.hypot(SCHOOL_SD_MM, spreadOf(starts) / Math.sqrt(12)),
      text: `by tape ${words} for an inseam of ${inseam} mm`,
    },
  ];
}

/** The goniometer, foot held as it pedals: one sign, both legs' readings together. */
function goniometerSign(c: PlanCase): Sign[] {
  const { left, right } = c.statics.kneeFlexionDeg;
  const read = [left, right].filter((v): v is number => v !== null);
  if (read.length === 0) return [];
  const band = staticKneeBand(c.kneeMovedDeg);
  const middle = mean(read);
  return [
    {
      byMm: ((band.low + band.high) / 2 - middle) / USUAL_KNEE_DEG_PER_MM,
      sdMm: GONIOMETER_SD_DEG / Math.sqrt(read.length) / USUAL_KNEE_DEG_PER_MM,
      text: `goniometer ${Math.round(middle)}°, ${band.low} to ${band.high}° wanted`,
    },
  ];
}

/** Legs that want heights a step and more apart are rare, and less so where one of them hurts (own scale). */
const LEGS_ALIKE = { oneHurts: 0.6, quiet: 0.88 };

/** How probable it is that two signs of the two legs lie further apart than so much. */
function legsApart(
  c: PlanCase,
  signs: readonly FilmSign[],
  fromMm: number,
  spread: Spread,
): { apart: number; apartMm: number } {
  const [l, r] = (['left', 'right'] as const).map((s) => signs.find((q) => q.side === s));
  if (!l || !r) return { apart: 0, apartMm: 0 };
  const by = l.byMm - r.byMm;
  const sd = Math.hypot(l.ownSdMm, r.ownSdMm);
  const oneHurts = openComplaints(c.intake.complaints).some((q) => q.side === 'left' || q.side === 'right');
  const wellShare = oneHurts ? LEGS_ALIKE.oneHurts : LEGS_ALIKE.quiet;
  const b = believe({ ...spread, wellSdMm: 4, offMm: 24, offSdMm: 9, fromMm, wellShare }, [
    { byMm: by, sdMm: sd, text: '' },
  ]);
  return { apart: Math.max(b.under, b.over), apartMm: by };
}

function setting(
  c: PlanCase,
  key: Setting['key'],
  {
    films,
    others,
    spread,
    weigh,
  }: { films: readonly FilmSign[]; others: readonly Sign[]; spread: Spread; weigh: Weigh },
): Setting {
  const hints = (side: LegSide | null): Hint[] => (weigh.bare ? [] : hintsFor(c, key, side, weigh.elsewhere));
  const sides: Setting['sides'] = {};
  for (const f of films)
    sides[f.side] = believe(spread, [{ byMm: f.byMm, sdMm: f.sdMm, text: f.text }, ...others], hints(f.side));
  return {
    key,
    whole: believe(spread, [...together(films), ...others], hints(null)),
    sides,
    ...legsApart(c, films, spread.fromMm, spread),
    spread,
  };
}

/** Saddle height, + too high: the filmed knees, the tape, the goniometer, and what complaints and tests say. */
export function heightSetting(c: PlanCase, weigh: Weigh = {}): Setting {
  const films = filmSigns(c, 'kneeFlexionMinDeg', (mm) => ({ saddleUp: mm }));
  return setting(c, 'height', {
    films,
    others: [...tapeSign(c), ...goniometerSign(c)],
    spread: HEIGHT,
    weigh,
  });
}

/**
 * Setback, + too far back: the knee over the spindle; the school of balance goes by the hands-off test alone. What suits spreads as
 * widely as the protocol's band is wide.
 */
export function setbackSetting(c: PlanCase, weigh: Weigh = {}): Setting {
  const films = filmSigns(c, 'kneeOverSpindleMm', (mm) => ({ saddleBack: mm })).map((f) => {
    // A saddle that goes up takes the knee back with it: the setback is judged from where the height's line leaves it.
    const side = c.sides.find((s) => s.model.side === f.side)!;
    const up = perMm(c, side, 'kneeOverSpindleMm', (mm) => ({ saddleUp: mm })) ?? -0.8;
    const back = perMm(c, side, 'kneeOverSpindleMm', (mm) => ({ saddleBack: mm })) ?? -0.87;
    return { ...f, byMm: f.byMm + (up / back) * (weigh.upMm ?? 0) };
  });
  const band = c.sides[0]?.measures.find((m) => m.key === 'kneeOverSpindleMm')?.band;
  const half = band && band.low !== null && band.high !== null ? (band.high - band.low) / 2 : 15;
  const spread: Spread = {
    wellSdMm: 0.6 * half,
    offMm: half + 13,
    offSdMm: 8,
    fromMm: half,
  };
  return setting(c, 'setback', {
    films: c.schools.foreAft === 'balance' ? [] : films,
    others: [],
    spread,
    weigh,
  });
}
