import { legLength } from '../../body/estimates.ts';
import { pair } from '../../body/bodyTests.ts';
import type { LegSide } from '../../model/effects.ts';
import { sidesOf } from '../../suspects/evidence.ts';
import { rotationOff } from '../../suspects/suspectsFeet.ts';
import type { Moves } from '../controls/controls.ts';
import type { Draft } from './draft.ts';
import { legsDiffer } from './legs.ts';
import { noFurther } from '../controls/limits.ts';
import type { PlanCase } from '../terms/plan.ts';
import { likelihood, raisedBy, speaksFor, type Raised } from './raised.ts';
import { CLEAT_BAND_MM } from '../terms/schools.ts';

const BOLTS = 'Cleat bolts to the maker’s torque; again after the first ride.';
const SIDES: readonly LegSide[] = ['left', 'right'];

/** The sides that the complaints speak of. */
const sidesRaised = (raised: readonly Raised[]): LegSide[] =>
  SIDES.filter((side) => raised.some((r) => sidesOf(r.complaint).includes(side)));

/** Feet first: cleats, stance, shims and wedges, each only where a complaint or a film asks for it (handbook: rules). */
export const feetDrafts = (c: PlanCase): Draft[] =>
  [cleatBack(c), cleatForward(c), rotation(c), stance(c), wedge(c), shim(c)].filter((d) => d !== null);

/** The cleat further back by the school's place, where a complaint raises it, or it stands ahead of the head. */
function cleatBack(c: PlanCase): Draft | null {
  const raised = raisedBy(c.suspects, 'cleatForward');
  const unlike = raisedBy(c.suspects, 'cleatsUnlike');
  const [low, high] = CLEAT_BAND_MM[c.schools.cleat === 'midfoot' ? 'behind' : c.schools.cleat];
  const aim = Math.round((low + high) / 2);
  const sides = sidesRaised(raised);
  const whole: Moves = {};
  const ahead: LegSide[] = [];
  const calf = raised.some((r) => r.complaint.region === 'calf');
  for (const side of SIDES) {
    const at = c.bike.feet[side].cleatBehindMm;
    // A tendon's lever is shortened to the school's far end.
    const to = calf ? high : aim;
    if (at === null || at >= to) continue;
    if (sides.includes(side) || at < -2) whole[`cleatBack.${side}`] = to - at;
    if (at < -2) ahead.push(side);
  }
  // An unlike pair that hurts: the one further off goes to where its partner stands.
  const { left, right } = c.bike.feet;
  const [a, b] = [left.cleatBehindMm, right.cleatBehindMm];
  if (
    unlike.length > 0 &&
    a !== null &&
    b !== null &&
    Math.abs(a - b) >= 3 &&
    Object.keys(whole).length === 0
  ) {
    const odd: LegSide = Math.abs(a - aim) > Math.abs(b - aim) ? 'left' : 'right';
    whole[`cleatBack.${odd}`] = odd === 'left' ? b - a : a - b;
  }
  if (Object.keys(whole).length === 0) return null;
  // Moving one may not leave a pair that is less alike than it was.
  if (a !== null && b !== null && Object.keys(whole).length === 1) {
    const side: LegSide = whole['cleatBack.left'] === undefined ? 'right' : 'left';
    const other: LegSide = side === 'left' ? 'right' : 'left';
    const [at, there] = [c.bike.feet[side].cleatBehindMm!, c.bike.feet[other].cleatBehindMm!];
    const to = at + whole[`cleatBack.${side}`]!;
    if (Math.abs(to - there) >= 3 && Math.abs(to - there) > Math.abs(at - there))
      whole[`cleatBack.${other}`] = to - there;
  }
  const reasons = speaksFor([...raised, ...unlike]);
  return {
    key: 'cleatBack',
    stage: 'feet',
    ...reasons,
    p: Math.max(likelihood(raised), likelihood(unlike), ahead.length ? 0.55 : 0),
    fault: raised.length || ahead.length ? 'cleat too far forward' : 'cleats unlike',
    why: [
      ...reasons.why,
      ...(ahead.length
        ? [`the spindle lies ahead of the first metatarsal head (${ahead.join(' and ')})`]
        : []),
    ],
    whole,
    tryMoves: noFurther(whole, () => 3),
    risk: [BOLTS],
    check: 'float test, then ride in steps of 2–3 mm: calf and forefoot',
  };
}

/** A cleat far back that may close the hip or tire the calf: forward again by a step. */
function cleatForward(c: PlanCase): Draft | null {
  const raised = raisedBy(c.suspects, 'cleatFarBack');
  const whole: Moves = {};
  for (const side of sidesRaised(raised)) {
    const at = c.bike.feet[side].cleatBehindMm;
    if (at !== null && at >= 20) whole[`cleatBack.${side}`] = -5;
  }
  if (Object.keys(whole).length === 0) return null;
  return {
    key: 'cleatForward',
    stage: 'feet',
    ...speaksFor(raised),
    fault: 'cleat far back',
    whole,
    tryMoves: Object.fromEntries(Object.keys(whole).map((k) => [k, -3])),
    risk: [BOLTS],
    check: 'ride in steps of 2–3 mm: hip at the top, forefoot',
  };
}

