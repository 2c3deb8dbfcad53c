import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';

/** The frame's front, BB origin, x forward, y up. */
export interface HeadTube {
  stackMm: number;
  reachMm: number;
  /** Head angle from horizontal. */
  headAngleDeg: number;
}

export interface StemOnSteerer {
  lengthMm: number;
  /** From the normal to the steering axis, as printed: minus = down when not flipped. */
  angleDeg: number;
  flipped: boolean;
  spacersMm: number;
  capMm: number;
  clampHeightMm: number;
}

/** Up the steering axis, and forward square to it (handbook: models, frame and cockpit). */
function axes(headAngleDeg: number): { up: PlanePoint; forward: PlanePoint } {
  const c = Math.cos(headAngleDeg * RAD_PER_DEG);
  const s = Math.sin(headAngleDeg * RAD_PER_DEG);
  return { up: { x: -c, y: s }, forward: { x: s, y: c } };
}

const along = (p: PlanePoint, u: PlanePoint, by: number): PlanePoint => ({
  x: p.x + by * u.x,
  y: p.y + by * u.y,
});

/** Where the middle of the stem's steerer clamp stands. */
function stemFoot(
  head: HeadTube,
  s: Pick<StemOnSteerer, 'spacersMm' | 'capMm' | 'clampHeightMm'>,
): PlanePoint {
  const { up } = axes(head.headAngleDeg);
  return along({ x: head.reachMm, y: head.stackMm }, up, s.spacersMm + s.capMm + s.clampHeightMm / 2);
}

/** The middle of the bar's clamp, mm in the bike plane (handbook: models, frame and cockpit). */
export function clampPoint(head: HeadTube, s: StemOnSteerer): PlanePoint {
  const { up, forward } = axes(head.headAngleDeg);
  const angle = (s.flipped ? -s.angleDeg : s.angleDeg) * RAD_PER_DEG;
  const foot = stemFoot(head, s);
  return along(along(foot, forward, s.lengthMm * Math.cos(angle)), up, s.lengthMm * Math.sin(angle));
}

/**
 * The stem that puts the clamp at a wanted point, over given spacers: the inverse of `clampPoint`.
 * @returns length and angle as it would have to be printed for an unflipped stem
 */
export function stemFor(
  head: HeadTube,
  s: Pick<StemOnSteerer, 'spacersMm' | 'capMm' | 'clampHeightMm'>,
  clamp: PlanePoint,
): { lengthMm: number; angleDeg: number } {
  const { up, forward } = axes(head.headAngleDeg);
  const foot = stemFoot(head, s);
  const d = { x: clamp.x - foot.x, y: clamp.y - foot.y };
  const ahead = d.x * forward.x + d.y * forward.y;
  const above = d.x * up.x + d.y * up.y;
  return { lengthMm: Math.hypot(ahead, above), angleDeg: Math.atan2(above, ahead) * DEG_PER_RAD };
}

/** The hoods (or grips): the bar's reach and rise from the clamp, turned with the bar; rolled up positive. */
export function hoodPoint(
  clamp: PlanePoint,
  bar: { reachMm: number; hoodRiseMm: number; rotationDeg: number },
): PlanePoint {
  const c = Math.cos(bar.rotationDeg * RAD_PER_DEG);
  const s = Math.sin(bar.rotationDeg * RAD_PER_DEG);
  return {
    x: clamp.x + bar.reachMm * c - bar.hoodRiseMm * s,
    y: clamp.y + bar.reachMm * s + bar.hoodRiseMm * c,
  };
}

/**
 * The front axle from the frame's sheet: on a line `rake` ahead of the steering axis, at the axles' height (own derivation from
 * the same axes).
 */
export function frontAxle(head: HeadTube, forkRakeMm: number, bbDropMm: number): PlanePoint {
  const { up, forward } = axes(head.headAngleDeg);
  const top = { x: head.reachMm, y: head.stackMm };
  const down = (top.y + forkRakeMm * forward.y - bbDropMm) / up.y;
  return along(along(top, forward, forkRakeMm), up, -down);
}
