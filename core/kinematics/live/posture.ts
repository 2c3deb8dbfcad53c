import { elevationDeg } from '../../math/angles.ts';
import { distance, isSeen, type ImagePoint } from '../../math/vec.ts';
import { atShare, median, rangeOf } from '../../math/statistics.ts';
import type { LivePoints } from './liveReader.ts';

/** What the rider did beside pedalling, seen from one side. */
export interface PostureEvent {
  /** The near hand left the bar; sat up, off the bar; rose from the saddle. */
  kind: 'hand-off' | 'sat-up' | 'rose';
  fromS: number;
  toS: number;
  /** What the trunk did while the hand was off: the hands-off test's own question. Null for the other kinds. */
  trunk: 'holds' | 'wobbles' | 'falls' | null;
}

/** What is going on. */
export type Posture = 'riding' | 'hand-off' | 'rose';

export interface PostureWatch {
  /** Takes the next frame. @returns what has just ended */
  see: (tS: number, points: LivePoints) => PostureEvent | null;
  /** What is going on now. */
  now: () => Posture;
}

/** All lengths in shares of the trunk (hip to shoulder), some 480 mm. */
const HAND_OFF = 0.14;
const HAND_BACK = 0.08;
const ROSE = 0.13;
/** For so long it has to be so before it counts, and before it has ended. */
const BEGINS_S = 0.35;
const ENDS_S = 0.3;
const ROSE_S = 0.8;
/** The back that rises by so much is that of somebody who sits up; one that drops by so much falls. */
const SITS_UP_DEG = 10;
const FALLS_DEG = 5;
/** The back rocks with the strokes and its sticker slides: by so much more than it does anyway is a wobble. */
const WOBBLES_DEG = 2.5;
/** What is usual is taken from the last so many looks, some ten a second. */
const LOOKS = 200;
const LOOK_EVERY_S = 0.1;
const LEAST_LOOKS = 20;

interface Look {
  wrist: ImagePoint;
  hip: ImagePoint;
  backDeg: number;
  trunkPx: number;
}

interface Usual extends Look {
  /** How far the back rocks as a rule. */
  rocksDeg: number;
}

/** How the rider sits and holds the bar as a rule. */
function usualOf(looks: readonly Look[]): Usual {
  const middle = (value: (l: Look) => number): number => median(looks.map(value));
  return {
    wrist: { x: middle((l) => l.wrist.x), y: middle((l) => l.wrist.y) },
    hip: { x: middle((l) => l.hip.x), y: middle((l) => l.hip.y) },
    backDeg: middle((l) => l.backDeg),
    trunkPx: middle((l) => l.trunkPx),
    rocksDeg: rangeOf(looks.map((l) => l.backDeg)),
  };
}

function lookOf({ wrist, hip, shoulder }: LivePoints): Look | null {
  if (!wrist || !hip || !shoulder || !isSeen(wrist) || !isSeen(hip) || !isSeen(shoulder)) return null;
  const ahead = { x: Math.abs(shoulder.x - hip.x), y: hip.y - shoulder.y };
  return { wrist, hip, backDeg: elevationDeg({ x: 0, y: 0 }, ahead), trunkPx: distance(hip, shoulder) };
}

/**
 * Watches a rider for a hand that leaves the bar, for sitting up and for rising from the saddle, against how the same rider sat and held
 * on over the last twenty seconds. One camera sees the near hand alone.
 */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function watchPosture(): PostureWatch {
  const looks: Look[] = [];
  let looked = -Infinity;
  let usual: Usual | null = null;
  /** Since when the hand is off, or back on; since when the rider is up. */
  let offS: number | null = null;
  let backS: number | null = null;
  let roseS: number | null = null;
  let state: Posture = 'riding';
  let during: number[] = [];

  const ended = (event: PostureEvent): PostureEvent => {
    state = 'riding';
    [offS, backS, roseS, during] = [null, null, null, []];
    return event;
  };

  const riding = (tS: number, look: Look, u: Look): null => {
    const away = distance(look.wrist, u.wrist) > HAND_OFF * u.trunkPx;
    const up = u.hip.y - look.hip.y > ROSE * u.trunkPx;
    offS = away ? (offS ?? tS) : null;
    roseS = up ? (roseS ?? tS) : null;
    if (roseS !== null && tS - roseS > ROSE_S) state = 'rose';
    else if (offS !== null && roseS === null && tS - offS > BEGINS_S) state = 'hand-off';
    if (offS !== null) during.push(look.backDeg - u.backDeg);
    else during = [];
    if (state === 'riding' && !away && !up && tS - looked >= LOOK_EVERY_S) {
      looked = tS;
      looks.push(look);
      if (looks.length > LOOKS) looks.shift();
      if (looks.length % 10 === 0) usual = usualOf(looks);
    }
    return null;
  };

  return {
    now: () => state,
    see(tS, points) {
      const look = lookOf(points);
      if (!look) return null;
      if (!usual || looks.length < LEAST_LOOKS) {
        if (tS - looked >= LOOK_EVERY_S) {
          looked = tS;
          looks.push(look);
          usual = usualOf(looks);
        }
        return null;
      }
      const u = usual;
      if (state === 'riding') return riding(tS, look, u);
      const isBack =
        state === 'rose'
          ? u.hip.y - look.hip.y < 0.5 * ROSE * u.trunkPx
          : distance(look.wrist, u.wrist) < HAND_BACK * u.trunkPx;
      if (state === 'hand-off' && u.hip.y - look.hip.y > 2 * ROSE * u.trunkPx) {
        state = 'rose';
        roseS = tS;
      }
      during.push(look.backDeg - u.backDeg);
      backS = isBack ? (backS ?? tS) : null;
      if (backS === null || tS - backS < ENDS_S) return null;
      if (state === 'rose') return ended({ kind: 'rose', fromS: roseS ?? backS, toS: backS, trunk: null });
      // How the trunk settles is its answer; a single frame is not.
      const sorted = [...during].sort((a, b) => a - b);
      const event = { fromS: offS ?? backS, toS: backS };
      if (atShare(sorted, 0.7) > SITS_UP_DEG) return ended({ kind: 'sat-up', ...event, trunk: null });
      const trunk =
        atShare(sorted, 0.25) < -FALLS_DEG
          ? 'falls'
          : rangeOf(during) > u.rocksDeg + WOBBLES_DEG
            ? 'wobbles'
            : 'holds';
      return ended({ kind: 'hand-off', ...event, trunk });
    },
  };
}
