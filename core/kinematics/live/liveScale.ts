import type { Tracks } from '../../tracking/tracks.ts';
import { readTracks, type ReadOptions } from '../read.ts';

/**
 * The scale at which the crank has its true length, where the wheels are not seen: from a first reading at a rough one.
 * @param roughMmPerPx within a third of the true one
 * @returns mm a pixel on the rider's side; null where no turn can be read yet
 */
export function scaleByCrank(
  tracks: Tracks,
  roughMmPerPx: number,
  { facing, crankMm }: { facing: ReadOptions['facing']; crankMm: number },
): number | null {
  const read = readTracks(tracks, { mmPerPx: roughMmPerPx, facing });
  return read.ok ? (roughMmPerPx * crankMm) / read.crank.measuredMm : null;
}
