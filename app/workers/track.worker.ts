import type { FilmPart } from '../../core/visit/filmParts.ts';
import CRC32 from 'crc-32';
import { expose, transfer } from 'comlink';
import { VideoSampleSink } from 'mediabunny';
import type { ImagePoint } from '../../core/math/vec.ts';
import { pointAt, type LandmarkTrack, type Tracks } from '../../core/tracking/tracks.ts';
import type { PlanarFrame } from '../../core/tracking/frame.ts';
import { findStickers } from '../../core/tracking/findStickers.ts';
import { looksOfFilm } from '../../core/tracking/looks.ts';
import { exposureOf } from '../../core/survey/filmFacts.ts';
import { lookAt } from '../../core/survey/lookAt.ts';
import type { HeldFilm } from '../../core/survey/nameFilm.ts';
import { layOut, MOST_SPOTS, proposeMarks, type Known, type Layout } from '../../core/landmarks/layout.ts';
import { pulledTo, type PosePoint } from '../../core/landmarks/poseJoints.ts';
import { isFrontal, type Landmark, type View } from '../../core/landmarks/landmarks.ts';
import { centreOn } from '../../core/tracking/centre.ts';
import type { SetUpFacts } from '../../core/kinematics/setupCheck.ts';
import { learnSticker } from '../../core/tracking/learn.ts';
import { stickerNear } from '../../core/tracking/stickerNear.ts';
import { snapToSticker } from '../../core/tracking/snap.ts';
import type { ClipTrouble } from './clipTrouble';
import { openClip } from './openClip';
import { buffersOf, planesOf } from './planes';
import { surveyClip, type Looked, type Survey } from './surveyClip';
import { trackClip, type TrackProgress } from './trackClip';

export type TrackAnswer =
  | {
      ok: true;
      tracks: Tracks;
      framesDone: number;
      frames: number;
      stopped: boolean;
      ms: number;
      trackerMs: number;
      patches: string[];
    }
  | { ok: false; trouble: ClipTrouble };

let stopRequested = false;

