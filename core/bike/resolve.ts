import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import { clampPoint, frontAxle, hoodPoint, type HeadTube } from './cockpit.ts';
import { saddlePlace, seatAngleTo } from './saddle.ts';
import type { BikeSetup, FootSetup } from './setup.ts';
import { stanceSideMm } from './stance.ts';
import { shoeTipAheadMm, toeOverlap, type Overlap } from './toeOverlap.ts';

/** A figure that follows from others, or was typed. */
export interface Figured {
  mm: number;
  from: 'typed' | 'computed';
}

/** Two ways of measuring one thing that do not agree. */
export interface Contradiction {
  what: string;
  missMm: number;
  /** The likely slip, in words. */
  slip: string;
}

export interface ResolvedBike {
  heightMm: Figured | null;
  heightToSpindleMm: Figured | null;
  setbackNoseMm: Figured | null;
  setback80Mm: Figured | null;
  wheelbaseMm: Figured | null;
  frontCentreMm: Figured | null;
  /** Points in the bike plane, mm, BB origin; null while something they need is open. */
  points: {
    sit: PlanePoint | null;
    nose: PlanePoint | null;
    clamp: PlanePoint | null;
    hood: PlanePoint | null;
    rearAxle: PlanePoint | null;
    frontAxle: PlanePoint | null;
    headTop: PlanePoint | null;
  };
  seatAngleDeg: number | null;
  /** Hood ahead of the sit point and of the saddle's nose; bar's middle and hood below the saddle. */
  reachFromSitMm: number | null;
  reachFromNoseMm: number | null;
  barDropMm: number | null;
  hoodDropMm: number | null;
  stanceMm: { left: number | null; right: number | null };
  overlap: { left: Overlap | null; right: Overlap | null };
  contradictions: Contradiction[];
}

/** A disagreement under this is what a tape does. */
const TAPE_MM = 5;
const BAR_RADIUS_MM = 16;
/** Where the saddle is 80 mm wide, on most saddles, behind the nose: only for drawing, never for a figure. */
const USUAL_NOSE_TO_80_MM = 130;
/** Paris points and the thumb's breadth a shoe is longer than its foot. */
const footLengthMm = (sizeEu: number): number => (sizeEu * 20) / 3 - 12;

const typed = (mm: number): Figured => ({ mm, from: 'typed' });
const computed = (mm: number): Figured => ({ mm, from: 'computed' });

/**
 * Everything that follows from a bike's measurements, each way of measuring filled in from the others, and where two ways
 * disagree by more than a tape's 5 mm (handbook: models, frame and cockpit, saddle coordinates). Nothing is invented: what needs
 * an open measurement stays null.
 */
export function resolveBike(b: BikeSetup): ResolvedBike {
  const contradictions: Contradiction[] = [];
  const height = saddleHeight(b, contradictions);
  const setback = setbacks(b, contradictions);
  const axles = wheels(b, contradictions);
  const place =
    height.bb &&
    saddlePlace({
      heightMm: height.bb.mm,
      setback80Mm: setback.at80?.mm ?? height.bb.mm * Math.cos(b.frame.seatAngleDeg * RAD_PER_DEG),
      tiltDeg: b.saddle.tiltDeg ?? 0,
      noseTo80Mm: b.saddle.noseTo80Mm ?? USUAL_NOSE_TO_80_MM,
    });
  const nose = place && setback.nose ? { x: -setback.nose.mm, y: place.nose.y } : (place?.nose ?? null);
  const sit = place?.sit ?? null;
  const clamp = barClamp(b, sit, setback.nose ? nose : null, contradictions);
  const hood =
    clamp && b.bar.reachMm !== null
      ? hoodPoint(clamp, {
          reachMm: b.bar.reachMm,
          hoodRiseMm: b.bar.hoodRiseMm ?? 0,
          rotationDeg: b.bar.rotationDeg ?? 0,
        })
      : null;
  const head = headTube(b);
  return {
    heightMm: height.bb,
    heightToSpindleMm: height.spindle,
    setbackNoseMm: setback.nose,
    setback80Mm: setback.at80,
    wheelbaseMm: axles.wheelbase,
    frontCentreMm: axles.frontCentre,
    points: {
      sit,
      nose,
      clamp,
      hood,
      rearAxle: axles.rear,
      frontAxle: axles.front,
      headTop: head && { x: head.reachMm, y: head.stackMm },
    },
    seatAngleDeg: sit && setback.at80 ? seatAngleTo(sit) : null,
    reachFromSitMm: sit && hood && setback.at80 ? hood.x - sit.x : null,
    reachFromNoseMm: hood && setback.nose ? hood.x + setback.nose.mm : null,
    barDropMm: sit && clamp ? sit.y - (clamp.y + BAR_RADIUS_MM) : null,
    hoodDropMm: sit && hood ? sit.y - hood.y : null,
    stanceMm: { left: stanceSideMm(b, b.feet.left), right: stanceSideMm(b, b.feet.right) },
    overlap: {
      left: overlapOf(b, b.feet.left, axles.front),
      right: overlapOf(b, b.feet.right, axles.front),
    },
    contradictions,
  };
}

