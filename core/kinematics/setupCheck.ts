import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import { ANGLE_KEYS, ANGLE_NAMES, jointAngleDeg, type AngleKey } from './angles.ts';
import type { SideLandmark } from '../landmarks/landmarks.ts';

/** Good as it is; usable, at a cost that is stated; or better filmed again. */
export type CheckVerdict = 'good' | 'usable' | 'again' | 'open';

export interface SetUpCheck {
  key: 'level' | 'square' | 'distance' | 'frame' | 'rate' | 'blur' | 'exposure' | 'stickers';
  name: string;
  verdict: CheckVerdict;
  /** What was measured. */
  found: string;
  /** What it does to the figures. */
  effect: string;
  /** How to cure it; empty where nothing is to be done. */
  cure: string;
}

/** What is known of a film's set-up; null where it is not known yet. */
export interface SetUpFacts {
  widthPx: number;
  heightPx: number;
  framesPerS: number;
  /** From the film where it has been read, otherwise the usual 90. */
  cadenceRpm: number | null;
  /** Rise of the axle line in the picture, degrees. */
  levelDeg: number | null;
  /** The camera's yaw, and the distance it was worked out for. */
  yawDeg: number | null;
  distanceMm: number | null;
  /** The rider's joints in the bike's plane, mm from the picture's middle, x forward, y up. */
  jointsMm: Readonly<Record<SideLandmark, PlanePoint>> | null;
  /** Where the body reaches furthest towards the picture's edge, px from it, over all frames that are known; and the landmark. */
  edgePx: { px: number; landmark: string } | null;
  /** How long a foot's sticker is smeared when it is fastest, px; and how fast it is, px/s. */
  smear: { px: number; speedPxPerS: number } | null;
  /** Share of the picture that is as white, and as black, as a film can be. */
  exposure: { white: number; black: number } | null;
  /** The weakest sticker. */
  sticker: { landmark: string; contrast: number; radiusPx: number; without: string[] } | null;
}

const signed = (deg: number): string => `${deg.toFixed(1).replace('-', '−')}°`;

/** What a camera turned by a yaw does to each angle, degrees, for given joints. The picture's shrinking to one side is left in. */
export function yawEffectDeg(
  joints: Readonly<Record<SideLandmark, PlanePoint>>,
  yawDeg: number,
  distanceMm: number,
): Record<AngleKey, number> {
  const sin = Math.sin(yawDeg * RAD_PER_DEG);
  const cos = Math.cos(yawDeg * RAD_PER_DEG);
  // A point x along the bike stands 1 + x·sin ψ/D times as far away, and its x is seen shortened by cos ψ.
  const seen = (p: PlanePoint): PlanePoint => {
    const far = 1 + (p.x * sin) / distanceMm;
    return { x: (p.x * cos) / far, y: p.y / far };
  };
  const turned = Object.fromEntries(Object.entries(joints).map(([key, p]) => [key, seen(p)])) as Record<
    SideLandmark,
    PlanePoint
  >;
  return Object.fromEntries(
    ANGLE_KEYS.map((key) => [key, jointAngleDeg(key, turned) - jointAngleDeg(key, joints)]),
  ) as Record<AngleKey, number>;
}

/** “back 0.4°, knee 0.3°”: the largest effects. */
function worst(effects: Record<AngleKey, number>): string {
  const list = ANGLE_KEYS.map((key) => [key, Math.abs(effects[key])] as const)
    .filter(([, v]) => v >= 0.05)
    .sort((a, b) => b[1] - a[1])
    .slice(0, 3);
  return list.length
    ? list.map(([key, v]) => `${ANGLE_NAMES[key].toLowerCase()} ${v.toFixed(1)}°`).join(', ')
    : 'less than 0.1° on every angle';
}

/** The usual distance of a camera, mm, while it is not known. */
const USUAL_DISTANCE_MM = 4000;

const verdictOf = (value: number, good: number, usable: number): CheckVerdict =>
  value <= good ? 'good' : value <= usable ? 'usable' : 'again';

function level({ levelDeg }: SetUpFacts): SetUpCheck {
  const base = { key: 'level', name: 'Level' } as const;
  if (levelDeg === null)
    return {
      ...base,
      verdict: 'open',
      found: 'known once both axles are pointed out',
      effect: 'Back angle and foot pitch hang on it, degree for degree.',
      cure: '',
    };
  const off = Math.abs(levelDeg);
  return {
    ...base,
    verdict: verdictOf(off, 1.5, 5),
    found: `the axle line stands at ${signed(levelDeg)}`,
    effect: `Taken out: untouched it would put back angle and foot pitch off by ${off.toFixed(1)}°. What stays is how level the bike itself stood.`,
    cure: off > 1.5 ? 'Level the bike on its axles, then the camera on its tripod.' : '',
  };
}

