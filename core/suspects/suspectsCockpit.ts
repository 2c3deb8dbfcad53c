import { barWidthMm } from '../body/estimates.ts';
import { finding, single } from '../body/bodyTests.ts';
import {
  fault,
  measured,
  primary,
  secondary,
  when,
  type SuspectCase,
  type Evidence,
  type Rule,
} from './evidence.ts';

/** A rider on the hoods carries up to about a fifth of the weight on the hands (own reading of the balance's model). */
const MUCH_ON_HANDS = 0.21;

const handsCarry = (c: SuspectCase): Evidence[] =>
  when(c.handsShare, (v) =>
    secondary(0.4, v > MUCH_ON_HANDS, `hands carry about ${Math.round(100 * v)} % of the weight`),
  );

/** Suspects at the bar. */
export const COCKPIT = {
  reachLong: {
    what: 'reach too long',
    test: 'static reach test',
    change: 'shorter stem, 10 mm at a time',
    cost: 2,
    evidence: (c, q) => [
      ...fault(c, q, 'reachLong'),
      ...measured(c, q, { key: 'elbowFlexionDeg', wrong: 'low', gives: 0.3 }),
      ...handsCarry(c),
    ],
  },
  reachShort: {
    what: 'reach too short',
    test: 'static reach test',
    change: 'longer stem, 10 mm at a time',
    cost: 2,
    evidence: (c, q) => [
      ...fault(c, q, 'reachShort'),
      ...measured(c, q, { key: 'elbowFlexionDeg', wrong: 'high', gives: 0.3 }),
    ],
  },
  barLow: {
    what: 'bar too low',
    test: 'forward hinge: does the back round?',
    change: 'spacers, stem turned over',
    cost: 2,
    evidence: (c, q) => [
      ...fault(c, q, 'barLow'),
      ...(finding(c.body, 'hinge') === null
        ? []
        : [
            secondary(
              0.6,
              finding(c.body, 'hinge') === 'round',
              `the back ${finding(c.body, 'hinge') === 'round' ? 'rounds' : 'stays flat'} on the hinge`,
            ),
          ]),
      ...handsCarry(c),
    ],
  },
  hoods: {
    what: 'position of the hoods',
    test: 'a straight wrist, and a smooth line from bar to hood',
    change: 'hoods along the bar, or turned in less',
    cost: 1,
    evidence: (c) =>
      when(c.bike.levers.turnInDeg, (v) =>
        secondary(0.6, Math.abs(v) > 10, Math.abs(v) > 10 ? `levers turned in ${v}°` : 'levers straight'),
      ),
  },
  barRolled: {
    what: 'bar or hoods rolled up',
    test: 'wrist straight on the hoods?',
    change: 'bar turned to a smooth line',
    cost: 1,
    evidence: (c) =>
      when(c.bike.bar.rotationDeg, (v) =>
        v >= 8 ? primary(Math.min(1.2, v / 10), `bar rolled up ${v}°`) : primary(-0.5, 'bar not rolled up'),
      ),
  },
  barWide: {
    what: 'bar too wide or too narrow',
    test: 'shoulder width against the hoods’ middles',
    change: 'another bar',
    cost: 4,
    evidence: (c) =>
      when(single(c.body, 'shoulderWidth'), (v) => {
        const w = c.bike.bar.widthMm;
        if (w === null || c.bike.bar.dropMm === null) return null;
        const [from, to] = barWidthMm(v);
        return secondary(0.5, w > to || w < from, `bar ${w} mm, shoulders ${v} mm`);
      }),
  },
  elbowsLocked: {
    what: 'elbows locked',
    test: 'look; ask for soft elbows',
    change: 'reach, then habit',
    cost: 0,
    evidence: (c, q) => measured(c, q, { key: 'elbowFlexionDeg', wrong: 'low', gives: 0.7 }),
  },
  leverReach: {
    what: 'lever reach',
    test: 'two fingers from hoods and drops',
    change: 'reach screw',
    cost: 0,
    evidence: () => [],
  },
  handsHabit: {
    what: 'gloves, tape, one hold for long, bent wrists',
    test: 'ask; change the hold every five minutes for a ride: free',
    change: 'habit, gloves, tape; no bolt',
    cost: 0,
    evidence: () => [],
  },
  shoulderStiff: {
    what: 'a shoulder that does not go overhead',
    test: 'arms overhead against the wall',
    change: 'bar nearer or narrower only as far as it eases; exercises',
    cost: 0,
    evidence: (c) => {
      const s = c.body.results.shoulderRange;
      const found = [s?.left, s?.right].filter((v): v is string => typeof v === 'string');
      return found.length === 0
        ? []
        : [
            secondary(
              0.5,
              found.some((v) => v !== 'free'),
              `shoulder range ${found.join(' / ')}`,
            ),
          ];
    },
  },
  core: {
    what: 'trunk tires, the arms hold it up',
    test: 'core hold; does it begin late in the ride?',
    change: 'a more upright start, exercises',
    cost: 0,
    evidence: (c) => when(single(c.body, 'coreHold'), (v) => secondary(0.5, v < 40, `core hold ${v} s`)),
  },
} satisfies Record<string, Rule>;
