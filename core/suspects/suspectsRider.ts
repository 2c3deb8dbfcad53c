import { legLength } from '../body/estimates.ts';
import { finding, single, worse } from '../body/bodyTests.ts';
import { measured, say, secondary, sidesOf, uneven, when, type Rule } from './evidence.ts';

/** Under the 80 to 95 rpm at which riders are filmed (handbook: rules, on-bike tests), by a tenth. */
const LOW_CADENCE_RPM = 72;

const shortened = (words: string): string => (words.length > 60 ? `${words.slice(0, 59).trimEnd()}…` : words);

/** Suspects in the rider: no bolt is turned for them alone. */
export const RIDER = {
  lowCadence: {
    what: 'low cadence at load',
    test: 'the same effort at 90 rpm',
    change: 'gears, not parts',
    cost: 0,
    evidence: (c) =>
      when(c.cadenceRpm, (v) =>
        secondary(
          0.8,
          v < LOW_CADENCE_RPM,
          `${Math.round(v)} rpm in the film${v < LOW_CADENCE_RPM ? '' : ', not low'}`,
        ),
      ),
  },
  hamstrings: {
    what: 'tight hamstrings',
    test: 'straight-leg raise',
    change: 'saddle in the lower half of its band; stretch',
    cost: 0,
    evidence: (c) => [
      ...when(worse(c.body, 'straightLegRaise', 'least'), (v) =>
        secondary(0.7, v < 60, `straight-leg raise ${v}°`),
      ),
      ...when(single(c.body, 'fingertips'), (v) =>
        v > 150 ? say(0.2, `fingertips ${v} mm off the floor`) : null,
      ),
    ],
  },
  flatFoot: {
    what: 'flat foot with an over-straight knee',
    test: 'foot pitch with the knee’s bend',
    change: 'lower the saddle, or retrain the foot',
    cost: 1,
    evidence: (c, q) => measured(c, q, { key: 'footPitch180Deg', wrong: 'low', gives: 0.5 }),
  },
  iliotibial: {
    what: 'tight iliotibial band',
    test: 'leg lowered across, lying on the side',
    change: 'exercises; saddle no higher, stance no wider',
    cost: 0,
    evidence: (c, q) => {
      const t = c.body.results.iliotibial;
      return sidesOf(q).flatMap((side) =>
        typeof t?.[side] === 'string'
          ? [secondary(0.7, t[side] === 'tight', `${side} iliotibial band ${t[side]}`)]
          : [],
      );
    },
  },
  hipRotation: {
    what: 'a hip that turns little',
    test: 'hip rotation, seated',
    change: 'the foot may point as the hip asks; stance before rotation',
    cost: 0,
    evidence: (c) =>
      when(worse(c.body, 'hipInternal', 'least'), (v) =>
        secondary(0.4, v < 20, `hip internal rotation ${v}°`),
      ),
  },
  legLength: {
    what: 'leg-length difference',
    test: 'malleoli pulled, then sitting up',
    change: 'shim of about half, if it shows on the bike',
    cost: 2,
    evidence: (c) => {
      const l = legLength(c.body);
      return [
        ...(l.kind === 'open'
          ? []
          : [
              secondary(
                0.8,
                l.kind !== 'none' && l.kind !== 'pelvic-rotation',
                l.longer ? `${l.longer} leg ${Math.round(l.differenceMm)} mm longer` : l.words,
              ),
            ]),
        ...uneven(c, 'kneeFlexionMinDeg', 0.6),
      ];
    },
  },
  pelvis: {
    what: 'pelvis not level',
    test: 'crests from behind, standing and on the bike',
    change: 'leg lengths and cleats first; then the saddle’s middle',
    cost: 1,
    evidence: (c) => {
      const found = finding(c.body, 'pelvis');
      return [
        ...(found === null
          ? []
          : [
              secondary(
                0.6,
                found !== 'level',
                found === 'level'
                  ? 'crests level standing'
                  : `${found === 'left-low' ? 'left' : 'right'} crest lower standing`,
              ),
            ]),
        ...uneven(c, 'pelvisMeanDeg', 1),
      ];
    },
  },
  oldInjury: {
    what: 'an old injury',
    test: 'ask; compare that side’s tests',
    change: 'nothing on the bike before a clinician’s word',
    cost: 0,
    evidence: (c) =>
      c.intake.past.trim() === '' ? [] : [say(0.4, `past: ${shortened(c.intake.past.trim())}`)],
  },
  recentChange: {
    what: 'something that changed before it began',
    test: 'ask; put it back for a week',
    change: 'back to what it was, or less of it',
    cost: 2,
    evidence: (c) =>
      c.intake.changed.trim() === '' ? [] : [say(0.4, `changed: ${shortened(c.intake.changed.trim())}`)],
  },
} satisfies Record<string, Rule>;
