import { isBody, solveAll, type Known } from './layout.ts';
import type { Landmark, View } from './landmarks.ts';
import type { MovingSpot } from './relations.ts';

/** Below this a name is asked about: it is never taken for sure. */
export const SURE = 0.66;
/** A pedal's way up and down, mm: twice a crank of 165 to 175 mm, and what the foot's tilt adds. */
const RISES_MM = [330, 347, 365];
/** Without its neighbours along the limb a name may be its neighbour's. */
const NEXT_TO: Partial<Record<Landmark, readonly Landmark[]>> = {
  hip: ['knee'],
  knee: ['hip', 'ankle'],
  ankle: ['knee', 'heel', 'toe'],
  heel: ['ankle', 'toe'],
  toe: ['ankle', 'heel'],
  // Without the hand, elbow and hand may pass for shoulder and elbow: the shoulder is out of the picture then.
  shoulder: ['elbow', 'wrist'],
  elbow: ['shoulder', 'wrist'],
  wrist: ['elbow'],
};
const ALONE_SURE = 0.5;
/** From so much more cost on, the second best name is out of the question. */
const SURE_MARGIN = 9;

/** A picture from the side shows so much of the room, mm. */
const SHOWN_MM = { least: 1250, most: 6000 };
/** Ways up and down that are taken for a pedal's, of the longest ones. */
const RISES = 4;

/** Scales at which one of the longest ways up and down is a pedal's; none where nothing moves. */
function scalesOf(spots: readonly MovingSpot[], pictureWidthPx: number): number[] | undefined {
  const rises: number[] = [];
  const all = spots.map((s) => s.swingPx?.y ?? 0).sort((a, b) => b - a);
  for (const rise of all)
    if (rise > 30 && rises.length < RISES && rises.every((r) => r / rise > 1.12)) rises.push(rise);
  const scales = rises
    .flatMap((rise) => RISES_MM.map((mm) => mm / rise))
    .filter((s) => s * pictureWidthPx > SHOWN_MM.least && s * pictureWidthPx < SHOWN_MM.most);
  return scales.length > 0 ? scales : undefined;
}

/** Steps about a scale. */
const FINER = [1, 0.965, 1.035, 0.93, 1.07];

/** The names of a film's spots. */
export interface NamedSpots {
  /** Of each point the spot, and how sure that is, 0…1. */
  names: Partial<Record<Landmark, { spot: number; sure: number }>>;
  cost: number;
  mmPerPx: number;
  facing: 'left' | 'right';
}

/**
 * Which joint each of a film's spots is, by how a body is laid out on several pictures at once and by how far each spot goes:
 * a foot turns with the crank, a hip hardly moves. How sure a name is comes from how much dearer all would be without it.
 * @returns null where the spots make no body
 */
export function nameSpots(
  spots: readonly MovingSpot[],
  view: View,
  known: Known & { pictureWidthPx: number },
): NamedSpots | null {
  const scales = known.mmPerPx ? undefined : scalesOf(spots, known.pictureWidthPx);
  const rough = solveAll(spots, view, { ...known, scales });
  if (!rough || !isBody(rough, view)) return null;
  // Crank and foot are not known to the millimetre: about the scale found, the one at which all lies best.
  const best = known.mmPerPx
    ? rough
    : solveAll(spots, view, {
        mmPerPx: null,
        facing: rough.facing,
        scales: FINER.map((k) => k * rough.mmPerPx),
      })!;
  const at = { mmPerPx: best.mmPerPx, facing: best.facing };
  const names: NamedSpots['names'] = {};
  for (const [key, spot] of best.chosen) {
    const other = solveAll(spots, view, { ...at, scales: [at.mmPerPx] }, { key, spot });
    const margin = (other?.cost ?? Infinity) - best.cost;
    const alone = NEXT_TO[key]?.some((k) => !best.chosen.has(k)) ?? false;
    const most = alone ? ALONE_SURE : 1;
    names[key] = { spot, sure: Math.min(most, Math.max(0, margin / SURE_MARGIN)) * spots[spot].sure ** 0.25 };
  }
  return { names, cost: best.cost, ...at };
}
