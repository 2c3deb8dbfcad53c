import { normalPdf } from '../../math/normal.ts';

/** The settings that are believed in millimetres. */
export type SettingKey = 'height' | 'setback' | 'reach' | 'bar';

/** One sign of how far a setting is off: an estimate with its doubt, in the setting's own millimetres, + too much. */
export interface Sign {
  byMm: number;
  sdMm: number;
  /** What it is, as a fitter would say it. */
  text: string;
}

/** Something that makes one direction more or less likely without a figure: a complaint, a test, a word after a step. */
export interface Hint {
  /** How many times likelier than before that it is too little (under), and too much (over). */
  under: number;
  over: number;
  text: string;
}

/** How a setting is spread over the riders that come to a fitter: many sit well, the others err to either side. */
export interface Spread {
  /** Of those who sit well: the place that suits one differs from the next one's by so much, SD. */
  wellSdMm: number;
  /** Of the others: how far off, and how that is spread. */
  offMm: number;
  offSdMm: number;
  /** From here on a fitter would call it off. */
  fromMm: number;
  /** The share that sits well; that of most settings where left out. */
  wellShare?: number;
}

/** What is believed of a setting when everything is weighed together. */
export interface Belief {
  /** P(too little by more than `fromMm`), P(too much). */
  under: number;
  over: number;
  /** Best estimate of how far off it is, and where it lies if it is off at all, mm. */
  meanMm: number;
  underMeanMm: number;
  overMeanMm: number;
  signs: readonly Sign[];
  hints: readonly Hint[];
}

/** Six in ten of those who come sit well in this; the others err either way alike (the closed loop's riders are made so). */
export const WELL_SHARE = 0.6;

/**
 * Weighs signs and hints against how riders are spread: Bayes on a grid of millimetres (handbook: judgement, from figures to lines).
 * Signs are taken as independent: what hangs on one sticker or one tape belongs into one sign.
 */
export function believe(spread: Spread, signs: readonly Sign[], hints: readonly Hint[] = []): Belief {
  const { wellSdMm, offMm, offSdMm, fromMm, wellShare = WELL_SHARE } = spread;
  const odds = hints.reduce((o, h) => ({ under: o.under * h.under, over: o.over * h.over }), {
    under: 1,
    over: 1,
  });
  const reach = Math.ceil(offMm + 4 * offSdMm);
  const sums = { all: 0, under: 0, over: 0, mean: 0, underMean: 0, overMean: 0 };
  for (let at = -reach; at <= reach; at += 1) {
    const under = odds.under * normalPdf(at, -offMm, offSdMm);
    const over = odds.over * normalPdf(at, offMm, offSdMm);
    let w = wellShare * normalPdf(at, 0, wellSdMm) + ((1 - wellShare) / 2) * (under + over);
    for (const s of signs) w *= Math.exp(-0.5 * ((s.byMm - at) / s.sdMm) ** 2);
    sums.all += w;
    sums.mean += w * at;
    if (at < -fromMm) {
      sums.under += w;
      sums.underMean += w * at;
    }
    if (at > fromMm) {
      sums.over += w;
      sums.overMean += w * at;
    }
  }
  // Signs so far off that nothing of the grid explains them: the nearest end does.
  if (!(sums.all > 1e-300)) {
    const way = Math.sign(signs.reduce((s, q) => s + q.byMm, 0)) || 1;
    const end = way * reach;
    return {
      under: way < 0 ? 1 : 0,
      over: way > 0 ? 1 : 0,
      meanMm: end,
      underMeanMm: -reach,
      overMeanMm: reach,
      signs,
      hints,
    };
  }
  return {
    under: sums.under / sums.all,
    over: sums.over / sums.all,
    meanMm: sums.mean / sums.all,
    underMeanMm: sums.under > 0 ? sums.underMean / sums.under : -offMm,
    overMeanMm: sums.over > 0 ? sums.overMean / sums.over : offMm,
    signs,
    hints,
  };
}

/** From which P on a line stands where (handbook: judgement). */
export const STANDS = { now: 0.8, nowWithComplaint: 0.6, try: 0.5 } as const;

/** “likely too low, 7 in 10”. */
export function probabilityWords(p: number, what: string): string {
  const tenths = Math.round(10 * p);
  const sure =
    p >= 0.9
      ? 'almost surely'
      : p >= 0.8
        ? 'very likely'
        : p >= 0.6
          ? 'likely'
          : p >= 0.4
            ? 'perhaps'
            : 'hardly';
  return `${sure} ${what}, ${p >= 0.95 ? 'over 9' : tenths} in 10`;
}