/** The cleat turned so that the heel rests nearer to where walk and jump put it: by half the difference, on the side that hurts. */
function rotation(c: PlanCase): Draft | null {
  const raised = raisedBy(c.suspects, 'cleatRotation');
  if (raised.length === 0) return null;
  const whole: Moves = {};
  for (const side of sidesRaised(raised)) {
    const off = rotationOff(c, side);
    if (off === null || Math.abs(off) < 2) continue;
    const by = -Math.sign(off) * Math.round(Math.abs(off) / 2);
    if (by !== 0) whole[`heelOut.${side}`] = by;
  }
  if (Object.keys(whole).length === 0) return null;
  return {
    key: 'heelOut',
    stage: 'feet',
    ...speaksFor(raised),
    fault: 'cleat turned against the foot',
    whole,
    tryMoves: noFurther(whole, () => 2),
    risk: [BOLTS],
    check: 'float test: heel in and out before the stop, about equal; heel clear of crank and stay',
  };
}

/** Stance: only where the film from ahead, or a foot's outer edge on both sides, says so; build words alone ask for the film. */
function stance(c: PlanCase): Draft | null {
  const narrow = raisedBy(c.suspects, 'stanceNarrow');
  const wide = raisedBy(c.suspects, 'stanceWide');
  const filmed = (way: 1 | -1): boolean =>
    SIDES.some((side) => {
      const k = c.kneeOverFootMm?.[side];
      return k ? way * k.value > 10 : false;
    });
  const edge = narrow.some((r) => r.complaint.region === 'footOutside' && r.complaint.side === 'both');
  const way: 1 | -1 | 0 = narrow.length && (filmed(1) || edge) ? 1 : wide.length && filmed(-1) ? -1 : 0;
  if (way === 0) return null;
  const raised = way > 0 ? narrow : wide;
  const whole: Moves = {};
  for (const side of sidesRaised(raised)) {
    const cleat = c.bike.feet[side].cleatOutwardMm;
    const room = cleat === null ? 2 : way > 0 ? cleat + 5 : 5 - cleat;
    const byCleat = Math.min(4, Math.max(0, room));
    if (byCleat > 0) whole[`cleatOut.${side}`] = -way * byCleat;
    if (way > 0 && 4 - byCleat >= 1.5 && c.bike.feet[side].washers === 0) whole[`washers.${side}`] = 1;
  }
  if (Object.keys(whole).length === 0) return null;
  return {
    key: 'stance',
    stage: 'feet',
    ...speaksFor(raised),
    fault: way > 0 ? 'stance too narrow' : 'stance too wide',
    whole,
    tryMoves: noFurther(whole, () => 2),
    risk: ['One washer only: the thread must engage.', BOLTS],
    check: 'in steps of 1–2 mm a side; knee path from the front, and the foot’s outer edge',
  };
}

/** One forefoot wedge, as they are sold. */
const WEDGE_DEG = 1.5;

/** The school of wedges: under the foot whose forefoot tilts, where a knee's complaint and its path ask for it. */
function wedge(c: PlanCase): Draft | null {
  if (c.schools.kneePath !== 'wedge') return null;
  const raised = raisedBy(c.suspects, 'forefootTilt');
  const swings = (c.measures.find((m) => m.key === 'kneePathWidthMm')?.pOut.high ?? 0) >= 0.5;
  if (raised.length === 0 || !swings) return null;
  const tilt = pair(c.body, 'forefootTilt');
  const whole: Moves = {};
  for (const side of sidesRaised(raised)) {
    const at = tilt[side];
    if (at !== null && Math.abs(at) >= 8 && c.bike.feet[side].wedgeDeg === 0)
      whole[`wedge.${side}`] = Math.sign(at) * WEDGE_DEG;
  }
  if (Object.keys(whole).length === 0) return null;
  const reasons = speaksFor(raised);
  return {
    key: 'wedge',
    stage: 'feet',
    ...reasons,
    fault: 'forefoot tilted',
    why: [...reasons.why, 'the knee swings wide in the film from ahead'],
    whole,
    risk: ['After the arch is supported; one wedge at a time.'],
    check: 'knee path from the front, and pressure under the foot',
    instead: 'or a wider stance first',
  };
}

/** A true difference that shows on the bike: about half of it, under the shorter leg. */
function shim(c: PlanCase): Draft | null {
  const l = legLength(c.body);
  const shows = legsDiffer(c);
  if (l.longer === null || !shows) return null;
  const shorter: LegSide = l.longer === 'left' ? 'right' : 'left';
  if (shows.straighter !== shorter) return null;
  // What a shim makes up for already counts: the rest is halved again, never filled at once.
  const by = Math.round((l.differenceMm - c.bike.feet[shorter].shimMm) / 2);
  if (by < 1) return null;
  const reasons = speaksFor(raisedBy(c.suspects, 'legLength'));
  return {
    key: 'shim',
    stage: 'feet',
    p: Math.max(shows.p * 0.8, reasons.p),
    fault: `${shorter} leg shorter, and it shows`,
    madeOf: [`knees ${Math.abs(shows.byDeg).toFixed(1)}° apart in the films`, ...reasons.why],
    why: [
      `${l.longer} leg ${Math.round(l.differenceMm)} mm longer on the table`,
      `and it shows on the bike: the knees ${Math.abs(shows.byDeg).toFixed(1)}° apart at their straightest`,
    ],
    answers: reasons.answers,
    whole: { [`shim.${shorter}`]: Math.min(3, by) },
    tryMoves: { [`shim.${shorter}`]: Math.min(2, by) },
    risk: [
      ...(l.refer ? ['Over 6 mm of true difference: a clinician should see it first.'] : []),
      'About half of the difference, never all at once.',
    ],
    check: 'a week of easy rides; both sides filmed again',
  };
}