function saddleHeight(b: BikeSetup, found: Contradiction[]): { bb: Figured | null; spindle: Figured | null } {
  const { heightMm: bb, heightToSpindleMm: spindle } = b.saddle;
  const crank = b.crank.lengthMm;
  if (bb !== null && spindle !== null && crank !== null) {
    const missMm = spindle - (bb + crank);
    if (Math.abs(missMm) > TAPE_MM) {
      found.push({
        what: 'Saddle height to the bottom bracket and to the spindle',
        missMm,
        slip:
          Math.abs(spindle - bb) <= TAPE_MM
            ? 'The same number stands in both: the crank’s length lies between them.'
            : missMm % 2.5 === 0 && Math.abs(missMm) <= 15
              ? 'They differ by a crank size: look at the length stamped on the arm.'
              : 'Measure both again along the seat tube, with the crank in line with it.',
      });
    }
  }
  return {
    bb: bb !== null ? typed(bb) : spindle !== null && crank !== null ? computed(spindle - crank) : null,
    spindle: spindle !== null ? typed(spindle) : bb !== null && crank !== null ? computed(bb + crank) : null,
  };
}

function setbacks(b: BikeSetup, found: Contradiction[]): { nose: Figured | null; at80: Figured | null } {
  const { setbackNoseMm: nose, setback80Mm: at80, noseTo80Mm, tiltDeg } = b.saddle;
  const level = noseTo80Mm === null ? null : noseTo80Mm * Math.cos((tiltDeg ?? 0) * RAD_PER_DEG);
  if (nose !== null && at80 !== null) {
    const missMm = level === null ? 0 : at80 - nose - level;
    if (at80 < nose) {
      found.push({
        what: 'Setback at the nose and where the saddle is 80 mm wide',
        missMm: at80 - nose,
        slip: 'The nose lies ahead of every wider place: the two are probably swapped.',
      });
    } else if (Math.abs(missMm) > TAPE_MM) {
      found.push({
        what: 'Setback at the nose and where the saddle is 80 mm wide',
        missMm,
        slip: `They are ${Math.round(at80 - nose)} mm apart, but this saddle is 80 mm wide ${Math.round(level!)} mm behind its nose: drop the plumb line again, or measure the saddle.`,
      });
    }
  }
  return {
    nose: nose !== null ? typed(nose) : at80 !== null && level !== null ? computed(at80 - level) : null,
    at80: at80 !== null ? typed(at80) : nose !== null && level !== null ? computed(nose + level) : null,
  };
}

function headTube(b: BikeSetup): HeadTube | null {
  const { stackMm, reachMm, headAngleDeg } = b.frame;
  return stackMm === null || reachMm === null || headAngleDeg === null
    ? null
    : { stackMm, reachMm, headAngleDeg };
}

const level = (centreMm: number, dropMm: number): number =>
  Math.sqrt(Math.max(0, centreMm ** 2 - dropMm ** 2));

function wheels(
  b: BikeSetup,
  found: Contradiction[],
): {
  wheelbase: Figured | null;
  frontCentre: Figured | null;
  rear: PlanePoint | null;
  front: PlanePoint | null;
} {
  const { bbDropMm, chainstayMm, frontCentreMm, forkRakeMm, wheelbaseMm } = b.frame;
  const drop = bbDropMm ?? 70;
  const rear = chainstayMm === null ? null : { x: -level(chainstayMm, drop), y: drop };
  const head = headTube(b);
  const sheet =
    head && forkRakeMm !== null && bbDropMm !== null ? frontAxle(head, forkRakeMm, bbDropMm) : null;
  const measured = frontCentreMm === null ? null : { x: level(frontCentreMm, drop), y: drop };
  const base = rear && wheelbaseMm !== null ? { x: rear.x + wheelbaseMm, y: drop } : null;
  const front = measured ?? sheet ?? base;
  if (sheet && measured && Math.abs(measured.x - sheet.x) > TAPE_MM) {
    const missMm = measured.x - sheet.x;
    found.push({
      what: 'Front-centre by tape and from the frame’s sheet',
      missMm,
      slip:
        Math.abs(missMm) > 25
          ? 'Too far apart for a tape: stack, reach or head angle were read from another size’s column.'
          : 'Look at the fork’s rake and the head angle: one degree is about a centimetre here.',
    });
  }
  if (rear && front && front !== base && wheelbaseMm !== null) {
    const missMm = wheelbaseMm - (front.x - rear.x);
    if (Math.abs(missMm) > TAPE_MM) {
      found.push({
        what: 'Wheelbase, and chainstay with front-centre',
        missMm,
        slip:
          Math.abs(missMm) > 60
            ? 'One of them was read along the slope or from the wrong axle.'
            : 'Measure the wheelbase with the front wheel straight ahead.',
      });
    }
  }
  return {
    rear,
    front,
    wheelbase: wheelbaseMm !== null ? typed(wheelbaseMm) : rear && front ? computed(front.x - rear.x) : null,
    frontCentre:
      frontCentreMm !== null ? typed(frontCentreMm) : front ? computed(Math.hypot(front.x, front.y)) : null,
  };
}

