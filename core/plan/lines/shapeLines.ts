import type { Part } from '../../bike/parts.ts';
import { barWidthMm, crankRangeMm, saddleWidths, type Posture } from '../../body/estimates.ts';
import { single, worse } from '../../body/bodyTests.ts';
import { openComplaints } from '../../intake/intake.ts';
import type { Draft } from './draft.ts';
import type { PlanCase } from '../terms/plan.ts';
import { raisedBy, speaksFor } from './raised.ts';

/** Tilt, crank, saddle and bar: what no filmed angle's band asks for by itself. */
export const shapeDrafts = (c: PlanCase): Draft[] =>
  [tilt(c), crank(c), saddleChoice(c), rolled(c), barWidth(c)].filter((d) => d !== null);

/** More than this of tilt is nearly always hiding something (handbook: the job, schools). */
const HIDES_DEG = 3;

function tilt(c: PlanCase): Draft | null {
  const at = c.bike.saddle.tiltDeg;
  if (at === null || Math.abs(at) <= 2) return null;
  const down = at < 0;
  const raised = raisedBy(c.suspects, down ? 'noseDown' : 'noseUp');
  if (raised.length === 0 && Math.abs(at) <= HIDES_DEG) return null;
  // A nose that is down on purpose stays down.
  if (down && ['softTissue', 'lowBack', 'slope'].includes(c.answers.noseDown ?? '')) return null;
  if (down && c.protocolId === 'time-trial' && at >= -5) return null;
  const reasons = speaksFor(raised);
  const whole = { saddleTilt: Math.round(2 * ((down ? -1 : 1) - at)) / 2 };
  return {
    key: 'saddleTilt',
    stage: 'saddle',
    ...reasons,
    p: raised.length ? reasons.p : 0.5,
    fault: down ? 'nose too far down' : 'nose too far up',
    why: [`saddle ${Math.abs(at)}° ${down ? 'nose-down' : 'nose-up'}`, ...reasons.why],
    whole,
    tryMoves: { saddleTilt: Math.sign(whole.saddleTilt) },
    risk: down ? ['Hands and sliding: watch both after each degree.'] : [],
    check: down
      ? 'in steps of 1°: does the rider slide less, do the hands carry less, does the pressure in front stay bearable?'
      : 'in steps of 1°: is the pressure in front less, and does the rider slide?',
    ...(raised.length === 0 && { atMost: 'try' as const }),
  };
}

/** A shorter crank where the top of the stroke pinches or the hip closes by its own table figure: 5 mm, and the saddle follows. */
function crank(c: PlanCase): Draft | null {
  const now = c.bike.crank.lengthMm;
  if (now === null) return null;
  const raised = raisedBy(c.suspects, 'crankLong');
  const pinch = raised.filter((r) => r.complaint.region === 'hipFront');
  const flexion = worse(c.body, 'hipFlexion', 'least');
  const closes = (c.measures.find((m) => m.key === 'hipAngleMinDeg')?.pOut.low ?? 0) >= 0.5;
  const overBent = (c.measures.find((m) => m.key === 'kneeFlexionMaxDeg')?.pOut.high ?? 0) >= 0.5;
  const limited = closes && ((flexion !== null && flexion < 110) || c.protocolId === 'time-trial');
  const knee = raised.filter((r) => r.complaint.region === 'kneeFront' && overBent);
  // The inseam's figure alone changes no crank.
  if (pinch.length === 0 && !limited && knee.length === 0) return null;
  const inseam = single(c.body, 'inseam') ?? (single(c.body, 'height') ?? NaN) * 0.46;
  const least = Number.isFinite(inseam) ? crankRangeMm(inseam)[0] : now - 10;
  const possible = now - Math.max(110, least);
  if (possible < 2.5) return null;
  const by = Math.min(5, 2.5 * Math.round(possible / 2 / 2.5) || 2.5);
  const asking = [...pinch, ...knee];
  const reasons = speaksFor(asking);
  return {
    key: 'crank',
    stage: 'saddle',
    ...reasons,
    p: Math.max(reasons.p, limited ? 0.6 : 0),
    fault: 'crank too long',
    why: [...reasons.why, ...(limited ? ['the hip closes in the film'] : [])],
    // The pedal rises by as much at the bottom: the saddle follows in the same line.
    whole: { crank: -by, saddleUp: by },
    tryMoves: {},
    bought: true,
    risk: [
      `${now - by} mm is a part to find; ${possible} mm shorter would be possible, half of it or less is enough to feel.`,
      'Crank bolts to the maker’s torque; not together with another change of the leg.',
    ],
    check: 'hip at the top, cadence and power as before; film again',
    instead: 'or try one on the trainer before it is bought',
    // A knee over its band may have cheaper causes: a shorter crank is tried on the trainer before one is bought for it.
    ...(pinch.length === 0 && !(limited && asking.length > 0) && { atMost: 'later' as const }),
  };
}

