import type { Part } from '../bike/parts.ts';
import type { BikeSetup } from '../bike/setup.ts';
import type { BodyModel, Habits } from '../model/bodyModel.ts';
import type { Moves } from './controls.ts';
import type { Body } from '../model/foretell.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { MeasureKey } from '../protocol/protocols.ts';

/** A filmed side: its model and what was measured on it. */
export interface FilmedSide {
  model: BodyModel;
  measures: readonly MeasureReading[];
}

/** What the solver works on. */
export interface SolveCase {
  sides: readonly FilmedSide[];
  bike: BikeSetup;
  habits: Habits;
  body: Body;
  parts: readonly Part[];
  inseamMm: number | null;
  /** Measures that this school only reports: they raise nothing and hold nothing back. */
  reportOnly: readonly MeasureKey[];
  /** A shorter crank is thought of: the hip closes, or the crank is long for the legs. */
  crankInDoubt: boolean;
  /** Controls that the fitter has settled: moved by just this much, or (0) left alone. */
  locked: Moves;
}

/** A settled stage: what to move, and the answers that came close. */
export interface Settled {
  moves: Moves;
  loss: number;
  /** Other sets of things to touch whose loss is close to the best one's, best first. */
  others: { moves: Moves; loss: number }[];
}
