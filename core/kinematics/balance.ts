import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import type { SideKey } from './angles.ts';
import type { Reading } from './read.ts';

/** One segment: its share of the body's mass on both sides together, and its centre from one end to the other. */
interface Segment {
  name: string;
  share: number;
  from: SideKey;
  to: SideKey;
  at: number;
}

/** De Leva (1996, J. Biomech. 29), women's and men's values averaged; both sides of a limb together, feet heel to toe. */
const SEGMENTS: readonly Segment[] = [
  { name: 'trunk', share: 0.43, from: 'shoulder', to: 'hip', at: 0.44 },
  { name: 'upper arms', share: 0.0526, from: 'shoulder', to: 'elbow', at: 0.577 },
  { name: 'forearms', share: 0.03, from: 'elbow', to: 'wrist', at: 0.457 },
  { name: 'thighs', share: 0.2894, from: 'hip', to: 'knee', at: 0.385 },
  { name: 'shanks', share: 0.0914, from: 'knee', to: 'ankle', at: 0.443 },
  { name: 'feet', share: 0.0266, from: 'heel', to: 'toe', at: 0.42 },
];
/** Without these there is no balance; another one that was not seen is taken where it usually is. */
const BEARING: readonly SideKey[] = ['shoulder', 'hip', 'wrist'];
const HANDS = 0.0117;
const HEAD = 0.068;
/** Where the head is when it is not marked: this share of the trunk beyond the shoulder, this much steeper than the trunk. */
const HEAD_BEYOND = 0.45;
const HEAD_STEEPER_DEG = 15;
/** The sit bones bear a little behind the trochanter. */
const SIT_BEHIND_HIP_MM = 20;
/** Power where none was noted, W a kg: an easy effort. */
const EASY_W_PER_KG = 1.5;
const GRAVITY = 9.81;

export interface Balance {
  /** Whole-body centre of mass about the bottom bracket, mean over the turn, mm. */
  centreMm: PlanePoint;
  /** Share of the weight on the hands, with its range. */
  handsShare: number;
  handsLow: number;
  handsHigh: number;
  feetShare: number;
  /** What had to be taken for granted. */
  assumed: string[];
}

/**
 * The body's centre of mass from the tracked joints, and the share of the weight that the hands carry (handbook: models, balance).
 * Centres of segments are linear in the joints, so the mean over the turn comes from the joints' means; the unseen leg is taken to
 * do the same half a turn later. The feet bear the shanks and feet themselves and what pedalling presses down: a steady push
 * through the downstroke does the work 4·F·L a turn, so F = P·60/(4·L·rpm), borne 2L/π ahead of the bottom bracket. Static moments
 * about the sit bones give the rest. An indicator, never a promise.
 */
export function balanceOf(
  reading: Reading,
  known: { powerW: number | null; massKg: number | null },
): Balance | null {
  const { paths } = reading.body;
  const at = (key: SideKey): PlanePoint | null => {
    const p = paths[key];
    return p ? { x: p.x.curve.mean, y: p.y.curve.mean } : null;
  };
  const [shoulder, hip, wrist] = [at('shoulder'), at('hip'), at('wrist')];
  const lost = reading.standIns;
  if (!shoulder || !hip || !wrist || lost.some((k) => BEARING.includes(k))) return null;
  const assumed = lost.map((k) => `the ${k} where it usually is`);
  const parts: { share: number; p: PlanePoint }[] = SEGMENTS.map((s) => {
    const [a, b] = [at(s.from)!, at(s.to)!];
    return { share: s.share, p: { x: a.x + s.at * (b.x - a.x), y: a.y + s.at * (b.y - a.y) } };
  });
  const hand = at('hand') ?? { x: wrist.x + 60, y: wrist.y - 10 };
  if (!at('hand')) assumed.push('the grip 6 cm ahead of the wrist');
  parts.push({ share: HANDS, p: hand });
  const trunk = Math.hypot(shoulder.x - hip.x, shoulder.y - hip.y);
  const up = Math.atan2(shoulder.y - hip.y, shoulder.x - hip.x) + HEAD_STEEPER_DEG * RAD_PER_DEG;
  const head = at('head') ?? {
    x: shoulder.x + HEAD_BEYOND * trunk * Math.cos(up),
    y: shoulder.y + HEAD_BEYOND * trunk * Math.sin(up),
  };
  if (!at('head')) assumed.push('the head where it usually is');
  parts.push({ share: HEAD, p: head });
  const whole = parts.reduce((s, p) => s + p.share, 0);
  const centreMm = {
    x: parts.reduce((s, q) => s + q.share * q.p.x, 0) / whole,
    y: parts.reduce((s, q) => s + q.share * q.p.y, 0) / whole,
  };
  const massKg = known.massKg ?? 75;
  if (known.massKg === null) assumed.push('75 kg of rider');
  const powerW = known.powerW ?? EASY_W_PER_KG * massKg;
  if (known.powerW === null) assumed.push(`${Math.round(powerW)} W, an easy effort`);
  const crankM = reading.segmentsMm.crank / 1000;
  const pushShare = (powerW * 60) / (4 * crankM * reading.cadenceRpm) / (massKg * GRAVITY);
  const ownShare = 0.0914 + 0.0266;
  const sitX = hip.x - SIT_BEHIND_HIP_MM;
  const pushX = (2 * reading.segmentsMm.crank) / Math.PI;
  const hands = (centreX: number, push: number): number =>
    (centreX - sitX - push * (pushX - sitX) - ownShare * (0 - sitX)) / (hand.x - sitX);
  // The centre of mass is good to about 15 mm (segment tables between people), the push to a fifth.
  const ends = [-1, 1].flatMap((a) =>
    [-1, 1].map((b) => hands(centreMm.x + 15 * a, pushShare * (1 + 0.2 * b))),
  );
  const clamp = (v: number): number => Math.min(1, Math.max(0, v));
  return {
    centreMm,
    handsShare: clamp(hands(centreMm.x, pushShare)),
    handsLow: clamp(Math.min(...ends)),
    handsHigh: clamp(Math.max(...ends)),
    feetShare: pushShare + ownShare,
    assumed,
  };
}
