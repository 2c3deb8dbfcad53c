import { EncodedPacketSink, VideoSampleSink } from 'mediabunny';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import type { ImagePoint } from '../../core/math/vec.ts';
import { RIGID_BONES } from '../../core/landmarks/landmarks.ts';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import type { PlanarFrame, Region } from '../../core/tracking/frame.ts';
import { startTracker, type TrackedPoint, type Tracker } from '../../core/tracking/tracker.ts';
import type { OpenedClip } from './openClip';
import { planesOf } from './planes';

export interface TrackProgress {
  framesDone: number;
  frames: number;
  tracks: Tracks;
}

/** The sink begins with the frame that stands at a time: asked a hair after a frame's stamp it is that one, before it the one before. */
const STAMP_SLACK_S = 1e-6;

/** Frames held at once when going backwards: decoders only run forwards. */
const BACKWARD_BYTES = 160_000_000;

/**
 * Follows the marks through a whole clip: forwards from the marked frame to the end, then backwards to the start, in chunks
 * decoded forwards and tracked in reverse.
 * @param onProgress called about four times a second with all that is tracked so far  @param stopped asked before every frame
 */
export async function trackClip(
  clip: OpenedClip,
  {
    markedFrame,
    marks,
    onProgress,
    stopped,
    range = null,
  }: {
    markedFrame: number;
    marks: Record<string, ImagePoint>;
    onProgress: (p: TrackProgress) => void;
    stopped: () => boolean;
    range?: FilmPart | null;
  },
): Promise<{ tracks: Tracks; framesDone: number; trackerMs: number; modes: Tracker['modes'] }> {
  const { tS } = clip;
  const { from: firstFrame, to: lastFrame } = range ?? { from: 0, to: tS.length - 1 };
  const tracks = emptyTracks(tS, Object.keys(marks));
  const sink = new VideoSampleSink(clip.track);
  let framesDone = 0;
  let trackerMs = 0;
  // The tracker looks only about where the landmarks are: the rest of the picture need not be copied.
  let wanted: Region | null = null;
  let lastReported = performance.now();
  let modes: Tracker['modes'] = [];
  const note = (index: number, points: TrackedPoint[], keys: string[]): void => {
    keys.forEach((key, k) => {
      tracks.landmarks[key].xPx[index] = points[k].x;
      tracks.landmarks[key].yPx[index] = points[k].y;
      tracks.landmarks[key].confidence[index] = points[k].confidence;
    });
    framesDone += 1;
    if (performance.now() - lastReported > 250) {
      lastReported = performance.now();
      onProgress({ framesDone, frames: lastFrame - firstFrame + 1, tracks });
    }
  };
  const leaveOut = (index: number): void => {
    for (const track of Object.values(tracks.landmarks)) {
      track.xPx[index] = NaN;
      track.yPx[index] = NaN;
      track.confidence[index] = 0;
    }
  };
  const start = (frame: PlanarFrame): Tracker => {
    const tracker = startTracker(frame, tS[markedFrame], marks, { bones: RIGID_BONES });
    modes = tracker.modes;
    return tracker;
  };
  const timed = (tracker: Tracker, frame: PlanarFrame, index: number): void => {
    const t0 = performance.now();
    const points = tracker.step(frame, tS[index]);
    trackerMs += performance.now() - t0;
    if (tracker.voidsBefore()) leaveOut(index + 1);
    const ahead = index + 2;
    wanted = ahead < tS.length ? tracker.lookingAt(frame, tS[ahead]) : null;
    note(index, points, tracker.keys);
  };

  let tracker: Tracker | null = null;
  let first: PlanarFrame | null = null;
  let index = markedFrame;
  const spare: (Uint8Array | undefined)[] = [undefined, undefined];
  // While one frame is tracked the next one's planes are already being copied: two buffers take turns.
  let coming: Promise<{ frame: PlanarFrame; buffer: Uint8Array }> | null = null;
  const trackOne = async (): Promise<void> => {
    const { frame, buffer } = await coming!;
    if (!tracker) {
      tracker = start(frame);
      first = frame;
      note(
        index,
        tracker.keys.map((key) => ({ ...marks[key], confidence: 1 })),
        tracker.keys,
      );
    } else {
      timed(tracker, frame, index);
      spare[index % 2] = buffer;
    }
    index += 1;
  };
  let requested = markedFrame;
  // Not a frame more than wanted: what lies behind may be damaged.
  const endS = lastFrame + 1 < tS.length ? tS[lastFrame + 1] - STAMP_SLACK_S : Infinity;
  for await (const sample of sink.samples(tS[markedFrame] + STAMP_SLACK_S, endS)) {
    if (stopped() || requested > lastFrame) {
      sample.close();
      break;
    }
    const next = planesOf(sample, spare[requested % 2], wanted).finally(() => sample.close());
    spare[requested % 2] = undefined;
    requested += 1;
    if (coming) await trackOne();
    coming = next;
  }
  if (coming && !stopped()) await trackOne();
  else await coming;

  if (first && markedFrame > firstFrame) {
    const marked: PlanarFrame = first;
    const back = start(marked);
    const hold = Math.max(4, Math.floor(BACKWARD_BYTES / (marked.width * marked.height * 1.5)));
    let end = markedFrame;
    while (end > firstFrame && !stopped()) {
      const from = Math.max(await keyFrameBefore(clip, end - 1), end - hold, firstFrame);
      const held: PlanarFrame[] = [];
      for await (const sample of sink.samples(tS[from] + STAMP_SLACK_S, tS[end] - STAMP_SLACK_S)) {
        held.push((await planesOf(sample)).frame);
        sample.close();
        if (held.length === end - from || stopped()) break;
      }
      if (stopped()) break;
      for (let k = held.length - 1; k >= 0; k -= 1) timed(back, held[k], from + k);
      end = from;
    }
  }
  return { tracks, framesDone, trackerMs, modes };
}

/** Index of the key frame from which a frame can be decoded: chunks that begin there decode nothing twice. */
async function keyFrameBefore(clip: OpenedClip, index: number): Promise<number> {
  const sink = new EncodedPacketSink(clip.track);
  const key = await sink.getKeyPacket(clip.tS[index] + 1e-6, { metadataOnly: true });
  if (!key) return 0;
  let k = index;
  while (k > 0 && clip.tS[k] > key.timestamp + 1e-6) k -= 1;
  return k;
}
