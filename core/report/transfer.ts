import { mean } from '../math/statistics.ts';
import { hoodPoint } from '../bike/cockpit.ts';
import type { Part } from '../bike/parts.ts';
import { resolveBike } from '../bike/resolve.ts';
import { saddleMeasures } from '../bike/saddle.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import { dot, type PlanePoint } from '../math/vec.ts';
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

/** What has to be known of either bike before its saddle or hands can be placed. */
function stillOpen(a: ReturnType<typeof resolveBike>, { frame, bar }: BikeSetup): string[] {
  const noSaddle = !a.points.sit || a.setback80Mm === null;
  const noFront = frame.stackMm === null || frame.reachMm === null || frame.headAngleDeg === null;
  return [
    ...(noSaddle ? ['this bike’s saddle height and setback'] : []),
    ...(a.points.hood ? [] : ['where this bike’s hoods stand: stem, spacers, bar reach and frame']),
    ...(noFront ? ['the other frame’s stack, reach and head angle'] : []),
    ...(frame.seatTubeMm === null
      ? ['the other frame’s seat tube: without it the post’s showing length stays open']
      : []),
    ...(bar.reachMm === null ? ['the other bar’s reach to the hoods'] : []),
  ];
}

/** By how much other cranks, pedals and soles change the saddle's height, and why. */
function heightCarried(from: BikeSetup, to: BikeSetup): Pick<Transfer, 'open' | 'carriedMm' | 'carried'> {
  const [ca, cb] = [from.crank.lengthMm, to.crank.lengthMm];
  const crankMm = ca !== null && cb !== null ? ca - cb : 0;
  const under = underFoot(from, to) ?? 0;
  const footMm = Math.abs(under) > 0.4 ? under : 0;
  return {
    open: ca !== null && cb === null ? ['the other bike’s crank length: the same is taken'] : [],
    carriedMm: crankMm + footMm,
    carried: [
      ...(crankMm ? [`crank ${cb} mm in place of ${ca} mm: saddle ${signed(crankMm)} mm`] : []),
      ...(footMm ? [`pedal and sole ${signed(footMm)} mm: saddle ${signed(footMm)} mm`] : []),
    ],
  };
}

/** Where the rails of a saddle are clamped on a post's line, the offset chosen that misses least. */
interface Clamped {
  offsetMm: number;
  /** Clamp ahead of the rails' middle. */
  railMm: number;
  /** How much further it would have to stand: the saddle stands by that too far forward. */
  missedMm: number;
  /** The sit point that comes of it, and how far up the post's line its clamp is. */
  sit: PlanePoint;
  upMm: number;
}

const plus = (p: PlanePoint, q: PlanePoint, by = 1): PlanePoint => ({ x: p.x + by * q.x, y: p.y + by * q.y });

function clampedAt(wantedSit: PlanePoint, tiltDeg: number, up: PlanePoint): Clamped {
  const rails = turned({ x: RAILS_AHEAD_MM, y: -RAILS_BELOW_MM }, tiltDeg);
  const back = { x: -up.y, y: up.x };
  // The clamp may stand anywhere along the rails: along them the saddle goes back by as much as the clamp goes forward.
  const along = turned({ x: 1, y: 0 }, tiltDeg);
  const behind = dot(plus(wantedSit, rails), back);
  const offers = POST_OFFSETS_MM.map((offsetMm) => {
    // How far ahead of the rails' middle the clamp has to stand, so that it lies on the post's line.
    const ahead = (offsetMm - behind) / dot(along, back);
    const railMm = Math.max(-RAIL_RANGE_MM, Math.min(RAIL_RANGE_MM, ahead));
    return { offsetMm, railMm, missedMm: ahead - railMm };
  });
  const best = offers.reduce((p, q) =>
    Math.abs(q.missedMm) < Math.abs(p.missedMm) - 1e-9 ||
    (Math.abs(q.missedMm) < Math.abs(p.missedMm) + 1e-9 && Math.abs(q.railMm) < Math.abs(p.railMm))
      ? q
      : p,
  );
  // Where the rails end the saddle stands by the rest too far forward or back.
  const sit = plus(wantedSit, along, best.missedMm);
  return { ...best, sit, upMm: dot(plus(plus(sit, rails), along, best.railMm), up) };
}

