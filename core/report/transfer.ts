import { mean } from '../math/statistics.ts';
import { hoodPoint } from '../bike/cockpit.ts';
import type { Part } from '../bike/parts.ts';
import { resolveBike } from '../bike/resolve.ts';
import { saddleMeasures } from '../bike/saddle.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import { RAIL_RANGE_MM } from '../plan/controls/controls.ts';
import { buildsFor, type BuildOffer } from '../plan/cockpitBuilds.ts';

/** What gives way first where the saddle can't be had: the hands keep their distance to the saddle, or to the bottom bracket. */
export type Priority = 'saddle' | 'hands';

/** Where a part of the position lands on the other bike. */
export interface TransferMiss {
  what: string;
  /** mm; where it is a matter of direction, what is missing. */
  missMm: number;
  words: string;
}

export interface TransferBuild extends BuildOffer {
  /** Of the hood to where it is wanted: ahead and above. */
  offMm: PlanePoint;
}

export interface Transfer {
  /** What has to be known of the other bike before anything can be said of saddle or hands. */
  open: string[];
  /** By how much the saddle's height changes for other cranks and pedals, and why. */
  carriedMm: number;
  carried: string[];
  saddle: {
    wantedSit: PlanePoint;
    reachedSit: PlanePoint;
    heightMm: number;
    setback80Mm: number;
    tiltDeg: number;
    /** Of the post: showing above the seat tube, offset behind its own axis, and where in the rails it clamps (+ saddle back). */
    postShowingMm: number | null;
    postOffsetMm: number;
    railMm: number;
  } | null;
  hands: {
    wantedHood: PlanePoint;
    /** The best first. */
    builds: TransferBuild[];
  } | null;
  misses: TransferMiss[];
}

/** Offsets that seatposts are made in (makers’ usual). */
const POST_OFFSETS_MM = [0, 15, 25] as const;
/** Of a saddle: its rails' middle ahead of the sit point and below its top (usual shapes; the same saddle is taken along). */
const RAILS_AHEAD_MM = 45;
const RAILS_BELOW_MM = 45;
/** A clamp's own height over the seat tube's collar: no post goes lower. */
const LEAST_SHOWING_MM = 30;
/** Nearer than this nothing is missing. */
const NEAR_MM = 2;

const turned = (p: PlanePoint, deg: number): PlanePoint => {
  const [c, s] = [Math.cos(deg * RAD_PER_DEG), Math.sin(deg * RAD_PER_DEG)];
  return { x: p.x * c - p.y * s, y: p.x * s + p.y * c };
};

/** By how much the foot stands higher over the spindle: pedal, and sole where it is known of both; null where the pedals are not. */
function underFoot(a: BikeSetup, b: BikeSetup): number | null {
  if (a.pedals.stackMm === null || b.pedals.stackMm === null) return null;
  const soles = (['left', 'right'] as const).flatMap((side) => {
    const [was, is] = [a.feet[side].soleStackMm, b.feet[side].soleStackMm];
    return was !== null && is !== null ? [is - was] : [];
  });
  const sole = soles.length ? mean(soles) : 0;
  return b.pedals.stackMm - a.pedals.stackMm + sole;
}

/**
 * Carries a position over to another frame (handbook: models, transfer): crank and pedal differences go into the saddle's height,
 * along the line from the bottom bracket to the sit point; then the post and the rails, then the front from the parts bin. What can't be
 * reached is listed with the miss.
 * @param from the bike of the position, as handed over  @param to the other bike: its frame, crank, pedals, bar, post's mark
 * @param parts stems and spacers that are there
 */