const api = {
  /** Follows the marks through the clip. */
  // eslint-disable-next-line max-params -- what is passed between threads stands alone: a callback can't be a field
  async track(
    blob: Blob,
    markedFrame: number,
    marks: Record<string, ImagePoint>,
    onProgress: (p: TrackProgress) => void,
    range: FilmPart | null = null,
  ): Promise<TrackAnswer> {
    stopRequested = false;
    const opened = await openClip(blob);
    if (!opened.ok) return opened;
    const t0 = performance.now();
    try {
      const done = await trackClip(opened.clip, {
        markedFrame,
        marks,
        onProgress,
        stopped: () => stopRequested,
        range,
      });
      const keys = Object.keys(marks);
      return {
        ok: true,
        ...done,
        frames: range ? range.to - range.from + 1 : opened.clip.tS.length,
        stopped: stopRequested,
        ms: performance.now() - t0,
        patches: keys.filter((_, k) => done.modes[k] === 'patch'),
      };
    } finally {
      opened.clip.input.dispose();
    }
  },

  stop(): void {
    stopRequested = true;
  },

  /**
   * Looks at the film as a whole: camera and light, stickers and names, wheels.
   * @param look finds stickers and wheels on pictures that are handed over, somewhere else and meanwhile
   */
  async survey(
    blob: Blob,
    ask: { view: View; range: FilmPart | null },
    tell: (done: number, of: number) => void,
    look: (film: HeldFilm) => Promise<Looked>,
  ): Promise<Survey | null> {
    const opened = await openClip(blob);
    if (!opened.ok) return null;
    const handed = (film: HeldFilm): Promise<Looked> => look(transfer(film, buffersOf(film)));
    try {
      return await surveyClip(opened.clip, { ...ask, tell, stopped: () => stopRequested, look: handed });
    } finally {
      opened.clip.input.dispose();
    }
  },

  /** Stickers with their names and wheels, on pictures that another worker decodes. */
  lookAt,

  /** The centre of the sticker under a point of a frame, or null where there is none. */
  async snap(blob: Blob, frameIndex: number, at: ImagePoint): Promise<ImagePoint | null> {
    const frame = await frameForSnap(blob, frameIndex);
    return frame && snapToSticker(frame, at);
  },

  /**
   * The stickers of a frame, each with the joint it probably is: by how they move about that frame; where that names nobody, by that
   * frame alone.
   * @param from a place where one of them is; null: they are looked for by themselves
   */
  // eslint-disable-next-line max-params -- what is passed between threads stands alone: a callback can't be a field
  async propose(
    blob: Blob,
    frameIndex: number,
    view: View,
    known: { mmPerPx: number | null; facing: 'left' | 'right' | null },
    from: ImagePoint | null,
  ): Promise<Pick<Layout, 'points'> | null> {
    const moving = from || isFrontal(view) ? null : await namedAbout(blob, frameIndex, view, known);
    if (moving) return moving;
    const frame = await frameForSnap(blob, frameIndex);
    if (!frame) return null;
    const sticker = from && (learnSticker(frame, from)?.sticker ?? null);
    return proposeMarks(frame, view, known, sticker);
  },

  /** Points of the pose model pulled to the stickers near them, where there are any. */
  async pull(
    blob: Blob,
    frameIndex: number,
    view: View,
    points: Partial<Record<Landmark, PosePoint>>,
  ): Promise<ReturnType<typeof pulledTo>> {
    const frame = await frameForSnap(blob, frameIndex);
    if (!frame) return pulledTo(points, [], 0);
    const reach = PULL_SHARE * frame.height;
    const best = looksOfFilm([frame])
      .map((look) => {
        const spots = findStickers(frame, look);
        // Ankle, heel and toe lie within the model's straying: the body's layout tells them apart.
        const layout = layOut(spots.slice(0, MOST_SPOTS), view, { mmPerPx: null, facing: null });
        return pulledTo(points, spots, reach, layout?.points);
      })
      .map((pulled) => ({ pulled, n: Object.values(pulled).filter((p) => p.onSticker).length }))
      .sort((a, b) => b.n - a.n)[0];
    return best?.pulled ?? pulledTo(points, [], 0);
  },

  /** Follows one landmark anew from a frame on which it was put right, both ways through a part of the film. */
  async follow(blob: Blob, frame: number, at: ImagePoint, range: FilmPart): Promise<LandmarkTrack | null> {
    const opened = await openClip(blob);
    if (!opened.ok) return null;
    try {
      const { tracks } = await trackClip(opened.clip, {
        markedFrame: frame,
        marks: { point: at },
        onProgress: () => undefined,
        stopped: () => false,
        range,
      });
      return tracks.landmarks.point;
    } finally {
      opened.clip.input.dispose();
    }
  },

  /** What one frame, and one fast moment, tell of light, stickers and shutter. */
  async look(blob: Blob, ask: LookAsk): Promise<Look | null> {
    const frame = await frameForSnap(blob, ask.frame);
    if (!frame) return null;
    const found = Object.entries(ask.marks).map(([key, at]) => ({ key, learned: learnSticker(frame, at) }));
    const look: Look = { exposure: exposureOf(frame), sticker: weakest(found), smear: null };
    const toe = found.find((f) => f.key === 'toe' || f.key === 'toeR')?.learned;
    if (toe && ask.fast) {
      const fast = await frameForSnap(blob, ask.fast.frame);
      // Along the way that the foot goes in a long exposure; only the direction counts.
      const { x, y } = ask.fast.velocityPxPerS;
      const speed = Math.hypot(x, y);
      const step = { x: (12 * x) / speed, y: (12 * y) / speed };
      const at = fast && centreOn(fast, toe.sticker, ask.fast.at, step);
      if (at) look.smear = { px: at.smearPx, speedPxPerS: speed };
    }
    return look;
  },

  /**
   * Marks of one film on another of the same camera, place and rider: the frame among the first ones on which the rider stands
   * most like on the marked one, with the stickers found there.
   */
  async refind(
    from: Blob,
    markedFrame: number,
    marks: Record<string, ImagePoint>,
    to: Blob,
  ): Promise<{ frame: number; marks: Record<string, ImagePoint & { onSticker: boolean }> } | null> {
    const marked = await frameForSnap(from, markedFrame);
    if (!marked) return null;
    const stickers = Object.entries(marks).flatMap(([key, at]) => {
      const learned = learnSticker(marked, at);
      return learned ? [{ key, at, sticker: learned.sticker }] : [];
    });
    if (stickers.length < 4) return null;
    const opened = await openClip(to);
    if (!opened.ok) return null;
    let best: {
      miss: number;
      frame: number;
      marks: Record<string, ImagePoint & { onSticker: boolean }>;
    } | null = null;
    let index = 0;
    try {
      for await (const sample of new VideoSampleSink(opened.clip.track).samples()) {
        const { frame } = await planesOf(sample);
        sample.close();
        const places = stickers.map(({ at, sticker }) =>
          stickerNear(frame, sticker, { near: at, reachPx: REFIND_REACH_PX }),
        );
        const miss = places.reduce(
          (sum, p, k) =>
            sum + (p ? Math.hypot(p.x - stickers[k].at.x, p.y - stickers[k].at.y) : 2 * REFIND_REACH_PX),
          0,
        );
        if (!best || miss < best.miss) {
          const found = stickers.map(({ key, at }, k) => {
            const p = places[k];
            return [key, p ? { x: p.x, y: p.y, onSticker: true } : { ...at, onSticker: false }];
          });
          best = { miss, frame: index, marks: Object.fromEntries(found) };
        }
        index += 1;
        if (opened.clip.tS[index] > REFIND_S) break;
      }
    } finally {
      opened.clip.input.dispose();
    }
    return best && { frame: best.frame, marks: best.marks };
  },
};