function square(f: SetUpFacts): SetUpCheck {
  const base = { key: 'square', name: 'Square' } as const;
  const distance = f.distanceMm ?? USUAL_DISTANCE_MM;
  const effects = f.jointsMm && ((yaw: number) => yawEffectDeg(f.jointsMm!, yaw, distance));
  if (f.yawDeg === null)
    return {
      ...base,
      verdict: 'open',
      found: 'known once the tyres’ tops and bottoms are pointed out',
      effect: effects ? `If the camera were 5° off: ${worst(effects(5))}.` : '',
      cure: '',
    };
  const off = Math.abs(f.yawDeg);
  return {
    ...base,
    verdict: verdictOf(off, 2, 5),
    found: `the camera is about ${off.toFixed(1)}° from square`,
    effect: effects
      ? `Untouched: ${worst(effects(f.yawDeg))}. The shrinking to one side is taken out; of the rest less than ${(100 * (1 - Math.cos(off * RAD_PER_DEG)) + 0.05).toFixed(1)} % of a length stays.`
      : 'The shrinking to one side is taken out.',
    cure: off > 2 ? 'Move the camera until both wheels look the same size.' : '',
  };
}

function distanceCheck({ distanceMm }: SetUpFacts): SetUpCheck {
  const base = { key: 'distance', name: 'Distance' } as const;
  if (distanceMm === null)
    return {
      ...base,
      verdict: 'open',
      found: 'known once the foot is tracked and the crank length typed',
      effect: '',
      cure: '',
    };
  const metres = distanceMm / 1000;
  // Hip and hand stand some 10 cm nearer or further than the foot: their scale differs by that share of the distance.
  const percent = (100 * 100) / distanceMm;
  return {
    ...base,
    verdict: metres >= 3 ? 'good' : metres >= 2 ? 'usable' : 'again',
    found: `the camera stands about ${metres.toFixed(1)} m from the rider`,
    effect: `A joint 10 cm nearer than the foot looks ${percent.toFixed(1)} % larger: up to ${((percent / 100) * 0.5 * (180 / Math.PI) * 0.35).toFixed(1)}° at the hip.`,
    cure: metres < 3 ? 'Three metres or more, with zoom rather than a wide lens.' : '',
  };
}

function frameEdge(f: SetUpFacts): SetUpCheck {
  const base = { key: 'frame', name: 'In the picture' } as const;
  if (!f.edgePx)
    return { ...base, verdict: 'open', found: 'known once the joints are marked', effect: '', cure: '' };
  const share = f.edgePx.px / Math.min(f.widthPx, f.heightPx);
  return {
    ...base,
    verdict: share >= 0.03 ? 'good' : share >= 0.008 ? 'usable' : 'again',
    found: `${f.edgePx.landmark} comes as near as ${Math.max(0, f.edgePx.px).toFixed(0)} px to the edge`,
    effect:
      share >= 0.008
        ? 'Nothing is lost.'
        : 'What leaves the picture is not measured, and lenses bend most there.',
    cure: share < 0.03 ? 'Leave a hand’s breadth about the rider, all through the stroke.' : '',
  };
}

function rate({ framesPerS, cadenceRpm }: SetUpFacts): SetUpCheck {
  const rpm = cadenceRpm ?? 90;
  const step = (6 * rpm) / Math.max(1, framesPerS);
  // Near its least value the knee's bend is about 38°·(1 − cos θ): half a step away from it the frame shows that much more.
  const missed = 38 * (1 - Math.cos((step / 2) * RAD_PER_DEG));
  return {
    key: 'rate',
    name: 'Frame rate',
    verdict: verdictOf(step, 10, 19),
    found: `the crank turns ${step.toFixed(1)}° between frames${cadenceRpm === null ? ' at 90 rpm' : ` at ${rpm.toFixed(0)} rpm`}`,
    effect: `A single frame may miss the straightest knee by ${missed.toFixed(1)}°; the curve through all strokes does not, but rests on fewer places.`,
    cure: step > 10 ? 'Film at 60 frames/s or more; 120 for sprints.' : '',
  };
}

