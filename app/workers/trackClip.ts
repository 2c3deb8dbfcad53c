import { EncodedPacketSink, VideoSampleSink } from 'mediabunny';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import type { ImagePoint } from '../../core/math/vec.ts';
import { RIGID_BONES } from '../../core/landmarks/landmarks.ts';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import type { PlanarFrame, Region } from '../../core/tracking/frame.ts';
import { startTracker, type TrackedPoint, type Tracker } from '../../core/tracking/tracker.ts';
import { eventsFirst } from './eventsFirst';
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

interface TrackRequest {
  markedFrame: number;
  marks: Record<string, ImagePoint>;
  onProgress: (p: TrackProgress) => void;
  stopped: () => boolean;
  range?: FilmPart | null;
}

interface Followed {
  tracks: Tracks;
  framesDone: number;
  trackerMs: number;
  modes: Tracker['modes'];
}

/** One clip while it is followed: what both ways through it write into. */
interface Following extends TrackRequest {
  clip: OpenedClip;
  sink: VideoSampleSink;
  /** First and last frame that is followed. */
  part: FilmPart;
  done: Followed;
  /** The tracker looks only about where the landmarks are: the rest of the picture need not be copied. */
  wanted: Region | null;
  reportedMs: number;
}

function startOn(f: Following, frame: PlanarFrame): Tracker {
  const tracker = startTracker(frame, f.clip.tS[f.markedFrame], f.marks, { bones: RIGID_BONES });
  f.done.modes = tracker.modes;
  return tracker;
}

function note(f: Following, index: number, points: TrackedPoint[], keys: string[]): void {
  const { done } = f;
  keys.forEach((key, k) => {
    const track = done.tracks.landmarks[key];
    track.xPx[index] = points[k].x;
    track.yPx[index] = points[k].y;
    track.confidence[index] = points[k].confidence;
  });
  done.framesDone += 1;
  if (performance.now() - f.reportedMs <= 250) return;
  f.reportedMs = performance.now();
  f.onProgress({
    framesDone: done.framesDone,
    frames: f.part.to - f.part.from + 1,
    tracks: done.tracks,
  });
}

function leaveOut(tracks: Tracks, index: number): void {
  for (const track of Object.values(tracks.landmarks)) {
    track.xPx[index] = NaN;
    track.yPx[index] = NaN;
    track.confidence[index] = 0;
  }
}

function step(f: Following, tracker: Tracker, frame: PlanarFrame, index: number): void {
  const { tS } = f.clip;
  const t0 = performance.now();
  const points = tracker.step(frame, tS[index]);
  f.done.trackerMs += performance.now() - t0;
  if (tracker.voidsBefore()) leaveOut(f.done.tracks, index + 1);
  const ahead = index + 2;
  f.wanted = ahead < tS.length ? tracker.lookingAt(frame, tS[ahead]) : null;
  note(f, index, points, tracker.keys);
}

/** From the marked frame to the end. @returns the marked frame, or null where none could be had */
async function forwards(f: Following): Promise<PlanarFrame | null> {
  const { markedFrame, marks, stopped, part } = f;
  const { tS } = f.clip;
  let tracker: Tracker | null = null;
  let first: PlanarFrame | null = null;
  let index = markedFrame;
  const spare: (Uint8Array | undefined)[] = [undefined, undefined];
  // While one frame is tracked the next one's planes are already being copied: two buffers take turns.
  let coming: Promise<{ frame: PlanarFrame; buffer: Uint8Array }> | null = null;
  const trackOne = async (): Promise<void> => {
    const { frame, buffer } = await coming!;
    await eventsFirst();
    if (!tracker) {
      tracker = startOn(f, frame);
      first = frame;
      const at = tracker.keys.map((key) => ({ ...marks[key], confidence: 1 }));
      note(f, index, at, tracker.keys);
    } else {
      step(f, tracker, frame, index);
      spare[index % 2] = buffer;
    }
    index += 1;
  };
  let requested = markedFrame;
  // Not a frame more than wanted: what lies behind may be damaged.
  const endS = part.to + 1 < tS.length ? tS[part.to + 1] - STAMP_SLACK_S : Infinity;
  for await (const sample of f.sink.samples(tS[markedFrame] + STAMP_SLACK_S, endS)) {
    if (stopped() || requested > part.to) {
      sample.close();
      break;
    }
    const next = planesOf(sample, spare[requested % 2], f.wanted).finally(() => sample.close());
    spare[requested % 2] = undefined;
    requested += 1;
    if (coming) await trackOne();
    coming = next;
  }
  if (coming && !stopped()) await trackOne();
  else await coming;
  return first;
}

/** From the marked frame back to the start, in chunks decoded forwards and tracked in reverse. */
async function backwards(f: Following, marked: PlanarFrame): Promise<void> {
  const { markedFrame, stopped, part, clip } = f;
  const { tS } = clip;
  const back = startOn(f, marked);
  const hold = Math.max(4, Math.floor(BACKWARD_BYTES / (marked.width * marked.height * 1.5)));
  let end = markedFrame;
  while (end > part.from && !stopped()) {
    const from = Math.max(await keyFrameBefore(clip, end - 1), end - hold, part.from);
    const held: PlanarFrame[] = [];
    for await (const sample of f.sink.samples(tS[from] + STAMP_SLACK_S, tS[end] - STAMP_SLACK_S)) {
      held.push((await planesOf(sample)).frame);
      sample.close();
      if (held.length === end - from || stopped()) break;
    }
    if (stopped()) break;
    for (let k = held.length - 1; k >= 0; k -= 1) step(f, back, held[k], from + k);
    end = from;
  }
}

/**
 * Follows the marks through a whole clip: forwards from the marked frame to the end, then backwards to the start.
 * @param onProgress called about four times a second with all that is tracked so far  @param stopped asked before every frame
 */
export async function trackClip(clip: OpenedClip, request: TrackRequest): Promise<Followed> {
  const f: Following = {
    ...request,
    clip,
    sink: new VideoSampleSink(clip.track),
    part: request.range ?? { from: 0, to: clip.tS.length - 1 },
    done: {
      tracks: emptyTracks(clip.tS, Object.keys(request.marks)),
      framesDone: 0,
      trackerMs: 0,
      modes: [],
    },
    wanted: null,
    reportedMs: performance.now(),
  };
  const marked = await forwards(f);
  if (marked && f.markedFrame > f.part.from) await backwards(f, marked);
  return f.done;
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
