import type { PlanePoint } from '../../math/vec.ts';
import type { BodyModel } from '../../model/bodyModel.ts';
import { NO_EFFECTS } from '../../model/effects.ts';
import { asItIs, preparedOnce } from '../../model/forecast.ts';
import { predictTop } from '../../model/predict.ts';
import { normalPdf } from '../../math/normal.ts';
import { measureText } from '../../protocol/convention.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import { angleGradient, RIDE_SD_DEG, STICKER_SD_MM } from '../../kinematics/uncertainty.ts';
import type { Joints, SideKey } from '../../kinematics/angles.ts';
import { WELL_SHARE, type Hint, type Spread } from '../terms/belief.ts';
import { hintsFor, type Explained } from './hints.ts';
import type { FilmedSide, PlanCase } from '../terms/plan.ts';

/** What is believed of the place of the hands: reach + too long, bar + too high, mm. */
export interface HandsBelief {
  reach: { under: number; over: number };
  bar: { under: number; over: number };
  /** That both hold at once, or neither: P(reach too short, right, too long) by P(bar too low, right, too high). */
  joint: readonly (readonly number[])[];
  /** Where the hands are off most probably, given that they are off at all. */
  meanMm: { reach: number; bar: number };
  signs: string[];
  hints: { reach: readonly Hint[]; bar: readonly Hint[] };
}

/** How places of the hands spread over riders (own scale): a posture's band is some ± 20 mm of hands wide. */
const REACH: Spread = { wellSdMm: 8, offMm: 36, offSdMm: 9, fromMm: 18 };
const BAR: Spread = { wellSdMm: 8, offMm: 36, offSdMm: 9, fromMm: 18 };
/** Of half a band, SD by which riders who are well differ (own choice, beside how the hands' places spread). */
const SUITS = 0.2;
const STEP_MM = 5;
const REACH_OF_GRID_MM = 90;

const KEYS = ['backAngleDeg', 'shoulderAngleDeg', 'elbowFlexionDeg'] as const;
type TopKey = (typeof KEYS)[number];

/** Where the joints of the trunk and the arm are on the mean. */
const jointsOf = (m: BodyModel): Joints => ({
  hip: { x: m.leg.hipXMm.mean, y: m.leg.hipYMm.mean },
  shoulder: { x: m.shoulder.x.mean, y: m.shoulder.y.mean },
  elbow: m.elbowMm,
  wrist: m.wristMm,
});

/** What stickers beside the bone do to the angles together: they hang on the same ones, so they err together. Degrees². */
function stickerCovariance(model: BodyModel, keys: readonly TopKey[]): number[][] {
  const joints = jointsOf(model);
  const g = keys.map((key) => angleGradient(key, joints));
  return keys.map((_, i) =>
    keys.map((__, j) => {
      let sum = 0;
      for (const k of Object.keys(g[i]) as SideKey[]) {
        const [p, q] = [g[i][k], g[j][k]];
        if (p && q) sum += (p.x * q.x + p.y * q.y) * STICKER_SD_MM[k] ** 2;
      }
      return sum;
    }),
  );
}

/** Trunk and arm as both films have them: each side's own stickers average out, what a ride and a camera do stays. */
function filmedTop(
  c: PlanCase,
): { keys: TopKey[]; off: number[]; covariance: number[][]; signs: string[] } | null {
  const of = (side: FilmedSide, key: TopKey): MeasureReading | undefined =>
    side.measures.find((m) => m.key === key && m.band.low !== null && m.band.high !== null);
  const keys = KEYS.filter((key) => c.sides.some((s) => of(s, key)));
  const sides = c.sides.filter((s) => keys.every((key) => of(s, key)));
  if (keys.length < 2 || sides.length === 0) return null;
  const n = sides.length;
  const own = sides.map((s) => stickerCovariance(s.model, keys));
  const mean = (f: (m: MeasureReading) => number, key: TopKey): number =>
    sides.reduce((sum, s) => sum + f(of(s, key)!), 0) / n;
  return {
    keys,
    off: keys.map((key) => mean((m) => m.value - (m.band.low! + m.band.high!) / 2, key)),
    covariance: keys.map((key, i) =>
      keys.map((_, j) => {
        const stickers = own.reduce((sum, cov) => sum + cov[i][j], 0) / n ** 2;
        if (i !== j) return stickers;
        const rest = mean((m) => (m.uncertainty / 1.96) ** 2 - m.parts.stickers ** 2, key);
        // What suits one rider differs from the next one's by a good part of the band.
        const suits = SUITS * mean((m) => (m.band.high! - m.band.low!) / 2, key);
        return stickers + Math.max(rest, RIDE_SD_DEG[key] ** 2) + suits ** 2;
      }),
    ),
    signs: keys.map((key) =>
      measureText({ ...of(sides[0], key)!, value: mean((m) => m.value, key) }, c.convention),
    ),
  };
}

/** Inverse of a small symmetric matrix, by Gauss–Jordan. */
function inverse(a: readonly (readonly number[])[]): number[][] | null {
  const n = a.length;
  const m = a.map((row, i) => [...row, ...row.map((_, j) => Number(i === j))]);
  for (let i = 0; i < n; i += 1) {
    const p = m[i][i];
    if (!(Math.abs(p) > 1e-12)) return null;
    for (let j = 0; j < 2 * n; j += 1) m[i][j] /= p;
    for (let k = 0; k < n; k += 1) {
      if (k === i) continue;
      const f = m[k][i];
      for (let j = 0; j < 2 * n; j += 1) m[k][j] -= f * m[i][j];
    }
  }
  return m.map((row) => row.slice(n));
}

