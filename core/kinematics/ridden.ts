import Joi from 'joi';

/** What was read while riding a change: by hand, or off a trainer and a pressure mat. */
export interface Ridden {
  powerW: number | null;
  cadenceRpm: number | null;
  /** Left leg's share of the power. */
  leftPercent: number | null;
  /** Share of the load on the saddle that is on its left half and on its front half, and its peak. */
  saddleLeftPercent: number | null;
  saddleFrontPercent: number | null;
  saddlePeakKPa: number | null;
}

export const NOT_RIDDEN: Ridden = {
  powerW: null,
  cadenceRpm: null,
  leftPercent: null,
  saddleLeftPercent: null,
  saddleFrontPercent: null,
  saddlePeakKPa: null,
};

const reading = (least: number, most: number): Joi.NumberSchema =>
  Joi.number().min(least).max(most).allow(null).required();

export const riddenSchema = Joi.object<Ridden, true>({
  powerW: reading(0, 2500),
  cadenceRpm: reading(20, 220),
  leftPercent: reading(0, 100),
  saddleLeftPercent: reading(0, 100),
  saddleFrontPercent: reading(0, 100),
  saddlePeakKPa: reading(0, 1000),
});
