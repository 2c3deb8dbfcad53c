import { aheadOf, scaleFromWidth } from '../camera/frontalScale.ts';
import type { FrontalOptions } from '../kinematics/frontalReading.ts';
import { isFrontal } from '../landmarks/landmarks.ts';
import { scaleFromAxles, type ScaleResult } from '../camera/plane.ts';
import type { ReadOptions } from '../kinematics/read.ts';
import { setupOf } from './rounds.ts';
import { openTake, type FitSession, type Take } from '../records/types.ts';

/** Scale, level and squareness of a side take's film from the points on its wheels; null while axles are open. */
export function scaleOf(session: FitSession, take = openTake(session)): ScaleResult | null {
  const { asFound } = session;
  if (!take?.axles.rear || !take.axles.front) return null;
  const { rearTop, rearBottom, frontTop, frontBottom } = take.rims;
  return scaleFromAxles({
    rearAxlePx: take.axles.rear,
    frontAxlePx: take.axles.front,
    wheelbaseMm: asFound.frame.wheelbaseMm ?? 0,
    rims:
      rearTop && rearBottom && frontTop && frontBottom
        ? { rearTop, rearBottom, frontTop, frontBottom }
        : null,
    centrePx: { x: take.video.widthPx / 2, y: take.video.heightPx / 2 },
  });
}

/** What a side take's reading needs from the session beside the tracks; null while the scale is open. */
export function readOptions(session: FitSession, take: Take | null): ReadOptions | null {
  const scale = scaleOf(session, take);
  if (!scale?.ok) return null;
  return {
    mmPerPx: scale.mmPerPx,
    levelDeg: scale.levelDeg,
    facing: scale.facing,
    keystone: scale.keystone,
    crankMm: setupOf(session, take).crank.lengthMm ?? undefined,
    estimated: take?.tracking.estimated ?? false,
  };
}

/** The same for a take from the front or the rear; null while neither a width nor the crank is known. */
export function frontalOptions(session: FitSession, take: Take): FrontalOptions | null {
  if (!isFrontal(take.view)) return null;
  const scale = scaleFromWidth(take.width);
  const crankMm = setupOf(session, take).crank.lengthMm ?? undefined;
  if (!scale.ok && !crankMm) return null;
  return {
    view: take.view,
    centrePx: { x: take.video.widthPx / 2, y: take.video.heightPx / 2 },
    width: scale.ok ? { ...scale, aheadMm: aheadOf(take.width.of, take.view, setupOf(session, take)) } : null,
    crankMm,
  };
}
