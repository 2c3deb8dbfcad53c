import type { Part } from '../../bike/parts.ts';
import { finding, single } from '../../body/bodyTests.ts';
import type { BodyModel, Habits } from '../../model/bodyModel.ts';
import type { Body, Forecast, PredictedMeasure } from '../../model/forecast.ts';
import type { Convention } from '../../protocol/convention.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import type { MeasureKey } from '../../protocol/protocols.ts';
import type { Statics } from '../../body/statics.ts';
import type { KeptLine } from '../controls/keptPlan.ts';
import type { RiderWord } from './change.ts';
import type { FitCase } from '../../suspects/evidence.ts';
import type { SuspectsOf } from '../../suspects/suspects.ts';
import type { Moves } from '../controls/controls.ts';
import type { Stage } from '../controls/controlTable.ts';
import type { SettingKey } from './belief.ts';
import type { Answers } from './questions.ts';
import type { Schools } from './schools.ts';

/** What the fitter said of a line: taken as it is, taken with other figures, or left with a reason. */
export interface Decision {
  key: string;
  state: 'accepted' | 'edited' | 'rejected';
  /** The figures that count: those accepted, or typed. */
  moves: Moves;
  reason: string;
  /** How probable the fault was when this was decided; null where it has no figure. */
  p: number | null;
}

/** A filmed side: its model and what was measured on it. */
export interface FilmedSide {
  model: BodyModel;
  measures: readonly MeasureReading[];
}

/** A step that was ridden, with the rider's word on it. */
export interface RiddenStep {
  setting: SettingKey;
  /** + to more of it (saddle up, back; reach longer; bar up), − to less. */
  way: 1 | -1;
  word: RiderWord;
}

/** A case as a plan is made from it: its suspects ranked, with all that the fitter has decided. */
export interface PlanCase extends FitCase {
  protocolId: string;
  statics: Statics;
  /** By how much findings off the bike moved the knee's band, degrees: the goniometer's moves as much. */
  kneeMovedDeg: number;
  /** Of the side on which trunk and arm are read, with those of a film from ahead; only the latter where that is the only film. */
  measures: readonly MeasureReading[];
  /** The filmed sides; the first one carries trunk and arm. */
  sides: readonly FilmedSide[];
  suspects: readonly SuspectsOf[];
  schools: Schools;
  answers: Answers;
  /** Null: nobody knows what is in the drawers. */
  parts: readonly Part[] | null;
  habits: Habits;
  halfSteps: boolean;
  ridden: readonly RiddenStep[];
  decisions: readonly Decision[];
  /** Lines in the fitter's own order; what is not named follows in working order. */
  order: readonly string[];
  convention: Convention;
}

/** Now, after the next film, or a small step to try and ask. */
export type When = 'now' | 'later' | 'try';

export interface PlanLine {
  key: string;
  stage: Stage;
  when: When;
  /** How probable what it mends is, and in words. */
  p: number;
  probability: string;
  /** What the probability is made of. */
  madeOf: string[];
  /** What is moved in this round; nothing where it is a test or a part to find. */
  moves: Moves;
  /** All that is wanted in the end, this round's share included. */
  whole: Moves;
  /** What it is, where no figure of a control says it. */
  title: string | null;
  why: string[];
  knockOn: string[];
  risk: string[];
  steps: string;
  check: string;
  /** Complaints it may answer, by id. */
  answers: string[];
  /** What it cures by itself. */
  vanishes: string[];
  instead: string | null;
  /** What is still wanted beyond a line of this round. */
  further?: boolean;
  decision: Decision | null;
  /** Set where a rejected line's evidence is no longer what it was then. */
  changed: string | null;
  /** After this line and the round's lines before it. */
  forecast: Forecast | null;
  /** Of the measures, those that it moves. */
  predicted: PredictedMeasure[];
}

/** A question that has to be answered before the plan goes further. */
export interface Ask {
  key: string;
  question: string;
  because: string;
}

export interface Prescription {
  now: PlanLine[];
  later: PlanLine[];
  try: PlanLine[];
  /** Lines that the fitter has rejected, with the reason. */
  rejected: PlanLine[];
  ask: Ask[];
  conflicts: string[];
  /** What waits for a clinician or for a film, in words. */
  heldBack: string[];
  /** Compensations that were seen through. */
  seenThrough: string[];
  /** What is reported and moved by nothing here. */
  noted: string[];
  /** All moves of this round: the lines under now, and the small steps to try. */
  total: Moves;
  forecast: Forecast | null;
  /** Findings that no line answers, with what to do. */
  open: { key: MeasureKey; words: string }[];
  /** Nothing is out and nothing hurts. */
  leaveAlone: boolean;
}

/** Every line that stands in this round, in its order. */
export const roundLines = (p: Prescription): PlanLine[] => [...p.now, ...p.try];

/** The round's lines as they go on record: what waits for the next film is weighed anew then. */
export const keptLines = (p: Prescription): KeptLine[] =>
  roundLines(p).map(({ key, moves, why, check, title }) => ({ key, moves, today: moves, why, check, title }));

/** What limits this rider's back, degrees: where it rounds on the hinge, or the hamstrings are tight, the band's own floor. */
function backLimitDeg(c: Pick<PlanCase, 'body' | 'measures'>): number | null {
  const back = c.measures.find((m) => m.key === 'backAngleDeg');
  const rounds = finding(c.body, 'hinge') === 'round';
  return rounds && back ? back.band.low : null;
}

/** What the model is given of the body. */
export const bodyOf = (c: Pick<PlanCase, 'body' | 'measures' | 'bike'>): Body => ({
  backLimitDeg: backLimitDeg(c),
  shoulderWidthMm: single(c.body, 'shoulderWidth'),
  barWidthMm: c.bike.bar.widthMm,
});
