import type { Complaint } from '../intake/intake.ts';
import { sidesOf } from '../suspects/evidence.ts';
import { RULES, type SuspectKey } from '../suspects/suspectRules.ts';
import type { Suspect, SuspectsOf } from '../suspects/suspects.ts';
import { CONTROLS, type ControlKey, type Stage } from './controls/controlTable.ts';
import type { Moves } from './controls/controls.ts';
import type { Draft } from './lines/draft.ts';
import { likelihoodOf } from './lines/raised.ts';
import type { PlanCase } from './terms/plan.ts';

interface Trial {
  stage: Stage;
  /** What is done, where no bolt is turned for it. */
  title: string | null;
  moves: (c: PlanCase, q: Complaint) => Moves;
  confirms: string;
  refutes: string;
}

const NOTHING = (): Moves => ({});
const step = (moves: Moves) => (): Moves => moves;
/** The same on each side that complains. */
const sided =
  (control: 'cleatBack' | 'heelOut' | 'cleatOut', by: number) =>
  (_: PlanCase, q: Complaint): Moves =>
    Object.fromEntries(sidesOf(q).map((side) => [`${control}.${side}`, by]));

const free = (stage: Stage, title: string, confirms: string, refutes: string): Trial => ({
  stage,
  title,
  moves: NOTHING,
  confirms,
  refutes,
});

/** For each suspect a small, free, reversible step with what would confirm it and what would refute it (handbook: rules). */
const TRIALS: Record<SuspectKey, Trial> = {
  saddleLow: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleUp: 3 }),
    confirms: 'less ache after ten minutes',
    refutes: 'hips begin to rock, or no difference',
  },
  saddleHigh: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleUp: -3 }),
    confirms: 'hips stiller, less pull',
    refutes: 'the knee’s front begins to ache, or no difference',
  },
  saddleForward: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleBack: 5 }),
    confirms: 'hands lighter, hands-off holds longer',
    refutes: 'no difference, or a pull behind the knee',
  },
  saddleBack: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleBack: -5 }),
    confirms: 'less pull behind the knee',
    refutes: 'hands grow heavier, or no difference',
  },
  noseDown: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleTilt: 1 }),
    confirms: 'less sliding, hands lighter',
    refutes: 'more pressure in front',
  },
  noseUp: {
    stage: 'saddle',
    title: null,
    moves: step({ saddleTilt: -1 }),
    confirms: 'less pressure in front',
    refutes: 'the rider slides, or no difference',
  },
  saddleNarrow: free(
    'saddle',
    'Another saddle to sit on for a ride, nothing bought',
    'the pressure spreads',
    'no difference: back to tilt and height',
  ),
  saddleWide: free(
    'saddle',
    'Look from behind whether the thighs rub or spread; a narrower saddle for a ride',
    'knees swing straighter',
    'no difference',
  ),
  saddleSoft: free(
    'saddle',
    'A firmer saddle for a ride, nothing bought',
    'the sit bones carry',
    'no difference',
  ),
  uprightOnNarrow: free(
    'saddle',
    'Lean as on the drops for five minutes',
    'it eases: width or bar height',
    'it does not',
  ),
  noRelief: free(
    'saddle',
    'A saddle with a channel for a ride, nothing bought',
    'less pressure in front',
    'no difference: tilt and reach',
  ),
  cleatForward: {
    stage: 'feet',
    title: null,
    moves: sided('cleatBack', 3),
    confirms: 'forefoot and calf rest',
    refutes: 'no difference',
  },
  cleatFarBack: {
    stage: 'feet',
    title: null,
    moves: sided('cleatBack', -3),
    confirms: 'the hip has more room at the top',
    refutes: 'no difference',
  },
  cleatsUnlike: free('feet', 'Both shoes side by side, heads marked', 'the odd one stands out', 'they match'),
  cleatRotation: free(
    'feet',
    'Float test: heel in and out before the stop',
    'the heel moves one way only: turn by half',
    'it moves both ways: leave it',
  ),
  stanceNarrow: free(
    'feet',
    'Film from ahead: knee over foot',
    'the knee stands outside the foot: 2 mm a side further out',
    'it stands over it: leave the stance',
  ),
  stanceWide: free(
    'feet',
    'Film from ahead: knee over foot',
    'the knee stands inside the foot: 2 mm a side nearer',
    'it stands over it: leave the stance',
  ),
  forefootTilt: free(
    'feet',
    'A folded card under the arch, film from ahead',
    'the knee goes straighter',
    'no difference: no wedge',
  ),
  footControl: free(
    'feet',
    'One-leg bend with and without a card under the arch',
    'steadier with it: support the arch',
    'no difference: exercises',
  ),
  shoe: free(
    'feet',
    'Shoe fully loosened for ten minutes',
    'gone: another size or width',
    'still there: look at the cleat',
  ),
  forefootPad: free(
    'feet',
    'A small pad behind the heads for a ride',
    'it spreads and eases',
    'no difference',
  ),
  cold: free('feet', 'The same ride with warm feet', 'gone: overshoes, looser socks', 'still there'),
  archContact: free(
    'feet',
    'A folded card under the arch for a ride',
    'better: an insole that touches it',
    'no difference',
  ),
  crankLong: free(
    'saddle',
    'A shorter crank on the trainer, or the same effort ten turns quicker',
    'the pinch goes',
    'no difference: no crank',
  ),
  reachLong: free(
    'cockpit',
    'Hands 20 mm behind the hoods for five minutes',
    'shoulders drop, it eases: a shorter stem',
    'no difference: leave the stem',
  ),
  reachShort: free(
    'cockpit',
    'Hands at the hoods’ tips for five minutes',
    'arms rest: a longer stem',
    'no difference',
  ),
  barLow: free(
    'cockpit',
    'Hands on the tops for five minutes',
    'it eases: bar higher',
    'no difference: leave the bar',
  ),
  hoods: free(
    'cockpit',
    'One hood moved to a straight wrist, the other left, for a ride',
    'that side eases',
    'no difference',
  ),
  barRolled: {
    stage: 'cockpit',
    title: null,
    moves: (c) => ((c.bike.bar.rotationDeg ?? 0) >= 8 && !c.bike.stem.onePiece ? { barRotation: -3 } : {}),
    confirms: 'wrists straight, it eases',
    refutes: 'reach feels longer: that first',
  },
  barWide: free(
    'cockpit',
    'Hands 20 mm further in on the tops for five minutes',
    'it eases: a narrower bar later',
    'no difference',
  ),
  elbowsLocked: free(
    'cockpit',
    'Soft elbows for five minutes',
    'it eases: habit, or reach',
    'they cannot stay soft: reach',
  ),
  leverReach: free(
    'cockpit',
    'Lever reach screw: one turn nearer',
    'fingers reach without stretching',
    'no difference: leave it',
  ),
  handsHabit: free(
    'cockpit',
    'Change the hold every five minutes, other gloves, for a ride',
    'it does not come: habit or gloves',
    'it comes all the same: look at tilt, then reach',
  ),
  shoulderStiff: free(
    'cockpit',
    'Arms overhead against the wall, then hands on the tops',
    'it eases there',
    'no difference',
  ),
  core: free(
    'cockpit',
    'Core hold, then the first half hour again when fresh',
    'it comes only when tired: exercises',
    'it comes at once: the fit',
  ),
  lowCadence: free('saddle', 'The same effort at 90 rpm', 'less ache: gears, not parts', 'no difference'),
  hamstrings: free('saddle', 'Straight-leg raise; stretch for two weeks', 'it eases', 'no difference'),
  flatFoot: free(
    'saddle',
    'Toe a little further down at the bottom for ten minutes',
    'it eases: a habit',
    'no difference: height',
  ),
  iliotibial: free(
    'saddle',
    'Leg lowered across, lying on the side',
    'it stays up: exercises first',
    'it drops: look at height and stance',
  ),
  hipRotation: free(
    'feet',
    'Hip rotation seated, left against right',
    'it turns little: let the foot point as it asks',
    'equal: look at the cleat',
  ),
  legLength: free(
    'feet',
    'Malleoli pulled, then sitting up; film both sides',
    'a true difference that shows: half of it as a shim',
    'it goes when sitting up: no shim',
  ),
  pelvis: free(
    'saddle',
    'Crests from behind, standing and on the bike',
    'it drops on the bike alone: cleats and height',
    'level: leave it',
  ),
  oldInjury: free(
    'saddle',
    'Ask; compare that side’s tests',
    'it began then: a clinician first',
    'it did not',
  ),
  recentChange: free('saddle', 'Restore what changed, for a week', 'it goes', 'it stays: look on'),
};