function blur({ smear }: SetUpFacts): SetUpCheck {
  const base = { key: 'blur', name: 'Shutter' } as const;
  if (!smear)
    return { ...base, verdict: 'open', found: 'known once the foot is tracked', effect: '', cure: '' };
  const seconds = smear.px / Math.max(1, smear.speedPxPerS);
  // Below this the smear can’t be distinguished from the sticker's own edge.
  const seen = smear.px >= 1.5;
  return {
    ...base,
    verdict: seen ? verdictOf(seconds, 1 / 350, 1 / 110) : 'good',
    found: seen
      ? `open for about 1/${Math.round(1 / seconds)} s: the foot’s sticker is smeared over ${smear.px.toFixed(1)} px`
      : 'too short to smear the foot’s sticker',
    effect:
      'The smear’s middle is where the sticker was at mid-exposure, so angles stay; a long smear blends into what lies beside it.',
    cure: seen && seconds > 1 / 350 ? 'More light, and a shutter of 1/500 s or shorter.' : '',
  };
}

function exposureCheck({ exposure }: SetUpFacts): SetUpCheck {
  const base = { key: 'exposure', name: 'Light' } as const;
  if (!exposure)
    return { ...base, verdict: 'open', found: 'known once the film is open', effect: '', cure: '' };
  const most = Math.max(exposure.white, exposure.black);
  const white = exposure.white >= exposure.black;
  return {
    ...base,
    verdict: verdictOf(most, 0.08, 0.3),
    found:
      most < 0.005
        ? 'nothing burnt out, nothing drowned'
        : `${(100 * most).toFixed(0)} % of the picture is ${white ? 'burnt out' : 'black'}`,
    effect: most > 0.08 ? 'There a sticker has no edge to be found by.' : '',
    cure:
      most > 0.08
        ? white
          ? 'Less light behind the rider, or a shorter exposure.'
          : 'More light on the rider.'
        : '',
  };
}

function stickers({ sticker }: SetUpFacts): SetUpCheck {
  const base = { key: 'stickers', name: 'Stickers' } as const;
  if (!sticker)
    return { ...base, verdict: 'open', found: 'known once the joints are marked', effect: '', cure: '' };
  const { without, contrast, radiusPx, landmark } = sticker;
  if (without.length > 0)
    return {
      ...base,
      verdict: 'usable',
      found: `no sticker found on ${without.join(', ')}`,
      effect:
        'Followed by the look of the spot, which may drift by some pixels: about 1° at the knee for each 7 mm.',
      cure: 'A round, dull sticker of 15 to 25 mm on each joint, of a colour that nothing near it has.',
    };
  const weak = contrast < 30 || radiusPx < 3;
  return {
    ...base,
    verdict: contrast < 14 || radiusPx < 1.8 ? 'again' : weak ? 'usable' : 'good',
    found: `the weakest is ${landmark}: set off by ${contrast.toFixed(0)} grey levels, ${(2 * radiusPx).toFixed(0)} px wide`,
    effect: weak
      ? 'It may be lost on some frames, or found a fraction of a pixel off.'
      : 'Found to a small part of a pixel.',
    cure: weak ? 'A larger sticker, or one of another colour than the tights and shoes.' : '',
  };
}

/**
 * Judges how a film was set up, thing by thing (handbook: measuring, from pixels to the plane). The limits of level and squareness
 * are the handbook's; the others follow from its words (1/500 s, 60 frames/s, 3 m) with some room.
 */
export function checkSetUp(f: SetUpFacts): SetUpCheck[] {
  return [
    level(f),
    square(f),
    distanceCheck(f),
    frameEdge(f),
    rate(f),
    blur(f),
    exposureCheck(f),
    stickers(f),
  ];
}

/** How much nearer to the camera than the axles the near foot stands, mm: half the stance, to the sticker on the shoe's side. */
export const FOOT_NEARER_MM = 165;

/**
 * The camera's distance from the rider's near side, from how much larger the pedal circle looks than the crank is. A lens at
 * distance D from the axles' plane shows what stands d nearer larger by D/(D − d).
 * @param ratio measured over true crank length  @returns mm; null where the ratio tells nothing
 */
export function distanceFromCrank(ratio: number | null, nearerMm = FOOT_NEARER_MM): number | null {
  if (ratio === null || ratio < 1.006 || ratio > 1.12) return null;
  return (nearerMm * ratio) / (ratio - 1) - nearerMm;
}
