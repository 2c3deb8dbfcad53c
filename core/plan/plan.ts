import { finding, single } from '../body/tests.ts';
import type { Habits } from '../model/bodyModel.ts';
import type { Moves, Stage } from './controls.ts';
import type { Body, Forecast } from '../model/foretell.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { ProposalCase } from './proposals.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import type { FilmedSide } from './solveCase.ts';

/** What the fitter said of a line: taken as it is, taken with other figures, or left with a reason. */
export interface Decision {
  key: string;
  state: 'accepted' | 'edited' | 'rejected';
  /** The figures that count: those accepted, or typed. */
  moves: Moves;
  reason: string;
}

export interface PlanCase extends Omit<ProposalCase, 'kneeApart' | 'measures'> {
  measures: readonly MeasureReading[];
  /** The filmed sides; the first one carries trunk and arm. */
  sides: readonly FilmedSide[];
  habits: Habits;
  halfSteps: boolean;
  decisions: readonly Decision[];
  /** Lines in the fitter's own order; what is not named follows in working order. */
  order: readonly string[];
}

export interface PlanLine {
  key: string;
  stage: Stage;
  moves: Moves;
  why: string[];
  knockOn: string[];
  risk: string[];
  steps: string;
  check: string;
  /** How much of it in this visit, by control. */
  today: Moves;
  /** What it cures by itself. */
  vanishes: string[];
  instead: string | null;
  decision: Decision | null;
  /** After this line and those before it. */
  forecast: Forecast | null;
}

export interface Prescription {
  lines: PlanLine[];
  /** All moves of the lines that stand. */
  total: Moves;
  forecast: Forecast | null;
  /** Answers nearly as good, in place of a stage's lines. */
  alternatives: { stage: Stage; moves: Moves; words: string | null }[];
  conflicts: string[];
  /** Compensations that were seen through. */
  seenThrough: string[];
  /** Findings that no line answers, with what to do. */
  open: { key: MeasureKey; words: string }[];
  /** Nothing is out and nothing hurts. */
  leaveAlone: boolean;
}

/** What limits this rider's back, degrees: where it rounds on the hinge, or the hamstrings are tight, the band's own floor. */
export function backLimitDeg(c: Pick<PlanCase, 'body' | 'measures'>): number | null {
  const back = c.measures.find((m) => m.key === 'backAngleDeg');
  const rounds = finding(c.body, 'hinge') === 'round';
  return rounds && back ? back.band.low : null;
}

/** What the model is told of the body. */
export const bodyOf = (c: Pick<PlanCase, 'body' | 'measures' | 'bike'>): Body => ({
  backLimitDeg: backLimitDeg(c),
  shoulderWidthMm: single(c.body, 'shoulderWidth'),
  barWidthMm: c.bike.bar.widthMm,
});