export function transfer(
  from: BikeSetup,
  to: BikeSetup,
  parts: readonly Part[],
  priority: Priority = 'saddle',
): Transfer {
  const a = resolveBike(from);
  const open: string[] = [];
  const misses: TransferMiss[] = [];
  const { frame } = to;
  if (!a.points.sit || a.setback80Mm === null) open.push('this bike’s saddle height and setback');
  if (!a.points.hood) open.push('where this bike’s hoods stand: stem, spacers, bar reach and frame');
  if (frame.stackMm === null || frame.reachMm === null || frame.headAngleDeg === null)
    open.push('the other frame’s stack, reach and head angle');
  if (frame.seatTubeMm === null)
    open.push('the other frame’s seat tube: without it the post’s showing length stays open');
  if (to.bar.reachMm === null) open.push('the other bar’s reach to the hoods');

  const carried: string[] = [];
  let carriedMm = 0;
  const [ca, cb] = [from.crank.lengthMm, to.crank.lengthMm];
  if (ca !== null && cb !== null && ca !== cb) {
    carriedMm += ca - cb;
    carried.push(`crank ${cb} mm in place of ${ca} mm: saddle ${signed(ca - cb)} mm`);
  } else if (ca !== null && cb === null) open.push('the other bike’s crank length: the same is taken');
  const higher = underFoot(from, to);
  if (higher !== null && Math.abs(higher) > 0.4) {
    carriedMm += higher;
    carried.push(`pedal and sole ${signed(higher)} mm: saddle ${signed(higher)} mm`);
  }

  if (!a.points.sit || a.setback80Mm === null)
    return { open, carriedMm, carried, saddle: null, hands: null, misses };
  const long = Math.hypot(a.points.sit.x, a.points.sit.y);
  const wantedSit = {
    x: (a.points.sit.x * (long + carriedMm)) / long,
    y: (a.points.sit.y * (long + carriedMm)) / long,
  };
  const tiltDeg = from.saddle.tiltDeg ?? 0;
  const rails = turned({ x: RAILS_AHEAD_MM, y: -RAILS_BELOW_MM }, tiltDeg);
  const seat = frame.seatAngleDeg * RAD_PER_DEG;
  const up = { x: -Math.cos(seat), y: Math.sin(seat) };
  const back = { x: -Math.sin(seat), y: -Math.cos(seat) };
  const middle = { x: wantedSit.x + rails.x, y: wantedSit.y + rails.y };
  // The clamp may stand anywhere along the rails: along them the saddle goes back by as much as the clamp goes forward.
  const along = turned({ x: 1, y: 0 }, tiltDeg);
  const behind = middle.x * back.x + middle.y * back.y;
  const perRail = along.x * back.x + along.y * back.y;
  const offers = POST_OFFSETS_MM.map((offset) => {
    // How far ahead of the rails' middle the clamp has to stand, so that it lies on the post's line.
    const ahead = (offset - behind) / perRail;
    const held = Math.max(-RAIL_RANGE_MM, Math.min(RAIL_RANGE_MM, ahead));
    return { offset, ahead: held, missed: ahead - held };
  });
  const best = offers.reduce((p, q) =>
    Math.abs(q.missed) < Math.abs(p.missed) - 1e-9 ||
    (Math.abs(q.missed) < Math.abs(p.missed) + 1e-9 && Math.abs(q.ahead) < Math.abs(p.ahead))
      ? q
      : p,
  );
  // Where the rails end the saddle stands by the rest too far forward or back.
  const sitAtRails = { x: wantedSit.x + best.missed * along.x, y: wantedSit.y + best.missed * along.y };
  const clamp = {
    x: sitAtRails.x + rails.x + best.ahead * along.x,
    y: sitAtRails.y + rails.y + best.ahead * along.y,
  };
  const reachUp = clamp.x * up.x + clamp.y * up.y;
  const tube = frame.seatTubeMm;
  let postShowingMm = tube === null ? null : reachUp - tube;
  let lift = 0;
  if (postShowingMm !== null && tube !== null) {
    const most = to.saddle.postShowingMostMm;
    if (postShowingMm < LEAST_SHOWING_MM) lift = LEAST_SHOWING_MM - postShowingMm;
    else if (most !== null && postShowingMm > most) lift = most - postShowingMm;
    if (most === null) open.push('how far the other post may show: look at its mark');
    postShowingMm += lift;
  }
  const reachedSit = { x: sitAtRails.x + lift * up.x, y: sitAtRails.y + lift * up.y };
  if (Math.abs(best.missed) > NEAR_MM)
    misses.push({
      what: 'Setback',
      missMm: Math.abs(best.missed),
      words: `the saddle stays ${Math.round(Math.abs(best.missed))} mm too far ${best.missed > 0 ? 'forward' : 'back'}: rails at their end, with ${best.offset === 0 ? 'a straight post' : `a post of ${best.offset} mm offset`}`,
    });
  if (Math.abs(lift) > NEAR_MM)
    misses.push({
      what: 'Saddle height',
      missMm: Math.abs(lift),
      words:
        lift > 0
          ? `the saddle stays ${Math.round(lift)} mm too high: the post is all the way in`
          : `the saddle stays ${Math.round(-lift)} mm too low: the post is at its minimum insertion`,
    });
  const measures = saddleMeasures({
    sit: reachedSit,
    nose: {
      x: reachedSit.x + Math.cos(tiltDeg * RAD_PER_DEG),
      y: reachedSit.y + Math.sin(tiltDeg * RAD_PER_DEG),
    },
  });
  const saddle = {
    wantedSit,
    reachedSit,
    heightMm: measures.heightMm,
    setback80Mm: measures.setback80Mm,
    tiltDeg,
    postShowingMm,
    postOffsetMm: best.offset,
    railMm: best.ahead,
  };

  const hands = a.points.hood
    ? handsOn(to, {
        parts,
        hoodA: a.points.hood,
        sitA: a.points.sit,
        sitB: priority === 'saddle' ? reachedSit : wantedSit,
      })
    : null;
  const nearest = hands?.builds[0];
  if (nearest && nearest.missMm > NEAR_MM + 2)
    misses.push({
      what: 'Hands',
      missMm: nearest.missMm,
      words: `with the nearest front the hoods stand ${away(nearest.offMm)} of where they are wanted`,
    });
  return { open, carriedMm, carried, saddle, hands, misses };
}