/** The clamp from stem and frame, or from nose and drop by tape; where both are there, stem and frame are kept. */
function barClamp(
  b: BikeSetup,
  sit: PlanePoint | null,
  nose: PlanePoint | null,
  found: Contradiction[],
): PlanePoint | null {
  const head = headTube(b);
  const { lengthMm, angleDeg, spacersMm } = b.stem;
  const built =
    head && lengthMm !== null && angleDeg !== null && spacersMm !== null
      ? clampPoint(head, { ...b.stem, lengthMm, angleDeg, spacersMm })
      : null;
  const { fromNoseMm, belowSaddleMm } = b.bar;
  const y = sit && belowSaddleMm !== null ? sit.y - belowSaddleMm - BAR_RADIUS_MM : null;
  const taped =
    nose && fromNoseMm !== null && y !== null && Math.abs(y - nose.y) < fromNoseMm
      ? { x: nose.x + Math.sqrt(fromNoseMm ** 2 - (y - nose.y) ** 2), y }
      : null;
  if (built && taped) {
    const dx = taped.x - built.x;
    const dy = taped.y - built.y;
    const missMm = Math.hypot(dx, dy);
    if (missMm > TAPE_MM) {
      found.push({
        what: 'The bar from stem and frame, and by tape',
        missMm,
        slip: stemSlip(b, { head: head!, taped, dx, dy }),
      });
    }
  }
  return built ?? taped;
}

function stemSlip(
  b: BikeSetup,
  { head, taped, dx, dy }: { head: HeadTube; taped: PlanePoint; dx: number; dy: number },
): string {
  const { lengthMm, angleDeg, spacersMm } = b.stem;
  const turned = clampPoint(head, {
    ...b.stem,
    lengthMm: lengthMm!,
    angleDeg: angleDeg!,
    spacersMm: spacersMm!,
    flipped: !b.stem.flipped,
  });
  if (Math.hypot(taped.x - turned.x, taped.y - turned.y) <= TAPE_MM)
    return `The tape agrees with the stem ${b.stem.flipped ? 'not flipped' : 'flipped'}: look which way up it is.`;
  const steerer = DEG_PER_RAD * Math.atan2(dy, -dx);
  if (Math.abs(steerer - head.headAngleDeg) < 12 || Math.abs(steerer + 180 - head.headAngleDeg) < 12)
    return `The difference runs along the steerer: count the spacers again (${Math.round(Math.hypot(dx, dy))} mm).`;
  if (Math.abs(dy) < TAPE_MM + 2 && Math.abs(dx) > TAPE_MM)
    return `The bar is ${Math.round(Math.abs(dx))} mm ${dx > 0 ? 'further' : 'nearer'} by tape: look at the stem’s length, or the setback at the nose.`;
  return 'Measure the drop with the bike level, and look at the frame’s stack.';
}

function overlapOf(b: BikeSetup, foot: FootSetup, axle: PlanePoint | null): Overlap | null {
  const { headAngleDeg, forkRakeMm, wheelDiameterMm, tyreWidthMm } = b.frame;
  const stance = stanceSideMm(b, foot);
  if (
    !axle ||
    headAngleDeg === null ||
    forkRakeMm === null ||
    wheelDiameterMm === null ||
    b.crank.lengthMm === null ||
    foot.shoeSizeEu === null ||
    stance === null
  )
    return null;
  return toeOverlap({
    crankMm: b.crank.lengthMm,
    tipAheadMm: shoeTipAheadMm(footLengthMm(foot.shoeSizeEu), foot.cleatBehindMm ?? 0),
    tipAboveMm: (b.pedals.stackMm ?? 12) + (foot.soleStackMm ?? 6) + 15,
    stanceSideMm: stance,
    frontAxleMm: axle,
    headAngleDeg,
    forkRakeMm,
    wheelDiameterMm,
    tyreWidthMm: tyreWidthMm ?? 28,
  });
}
