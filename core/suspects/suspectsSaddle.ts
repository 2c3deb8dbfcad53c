import { saddleWidths } from '../body/estimates.ts';
import { single } from '../body/tests.ts';
import { heightOff, measured, say, uneven, when, type Rule } from './evidence.ts';

/** Suspects at the saddle. */
export const SADDLE = {
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
      ...uneven(c, 'pelvisSwingDeg', 0.5).filter((e) => e.weight > 0),
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
  saddleSoft: {
    what: 'saddle too soft or domed',
    test: 'a thumb pressed in, a ruler laid across',
    change: 'a firmer or flatter one from the bin',
    cost: 3,
    evidence: () => [],
  },
  uprightOnNarrow: {
    what: 'too upright for a saddle so narrow',
    test: 'lean as on the drops: does it ease?',
    change: 'a wider saddle, or the bar lower',
    cost: 3,
    evidence: (c) => {
      const sit = single(c.body, 'sitBones');
      const width = c.bike.saddle.widthMm;
      const narrow = sit !== null && width !== null && width < saddleWidths(sit, 'upright')[1].fromMm;
      const upright = [
        ...measured(c, 'backAngleDeg', 'high', 'back'),
        ...(c.intake.discipline === 'city' ? [say(0.4, 'rides upright')] : []),
      ];
      if (sit === null || width === null) return upright.filter((e) => e.weight < 0);
      return narrow
        ? [...upright, say(0.4, `saddle ${width} mm, narrow for sitting upright`)]
        : [say(-0.8, 'wide enough for sitting upright')];
    },
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
} satisfies Record<string, Rule>;
