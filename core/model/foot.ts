/**
 * Where a point of the foot is from the pedal spindle, forward in the bike plane, mm.
 * @param alongMm from the spindle towards the toe, in the foot's own frame   @param aboveMm above the spindle there
 * @param cos and sin of the foot's pitch, toe-down positive
 */
export const footX = (alongMm: number, aboveMm: number, cos: number, sin: number): number =>
  alongMm * cos + aboveMm * sin;

/** The same, upward. */
export const footY = (alongMm: number, aboveMm: number, cos: number, sin: number): number =>
  aboveMm * cos - alongMm * sin;