/** The builds by how near they bring the hoods, the sit point's distance kept. */
function handsOn(
  to: BikeSetup,
  {
    parts,
    hoodA,
    sitA,
    sitB,
  }: { parts: readonly Part[]; hoodA: PlanePoint; sitA: PlanePoint; sitB: PlanePoint },
): Transfer['hands'] {
  const wantedHood = { x: sitB.x + hoodA.x - sitA.x, y: sitB.y + hoodA.y - sitA.y };
  // A stem that is on it or, where nothing is said of one, one to begin with: offers are told against it.
  const begun: BikeSetup = {
    ...to,
    stem: {
      ...to.stem,
      lengthMm: to.stem.lengthMm ?? 90,
      angleDeg: to.stem.angleDeg ?? -6,
      spacersMm: to.stem.spacersMm ?? 10,
    },
  };
  const b = resolveBike(begun);
  if (!b.points.clamp || begun.bar.reachMm === null) return null;
  const now = hoodPoint(b.points.clamp, {
    reachMm: begun.bar.reachMm,
    hoodRiseMm: begun.bar.hoodRiseMm ?? 0,
    rotationDeg: begun.bar.rotationDeg ?? 0,
  });
  const wanted = { x: wantedHood.x - now.x, y: wantedHood.y - now.y };
  const builds = buildsFor({ bike: begun, parts }, wanted, 6).map((f): TransferBuild => ({
    ...f,
    offMm: { x: f.handMm.x - wanted.x, y: f.handMm.y - wanted.y },
  }));
  return { wantedHood, builds };
}

const signed = (v: number): string => `${v > 0 ? '+' : v < 0 ? '−' : ''}${Math.round(10 * Math.abs(v)) / 10}`;

/** “12 mm ahead, 4 mm below”. */
export function away(off: PlanePoint): string {
  const parts = [
    Math.round(off.x) !== 0 ? `${Math.abs(Math.round(off.x))} mm ${off.x > 0 ? 'ahead' : 'short'}` : null,
    Math.round(off.y) !== 0 ? `${Math.abs(Math.round(off.y))} mm ${off.y > 0 ? 'above' : 'below'}` : null,
  ].filter((v) => v !== null);
  return parts.join(' and ') || '0 mm';
}
