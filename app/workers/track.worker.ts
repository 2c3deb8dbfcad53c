import { expose } from 'comlink';
import { VideoSampleSink } from 'mediabunny';
import type { Vec2 } from '../../core/geometry/vec.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import type { PlanarFrame } from '../../core/tracking/frame.ts';
import { learnSticker } from '../../core/tracking/learn.ts';
import { openClip, type ClipTrouble } from './openClip';
import { planesOf } from './planes';
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

let stopAsked = false;

const api = {
  /** Follows the marks through the clip. */
  async track(
    blob: Blob,
    markedFrame: number,
    marks: Record<string, Vec2>,
    onProgress: (p: TrackProgress) => void,
  ): Promise<TrackAnswer> {
    stopAsked = false;
    const opened = await openClip(blob);
    if (!opened.ok) return opened;
    const t0 = performance.now();
    try {
      const done = await trackClip(opened.clip, markedFrame, marks, onProgress, () => stopAsked);
      const keys = Object.keys(marks);
      return {
        ok: true,
        ...done,
        frames: opened.clip.tS.length,
        stopped: stopAsked,
        ms: performance.now() - t0,
        patches: keys.filter((_, k) => done.modes[k] === 'patch'),
      };
    } finally {
      opened.clip.input.dispose();
    }
  },

  stop(): void {
    stopAsked = true;
  },

  /** The centre of the sticker under a point of a frame, or null where there is none. */
  async snap(blob: Blob, frameIndex: number, at: Vec2): Promise<Vec2 | null> {
    const frame = await frameForSnap(blob, frameIndex);
    return frame && snapOnFrame(frame, at);
  },

  /** Decodes the whole clip and does nothing with it: the yardstick of the benchmark. */
  async decodeOnly(blob: Blob): Promise<{ frames: number; ms: number } | null> {
    const opened = await openClip(blob);
    if (!opened.ok) return null;
    const t0 = performance.now();
    let frames = 0;
    for await (const sample of new VideoSampleSink(opened.clip.track).samples()) {
      frames += 1;
      sample.close();
    }
    opened.clip.input.dispose();
    return { frames, ms: performance.now() - t0 };
  },
};

let snapFrame: { bytes: number; index: number; frame: PlanarFrame } | null = null;

/** Eight joints are pointed out on one frame: it is decoded once. */
async function frameForSnap(blob: Blob, index: number): Promise<PlanarFrame | null> {
  if (snapFrame?.index === index && snapFrame.bytes === blob.size) return snapFrame.frame;
  const opened = await openClip(blob);
  if (!opened.ok) return null;
  try {
    const sample = await new VideoSampleSink(opened.clip.track).getSample(opened.clip.tS[index] + 1e-6);
    if (!sample) return null;
    const { frame } = await planesOf(sample);
    sample.close();
    snapFrame = { bytes: blob.size, index, frame };
    return frame;
  } finally {
    opened.clip.input.dispose();
  }
}

/** A pointing finger misses by some pixels: look on the spot first, then on rings about it. */
function snapOnFrame(frame: PlanarFrame, at: Vec2): Vec2 | null {
  for (const radius of [0, 3, 6, 9]) {
    let best: { centre: Vec2; contrast: number } | null = null;
    const places = radius === 0 ? 1 : 8;
    for (let k = 0; k < places; k += 1) {
      const a = (k / places) * 2 * Math.PI;
      const found = learnSticker(frame, { x: at.x + radius * Math.cos(a), y: at.y + radius * Math.sin(a) });
      if (found && Math.hypot(found.centre.x - at.x, found.centre.y - at.y) <= 14) {
        if (!best || found.sticker.contrast > best.contrast)
          best = { centre: found.centre, contrast: found.sticker.contrast };
      }
    }
    if (best) return best.centre;
  }
  return null;
}

export type TrackApi = typeof api;
expose(api);
