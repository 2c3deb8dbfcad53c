import { effectsOf, type Moves } from './controls/controls.ts';
import type { PlanCase, PlanLine } from './terms/plan.ts';

/** What the lines that stand take away of a compensation's cause, as one says it. */
type Causes = (
  stands: (key: string, so: (m: Moves) => boolean) => boolean,
  c: PlanCase,
) => (string | false)[];

interface Compensation {
  what: string;
  seen: (c: PlanCase) => boolean;
  causes: Causes;
  /** What becomes of it once its cause goes: it vanishes by itself, or somebody has to undo it. */
  then?: string;
  /** Where no line takes a cause away. */
  otherwise: string;
}

/** Whether a front brings the hands nearer or higher, as far as a rider would feel it. */
const eases = (c: PlanCase, m: Moves): boolean => {
  const { x, y } = effectsOf(c.bike, m).handMm;
  return x <= -3 || y >= 3;
};

const nearerOrHigher: Causes = (stands, c) => [
  stands('hands', (m) => eases(c, m)) && 'the hands come nearer or higher',
];

/** What riders do about a bike that does not fit them, with what brings it about (handbook: rules, compensations). */
const COMPENSATIONS: readonly Compensation[] = [
  {
    what: 'The rider slides forward',
    seen: (c) => c.onBike?.slides === 'yes',
    causes: (stands, c) => [
      stands('saddleUp', (m) => (m.saddleUp ?? 0) < 0) && 'the saddle comes down',
      stands('saddleTilt', (m) => (m.saddleTilt ?? 0) > 0) && 'its nose comes up',
      ...nearerOrHigher(stands, c),
    ],
    otherwise: 'look at saddle height, tilt and reach again',
  },
  {
    what: 'The heel rises early',
    seen: (c) => c.onBike?.heelRises === 'yes',
    causes: (stands) => [stands('saddleBack', (m) => (m.saddleBack ?? 0) > 0) && 'the saddle goes back'],
    otherwise: 'look at setback, and at the straight-leg raise',
  },
  {
    what: 'The saddle is nose-down',
    seen: (c) => (c.bike.saddle.tiltDeg ?? 0) < -3,
    causes: (stands, c) => [...nearerOrHigher(stands, c)],
    then: 'no longer needed',
    otherwise:
      'usually a bar too low or too far, or the wrong saddle: ask why it was tilted before it is levelled',
  },
  {
    what: 'The bar is rolled up',
    seen: (c) => (c.bike.bar.rotationDeg ?? 0) >= 8,
    causes: nearerOrHigher,
    then: 'no longer needed',
    otherwise: 'usually a reach that is too long or a bar too low: it is turned back after those',
  },
  {
    what: 'Shoulders are shrugged or arms locked',
    seen: (c) => c.onBike?.arms === 'locked',
    causes: (stands, c) => [
      stands('hands', (m) => {
        const { x, y } = effectsOf(c.bike, m).handMm;
        return Math.hypot(x, y) >= 5;
      }) && 'the hands come to another place',
    ],
    otherwise: 'look at reach and bar height with the static reach test',
  },
  {
    what: 'The back rounds and the head comes up',
    seen: (c) => c.onBike?.back === 'round',
    causes: (stands, c) => [
      stands('hands', (m) => effectsOf(c.bike, m).handMm.y >= 3) && 'the hands come higher',
    ],
    otherwise: 'usually a bar lower than this back allows',
  },
];

/** Compensations that the tests on the bike and the bike itself show, each with the lines that take their cause away. */
export function otherCompensations(c: PlanCase, lines: readonly PlanLine[]): string[] {
  const stands = (key: string, so: (m: Moves) => boolean): boolean =>
    lines.some((l) => l.key === key && so(l.moves));
  return COMPENSATIONS.filter((k) => k.seen(c)).map((k) => {
    const causes = k.causes(stands, c).filter(Boolean).join(', ');
    return causes
      ? `${k.what}: ${k.then ?? 'expected to go'}, since ${causes}.`
      : `${k.what}, and nothing here takes its cause away: ${k.otherwise}.`;
  });
}
