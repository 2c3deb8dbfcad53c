import { legLength } from '../body/estimates.ts';
import { finding, worse } from '../body/tests.ts';
import { measured, say, uneven, when, type Rule } from './evidence.ts';

/** Under the 80 to 95 rpm at which riders are filmed (handbook: rules, on-bike tests), by a tenth. */
const LOW_CADENCE_RPM = 72;

/** Suspects in the rider: no bolt is turned for them alone. */
export const RIDER = {
  lowCadence: {
    what: 'low cadence at load',
    test: 'the same effort at 90 rpm',
    change: 'gears, not parts',
    cost: 0,
    evidence: (c) =>
      when(c.cadenceRpm, (v) =>
        v < LOW_CADENCE_RPM
          ? [0.8, `${Math.round(v)} rpm in the film`]
          : [-0.6, `${Math.round(v)} rpm in the film, not low`],
      ),
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
          : l.kind === 'none' || l.kind === 'pelvic-rotation'
            ? [say(-0.8, l.words)]
            : [say(1, `${l.longer} leg ${Math.round(l.differenceMm)} mm longer`)]),
        ...uneven(c, 'kneeFlexionMinDeg', 0.6),
      ];
    },
  },
  pelvis: {
    what: 'pelvis not level',
    test: 'crests from behind, standing and on the bike',
    change: 'leg lengths and cleats first; then the saddle’s middle',
    cost: 1,
    evidence: (c) => [
      ...(finding(c.body, 'pelvis') === 'level'
        ? [say(-0.4, 'crests level standing')]
        : finding(c.body, 'pelvis') === null
          ? []
          : [
              say(0.6, `${finding(c.body, 'pelvis') === 'left-low' ? 'left' : 'right'} crest lower standing`),
            ]),
      ...uneven(c, 'pelvisMeanDeg', 1.2),
    ],
  },
  oldInjury: {
    what: 'an old injury',
    test: 'ask; compare that side’s tests',
    change: 'nothing on the bike before a clinician’s word',
    cost: 0,
    evidence: (c) => {
      const past = c.intake.past.trim();
      if (past === '') return [];
      return [say(0.4, `past: ${past.length > 60 ? `${past.slice(0, 59).trimEnd()}…` : past}`)];
    },
  },
} satisfies Record<string, Rule>;
