import { CONTROLS, type ControlKey, type Moves, type Stage } from './controls.ts';

/** At most this much of saddle height in a visit without filming again (handbook: targets); half for who takes half steps. */
const HEIGHT_A_VISIT_MM = 10;

/** What a group of the solver's controls is called, is watched for and done by. */
export const GROUPS: readonly {
  key: string;
  stage: Stage;
  controls: readonly ControlKey[];
  check: string;
  risk: readonly string[];
}[] = [
  {
    key: 'crank',
    stage: 'saddle',
    controls: ['crank'],
    check: 'cadence and power as before, hip at the top',
    risk: ['A part to order; the chain’s other ring may need one too.', 'Crank bolts to the maker’s torque.'],
  },
  {
    key: 'saddleUp',
    stage: 'saddle',
    controls: ['saddleUp'],
    check: 'ride, ask; hips still, heel not reaching',
    risk: ['Stay inside the post’s marks; clamp to the maker’s torque.'],
  },
  {
    key: 'saddleBack',
    stage: 'saddle',
    controls: ['saddleBack'],
    check: 'plumb line with the crank levelled, then hands off for 2–3 s',
    risk: ['Stay inside the rails’ marks.'],
  },
  {
    key: 'front',
    stage: 'cockpit',
    controls: [
      'stemLength',
      'stemAngle',
      'stemFlip',
      'spacers',
      'barReach',
      'barWidth',
      'barRotation',
      'hoods',
      'padRise',
      'padAhead',
    ],
    check: 'static reach test, hands off, one hand; brakes from hoods and drops',
    risk: ['Steerer and stem to the maker’s torque; brakes straight and reachable before riding.'],
  },
];

/** Bought in their length, not moved in steps. */
const PARTS: readonly ControlKey[] = [
  'crank',
  'stemLength',
  'stemAngle',
  'barReach',
  'barWidth',
  'saddleWidth',
  'pedalAxle',
];

/** “3 mm a step”, by the control that moves most steps. */
export function stepsOf(moves: Moves, halfSteps: boolean): string {
  const said = (Object.entries(moves) as [ControlKey, number][]).map(([key, by]) => {
    const { step, unit, name } = CONTROLS[key];
    const used = halfSteps && key !== 'crank' && unit === 'mm' && step > 1 ? step / 2 : step;
    if (unit === '' || PARTS.includes(key) || Math.abs(by) <= used) return null;
    return `${name.replace(/, (left|right)$/, '').toLowerCase()} in steps of ${used}${unit === '°' ? '°' : ' mm'}`;
  });
  // A pair is told once.
  return [...new Set(said.filter(Boolean))].join('; ');
}

/** How much of a line is done before filming again. */
export function todayOf(moves: Moves, halfSteps: boolean): Moves {
  const most = HEIGHT_A_VISIT_MM / (halfSteps ? 2 : 1);
  const up = moves.saddleUp;
  return up !== undefined && Math.abs(up) > most ? { ...moves, saddleUp: Math.sign(up) * most } : moves;
}
