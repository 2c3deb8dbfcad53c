import type { Habits, Prepared, Share } from './bodyModel.ts';
import type { Effects } from './effects.ts';
import { asItIs, type Body } from './forecast.ts';
import { predict } from './predict.ts';

/**
 * What a re-film told: the change of foot pitch (mean over the turn) and of the back angle, with their 95 % change uncertainty; NaN where
 * a film does not tell it.
 */
export interface Refilmed {
  pitchByDeg: number;
  pitchUncertainty: number;
  backByDeg: number;
  backUncertainty: number;
}

/** The least that a share may be known by: habits wander from ride to ride. */
const LEAST_SD = 0.04;

/** Shares that are weighed. */
const SHARES: readonly number[] = Array.from({ length: 96 }, (_, i) => i / 100);

/**
 * A share from how an angle answered: every possible share weighed by what was believed and by how well it predicts what was seen
 * (Bayes on a grid: near a straight leg the foot's answer is far from linear).
 * @param predicted degrees by which the angle would change for a share
 */
function weighed(prior: Share, seenDeg: number, sdDeg: number, predicted: (share: number) => number): Share {
  if (!Number.isFinite(seenDeg)) return prior;
  const answers = SHARES.map(predicted);
  // A change that asks nothing of the share tells nothing of it.
  if (Math.max(...answers) - Math.min(...answers) < 0.2) return prior;
  const weights = SHARES.map((s, i) =>
    Math.exp(-0.5 * (((s - prior.mean) / prior.sd) ** 2 + ((seenDeg - answers[i]) / sdDeg) ** 2)),
  );
  const all = weights.reduce((s, w) => s + w, 0);
  // So far from anything predicted that nothing of it can be believed.
  if (!(all > 1e-12)) return prior;
  const mean = weights.reduce((s, w, i) => s + w * SHARES[i], 0) / all;
  const spread = Math.sqrt(weights.reduce((s, w, i) => s + w * (SHARES[i] - mean) ** 2, 0) / all);
  return { mean, sd: Math.max(LEAST_SD, spread) };
}

/**
 * The rider's own κ and ρ from a film before and after a change (handbook: models): foot pitch answers the leg's change by κ, the
 * back answers the bar's by ρ.
 */
export function learnHabits(
  p: Prepared,
  { fx, seen, prior, body = {} }: { fx: Effects; seen: Refilmed; prior: Habits; body?: Body },
): Habits {
  const start = asItIs(p);
  const by = (kappa: number, rho: number, key: 'footPitch90Deg' | 'backAngleDeg'): number => {
    const then = predict(p, fx, { ...body, kappa, rho });
    return then.ok && start ? then.values[key] - start.values[key] : NaN;
  };
  if (!Number.isFinite(by(0, 0, 'backAngleDeg'))) return prior;
  return {
    kappa: weighed(prior.kappa, seen.pitchByDeg, seen.pitchUncertainty / 1.96, (k) =>
      by(k, prior.rho.mean, 'footPitch90Deg'),
    ),
    rho: weighed(prior.rho, seen.backByDeg, seen.backUncertainty / 1.96, (r) =>
      by(prior.kappa.mean, r, 'backAngleDeg'),
    ),
  };
}
