import type { RegionKey } from '../intake/intake.ts';

/** What came of a rung. */
export type RungWord = 'helped' | 'same' | 'worse' | 'left-out';
export const LADDER_KEYS = ['numbFoot', 'stance', 'saddlePressure'] as const;
export type LadderKey = (typeof LADDER_KEYS)[number];

export interface Rung {
  what: string;
  how: string;
  /** Nothing to buy: done at once. */
  free: boolean;
}

export interface Ladder {
  key: LadderKey;
  name: string;
  regions: readonly RegionKey[];
  rungs: readonly Rung[];
}

const rung = (what: string, how: string, free = false): Rung => ({ what, how, free });

/** The guided sequences, cheap first, one rung at a time, each ridden and asked for (handbook: rules, symptoms, stance arithmetic). */
export const LADDERS: readonly Ladder[] = [
  {
    key: 'numbFoot',
    name: 'Numb or hot foot',
    regions: ['forefoot'],
    rungs: [
      rung(
        'Shoe',
        'Loosen it fully over the forefoot for ten minutes. Gone: wider or longer shoe, and the ladder ends.',
        true,
      ),
      rung('Arch contact', 'A folded card under the arch. Better: an insole that touches it.', true),
      rung(
        'Cleat back',
        '2–3 mm back a step, to 10 mm or more behind the first head; saddle down about half.',
        true,
      ),
      rung(
        'Saddle height',
        'Too high, the toe points and never unloads; far too low, it never unloads either.',
        true,
      ),
      rung('Setback', '5 mm back, if the knee stands ahead of the spindle.', true),
      rung('Forefoot pad', 'A pad behind the heads that spreads them.'),
      rung(
        'Mid-foot cleat',
        'The last resort, at its price: saddle lower, perhaps a shorter crank, and the toe nearer the wheel.',
      ),
    ],
  },
  {
    key: 'stance',
    name: 'Stance',
    regions: ['footOutside', 'kneeInside', 'kneeOutside'],
    rungs: [
      rung('Cleat across', 'Foot out: the cleat in, 2 mm a side. Foot in: the other way.', true),
      rung('Washer', 'One under each pedal, 1.5 mm; never two.'),
      rung('Longer axle', 'The same pedal with an axle 4 mm longer.'),
      rung('Another pedal', 'A system with more room across.'),
      rung('Wedge', 'Only where the knee’s path from the front still shows it, after arch support.'),
    ],
  },
  {
    key: 'saddlePressure',
    name: 'Saddle pressure',
    regions: ['softTissue', 'sitBones'],
    rungs: [
      rung('Tilt', 'Level within 2°; split or short noses up to 2.5° nose-up.', true),
      rung('Height', 'Too high rocks the pelvis: 3 mm down a step while hip travel is large.', true),
      rung(
        'Reach and drop',
        'A bar too low or far rolls the pelvis forward and slides it: up and nearer.',
        true,
      ),
      rung('Side', 'One side only: pelvis, leg length, unmatched cleats.', true),
      rung('Width', 'By the sit bones, on the saddle’s flat part.'),
      rung('Shape', 'Another curve, or a relief channel.'),
    ],
  },
];

export interface LadderStand {
  ladder: Ladder;
  answers: readonly RungWord[];
  /** The rung to try now; null where the ladder has ended. */
  next: number | null;
  /** The rung that helped. */
  helped: number | null;
}

/** Where a guided sequence stands: it ends with what helped, and goes on after what did not. */
export function standOf(ladder: Ladder, answers: readonly RungWord[] = []): LadderStand {
  const helped = answers.indexOf('helped');
  return {
    ladder,
    answers,
    helped: helped < 0 ? null : helped,
    next: helped >= 0 || answers.length >= ladder.rungs.length ? null : answers.length,
  };
}

/** The sequences that the open complaints ask for. */
export const laddersFor = (regions: readonly RegionKey[]): readonly Ladder[] =>
  LADDERS.filter((l) => l.regions.some((r) => regions.includes(r)));
