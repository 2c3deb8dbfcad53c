import type { PlanePoint } from '../math/vec.ts';
import { median } from '../math/statistics.ts';
import { jointAngleDeg, type SideKey } from './angles.ts';
import { crankAngles, fitCrank, type CrankFit } from './crank.ts';
import { cutoffFor, smoothPaths, type Paths } from './paths.ts';
import { pitchByToe } from './standIns.ts';

type Set = Record<SideKey, PlanePoint[]>;

/** The spindle may lie so far from its usual place under a toe that is only made up from the heel, SD. */
const UNTOLD_TOE_SD_MM = 40;

/**
 * How the foot lies on every frame, toe-down +, degrees: heel to toe; where the heel is lost, ankle to toe less what the two differ by on
 * the frames that have both (the foot is one piece).
 */
function pitchOf(set: Set): number[] {
  const byHeel = set.heel.map((heel, i) => jointAngleDeg('footPitchDeg', { heel, toe: set.toe[i] }));
  const byAnkle = set.ankle.map((ankle, i) => pitchByToe(ankle, set.toe[i]));
  const apart = median(byHeel.map((v, i) => v - byAnkle[i]));
  return byHeel.map((v, i) => (Number.isFinite(v) ? v : byAnkle[i] + apart));
}

/**
 * The pedal circle, twice: a first fit on the raw paths tells the cadence, the second takes lightly smoothed ones. Noise in the pitch would
 * otherwise pass for a turning of the foot and pull the spindle's place under it.
 * @param paths bike plane, mm; all eight landmarks, stand-ins among them  @param toeSeen whether the toe is none
 */
export function locateCrank(paths: Paths<SideKey>, toeSeen: boolean): CrankFit | null {
  const sdMm = toeSeen ? undefined : UNTOLD_TOE_SD_MM;
  const first = fitCrank(paths.raw.toe, pitchOf(paths.raw), paths.raw.spindle, sdMm);
  if (!first || paths.raw.spindle) return first;
  const theta = crankAngles(first.spindleMm, first.circle.centre, paths.tS);
  const cadenceRpm = median(
    theta.slice(1).map((t, i) => Math.abs(t - theta[i]) / (6 * (paths.tS[i + 1] - paths.tS[i]))),
  );
  if (!(cadenceRpm > 20)) return first;
  const light = smoothPaths(paths, 1.8 * cutoffFor(cadenceRpm));
  return fitCrank(light.toe, pitchOf(light), undefined, sdMm) ?? first;
}

/** Whether the crank goes the other way than pedalling does for a whole turn, net. */
export function turnsBackwards(thetaDeg: ArrayLike<number>): boolean {
  let net = 0;
  let last = NaN;
  for (const t of Array.from(thetaDeg)) {
    if (Number.isFinite(t) && Number.isFinite(last)) net += ((((t - last) % 360) + 540) % 360) - 180;
    if (Number.isFinite(t)) last = t;
  }
  return net < -360;
}
