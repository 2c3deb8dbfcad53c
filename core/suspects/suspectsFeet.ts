import { crankRangeMm, shoeAdvice, stanceTendency } from '../body/estimates.ts';
import { pair, single } from '../body/tests.ts';
import { bothFeet, measured, say, when, type Rule } from './evidence.ts';

/** A cleat that far behind the first head is beyond every school but the mid-foot's (own choice: twice the usual 10 mm). */
const FAR_BACK_MM = 20;

const cleatPlace = (behindMm: number): string =>
  behindMm < 0
    ? `cleat ${-behindMm} mm ahead of the first head`
    : `cleat ${behindMm < 5 ? 'only ' : ''}${behindMm} mm behind the first head`;

/** Suspects at the feet and the crank. */
export const FEET = {
  cleatForward: {
    what: 'cleat too far forward',
    test: 'look at the heads’ marks',
    change: 'cleat back 2–3 mm, saddle down about half',
    cost: 1,
    evidence: (c) => {
      const back = bothFeet(c, (f) => f.cleatBehindMm);
      return back.length === 0 ? [] : [say(Math.min(...back) < 5 ? 1 : -1, cleatPlace(Math.min(...back)))];
    },
  },
  cleatFarBack: {
    what: 'cleat far back',
    test: 'look at the heads’ marks',
    change: 'cleat forward 2–3 mm, saddle up about half',
    cost: 1,
    evidence: (c) => {
      const back = bothFeet(c, (f) => f.cleatBehindMm);
      if (back.length === 0) return [];
      const most = Math.max(...back);
      return [say(most >= FAR_BACK_MM ? 0.8 : -0.6, cleatPlace(most))];
    },
  },
  cleatsUnlike: {
    what: 'cleats unlike, left and right',
    test: 'both shoes side by side, heads marked',
    change: 'the odd one to where its partner stands',
    cost: 1,
    evidence: (c) => {
      const back = bothFeet(c, (f) => f.cleatBehindMm);
      const apart = back.length === 2 ? Math.abs(back[0] - back[1]) : null;
      const { left, right } = c.resolved.stanceMm;
      const stance = left !== null && right !== null ? Math.abs(left - right) : null;
      return [
        ...when(apart, (v) =>
          v >= 3
            ? [0.9, `cleats ${Math.round(v)} mm apart fore and aft`]
            : [-0.6, 'cleats alike fore and aft'],
        ),
        ...when(stance, (v) =>
          v >= 4 ? [0.8, `feet ${Math.round(v)} mm unevenly placed about the middle`] : null,
        ),
      ];
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
      // Supported by a wedge only if the knee's path shows it: so the path speaks louder than the table.
      return [
        ...(p.left === null && p.right === null
          ? []
          : [most >= 8 ? say(0.6, `forefoot tilt ${most}°`) : say(-0.4, 'little tilt')]),
        ...measured(c, 'kneePathWidthMm', 'high', 'knee path'),
      ];
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
    evidence: (c) => {
      const a = c.body.results.arch;
      return a?.left === 'low' || a?.right === 'low' ? [say(0.7, 'low arch')] : [];
    },
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
} satisfies Record<string, Rule>;
