/** Frames of a film from one to another, both counted in. */
export interface FilmPart {
  from: number;
  to: number;
}

/**
 * The parts of a film between the places that can't be decoded, the longest first.
 * @param film its number of frames, and the broken places in their order
 */
export function goodParts({ frames, broken }: { frames: number; broken: readonly FilmPart[] }): FilmPart[] {
  const starts = [0, ...broken.map((b) => b.to + 1)];
  const ends = [...broken.map((b) => b.from - 1), frames - 1];
  return starts
    .map((from, k) => ({ from, to: ends[k] }))
    .filter(({ from, to }) => to >= from)
    .sort((a, b) => b.to - b.from - (a.to - a.from));
}

/** “212” or “212 to 217”. */
export const partText = ({ from, to }: FilmPart): string => (from === to ? `${from}` : `${from} to ${to}`);
