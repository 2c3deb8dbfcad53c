import { range } from 'd3';
import { RIGID_BONES, SIDE_LANDMARKS, type SideLandmark } from '../../core/landmarks/landmarks.ts';
import { distance, type ImagePoint } from '../../core/math/vec.ts';
import { collectFacts } from '../../core/survey/filmFacts.ts';
import { holding, lookAt } from '../../core/survey/lookAt.ts';
import type { NamedFilm } from '../../core/survey/nameFilm.ts';
import { SURE } from '../../core/landmarks/nameSpots.ts';
import { verdictOf, type FilmVerdict } from '../../core/survey/verdict.ts';
import type { FoundWheels } from '../../core/survey/wheels.ts';
import { packedFrame, type PlanarFrame } from '../../core/tracking/frame.ts';
import { startTracker } from '../../core/tracking/tracker.ts';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import { wheelsInPicture } from '../../sim/camera.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';
import { inRoom, shiftPx, written } from '../../sim/render/rooms.ts';
import { tyreEdgeMm } from '../../sim/render/look.ts';
import type { HardFilm } from '../accuracy/hardFilms.ts';

/** A film rendered in memory, frame by frame with its stamps. */
export interface Rendered {
  film: HardFilm;
  frames: PlanarFrame[];
  tS: number[];
}

const stampS = ({ member, room }: HardFilm, frame: number): number =>
  written(room, frame).stamp / member.film.framesPerS;

const everyFrame = ({ frames }: HardFilm, step = 1): number[] => range(0, frames, step);

/** Renders a film, or some of its frames. */
export function rendered(film: HardFilm, which = everyFrame(film)): Rendered {
  const { member, room } = film;
  const camera = inRoom(openFilm(member.scene, member.film), room, member.film);
  return {
    film,
    frames: which.map((i) => packedFrame(toPlanes(camera.shoot(i)))),
    tS: which.map((i) => stampS(film, i)),
  };
}

/** Where a film's stickers really are on a frame, px. */
function stickersAt({ member, room }: HardFilm, frame: number): Record<string, ImagePoint> {
  const { shows } = written(room, frame);
  const by = shiftPx(room, shows / member.film.framesPerS);
  const { joints } = frameTruth(member.scene, member.film, shows);
  return Object.fromEntries(Object.entries(joints).map(([k, p]) => [k, { x: p.x + by.x, y: p.y + by.y }]));
}

/** Of some frames of a film those that the proposal job holds. */
function heldOf(film: HardFilm, which: number[]): number[] {
  const isHeld = holding(stampS(film, which[0]), stampS(film, which[which.length - 1]));
  return which.filter((i) => isHeld(stampS(film, i)));
}

interface Proposed {
  named: (NamedFilm & { frame: number }) | null;
  wheels: FoundWheels | null;
}

/** What the proposal job makes of the frames that it holds. */
function proposed({ frames, tS }: Rendered, held: number[]): Proposed {
  const { named, wheels } = lookAt({ frames, tS }, 'drive', { mmPerPx: null, facing: null });
  return { named: named && { ...named, frame: held[named.picture] }, wheels };
}

/** What the proposal job makes of a film that was rendered whole. */
export function surveyed({ film, frames, tS }: Rendered): Proposed {
  const held = heldOf(film, everyFrame(film));
  return proposed({ film, frames: held.map((i) => frames[i]), tS: held.map((i) => tS[i]) }, held);
}

/** How right the names of a film are. */
export interface NamesFound {
  /** Landmarks on their own sticker, called sure; on their own, but asked about; on another one and called sure. */
  right: SideLandmark[];
  unsure: SideLandmark[];
  wrong: SideLandmark[];
  facingRight: boolean;
}

const SAME_PX = 3;

export function judgeNames(film: HardFilm, named: Proposed['named']): NamesFound {
  const found: NamesFound = {
    right: [],
    unsure: [],
    wrong: [],
    facingRight: named?.facing === film.member.scene.camera.facing,
  };
  const truth = named ? stickersAt(film, named.frame) : {};
  for (const key of SIDE_LANDMARKS) {
    const p = named?.points[key];
    if (!p || p.sure < SURE) found.unsure.push(key);
    else if (distance(p, truth[key]) < SAME_PX) found.right.push(key);
    else found.wrong.push(key);
  }
  return found;
}

/** What is found on a film before it is followed: no more of it is rendered. Of a quick camera's pictures every other one will do. */
export function namedOn(film: HardFilm): { found: Proposed; names: NamesFound } {
  const held = heldOf(film, everyFrame(film, film.member.film.framesPerS > 100 ? 2 : 1));
  const found = proposed(rendered(film, held), held);
  return { found, names: judgeNames(film, found.named) };
}

/** How far the wheels are off, px: the worse hub, and the worst tyre's end. */
export function judgeWheels(
  { member }: HardFilm,
  wheels: FoundWheels | null,
): { hubPx: number; tyrePx: number } {
  if (!wheels) return { hubPx: Infinity, tyrePx: Infinity };
  const { camera, bike } = member.scene;
  const t = wheelsInPicture(camera, { ...bike, wheelRadiusMm: tyreEdgeMm(bike) });
  const ends = ['rearTop', 'rearBottom', 'frontTop', 'frontBottom'] as const;
  return {
    hubPx: Math.max(distance(wheels.rear, t.rear), distance(wheels.front, t.front)),
    tyrePx: Math.max(...ends.map((k) => distance(wheels.rims[k], t[k]))),
  };
}

/** Follows a film from its proposal, both ways; what would be asked is answered with the truth. */
export function followed(r: Rendered, named: NonNullable<Proposed['named']>): Tracks {
  const truth = stickersAt(r.film, named.frame);
  const marks = Object.fromEntries(
    SIDE_LANDMARKS.map((key) => {
      const p = named.points[key];
      return [key, p && p.sure >= SURE ? { x: p.x, y: p.y } : truth[key]];
    }),
  );
  const tracks = emptyTracks(r.tS, Object.keys(marks));
  const note = (i: number, points: { x: number; y: number; confidence: number }[]): void =>
    Object.keys(marks).forEach((key, k) => {
      tracks.landmarks[key].xPx[i] = points[k].x;
      tracks.landmarks[key].yPx[i] = points[k].y;
      tracks.landmarks[key].confidence[i] = points[k].confidence;
    });
  const unseen = Object.keys(marks).map(() => ({ x: NaN, y: NaN, confidence: 0 }));
  note(
    named.frame,
    Object.values(marks).map((p) => ({ ...p, confidence: 1 })),
  );
  for (const step of [1, -1]) {
    const tracker = startTracker(r.frames[named.frame], r.tS[named.frame], marks, { bones: RIGID_BONES });
    for (let i = named.frame + step; i >= 0 && i < r.frames.length; i += step) {
      note(i, tracker.step(r.frames[i], r.tS[i]));
      if (tracker.voidsBefore()) note(i + 1, unseen);
    }
  }
  return tracks;
}

/** The film's verdict, from all its frames. */
export function judged(r: Rendered, found: Proposed): FilmVerdict {
  const facts = collectFacts();
  r.frames.forEach((f, i) => facts.see(f, r.tS[i]));
  return verdictOf(facts.facts(), {
    leastSeen: found.named?.leastSeen ?? null,
    wheels: found.wheels !== null,
    file: null,
  });
}