/** How far from where the pose model puts a joint its sticker is looked for, share of the picture's height. */
const PULL_SHARE = 0.06;
/** How far from its old place a sticker is looked for on a film of the same camera, px; and over how much of that film, s. */
const REFIND_REACH_PX = 40;
const REFIND_S = 2;

interface LookAsk {
  frame: number;
  marks: Record<string, ImagePoint>;
  /** A frame on which the toe is fast, where it is then, and how fast. */
  fast: { frame: number; at: ImagePoint; velocityPxPerS: ImagePoint } | null;
}

/** What can be seen of a film's light, stickers and shutter. */
export type Look = Pick<SetUpFacts, 'exposure' | 'sticker' | 'smear'>;

function weakest(found: { key: string; learned: ReturnType<typeof learnSticker> }[]): Look['sticker'] {
  const seen = found.flatMap(({ key, learned }) => (learned ? [{ key, ...learned.sticker }] : []));
  const without = found.filter((f) => !f.learned).map((f) => f.key);
  if (found.length === 0) return null;
  const least = seen.reduce<(typeof seen)[number] | null>(
    (a, b) => (!a || b.contrast < a.contrast ? b : a),
    null,
  );
  return {
    landmark: least?.key ?? '',
    contrast: least?.contrast ?? 0,
    radiusPx: least?.radiusPx ?? 0,
    without,
  };
}

/** The film is looked at for this long about a frame: a turn of the crank. */
const ABOUT_S = 1.3;

/** The stickers about a frame by how they move, followed to that frame; null where they name nobody. */
async function namedAbout(
  blob: Blob,
  frame: number,
  view: View,
  known: Known,
): Promise<Pick<Layout, 'points'> | null> {
  const opened = await openClip(blob);
  if (!opened.ok) return null;
  const { clip } = opened;
  try {
    const last = clip.tS.length - 1;
    const endS = Math.min(clip.tS[last], Math.max(clip.tS[0], clip.tS[frame] - ABOUT_S / 2) + ABOUT_S);
    const within = Array.from(clip.tS.keys()).filter(
      (i) => clip.tS[i] <= endS && clip.tS[i] >= endS - ABOUT_S,
    );
    const range = { from: within[0], to: within[within.length - 1] };
    const stopped = (): boolean => stopRequested;
    const survey = await surveyClip(clip, {
      view,
      range,
      tell: () => undefined,
      stopped,
      look: (film) => lookAt(film, view, known),
    });
    const named = survey?.named;
    if (!named) return null;
    if (named.frame === frame) return { points: named.points };
    const marks = Object.fromEntries(Object.entries(named.points).map(([k, { x, y }]) => [k, { x, y }]));
    const to = { from: Math.min(frame, named.frame), to: Math.max(frame, named.frame) };
    const { tracks } = await trackClip(clip, {
      markedFrame: named.frame,
      marks,
      range: to,
      stopped,
      onProgress: () => undefined,
    });
    const points = Object.fromEntries(
      (Object.entries(named.points) as [Landmark, { sure: number }][]).flatMap(([key, { sure }]) => {
        const at = pointAt(tracks, key, frame);
        return Number.isFinite(at.x) ? [[key, { ...at, sure }]] : [];
      }),
    );
    return Object.keys(points).length > 0 ? { points } : null;
  } finally {
    clip.input.dispose();
  }
}

let snapFrame: { film: string; index: number; frame: PlanarFrame } | null = null;

/** Which film a blob is: every call brings a copy, and two films may be of one size. */
async function nameOf(blob: Blob): Promise<string> {
  const END_BYTES = 65_536;
  const ends = await Promise.all(
    [blob.slice(0, END_BYTES), blob.slice(Math.max(0, blob.size - END_BYTES))].map((b) => b.arrayBuffer()),
  );
  return [blob.size, ...ends.map((b) => CRC32.buf(new Uint8Array(b)))].join(':');
}

/** Eight joints are pointed out on one frame: it is decoded once. */
async function frameForSnap(blob: Blob, index: number): Promise<PlanarFrame | null> {
  const film = await nameOf(blob);
  if (snapFrame?.index === index && snapFrame.film === film) return snapFrame.frame;
  const opened = await openClip(blob);
  if (!opened.ok) return null;
  try {
    const sample = await new VideoSampleSink(opened.clip.track).getSample(opened.clip.tS[index] + 1e-6);
    if (!sample) return null;
    const { frame } = await planesOf(sample);
    sample.close();
    snapFrame = { film, index, frame };
    return frame;
  } finally {
    opened.clip.input.dispose();
  }
}

export type TrackApi = typeof api;
expose(api);