/** The part at hand whose width lies nearest to what is aimed at, of those between two widths. */
const partOfWidth = (
  c: PlanCase,
  kind: Part['kind'],
  [from, to]: readonly [number, number],
  aimMm: number,
): Part | undefined =>
  (c.parts ?? [])
    .filter(
      (p) => p.kind === kind && p.count > 0 && p.widthMm !== null && p.widthMm >= from && p.widthMm <= to,
    )
    .sort((a, b) => Math.abs(a.widthMm! - aimMm) - Math.abs(b.widthMm! - aimMm))[0];

/** Whether it is at hand; nothing where no parts were given. */
const inParts = (c: PlanCase, fit: Part | undefined): string[] =>
  c.parts === null ? [] : [fit ? `${fit.name} is in the parts` : 'none of this width is in the parts'];

const postureOf = (c: PlanCase): Posture =>
  c.intake.discipline === 'city' ? 'upright' : c.intake.discipline === 'timeTrial' ? 'low' : 'middle';

/** Another saddle, where width or shape leads and the free things were not enough: never the first line. */
function saddleChoice(c: PlanCase): Draft | null {
  const raised = raisedBy(c.suspects, 'saddleNarrow').filter((r) => r.complaint.region !== 'kneeOutside');
  const sit = single(c.body, 'sitBones');
  const now = c.bike.saddle.widthMm;
  if (raised.length === 0 || sit === null || now === null) return null;
  const [support, overall] = saddleWidths(sit, postureOf(c));
  // Parts are known by their overall width; a supportive part is about 25 mm less.
  const [from, to] =
    c.schools.saddleWidth === 'overall'
      ? [overall.fromMm, overall.toMm]
      : [support.fromMm + 25, support.toMm + 25];
  const middle = (from + to) / 2;
  const fit = partOfWidth(c, 'saddle', [from, to], middle);
  const width = fit?.widthMm ?? Math.round(middle);
  if (width <= now) return null;
  const reasons = speaksFor(raised);
  return {
    key: 'saddleWidth',
    stage: 'saddle',
    ...reasons,
    fault: 'saddle too narrow',
    why: [
      `sit bones ${sit} mm ask for ${from} to ${to} mm overall; the saddle has ${now} mm`,
      ...reasons.why,
      ...inParts(c, fit),
    ],
    whole: { saddleWidth: width - now },
    tryMoves: {},
    risk: ['Another saddle sits at another height: set height and setback again at its 80 mm width.'],
    check: 'sit bones on the flat part, for a ride of an hour',
    atMost: 'later',
  };
}

function rolled(c: PlanCase): Draft | null {
  const at = c.bike.bar.rotationDeg;
  const raised = raisedBy(c.suspects, 'barRolled');
  if (at === null || Math.abs(at) < 8 || raised.length === 0 || c.bike.stem.onePiece) return null;
  const reasons = speaksFor(raised);
  const whole = { barRotation: (at > 0 ? 3 : -3) - at };
  return {
    key: 'barRotation',
    stage: 'cockpit',
    ...reasons,
    fault: at > 0 ? 'bar rolled up' : 'bar rolled down',
    why: [`bar rolled ${at > 0 ? 'up' : 'down'} ${Math.abs(at)}°`, ...reasons.why],
    whole,
    tryMoves: { barRotation: Math.sign(whole.barRotation) * 3 },
    risk: ['A bar rolled up is often a reach too long: ask before it is turned back.'],
    check: 'wrist straight on the hoods; a smooth line from bar to hood; brakes reachable',
  };
}

/** Bar width from the shoulders, only where hands, neck or shoulder blades complain, and only after what is free. */
function barWidth(c: PlanCase): Draft | null {
  const shoulder = single(c.body, 'shoulderWidth');
  const now = c.bike.bar.widthMm;
  const raised = raisedBy(c.suspects, 'barWide');
  if (shoulder === null || now === null || c.bike.bar.dropMm === null || raised.length === 0) return null;
  if (openComplaints(c.intake.complaints).length === 0) return null;
  const [from, to] = barWidthMm(shoulder);
  if (now >= from && now <= to) return null;
  // Bars come in steps of 20 mm.
  const aim = now > to ? Math.floor(to / 20) * 20 : Math.ceil(from / 20) * 20;
  const fit = partOfWidth(c, 'bar', [from, to], shoulder);
  const width = fit?.widthMm ?? aim;
  if (width === now) return null;
  return {
    key: 'barWidth',
    stage: 'cockpit',
    ...speaksFor(raised),
    fault: now > to ? 'bar too wide' : 'bar too narrow',
    why: [
      `shoulders ${shoulder} mm ask for a bar of ${from} to ${to} mm; this one has ${now} mm`,
      ...inParts(c, fit),
    ],
    whole: { barWidth: width - now },
    tryMoves: {},
    check: 'hands over the shoulders’ joints; chest free',
    atMost: 'later',
  };
}