/**
 * The leading suspect of a complaint as a step to try and ask, where no other line answers it.
 * @param next the suspect after it: what comes next if the step refutes it
 */
export function tryDraft(c: PlanCase, of: SuspectsOf, lead: Suspect, next: Suspect | undefined): Draft {
  const t = TRIALS[lead.key];
  const moves = t.moves(c, of.complaint);
  const first = Object.keys(moves)[0] as ControlKey | undefined;
  const reasons = lead.for.length ? lead.for : lead.unknown;
  return {
    key: `ask${lead.key[0].toUpperCase()}${lead.key.slice(1)}`,
    stage: first ? CONTROLS[first].stage : t.stage,
    p: likelihoodOf(lead.score),
    fault: RULES[lead.key].what,
    madeOf: lead.for,
    why: [
      `${of.name}: ${lead.what}${reasons.length ? ` (${reasons.join('; ')})` : ', the first to look at'}`,
    ],
    answers: [of.complaint.id],
    whole: moves,
    title: first
      ? null
      : (t.title ?? `${RULES[lead.key].test[0].toUpperCase()}${RULES[lead.key].test.slice(1)}`),
    check: `it is, if: ${t.confirms}. It is not, if: ${t.refutes}${next ? `; next: ${next.what}` : ''}`,
    atMost: 'try',
    atLeast: 'try',
  };
}
