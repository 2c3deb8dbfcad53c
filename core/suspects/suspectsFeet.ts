import { cleatRotationStart, crankRangeMm, shoeAdvice, stanceTendency } from '../body/estimates.ts';
import { pair, single, worse } from '../body/bodyTests.ts';
import type { Complaint } from '../intake/intake.ts';
import {
  feetOf,
  measured,
  primary,
  say,
  secondary,
  sidesOf,
  unknown,
  when,
  type SuspectCase,
  type Evidence,
  type Rule,
} from './evidence.ts';

/** A cleat that far behind the first head is beyond every school but the mid-foot's (own choice: twice the usual 10 mm). */
const FAR_BACK_MM = 20;

const cleatPlace = (behindMm: number): string =>
  behindMm < 0
    ? `cleat ${-behindMm} mm ahead of the first head`
    : `cleat ${behindMm < 5 ? 'only ' : ''}${behindMm} mm behind the first head`;

/** Knee against foot as the film from ahead has it: what decides a stance (handbook: rules, how evidence counts). */
function stanceFilmed(c: SuspectCase, q: Complaint, way: 1 | -1): Evidence[] {
  const seen = sidesOf(q).flatMap((side) => {
    const k = c.kneeOverFootMm?.[side];
    return k ? [{ side, ...k }] : [];
  });
  if (seen.length === 0) return [unknown('knee over foot not filmed from ahead')];
  const most = seen.reduce((a, b) => (way * b.value > way * a.value ? b : a));
  const words = `${most.side} knee ${Math.round(Math.abs(most.value))} mm ${most.value > 0 ? 'outside' : 'inside'} its foot`;
  const beyond = way * most.value - 10;
  return [primary(beyond > 0 ? Math.min(1.4, 0.7 + beyond / 20) : -0.6, words)];
}

/** How far a cleat lets the heel rest off what walk and jump show, degrees; + the heel should come further in. */
export function rotationOff(c: Pick<SuspectCase, 'body' | 'bike'>, side: 'left' | 'right'): number | null {
  const wanted = cleatRotationStart(c.body)[side];
  const rests = c.bike.feet[side].heelOutDeg;
  return wanted === null || rests === null ? null : rests - wanted;
}

