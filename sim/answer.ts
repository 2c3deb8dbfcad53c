import { circleMeetLeft } from '../core/math/circle.ts';
import { RAD_PER_DEG, DEG_PER_RAD } from '../core/math/angles.ts';
import type { Vec2 } from '../core/math/vec.ts';
import { footToPlane, hoodMm, shoulderMm, type VirtualRider } from './rider.ts';

/** What is done to the bike under a virtual rider, where the body feels it. */
export interface Felt {
  /** The saddle, and with it the hip. */
  sitMm: Vec2;
  handMm: Vec2;
  crankMm: number;
  cleatBackMm: number;
  stackMm: number;
}

/** How this rider answers, known to nobody: the shares that foot and back take. */
export interface Habit {
  kappa: number;
  rho: number;
}

const ankleOf = (r: VirtualRider, thetaDeg: number, pitchDeg: number): Vec2 => {
  const t = thetaDeg * RAD_PER_DEG;
  return footToPlane(
    { x: r.crankMm * Math.sin(t), y: r.crankMm * Math.cos(t) },
    pitchDeg,
    -r.ankleBehindMm,
    r.ankleAboveMm,
  );
};

const pitchAt = (r: VirtualRider, thetaDeg: number): number =>
  r.footPitch.reduce(
    (s, h) => s + h.amplitude * Math.sin((h.order * thetaDeg + h.phaseDeg) * RAD_PER_DEG),
    r.footPitchMeanDeg,
  );

const rock = (list: VirtualRider['hipRockX'], thetaDeg: number): number =>
  list.reduce((s, h) => s + h.amplitude * Math.sin((h.order * thetaDeg + h.phaseDeg) * RAD_PER_DEG), 0);

const spanAt = (r: VirtualRider, thetaDeg: number, morePitchDeg: number): number => {
  const a = ankleOf(r, thetaDeg, pitchAt(r, thetaDeg) + morePitchDeg);
  return Math.hypot(
    r.hipMm.x + rock(r.hipRockX, thetaDeg) - a.x,
    r.hipMm.y + rock(r.hipRockY, thetaDeg) - a.y,
  );
};

/**
 * The virtual rider on the changed bike: foot and knee share what is asked of the leg, back and arm what is asked of the reach.
 * A forward model of its own, by bisection, that knows nothing of what the application predicts.
 * @returns the rider as it then pedals, or null where leg or arm cannot reach
 */
export function ridden(rider: VirtualRider, felt: Felt, habit: Habit): VirtualRider | null {
  let far = 0;
  for (let t = 0; t < 360; t += 1) if (spanAt(rider, t, 0) > spanAt(rider, far, 0)) far = t;
  const moved: VirtualRider = {
    ...rider,
    crankMm: rider.crankMm + felt.crankMm,
    ankleBehindMm: rider.ankleBehindMm - felt.cleatBackMm,
    ankleAboveMm: rider.ankleAboveMm + felt.stackMm,
    heelBehindMm: rider.heelBehindMm - felt.cleatBackMm,
    soleAboveMm: rider.soleAboveMm + felt.stackMm,
    toeAheadMm: (rider.toeAheadMm ?? 0) + felt.cleatBackMm,
    shoeTipMm: rider.shoeTipMm + felt.cleatBackMm,
    hipMm: { x: rider.hipMm.x + felt.sitMm.x, y: rider.hipMm.y + felt.sitMm.y },
  };
  const before = spanAt(rider, far, 0);
  const wanted = before + (1 - habit.kappa) * (spanAt(moved, far, 0) - before);
  let [low, high] = [-30, 30];
  for (let i = 0; i < 50; i += 1) {
    const mid = (low + high) / 2;
    if (spanAt(moved, far, mid) > wanted) low = mid;
    else high = mid;
  }
  moved.footPitchMeanDeg = rider.footPitchMeanDeg + low;
  for (let t = 0; t < 360; t += 3)
    if (spanAt(moved, t, 0) > 0.9995 * (rider.thighMm + rider.shankMm)) return null;

  // Trunk and arm: the back angle that would leave the elbow as it is, and a share of the way there.
  const hood = hoodMm(rider);
  const hand = { x: hood.x + felt.handMm.x, y: hood.y + felt.handMm.y };
  const shoulderAt = (backDeg: number): Vec2 => ({
    x: moved.hipMm.x + rider.trunkMm * Math.cos(backDeg * RAD_PER_DEG),
    y: moved.hipMm.y + rider.trunkMm * Math.sin(backDeg * RAD_PER_DEG),
  });
  const armNow = Math.hypot(
    rider.hipMm.x + rider.trunkMm * Math.cos(rider.backDeg * RAD_PER_DEG) - hood.x,
    rider.hipMm.y + rider.trunkMm * Math.sin(rider.backDeg * RAD_PER_DEG) - hood.y,
  );
  const armAt = (backDeg: number): number => {
    const s = shoulderAt(backDeg);
    return Math.hypot(s.x - hand.x, s.y - hand.y);
  };
  // The steeper the back, the further the shoulder from the hand.
  const backFor = (arm: number): number => {
    let [a, b] = [rider.backDeg - 40, rider.backDeg + 40];
    for (let i = 0; i < 50; i += 1) {
      const mid = (a + b) / 2;
      if (armAt(mid) < arm) a = mid;
      else b = mid;
    }
    return a;
  };
  let backDeg = rider.backDeg + habit.rho * (backFor(armNow) - rider.backDeg);
  const whole = rider.upperArmMm + rider.forearmMm;
  if (armAt(backDeg) > 0.998 * whole) backDeg = backFor(0.998 * whole);
  return withHand({ ...moved, backDeg }, hand);
}

/**
 * The rider with the hand on a given place: hip, trunk and back angle stay, shoulder and elbow follow. Where a straight arm would not
 * reach as the hip rocks under the trunk, it pulls the trunk down that bit more.
 * @returns null where the arm cannot reach
 */
function withHand(rider: VirtualRider, hand: Vec2): VirtualRider | null {
  const whole = rider.upperArmMm + rider.forearmMm;
  const hips = Array.from({ length: 72 }, (_, i) => ({
    x: rider.hipMm.x + rock(rider.hipRockX, 5 * i),
    y: rider.hipMm.y + rock(rider.hipRockY, 5 * i),
  }));
  const furthest = (deg: number): number =>
    Math.max(
      ...hips.map((hip) => {
        const s = shoulderMm({ ...rider, backDeg: deg }, hip);
        return Math.hypot(s.x - hand.x, s.y - hand.y);
      }),
    );
  let { backDeg } = rider;
  for (let i = 0; i < 400 && furthest(backDeg) > 0.998 * whole; i += 1) backDeg -= 0.05;
  const shoulder = shoulderMm({ ...rider, backDeg }, rider.hipMm);
  if (Math.hypot(shoulder.x - hand.x, shoulder.y - hand.y) > whole) return null;
  const elbow = circleMeetLeft(hand, rider.forearmMm, shoulder, rider.upperArmMm);
  if (!elbow) return null;
  const dir = (from: Vec2, to: Vec2): number => Math.atan2(to.y - from.y, to.x - from.x) * DEG_PER_RAD;
  const turn = (deg: number): number => ((((deg + 180) % 360) + 360) % 360) - 180;
  return {
    ...rider,
    backDeg,
    shoulderDeg: turn(dir(shoulder, elbow) - (backDeg + 180)),
    elbowFlexionDeg: turn(dir(elbow, hand) - dir(shoulder, elbow)),
  };
}
