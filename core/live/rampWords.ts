import type { RampDrift, RampKey, RampWay } from '../kinematics/live/ramp.ts';
import { measureName, quotedWay, type Convention } from '../protocol/convention.ts';
import { isMeasureKey } from '../protocol/protocols.ts';

const PLACES: Partial<Record<RampKey, string>> = {
  hipForwardMm: 'Hip ahead of the bottom bracket',
  hipUpMm: 'Hip above the bottom bracket',
};

/** What a figure of a ramp is called. */
export const rampName = (key: RampKey, convention: Convention): string =>
  isMeasureKey(key) ? measureName(key, convention) : (PLACES[key] ?? key);

/** Less than this is nothing to speak of, however surely it is there. */
const LEAST_DEG = 1;
const LEAST_MM = 3;

const signed = (v: number): string => `${v > 0 ? '+' : '−'}${Math.abs(v).toFixed(1)}`;

/** “sits 9 mm ± 2 further forward”; null for what does not matter. */
function driftText({ key, by, uncertainty, real }: RampDrift, convention: Convention): string | null {
  const isMm = key.endsWith('Mm');
  if (!real || Math.abs(by) < (isMm ? LEAST_MM : LEAST_DEG)) return null;
  const mm = `${Math.abs(by).toFixed(0)} mm ± ${Math.max(1, Math.round(uncertainty))}`;
  if (key === 'hipForwardMm') return `sits ${mm} further ${by > 0 ? 'forward' : 'back'}`;
  if (key === 'hipUpMm') return `the hip ${mm} ${by > 0 ? 'higher' : 'lower'}`;
  const inWords = signed(quotedWay(key, convention) * by);
  return `${rampName(key, convention).toLowerCase()} ${inWords}° ± ${uncertainty.toFixed(1)}`;
}

/** What a ramp did, in a sentence: “From 150 W to 300 W: sits 9 mm ± 2 further forward; foot pitch, crank at bottom −4.0° ± 1.1.” */
export function rampText({ over, from, to, drifts }: RampWay, convention: Convention): string {
  const unit = over === 'power' ? ' W' : ' min';
  const ends =
    over === 'power'
      ? `From ${Math.round(from)}${unit} to ${Math.round(to)}${unit}`
      : `From minute ${Math.ceil(from)} to minute ${Math.ceil(to)}`;
  const sentences = drifts.flatMap((d) => driftText(d, convention) ?? []);
  return sentences.length > 0
    ? `${ends}: ${sentences.join('; ')}.`
    : `${ends} nothing moved by more than turns vary anyway.`;
}
