import type { ImagePoint } from '../../../core/math/vec.ts';

/** A point being pointed out on the film. */
export interface BoardPoint extends ImagePoint {
  onSticker: boolean;
}

export interface BoardItem {
  key: string;
  name: string;
  plain: string;
  place: string;
  /** Asked for after the others; the station is complete without it. */
  optional?: boolean;
  /** Drawn without its name. */
  quiet?: boolean;
  /** Asked for only when it is chosen in the list. */
  onRequest?: boolean;
}

export type BoardPoints = Partial<Record<string, BoardPoint>>;

/** Whether two boards hold the same points, in whatever order they were put. */
export const samePoints = (a: BoardPoints, b: BoardPoints): boolean => {
  const listed = (p: BoardPoints): string =>
    JSON.stringify(
      Object.keys(p)
        .sort()
        .map((k) => [k, p[k]?.x, p[k]?.y, p[k]?.onSticker]),
    );
  return listed(a) === listed(b);
};

/** The first item that is asked for and has no point yet; none when all have. */
export const nextOpen = (items: readonly BoardItem[], points: BoardPoints): string | null =>
  items.find((i) => !i.onRequest && !points[i.key])?.key ?? null;

/** Whether every point that the station needs stands. */
export const isComplete = (items: readonly BoardItem[], points: BoardPoints): boolean =>
  items.every((i) => i.optional || points[i.key]);
