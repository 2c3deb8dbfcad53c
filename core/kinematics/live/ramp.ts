import { bisector, extent, group, mean } from 'd3';
import { changeBetween, meanOfTurns, type TurnChange, type TurnMean } from './changed.ts';
import { isMeanFigure, LIVE_KEYS, type LiveKey, type Turn } from './turns.ts';

/** What the rider worked at a time, on the turns' own clock. */
export interface LoadAt {
  tS: number;
  powerW: number;
}

/** What is followed over a ramp: the live figures, degrees, and where the rider sits, mm. */
export const RAMP_KEYS = [...LIVE_KEYS, 'hipForwardMm', 'hipUpMm'] as const;
export type RampKey = (typeof RAMP_KEYS)[number];

/** A figure at one load, or over one minute. */
export interface RampPoint extends TurnMean {
  /** Watts, or minutes since the ramp began. */
  at: number;
}

/** By how much a figure differs between the ends of a ramp. */
export interface RampDrift extends TurnChange {
  key: RampKey;
}

/** The figures of a ramp against load or against time. */
export interface RampWay {
  over: 'power' | 'minutes';
  /** Its ends: watts or minutes. */
  from: number;
  to: number;
  points: Partial<Record<RampKey, RampPoint[]>>;
  drifts: RampDrift[];
}

/** A turn's load is what was read from so long before it to so long after it. */
const NEAR_S = 0.6;
/** A turn on which the load changed by so much is of neither. */
const STEP_W = 40;
/** Turns of one load lie within so much of each other; a ramp reaches over more than one of these. */
const STAGE_W = 25;
const LEAST_RANGE_W = 40;
const STAGE_TURNS = 8;

const valueOf = ({ figures, hip }: Turn, key: RampKey): number | undefined =>
  key === 'hipForwardMm' ? hip?.forwardMm : key === 'hipUpMm' ? hip?.upMm : figures[key];

const valuesOf = (turns: readonly Turn[], key: RampKey): number[] =>
  turns.flatMap((t) => valueOf(t, key) ?? []);

/** A hip's place is a mean over the turn as well. */
const isMean = (key: RampKey): boolean => key.endsWith('Mm') || isMeanFigure(key as LiveKey);

interface Stage {
  at: number;
  turns: Turn[];
}

const byTime = bisector((l: LoadAt) => l.tS);

/** Turns in the order of their load, cut into stages; those that nobody knows the load of, or on which it changed, are left out. */
function stagesByPower(turns: readonly Turn[], load: readonly LoadAt[]): Stage[] {
  const worked = turns
    .flatMap((turn) => {
      const near = load.slice(
        byTime.left(load, turn.startS - NEAR_S),
        byTime.right(load, turn.endS + NEAR_S),
      );
      const [least = 0, most = 0] = extent(near, (l) => l.powerW);
      return near.length > 0 && most - least < STEP_W ? [{ turn, powerW: mean(near, (l) => l.powerW)! }] : [];
    })
    .sort((a, b) => a.powerW - b.powerW);
  const cut: (typeof worked)[] = [];
  for (const w of worked) {
    const last = cut[cut.length - 1];
    const isFull = last && last.length >= STAGE_TURNS && w.powerW - last[0].powerW > STAGE_W;
    if (last && !isFull) last.push(w);
    else cut.push([w]);
  }
  return cut.map((stage) => ({
    at: mean(stage, (w) => w.powerW)!,
    // Neighbours in time are alike: their order tells how much.
    turns: stage.map((w) => w.turn).sort((a, b) => a.startS - b.startS),
  }));
}

const stagesByMinute = (turns: readonly Turn[]): Stage[] =>
  [...group(turns, (t) => Math.floor((t.startS - turns[0].startS) / 60))].map(([minute, of]) => ({
    at: minute + 0.5,
    turns: of,
  }));

/** The figures of each stage, and how the last one differs from the first; null where there is no way from one to another. */
function wayOver(over: RampWay['over'], all: readonly Stage[]): RampWay | null {
  const stages = all.filter((s) => s.turns.length >= STAGE_TURNS);
  const [first, last] = [stages[0], stages[stages.length - 1]];
  if (stages.length < 2 || (over === 'power' && last.at - first.at < LEAST_RANGE_W)) return null;
  const points: RampWay['points'] = {};
  for (const key of RAMP_KEYS) {
    const of = stages.flatMap(({ at, turns }): RampPoint[] => {
      const value = meanOfTurns(valuesOf(turns, key), { isMean: isMean(key) });
      return value ? [{ at, ...value }] : [];
    });
    if (of.length > 1) points[key] = of;
  }
  const drifts = RAMP_KEYS.flatMap((key): RampDrift[] => {
    const change = changeBetween(valuesOf(first.turns, key), valuesOf(last.turns, key), {
      isMean: isMean(key),
    });
    return change ? [{ key, ...change }] : [];
  });
  return { over, from: first.at, to: last.at, points, drifts };
}

/**
 * How a rider's figures go with load and with time while the effort rises: easy, working, hard.
 * @param turns of one run of the camera, same stickers and same seat, in their order  @param load what a trainer read meanwhile, in the order of time; may be empty
 * @returns each null where it reaches over too little
 */
export function readRamp(
  turns: readonly Turn[],
  load: readonly LoadAt[],
): { byPower: RampWay | null; byMinutes: RampWay | null } {
  return {
    byPower: wayOver('power', stagesByPower(turns, load)),
    byMinutes: wayOver('minutes', stagesByMinute(turns)),
  };
}
