import type { ResolvedBike } from './resolve.ts';
import type { BikeSetup } from './setup.ts';

export interface BikeFault {
  /** Short, in the field's words. */
  what: string;
  /** What it means or hides, and what to do. */
  why: string;
  weight: 'look' | 'danger';
}

/** What is plainly wrong with a bike as found (handbook: the job; rules). Limits are the handbook's unless noted. */
// eslint-disable-next-line max-lines-per-function -- one rule after the other, each by itself
export function bikeFaults(b: BikeSetup, r: ResolvedBike): BikeFault[] {
  const out: BikeFault[] = [];
  const look = (what: string, why: string): number => out.push({ what, why, weight: 'look' });
  const danger = (what: string, why: string): number => out.push({ what, why, weight: 'danger' });
  const { tiltDeg, postShowingMm, postShowingMostMm } = b.saddle;
  if (tiltDeg !== null && tiltDeg < -3)
    look(
      `saddle ${deg(-tiltDeg)} nose-down`,
      'More than 3° nose-down is nearly always hiding something: a bar too low or far, or the wrong saddle. It loads the hands.',
    );
  if (tiltDeg !== null && tiltDeg > 3)
    look(
      `saddle ${deg(tiltDeg)} nose-up`,
      'Presses where it should not; only split or short-nosed saddles take some nose-up, to about 2.5°.',
    );
  if (postShowingMm !== null && postShowingMostMm !== null && postShowingMm > postShowingMostMm)
    danger(
      `seatpost ${mm(postShowingMm - postShowingMostMm)} past its minimum insertion`,
      'Not to be ridden: a longer post, or the saddle down, before anything else.',
    );
  const { left, right } = b.feet;
  both(left.heelOutDeg, right.heelOutDeg, (l, q) => {
    if (Math.abs(l - q) >= 3)
      look(
        `cleats ${deg(Math.abs(l - q))} apart`,
        'Rarely the rider’s own feet: set them by the float test, each for itself.',
      );
  });
  both(left.cleatBehindMm, right.cleatBehindMm, (l, q) => {
    if (Math.abs(l - q) >= 3)
      look(
        `cleats ${mm(Math.abs(l - q))} apart fore and aft`,
        `The foot further forward on its pedal works as if its saddle stood about ${Math.round(Math.abs(l - q) / 2)} mm higher.`,
      );
  });
  both(r.stanceMm.left, r.stanceMm.right, (l, q) => {
    if (Math.abs(l - q) >= 4)
      look(
        `feet ${mm(Math.abs(l - q))} unevenly placed about the middle`,
        'One cleat or washer is set otherwise than its partner.',
      );
  });
  for (const [side, foot] of Object.entries(b.feet)) {
    if (foot.washers > 1)
      danger(
        `${foot.washers} washers under the ${side} pedal`,
        'One only: the thread must engage. Use a longer axle instead.',
      );
    if (foot.cleatBehindMm !== null && foot.cleatBehindMm < -2)
      look(
        `${side} cleat ahead of the first metatarsal head`,
        'Loads calf and forefoot; 10 mm or more behind it is the usual start.',
      );
  }
  const { rotationDeg } = b.bar;
  if (rotationDeg !== null && rotationDeg >= 8)
    look(
      `bar rolled up ${deg(rotationDeg)}`,
      'Often makes up for too long a reach or too low a bar; bends the wrist.',
    );
  if (rotationDeg !== null && rotationDeg <= -8)
    look(
      `bar rolled down ${deg(-rotationDeg)}`,
      'The hands slide down the hoods; often makes up for too short a reach.',
    );
  if (b.levers.turnInDeg !== null && b.levers.turnInDeg > 10)
    look(
      `levers turned in ${deg(b.levers.turnInDeg)}`,
      'Bends the wrist, most on broad shoulders; a narrower bar does it better.',
    );
  if (r.seatAngleDeg !== null && Math.abs(r.seatAngleDeg - b.frame.seatAngleDeg) > 4)
    look(
      `saddle sits at ${deg(r.seatAngleDeg)} on a ${deg(b.frame.seatAngleDeg)} seat tube`,
      'Rails pushed to an end, or the setback was measured elsewhere.',
    );
  for (const [side, o] of Object.entries(r.overlap)) {
    if (o && o.gapMm <= 0)
      look(
        `${side} toe meets the front wheel from ${o.closesAtSteerDeg}° of steering`,
        'A matter for slow riding and tight turns: tell the rider. Cleat back and a long crank make it worse.',
      );
  }
  return out;
}

const deg = (v: number): string => `${Math.round(v * 10) / 10}°`;
const mm = (v: number): string => `${Math.round(v)} mm`;

function both(l: number | null, r: number | null, tell: (l: number, r: number) => void): void {
  if (l !== null && r !== null) tell(l, r);
}