/** How much of the post shows, and by how much it has to be lifted (+) or lowered to stay within what it may. */
function postAt({ frame, saddle }: BikeSetup, upMm: number): { showingMm: number | null; liftMm: number } {
  if (frame.seatTubeMm === null) return { showingMm: null, liftMm: 0 };
  const free = upMm - frame.seatTubeMm;
  const showingMm = Math.max(LEAST_SHOWING_MM, Math.min(saddle.postShowingMostMm ?? Infinity, free));
  return { showingMm, liftMm: showingMm - free };
}

function saddleMisses({ missedMm, offsetMm }: Clamped, liftMm: number): TransferMiss[] {
  const misses: TransferMiss[] = [];
  if (Math.abs(missedMm) > NEAR_MM)
    misses.push({
      what: 'Setback',
      missMm: Math.abs(missedMm),
      words: `the saddle stays ${Math.round(Math.abs(missedMm))} mm too far ${missedMm > 0 ? 'forward' : 'back'}: rails at their end, with ${offsetMm === 0 ? 'a straight post' : `a post of ${offsetMm} mm offset`}`,
    });
  if (Math.abs(liftMm) > NEAR_MM)
    misses.push({
      what: 'Saddle height',
      missMm: Math.abs(liftMm),
      words:
        liftMm > 0
          ? `the saddle stays ${Math.round(liftMm)} mm too high: the post is all the way in`
          : `the saddle stays ${Math.round(-liftMm)} mm too low: the post is at its minimum insertion`,
    });
  return misses;
}

function handMisses(hands: Transfer['hands']): TransferMiss[] {
  const nearest = hands?.builds[0];
  if (!nearest || nearest.missMm <= NEAR_MM + 2) return [];
  return [
    {
      what: 'Hands',
      missMm: nearest.missMm,
      words: `with the nearest front the hoods stand ${away(nearest.offMm)} of where they are wanted`,
    },
  ];
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
  const { carriedMm, carried, ...height } = heightCarried(from, to);
  const open = [...stillOpen(a, to), ...height.open];
  const { sit, hood } = a.points;
  if (!sit || a.setback80Mm === null)
    return { open, carriedMm, carried, saddle: null, hands: null, misses: [] };
  const long = Math.hypot(sit.x, sit.y);
  const wantedSit = { x: (sit.x * (long + carriedMm)) / long, y: (sit.y * (long + carriedMm)) / long };
  const tiltDeg = from.saddle.tiltDeg ?? 0;
  const seat = to.frame.seatAngleDeg * RAD_PER_DEG;
  const up = { x: -Math.cos(seat), y: Math.sin(seat) };
  const clamped = clampedAt(wantedSit, tiltDeg, up);
  const { showingMm, liftMm } = postAt(to, clamped.upMm);
  if (showingMm !== null && to.saddle.postShowingMostMm === null)
    open.push('how far the other post may show: look at its mark');
  const reachedSit = plus(clamped.sit, up, liftMm);
  const { heightMm, setback80Mm } = saddleMeasures({
    sit: reachedSit,
    nose: plus(reachedSit, turned({ x: 1, y: 0 }, tiltDeg)),
  });
  const hands = hood
    ? handsOn(to, {
        parts,
        hoodA: hood,
        sitA: sit,
        sitB: priority === 'saddle' ? reachedSit : wantedSit,
      })
    : null;
  return {
    open,
    carriedMm,
    carried,
    saddle: {
      wantedSit,
      reachedSit,
      heightMm,
      setback80Mm,
      tiltDeg,
      postShowingMm: showingMm,
      postOffsetMm: clamped.offsetMm,
      railMm: clamped.railMm,
    },
    hands,
    misses: [...saddleMisses(clamped, liftMm), ...handMisses(hands)],
  };
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
  // A stem that is on it or, where nothing is stated of one, one to begin with: offers are reported against it.
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