/** Suspects at the feet and the crank. */
export const FEET = {
  cleatForward: {
    what: 'cleat too far forward',
    test: 'look at the heads’ marks',
    change: 'cleat back 2–3 mm; the saddle follows by what the model says',
    cost: 1,
    evidence: (c, q) => {
      const back = feetOf(c, q, (f) => f.cleatBehindMm).map((f) => f.value);
      if (back.length === 0) return [];
      const least = Math.min(...back);
      // A sore Achilles asks for a short lever: anything short of the school's far end speaks there.
      if (q.region === 'calf')
        return [primary(least < 13 ? 0.7 + Math.min(0.7, (13 - least) / 15) : -0.6, cleatPlace(least))];
      return [primary(least < 5 ? 0.9 + Math.min(0.5, (5 - least) / 20) : -0.8, cleatPlace(least))];
    },
  },
  cleatFarBack: {
    what: 'cleat far back',
    test: 'look at the heads’ marks',
    change: 'cleat forward 2–3 mm; the saddle follows by what the model says',
    cost: 1,
    evidence: (c, q) => {
      const back = feetOf(c, q, (f) => f.cleatBehindMm).map((f) => f.value);
      if (back.length === 0) return [];
      const most = Math.max(...back);
      return [primary(most >= FAR_BACK_MM ? 0.8 : -0.6, cleatPlace(most))];
    },
  },
  cleatsUnlike: {
    what: 'cleats unlike, left and right',
    test: 'both shoes side by side, heads marked',
    change: 'the odd one to where its partner stands',
    cost: 1,
    evidence: (c) => {
      const { left, right } = c.bike.feet;
      const apart =
        left.cleatBehindMm !== null && right.cleatBehindMm !== null
          ? Math.abs(left.cleatBehindMm - right.cleatBehindMm)
          : null;
      const stance = c.resolved.stanceMm;
      const by = stance.left !== null && stance.right !== null ? Math.abs(stance.left - stance.right) : null;
      return [
        ...when(apart, (v) =>
          secondary(
            0.3 + Math.min(0.9, v / 8),
            v >= 3,
            v >= 3 ? `cleats ${Math.round(v)} mm apart fore and aft` : 'cleats matched fore and aft',
          ),
        ),
        ...when(by, (v) =>
          v >= 4 ? say(0.6, `feet ${Math.round(v)} mm unevenly placed about the middle`) : null,
        ),
      ];
    },
  },
  cleatRotation: {
    what: 'cleat forces the foot in or out',
    test: 'float test: heel in and out before the stop',
    change: 'cleat turned 1–2°',
    cost: 1,
    evidence: (c, q) => {
      const off = sidesOf(q).flatMap((side) => {
        const by = rotationOff(c, side);
        return by === null ? [] : [{ side, by }];
      });
      const most = off.reduce<(typeof off)[number] | null>(
        (a, b) => (a && Math.abs(a.by) >= Math.abs(b.by) ? a : b),
        null,
      );
      return most
        ? [
            secondary(
              Math.min(1.1, 0.5 + Math.abs(most.by) / 10),
              Math.abs(most.by) >= 3,
              `${most.side} heel held ${Math.abs(Math.round(most.by))}° further ${most.by > 0 ? 'out' : 'in'} than walk and jump put it`,
            ),
          ]
        : [];
    },
  },
  stanceNarrow: {
    what: 'stance too narrow',
    test: 'film from ahead: knee over foot; then cleats in by 2 mm',
    change: 'cleat, then washer, then longer axle',
    cost: 1,
    evidence: (c, q) => {
      const t = stanceTendency(c.body);
      return [
        ...stanceFilmed(c, q, 1),
        ...(t.tends === 'wider' && q.region !== 'hands'
          ? [say(0.25, `build may ask for more: ${t.reasons.join(', ')}`)]
          : []),
      ];
    },
  },
  stanceWide: {
    what: 'stance too wide',
    test: 'film from ahead: knee over foot; then cleats out by 2 mm',
    change: 'cleat, then shorter axle',
    cost: 1,
    evidence: (c, q) => {
      const t = stanceTendency(c.body);
      return [
        ...stanceFilmed(c, q, -1),
        ...(t.tends === 'narrower' ? [say(0.25, `build may ask for less: ${t.reasons.join(', ')}`)] : []),
      ];
    },
  },
  forefootTilt: {
    what: 'forefoot tilt',
    test: 'knee path from the front',
    change: 'arch support, then a wedge',
    cost: 2,
    evidence: (c, q) => {
      const p = pair(c.body, 'forefootTilt');
      const own = sidesOf(q).flatMap((side) => (p[side] === null ? [] : [Math.abs(p[side])]));
      return [
        ...(own.length === 0
          ? []
          : [secondary(0.5, Math.max(...own) >= 8, `forefoot tilt ${Math.max(...own)}°`)]),
        ...measured(c, q, { key: 'kneePathWidthMm', wrong: 'high', gives: 0.7 }),
      ];
    },
  },
  footControl: {
    what: 'foot and hip do not hold the knee',
    test: 'a third of a knee bend on one leg, with and without arch support',
    change: 'arch support and exercises; nothing on the bike',
    cost: 0,
    evidence: (c, q) => {
      const bend = c.body.results.oneLegBend;
      const stand = pair(c.body, 'standOpen');
      return sidesOf(q).flatMap((side) => [
        ...(typeof bend?.[side] === 'string'
          ? [
              secondary(
                0.5,
                bend[side] !== 'steady',
                `${side} one-leg bend ${bend[side] === 'steady' ? 'steady' : 'unsteady'}`,
              ),
            ]
          : []),
        ...(stand[side] !== null
          ? [secondary(0.3, stand[side] < 6, `${side} one-leg stand ${stand[side]} of 10`)]
          : []),
      ]);
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
  forefootPad: {
    what: 'heads of the forefoot pressed together',
    test: 'a small pad behind the heads, for a ride',
    change: 'a pad that spreads them',
    cost: 1,
    evidence: () => [],
  },
  cold: {
    what: 'cold feet',
    test: 'the same ride with warm feet: free',
    change: 'overshoes, looser socks',
    cost: 0,
    evidence: () => [],
  },
  archContact: {
    what: 'no contact under the arch',
    test: 'a folded card under the arch',
    change: 'arch support',
    cost: 1,
    evidence: (c, q) => {
      const a = c.body.results.arch;
      return sidesOf(q).some((side) => a?.[side] === 'low') ? [say(0.7, 'low arch')] : [];
    },
  },
  crankLong: {
    what: 'crank too long',
    test: 'a shorter crank on the trainer',
    change: 'crank 2.5–5 mm shorter, saddle up by as much',
    cost: 4,
    evidence: (c, q) => {
      const crank = c.bike.crank.lengthMm;
      const inseam = single(c.body, 'inseam') ?? (single(c.body, 'height') ?? NaN) * 0.46;
      const flexion = worse(c.body, 'hipFlexion', 'least');
      return [
        ...(crank !== null && Number.isFinite(inseam)
          ? [
              secondary(
                // One school's starting figure: a reason to ask, more so the further over.
                0.3 + Math.min(0.4, (crank - crankRangeMm(inseam)[1]) / 50),
                crank > crankRangeMm(inseam)[1],
                `crank ${crank} mm, ${crankRangeMm(inseam).join(' to ')} mm by one school for this inseam`,
              ),
            ]
          : []),
        ...measured(c, q, { key: 'hipAngleMinDeg', wrong: 'low', gives: 0.9 }),
        ...measured(c, q, { key: 'kneeFlexionMaxDeg', wrong: 'high', gives: 0.5 }),
        ...(flexion === null ? [] : [secondary(0.5, flexion < 110, `hip flexion ${flexion}° on the table`)]),
      ];
    },
  },
} satisfies Record<string, Rule>;
