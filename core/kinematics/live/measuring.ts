import { ANKLE_RANGE_RIDE_SD_DEG, KNEE_MAX_RIDE_SD_DEG, RIDE_SD_DEG } from '../uncertainty.ts';
import { changeBetween, LEAST_TURNS, settledFrom, type TurnChange } from './changed.ts';
import { isMeanFigure, LIVE_KEYS, type LiveKey, type Turn } from './turns.ts';

/** A figure that a change moved, or did not. */
export interface MeasuredFigure extends TurnChange {
  key: LiveKey;
}

/** How far the measuring of a change has come. */
export type ChangeState =
  /** Too little was ridden before it: there is nothing to compare with. */
  | { state: 'no-before'; turns: number; wanted: number }
  /** The rider is finding the new place: so many turns more at the least. */
  | { state: 'settling'; more: number }
  | {
      state: 'measured';
      figures: MeasuredFigure[];
      turnsBefore: number;
      turnsAfter: number;
      /** When the rider had settled. */
      settledS: number;
      /** The rider got off, stood up or rested in between: sitting down anew is in the ±. */
      satAnew: boolean;
    };

/** As many turns before a change as count: longer ago the rider sat otherwise. */
const MOST_BEFORE = 24;
/** A figure that is seen on more than this share of the turns is followed. */
const MOSTLY = 0.7;
/** A rest this long between two turns: whoever rested has sat down anew. */
const RESTED_S = 60;

/** The same rider off the bike and on again, SD, by figure (handbook: measuring). */
const RIDE_SD: Record<LiveKey, number> = {
  kneeFlexionMinDeg: RIDE_SD_DEG.kneeFlexionDeg,
  kneeFlexionMaxDeg: KNEE_MAX_RIDE_SD_DEG,
  hipAngleMinDeg: RIDE_SD_DEG.hipAngleDeg,
  backAngleDeg: RIDE_SD_DEG.backAngleDeg,
  shoulderAngleDeg: RIDE_SD_DEG.shoulderAngleDeg,
  elbowFlexionDeg: RIDE_SD_DEG.elbowFlexionDeg,
  footPitch90Deg: RIDE_SD_DEG.footPitchDeg,
  footPitch180Deg: RIDE_SD_DEG.footPitchDeg,
  ankleRangeDeg: ANKLE_RANGE_RIDE_SD_DEG,
};

const valuesOf = (turns: readonly Turn[], key: LiveKey): number[] =>
  turns.flatMap((t) => t.figures[key] ?? []);

/**
 * What a change did, from the turns of one run of the camera.
 * @param atS when it was put on the bike, and `beganS` when the first part of it was, where it came in parts  @param fromS since when the bike stood as before it  @param untilS when the next one came
 * @param roseS when the rider rose from the saddle
 */
export function measureChange(
  turns: readonly Turn[],
  {
    atS,
    beganS = atS,
    fromS,
    untilS = Infinity,
    roseS = [],
  }: { atS: number; beganS?: number; fromS: number; untilS?: number; roseS?: readonly number[] },
): ChangeState {
  const before = turns.filter((t) => t.startS >= fromS && t.endS <= beganS).slice(-MOST_BEFORE);
  if (before.length < LEAST_TURNS) return { state: 'no-before', turns: before.length, wanted: LEAST_TURNS };
  const ridden = turns.filter((t) => t.startS >= atS && t.endS <= untilS);
  const followed = LIVE_KEYS.filter((key) => valuesOf(ridden, key).length > MOSTLY * ridden.length);
  // A turn on which one of them was lost is no step towards rest.
  const since = ridden.filter((t) => followed.every((key) => t.figures[key] !== undefined));
  const settled = settledFrom(followed.length ? followed.map((key) => valuesOf(since, key)) : [[]]);
  if (!settled.settled) return { state: 'settling', more: settled.more };
  const after = since.slice(settled.from);
  const all = [...before, ...after];
  const satAnew =
    all.some((t, i) => i > 0 && t.startS - all[i - 1].endS > RESTED_S) ||
    roseS.some((s) => s > before[0].startS && s < after[after.length - 1].endS);
  const figures = LIVE_KEYS.flatMap((key): MeasuredFigure[] => {
    const change = changeBetween(valuesOf(before, key), valuesOf(after, key), {
      isMean: isMeanFigure(key),
      rideSd: satAnew ? RIDE_SD[key] : 0,
    });
    return change ? [{ key, ...change }] : [];
  });
  return {
    state: 'measured',
    figures,
    turnsBefore: before.length,
    turnsAfter: after.length,
    settledS: after[0].startS,
    satAnew,
  };
}

/** Where a figure is going: by how much the last turns differ from those before them, where that is more than strokes stray. */
export function trendOf(turns: readonly Turn[], key: LiveKey): 'up' | 'down' | 'steady' {
  const values = valuesOf(turns.slice(-2 * TREND_TURNS), key);
  const change = changeBetween(values.slice(0, -TREND_TURNS), values.slice(-TREND_TURNS), {
    isMean: isMeanFigure(key),
  });
  if (!change?.real) return 'steady';
  return change.by > 0 ? 'up' : 'down';
}
const TREND_TURNS = 8;

/** What is kept of it: figures without what follows from them. */
export const measuredChange = ({
  figures,
  turnsBefore,
  turnsAfter,
  satAnew,
}: Extract<ChangeState, { state: 'measured' }>): {
  figures: Pick<MeasuredFigure, 'key' | 'before' | 'after' | 'uncertainty'>[];
  turnsBefore: number;
  turnsAfter: number;
  satAnew: boolean;
} => ({
  figures: figures.map(({ key, before, after, uncertainty }) => ({ key, before, after, uncertainty })),
  turnsBefore,
  turnsAfter,
  satAnew,
});
