import { saddleWidths } from '../body/estimates.ts';
import { single } from '../body/bodyTests.ts';
import {
  fault,
  heightByTape,
  measured,
  primary,
  say,
  secondary,
  uneven,
  when,
  type Rule,
} from './evidence.ts';

/** Suspects at the saddle. */
export const SADDLE = {
  saddleLow: {
    what: 'saddle too low',
    test: 'raise it 3 mm, ride, ask',
    change: 'saddle up in 3 mm steps',
    cost: 1,
    evidence: (c, q) => [
      ...fault(c, q, 'saddleLow'),
      ...heightByTape(c, 'low'),
      ...measured(c, q, { key: 'kneeFlexionMaxDeg', wrong: 'high', gives: 0.3 }),
      ...(q.region === 'calf' ? measured(c, q, { key: 'footPitch180Deg', wrong: 'low', gives: 0.5 }) : []),
    ],
  },
  saddleHigh: {
    what: 'saddle too high',
    test: 'lower it 3 mm, ride, ask',
    change: 'saddle down in 3 mm steps',
    cost: 1,
    evidence: (c, q) => [
      ...fault(c, q, 'saddleHigh'),
      ...heightByTape(c, 'high'),
      ...measured(c, q, { key: 'footPitch180Deg', wrong: 'high', gives: 0.5 }),
      ...uneven(c, 'pelvisSwingDeg', 0.5).filter((e) => e.weight > 0),
    ],
  },
  saddleForward: {
    what: 'saddle too far forward',
    test: 'hands-off for 2–3 s in the drops',
    change: 'saddle back 5 mm',
    cost: 1,
    evidence: (c, q) => [
      ...fault(c, q, 'saddleForward'),
      ...when(c.resolved.seatAngleDeg, (v) =>
        v > 77 ? say(0.4, `saddle’s seat angle ${v.toFixed(1)}°, steep`) : null,
      ),
    ],
  },
  saddleBack: {
    what: 'saddle too far back',
    test: 'plumb line and hands-off',
    change: 'saddle forward 5 mm',
    cost: 1,
    evidence: (c, q) => [
      ...fault(c, q, 'saddleBack'),
      ...when(c.resolved.seatAngleDeg, (v) =>
        v < 70 ? say(0.4, `saddle’s seat angle ${v.toFixed(1)}°, slack`) : null,
      ),
    ],
  },
  noseDown: {
    what: 'saddle nose-down',
    test: 'ask what it is for; level it by 1°, ride',
    change: 'nose up 1° at a time',
    cost: 1,
    evidence: (c) =>
      when(c.bike.saddle.tiltDeg, (v) =>
        v < -2
          ? primary(Math.min(1.5, 0.3 * -v), `saddle ${-v}° nose-down`)
          : primary(-1, 'saddle not nose-down'),
      ),
  },
  noseUp: {
    what: 'saddle nose-up',
    test: 'level it by 1°, ride',
    change: 'nose down 1° at a time',
    cost: 1,
    evidence: (c) =>
      when(c.bike.saddle.tiltDeg, (v) =>
        v > 2 ? primary(Math.min(1.5, 0.4 * v), `saddle ${v}° nose-up`) : primary(-0.8, 'nose not up'),
      ),
  },
  saddleNarrow: {
    what: 'saddle too narrow or of the wrong shape',
    test: 'sit-bone spacing on the saddle’s flat part',
    change: 'another saddle from the parts',
    cost: 3,
    evidence: (c) =>
      when(single(c.body, 'sitBones'), (v) => {
        const w = c.bike.saddle.widthMm;
        if (w === null) return null;
        const [, overall] = saddleWidths(v, 'middle');
        return w < overall.fromMm
          ? primary(
              Math.min(1, 0.3 + (overall.fromMm - w) / 15),
              `saddle ${w} mm, sit bones ask for ${overall.fromMm} to ${overall.toMm}`,
            )
          : primary(-0.8, 'wide enough for the sit bones');
      }),
  },
  saddleWide: {
    what: 'saddle too wide where the thighs pass',
    test: 'look from behind: do the thighs rub or spread?',
    change: 'a narrower nose or saddle',
    cost: 3,
    evidence: (c) =>
      when(single(c.body, 'sitBones'), (v) => {
        const w = c.bike.saddle.widthMm;
        if (w === null) return null;
        const [, overall] = saddleWidths(v, 'middle');
        return primary(
          w > overall.toMm + 10 ? 0.7 : -0.5,
          `saddle ${w} mm, sit bones ask for ${overall.fromMm} to ${overall.toMm}`,
        );
      }),
  },
  saddleSoft: {
    what: 'saddle too soft or domed',
    test: 'a thumb pressed in, a ruler laid across',
    change: 'a firmer or flatter one from the parts',
    cost: 3,
    evidence: () => [],
  },
  uprightOnNarrow: {
    what: 'too upright for a saddle so narrow',
    test: 'lean as on the drops: does it ease?',
    change: 'a wider saddle, or the bar lower',
    cost: 3,
    evidence: (c, q) => {
      const sit = single(c.body, 'sitBones');
      const width = c.bike.saddle.widthMm;
      const narrow = sit !== null && width !== null && width < saddleWidths(sit, 'upright')[1].fromMm;
      const upright = [
        ...measured(c, q, { key: 'backAngleDeg', wrong: 'high', gives: 0.5 }),
        ...(c.intake.discipline === 'city' ? [say(0.3, 'rides upright')] : []),
      ];
      if (sit === null || width === null) return upright.filter((e) => e.weight < 0);
      return narrow
        ? [...upright, say(0.4, `saddle ${width} mm, narrow for sitting upright`)]
        : [secondary(0.8, false, 'wide enough for sitting upright')];
    },
  },
  noRelief: {
    what: 'no relief channel',
    test: 'a saddle with one, for a ride',
    change: 'another saddle from the parts',
    cost: 3,
    evidence: (c) =>
      c.bike.saddle.reliefChannel === null
        ? []
        : [
            secondary(
              0.5,
              !c.bike.saddle.reliefChannel,
              c.bike.saddle.reliefChannel ? 'the saddle has one' : 'the saddle has none',
            ),
          ],
  },
} satisfies Record<string, Rule>;
