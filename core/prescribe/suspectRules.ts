import type { ResolvedBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';
import {
  crankRangeMm,
  legLength,
  saddleHeightStarts,
  saddleWidths,
  shoeAdvice,
  stanceTendency,
} from '../body/estimates.ts';
import { pair, single, worse, type BodyRecord } from '../body/tests.ts';
import type { Complaint, Intake } from '../intake/intake.ts';
import type { MeasureReading } from './measures.ts';
import type { OnBike } from './onBike.ts';

/** All that is known when suspects are ranked; the film's measures join once they are read. */
export interface CaseFile {
  intake: Intake;
  body: BodyRecord;
  bike: BikeSetup;
  resolved: ResolvedBike;
  measures: readonly Pick<MeasureReading, 'key' | 'value' | 'unit' | 'verdict'>[];
  /** What the tests on the bike found. */
  onBike?: OnBike;
}

/** One piece of evidence, for (+) or against (−), worth 1 from a film or a plain measurement, less from an estimate. */
interface Evidence {
  weight: number;
  text: string;
}

const say = (weight: number, text: string): Evidence => ({ weight, text });

function measured(c: CaseFile, key: MeasureReading['key'], wrong: 'high' | 'low', words: string): Evidence[] {
  const m = c.measures.find((q) => q.key === key);
  if (!m) return [];
  const value = `${words} ${Math.round(m.value)}${m.unit === '°' ? '°' : ' mm'} in the film`;
  if (m.verdict === wrong) return [say(1.5, `${value}, ${wrong === 'high' ? 'above' : 'below'} its band`)];
  if (m.verdict === `edge-${wrong}`) return [say(0.5, `${value}, at the edge of its band`)];
  return [say(-1, `${value}, not ${wrong === 'high' ? 'above' : 'below'} its band`)];
}

/** Saddle height as found against the schools' starts; only beyond their own spread does it say anything. */
function heightOff(c: CaseFile, wrong: 'high' | 'low'): Evidence[] {
  const inseam = single(c.body, 'inseam');
  const height = c.resolved.heightMm?.mm;
  if (inseam === null || height === undefined) return [];
  const starts = saddleHeightStarts(inseam, c.bike.crank.lengthMm).map((s) => s.mm);
  const off =
    height > Math.max(...starts) ? height - Math.max(...starts) : Math.min(0, height - Math.min(...starts));
  if (wrong === 'low' && off < -5)
    return [say(0.8, `saddle ${Math.round(-off)} mm under every school’s start from the inseam`)];
  if (wrong === 'high' && off > 5)
    return [say(0.8, `saddle ${Math.round(off)} mm over every school’s start from the inseam`)];
  return Math.abs(off) <= 5
    ? [say(-0.4, 'saddle height within the schools’ starts')]
    : [say(-0.8, `saddle height errs the other way by ${Math.round(Math.abs(off))} mm`)];
}

const bothFeet = (c: CaseFile, get: (f: BikeSetup['feet']['left']) => number | null): number[] =>
  [get(c.bike.feet.left), get(c.bike.feet.right)].filter((v): v is number => v !== null);

function when(known: number | null | undefined, test: (v: number) => [number, string] | null): Evidence[] {
  if (known === null || known === undefined) return [];
  const found = test(known);
  return found ? [say(...found)] : [];
}

export interface Rule {
  what: string;
  test: string;
  change: string;
  cost: number;
  evidence: (c: CaseFile, complaint: Complaint) => Evidence[];
}

/** Every suspect once, with where its evidence comes from (handbook: rules, symptoms). */
export const RULES = {
  saddleLow: {
    what: 'saddle too low',
    test: 'raise it 3 mm, ride, ask',
    change: 'saddle up in 3 mm steps',
    cost: 1,
    evidence: (c) => [
      ...measured(c, 'kneeFlexionMinDeg', 'high', 'knee at its straightest'),
      ...measured(c, 'kneeFlexionMaxDeg', 'high', 'knee at its most bent'),
      ...heightOff(c, 'low'),
    ],
  },
  saddleHigh: {
    what: 'saddle too high',
    test: 'lower it 3 mm, ride, ask',
    change: 'saddle down in 3 mm steps',
    cost: 1,
    evidence: (c) => [
      ...measured(c, 'kneeFlexionMinDeg', 'low', 'knee at its straightest'),
      ...measured(c, 'hipVerticalTravelMm', 'high', 'hip travel'),
      ...measured(c, 'footPitch180Deg', 'high', 'toe-down at the bottom'),
      ...heightOff(c, 'high'),
    ],
  },
  saddleForward: {
    what: 'saddle too far forward',
    test: 'hands-off for 2–3 s in the drops',
    change: 'saddle back 5 mm',
    cost: 1,
    evidence: (c) => [
      ...measured(c, 'kneeOverSpindleMm', 'high', 'knee over spindle'),
      ...when(c.resolved.seatAngleDeg, (v) =>
        v > 76 ? [0.8, `saddle at ${v.toFixed(1)}°, steep`] : [-0.4, `saddle at ${v.toFixed(1)}°`],
      ),
    ],
  },
  saddleBack: {
    what: 'saddle too far back',
    test: 'plumb line and hands-off',
    change: 'saddle forward 5 mm',
    cost: 1,
    evidence: (c) => [
      ...measured(c, 'kneeOverSpindleMm', 'low', 'knee over spindle'),
      ...when(c.resolved.seatAngleDeg, (v) => (v < 70 ? [0.8, `saddle at ${v.toFixed(1)}°, slack`] : null)),
    ],
  },
  noseDown: {
    what: 'saddle nose-down',
    test: 'level it, ride',
    change: 'saddle level ± 2°',
    cost: 1,
    evidence: (c) =>
      when(c.bike.saddle.tiltDeg, (v) =>
        v < -2 ? [1.2, `saddle ${Math.abs(v)}° nose-down`] : [-1, 'saddle level'],
      ),
  },
  noseUp: {
    what: 'saddle nose-up',
    test: 'level it, ride',
    change: 'saddle level ± 2°',
    cost: 1,
    evidence: (c) =>
      when(c.bike.saddle.tiltDeg, (v) => (v > 2 ? [1, `saddle ${v}° nose-up`] : [-0.8, 'nose not up'])),
  },
  crankLong: {
    what: 'crank too long',
    test: 'a shorter crank on the trainer',
    change: 'crank 2.5–5 mm shorter, saddle up by as much',
    cost: 4,
    evidence: (c) => [
      ...when(single(c.body, 'inseam'), (v) =>
        c.bike.crank.lengthMm === null
          ? null
          : c.bike.crank.lengthMm > crankRangeMm(v)[1]
            ? [1, `${c.bike.crank.lengthMm} mm is over ${crankRangeMm(v)[1]} mm for this inseam`]
            : [-0.8, 'crank within the inseam’s range'],
      ),
      ...measured(c, 'hipAngleMinDeg', 'low', 'hip at its most closed'),
    ],
  },
  cleatForward: {
    what: 'cleat too far forward',
    test: 'look at the heads’ marks',
    change: 'cleat back 2–3 mm, saddle down about half',
    cost: 1,
    evidence: (c) => {
      const back = bothFeet(c, (f) => f.cleatBehindMm);
      return back.length === 0
        ? []
        : Math.min(...back) < 5
          ? [say(1, `cleat only ${Math.min(...back)} mm behind the first head`)]
          : [say(-1, `cleat ${Math.min(...back)} mm behind the first head`)];
    },
  },
  cleatRotation: {
    what: 'cleat forces the foot in or out',
    test: 'float test: heel in and out before the stop',
    change: 'cleat turned 1–2°',
    cost: 1,
    evidence: (c) => {
      const turn = bothFeet(c, (f) => f.heelOutDeg);
      return turn.length === 2 && Math.abs(turn[0] - turn[1]) >= 3
        ? [say(0.8, `cleats ${Math.abs(turn[0] - turn[1])}° apart`)]
        : [];
    },
  },
  lowCadence: {
    what: 'low cadence at load',
    test: 'the same effort at 90 rpm',
    change: 'gears, not parts',
    cost: 0,
    evidence: () => [],
  },
  hamstrings: {
    what: 'tight hamstrings',
    test: 'straight-leg raise',
    change: 'saddle in the lower half of its band; stretch',
    cost: 0,
    evidence: (c) =>
      when(worse(c.body, 'straightLegRaise', 'least'), (v) =>
        v < 60 ? [1, `straight-leg raise ${v}°`] : [-0.8, `straight-leg raise ${v}°`],
      ),
  },
  flatFoot: {
    what: 'flat foot with an over-straight knee',
    test: 'foot pitch with the knee’s bend',
    change: 'lower the saddle, or retrain the foot',
    cost: 1,
    evidence: (c) => measured(c, 'footPitch180Deg', 'low', 'toe-down at the bottom'),
  },
  stanceNarrow: {
    what: 'stance too narrow',
    test: 'cleats in by 2 mm, both sides: the feet go out',
    change: 'cleat, then washer, then longer axle',
    cost: 1,
    evidence: (c) => {
      const t = stanceTendency(c.body);
      const sides = [c.resolved.stanceMm.left, c.resolved.stanceMm.right].filter(
        (v): v is number => v !== null,
      );
      return [
        ...(t.tends === 'wider'
          ? [say(0.8, `build asks for more: ${t.reasons.join(', ')}`)]
          : t.tends === 'narrower'
            ? [say(-0.8, 'build asks for less')]
            : []),
        ...(sides.length && Math.min(...sides) < 120
          ? [say(0.7, `feet ${Math.round(Math.min(...sides))} mm from the middle`)]
          : []),
      ];
    },
  },
  stanceWide: {
    what: 'stance too wide',
    test: 'cleats out by 2 mm, both sides',
    change: 'cleat, then shorter axle',
    cost: 1,
    evidence: (c) => {
      const t = stanceTendency(c.body);
      return t.tends === 'narrower'
        ? [say(0.8, `build asks for less: ${t.reasons.join(', ')}`)]
        : t.tends === 'wider'
          ? [say(-0.8, 'build asks for more')]
          : [];
    },
  },
  forefootTilt: {
    what: 'forefoot tilt',
    test: 'knee path from the front',
    change: 'arch support, then a wedge',
    cost: 2,
    evidence: (c) => {
      const p = pair(c.body, 'forefootTilt');
      const most = Math.max(Math.abs(p.left ?? 0), Math.abs(p.right ?? 0));
      return p.left === null && p.right === null
        ? []
        : most >= 8
          ? [say(0.6, `forefoot tilt ${most}°`)]
          : [say(-0.4, 'little tilt')];
    },
  },
  legLength: {
    what: 'leg-length difference',
    test: 'malleoli pulled, then sitting up',
    change: 'shim of about half, if it shows on the bike',
    cost: 2,
    evidence: (c) => {
      const l = legLength(c.body);
      return l.kind === 'open'
        ? []
        : l.kind === 'none' || l.kind === 'pelvic-rotation'
          ? [say(-0.8, l.words)]
          : [say(1, `${l.longer} leg ${Math.round(l.differenceMm)} mm longer`)];
    },
  },
  shoe: {
    what: 'shoe tight, narrow or too long',
    test: 'loosen it for ten minutes: free',
    change: 'loosen, then another size or width',
    cost: 0,
    evidence: (c, q) => {
      const notes = shoeAdvice(c.body, c.bike).notes.filter((n) => n.includes('shoe') || n.includes('Shoe'));
      return [
        ...notes.map((n) => say(0.8, n)),
        ...(q.region === 'footOutside' && q.onset === 'at-once' ? [say(1, 'at once: the shoe first')] : []),
      ];
    },
  },
  archContact: {
    what: 'no contact under the arch',
    test: 'a folded card under the arch',
    change: 'arch support',
    cost: 1,
    evidence: (c) => {
      const a = c.body.results.arch;
      return a?.left === 'low' || a?.right === 'low' ? [say(0.7, 'low arch')] : [];
    },
  },
  saddleNarrow: {
    what: 'saddle width or shape',
    test: 'sit-bone spacing on the saddle’s flat part',
    change: 'another saddle from the bin',
    cost: 3,
    evidence: (c) =>
      when(single(c.body, 'sitBones'), (v) => {
        const w = c.bike.saddle.widthMm;
        if (w === null) return null;
        const [, overall] = saddleWidths(v, 'middle');
        return w < overall.fromMm
          ? [1, `saddle ${w} mm, sit bones ask for ${overall.fromMm} to ${overall.toMm}`]
          : w > overall.toMm + 5
            ? [0.5, `saddle ${w} mm, wider than ${overall.toMm}`]
            : [-0.8, 'width fits the sit bones'];
      }),
  },
  noRelief: {
    what: 'no relief channel',
    test: 'a saddle with one, for a ride',
    change: 'another saddle from the bin',
    cost: 3,
    evidence: (c) =>
      c.bike.saddle.reliefChannel === null
        ? []
        : c.bike.saddle.reliefChannel
          ? [say(-0.8, 'the saddle has one')]
          : [say(0.5, 'the saddle has none')],
  },
  reachLong: {
    what: 'reach too long',
    test: 'static reach test',
    change: 'shorter stem, or bar turned or raised',
    cost: 2,
    evidence: (c) => [
      ...measured(c, 'shoulderAngleDeg', 'high', 'trunk to upper arm'),
      ...measured(c, 'elbowFlexionDeg', 'low', 'elbow bend'),
    ],
  },
  reachShort: {
    what: 'reach too short',
    test: 'static reach test',
    change: 'longer stem',
    cost: 2,
    evidence: (c) => [
      ...measured(c, 'shoulderAngleDeg', 'low', 'trunk to upper arm'),
      ...measured(c, 'elbowFlexionDeg', 'high', 'elbow bend'),
    ],
  },
  barLow: {
    what: 'bar too low',
    test: 'forward hinge: does the back round?',
    change: 'spacers, stem flipped',
    cost: 2,
    evidence: (c) => [
      ...measured(c, 'backAngleDeg', 'low', 'back'),
      ...(c.body.results.hinge?.both === 'round'
        ? [say(0.8, 'the back rounds on the hinge')]
        : c.body.results.hinge?.both === 'flat'
          ? [say(-0.5, 'the back stays flat on the hinge')]
          : []),
    ],
  },
  barRolled: {
    what: 'bar or hoods rolled up',
    test: 'wrist straight on the hoods?',
    change: 'bar turned to a smooth line',
    cost: 1,
    evidence: (c) =>
      when(c.bike.bar.rotationDeg, (v) =>
        v >= 8 ? [0.8, `bar rolled up ${v}°`] : [-0.6, 'bar not rolled up'],
      ),
  },
  elbowsLocked: {
    what: 'elbows locked',
    test: 'look; ask for soft elbows',
    change: 'reach, then habit',
    cost: 0,
    evidence: (c) => measured(c, 'elbowFlexionDeg', 'low', 'elbow bend'),
  },
  leverReach: {
    what: 'lever reach',
    test: 'two fingers from hoods and drops',
    change: 'reach screw',
    cost: 0,
    evidence: () => [],
  },
} satisfies Record<string, Rule>;

export type SuspectKey = keyof typeof RULES;