/** How the three angles turn with the hands: degrees for a millimetre forward and up, at the back's usual share. */
function leverage(c: PlanCase, side: FilmedSide): Record<TopKey, PlanePoint> | null {
  const prepared = preparedOnce(side.model, 72);
  const answer = { kappa: c.habits.kappa.mean, rho: c.habits.rho.mean };
  const at = (x: number, y: number) => predictTop(prepared, { ...NO_EFFECTS, handMm: { x, y } }, answer);
  const h = 15;
  const [f, b, u, d] = [at(h, 0), at(-h, 0), at(0, h), at(0, -h)];
  if (!f || !b || !u || !d || !asItIs(prepared)) return null;
  return Object.fromEntries(
    KEYS.map((k) => [k, { x: (f[k] - b[k]) / (2 * h), y: (u[k] - d[k]) / (2 * h) }]),
  ) as Record<TopKey, PlanePoint>;
}

const mixture = (at: number, s: Spread, odds: { under: number; over: number }): number =>
  WELL_SHARE * normalPdf(at, 0, s.wellSdMm) +
  ((1 - WELL_SHARE) / 2) *
    (odds.under * normalPdf(at, -s.offMm, s.offSdMm) + odds.over * normalPdf(at, s.offMm, s.offSdMm));

/** Too little by more than the spread calls off, right, too much: 0, 1, 2. */
const band = (at: number, s: Spread): 0 | 1 | 2 => (at < -s.fromMm ? 0 : at > s.fromMm ? 2 : 1);

/** P that the reach errs that way, or the bar that way, or both. */
export function eitherOff(b: HandsBelief, reachWay: 'under' | 'over', barWay: 'under' | 'over'): number {
  const [r, k] = [reachWay === 'over' ? 2 : 0, barWay === 'over' ? 2 : 0];
  return b.reach[reachWay] + b.bar[barWay] - b.joint[r][k];
}

const product = (hints: readonly Hint[]): { under: number; over: number } =>
  hints.reduce((o, h) => ({ under: o.under * h.under, over: o.over * h.over }), { under: 1, over: 1 });

/**
 * Where the hands are against where back, shoulder and elbow want them, from the near film; the three angles' doubts are taken
 * together, since one sticker stands behind several of them.
 * @param sitMm where the saddle's lines will move the rider: the hands are judged from there
 */
export function handsBelief(
  c: PlanCase,
  sitMm: PlanePoint = { x: 0, y: 0 },
  weigh: { bare?: boolean; elsewhere?: Explained } = {},
): HandsBelief | null {
  const side = c.sides[0];
  if (!side) return null;
  const top = filmedTop(c);
  const turn = leverage(c, side);
  const inv = top && inverse(top.covariance);
  if (!top || !turn || !inv) return null;
  const hints = weigh.bare
    ? { reach: [], bar: [] }
    : {
        reach: hintsFor(c, 'reach', null, weigh.elsewhere),
        bar: hintsFor(c, 'bar', null, weigh.elsewhere),
      };
  const odds = { reach: product(hints.reach), bar: product(hints.bar) };
  const joint = [0, 1, 2].map(() => [0, 0, 0]);
  const grid: { reach: number; bar: number; chi: number; prior: number }[] = [];
  let least = Infinity;
  for (let x = -REACH_OF_GRID_MM; x <= REACH_OF_GRID_MM; x += STEP_MM)
    for (let y = -REACH_OF_GRID_MM; y <= REACH_OF_GRID_MM; y += STEP_MM) {
      const r = top.keys.map((key, i) => top.off[i] - turn[key].x * x - turn[key].y * y);
      let chi = 0;
      for (let i = 0; i < r.length; i += 1)
        for (let j = 0; j < r.length; j += 1) chi += r[i] * inv[i][j] * r[j];
      // The hands as they will be judged: from where the saddle's lines put the rider.
      const [reach, bar] = [x - sitMm.x, y - sitMm.y];
      grid.push({ reach, bar, chi, prior: mixture(reach, REACH, odds.reach) * mixture(bar, BAR, odds.bar) });
      least = Math.min(least, chi);
    }
  const sums = { all: 0, x: 0, y: 0 };
  for (const { reach, bar, chi, prior } of grid) {
    // Against the best place of all: hands that are further off than any place explains are judged by the nearest.
    const w = Math.exp(-0.5 * (chi - least)) * prior;
    sums.all += w;
    sums.x += w * reach;
    sums.y += w * bar;
    joint[band(reach, REACH)][band(bar, BAR)] += w;
  }
  if (!(sums.all > 0)) return null;
  const p = joint.map((row) => row.map((w) => w / sums.all));
  const reach = p.map((row) => row[0] + row[1] + row[2]);
  const bar = [0, 1, 2].map((k) => p[0][k] + p[1][k] + p[2][k]);
  return {
    reach: { under: reach[0], over: reach[2] },
    bar: { under: bar[0], over: bar[2] },
    joint: p,
    meanMm: { reach: sums.x / sums.all, bar: sums.y / sums.all },
    signs: top.signs,
    hints,
  };
}
