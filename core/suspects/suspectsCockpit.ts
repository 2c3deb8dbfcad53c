import { measured, say, when, type Rule } from './evidence.ts';

/** Suspects at the bar. */
export const COCKPIT = {
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
  hoods: {
    what: 'position of the hoods',
    test: 'a straight wrist, and a smooth line from bar to hood',
    change: 'hoods along the bar, or turned in less',
    cost: 1,
    evidence: (c) =>
      when(c.bike.levers.turnInDeg, (v) =>
        Math.abs(v) > 10 ? [0.6, `levers turned in ${v}°`] : [-0.3, 'levers straight'],
      ),
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
