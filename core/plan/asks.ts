import { legLength } from '../body/estimates.ts';
import { pair } from '../body/bodyTests.ts';
import { resolveBike } from '../bike/resolve.ts';
import { openComplaints } from '../intake/intake.ts';
import type { Forecast } from '../model/forecast.ts';
import { isOut } from '../protocol/judge.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import { STANDS } from './terms/belief.ts';
import { applyMoves } from './controls/controls.ts';
import type { Draft } from './lines/draft.ts';
import { legsDiffer } from './lines/legs.ts';
import type { Ask, PlanCase, PlanLine, Prescription } from './terms/plan.ts';
import { QUESTIONS } from './terms/questions.ts';

/** What has to be known first. */
export function asks(c: PlanCase, drafts: readonly Draft[]): Ask[] {
  const out: Ask[] = [];
  const of = (key: (typeof QUESTIONS)[number]['key'], because: string): void => {
    if (c.answers[key] === undefined)
      out.push({ key, question: QUESTIONS.find((q) => q.key === key)!.text, because });
  };
  const up = drafts.find((d) => d.key === 'saddleUp' && (d.whole.saddleUp ?? 0) > 0 && d.p >= STANDS.try);
  if (up && terrainMatters(c))
    of('footToGround', 'the saddle may be low so that the foot reaches the ground');
  const tilt = c.bike.saddle.tiltDeg;
  if (tilt !== null && tilt <= -2.5)
    of('noseDown', `the saddle is ${-tilt}° nose-down, and that may be a treatment or hide a reach`);
  const open = openComplaints(c.intake.complaints);
  if (open.some((q) => q.region === 'hands' || q.region === 'wrist'))
    of(
      'handsHabits',
      'tingling hands often come from a glove, one hold for long, a bent wrist or a far lever',
    );
  if (open.length > 0 && c.intake.changed.trim() === '')
    of('changed', 'a complaint that began with a change often goes with it');
  return out;
}

/** Riders who sit low to reach the ground are asked before a saddle goes up (handbook: targets). */
const terrainMatters = (c: PlanCase): boolean =>
  c.protocolId === 'city' ||
  c.intake.discipline === 'city' ||
  c.intake.experience === 'new' ||
  (c.intake.ageYears !== null && (c.intake.ageYears < 14 || c.intake.ageYears > 65));

/** What is reported and moved by nothing here. */
export function notes(c: PlanCase): string[] {
  const out: string[] = [];
  if (c.schools.cleat === 'midfoot') {
    const back = Math.max(
      0,
      ...(['left', 'right'] as const).flatMap((s) => {
        const at = c.bike.feet[s].cleatBehindMm;
        return at === null ? [] : [37 - at];
      }),
    );
    const moved = applyMoves(c.bike, { 'cleatBack.left': back, 'cleatBack.right': back });
    const gap = Math.min(
      resolveBike(moved).overlap.left?.gapMm ?? Infinity,
      resolveBike(moved).overlap.right?.gapMm ?? Infinity,
    );
    out.push(
      `Mid-foot cleats would take about ${Math.round(back || 37)} mm: plates with some 3 mm of stack, the saddle lower, perhaps a shorter crank, and the toe nearer the wheel${Number.isFinite(gap) ? ` (toe to tyre ${Math.round(gap)} mm${gap < 0 ? ', they touch' : ''})` : ''}. Nothing is moved for it by itself.`,
    );
  }
  const legs = legLength(c.body);
  const shows = legsDiffer(c);
  if (legs.longer !== null && !shows)
    out.push(
      `The table’s leg-length difference (${Math.round(legs.differenceMm)} mm) does not show on the bike: noted, no shim.`,
    );
  for (const [key, name, from] of [
    ['straightLegRaise', 'Straight-leg raise', 6],
    ['hipFlexion', 'Hip flexion', 6],
    ['dorsiflexion', 'Ankle dorsiflexion', 6],
    ['forefootTilt', 'Forefoot tilt', 5],
    ['hipInternal', 'Hip internal rotation', 8],
  ] as const) {
    const { left, right } = pair(c.body, key);
    if (left !== null && right !== null && Math.abs(left - right) >= from)
      out.push(
        `${name} ${left}° left, ${right}° right on the table: ${shows ? 'looked for in the films' : 'it does not show on the bike; noted, nothing is moved for it'}.`,
      );
  }
  if (c.protocolId === 'time-trial' && c.intake.goals.includes('speed'))
    out.push(
      'For speed: nothing raises the pads. The hip opens by the saddle forward and a shorter crank; head between the shoulders, shoulders drawn in, as cues.',
    );
  if (c.sides.length === 0)
    out.push(
      'Height, setback and reach: film the side; a film from the front shows stance, cleats and pelvis alone.',
    );
  return out;
}

/** Findings that no line answers, with what to do. */
export function stillOut(
  c: PlanCase,
  forecast: Forecast | null,
  touched: readonly PlanLine[],
): Prescription['open'] {
  return c.measures.flatMap((m) => {
    if (!isOut(m.verdict)) return [];
    const after = forecast?.ok ? forecast.measures.find((f) => f.key === m.key) : undefined;
    if (after && !isOut(after.verdict)) return [];
    if (touched.some((l) => l.predicted.some((f) => f.key === m.key && Math.abs(f.after - f.before) > 0.5)))
      return [{ key: m.key, words: 'on its way: a line of this plan moves it, film again' }];
    const words: Partial<Record<MeasureKey, string>> = {
      kneePathWidthMm: 'no model predicts it: stance first, then film from ahead again',
      ankleRangeDeg: 'a habit: worth mentioning, no reason to move anything',
      footPitch90Deg: 'a habit: worth mentioning, no reason to move anything',
      footPitch180Deg: 'a habit, judged with the knee: moves no saddle by itself',
      hipVerticalTravelMm: 'compare with the rider’s own: the sticker slides with the skin',
      kneeFlexionMaxDeg: 'by itself no reason to move or to buy anything',
      effectiveSeatAngleDeg: 'reported: no reason to move',
      elbowFlexionDeg: 'arms and habit: soft elbows, then film again',
      kneeOverSpindleMm:
        c.schools.foreAft === 'balance'
          ? 'reported only: the balance test decides'
          : 'not sure enough to move for: film again',
    };
    return [
      { key: m.key, words: words[m.key] ?? 'not sure enough to move for: look again after the next film' },
    ];
  });
}
