import { VideoSampleSink } from 'mediabunny';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import type { OpenedClip } from './openClip';

/** A decoder says so some frames after the one that it broke at: those before it are asked for singly. */
const SINGLY_FRAMES = 24;
/** Asked for a hair after a frame's stamp it is that one, before it the one before. */
const STAMP_SLACK_S = 1e-6;

/**
 * Decodes a whole film and keeps nothing of it: which frames can't be shown. After a damaged place it goes on with the next frame
 * that can be.
 * @param tell called every so often with the frames done
 */
export async function decodeThrough(clip: OpenedClip, tell: (done: number) => void): Promise<FilmPart[]> {
  const { tS } = clip;
  const sink = new VideoSampleSink(clip.track);
  const broken: FilmPart[] = [];
  let next = 0;
  let reportedAt = performance.now();
  const done = (): void => {
    next += 1;
    if (performance.now() - reportedAt < 200) return;
    reportedAt = performance.now();
    tell(next);
  };
  const lost = (): void => {
    const last = broken.at(-1);
    if (last?.to === next - 1) last.to = next;
    else broken.push({ from: next, to: next });
    done();
  };
  while (next < tS.length) {
    try {
      for await (const sample of sink.samples(tS[next] + STAMP_SLACK_S)) {
        const at = sample.timestamp;
        sample.close();
        // Frames that the decoder passed over without a word are missing all the same.
        while (next < tS.length && tS[next] < at - STAMP_SLACK_S) lost();
        done();
      }
      // The decoder ended early: what it never gave can't be shown.
      while (next < tS.length) lost();
    } catch {
      const until = Math.min(tS.length, next + SINGLY_FRAMES);
      let failed = false;
      while (next < until) {
        const sample = await sink.getSample(tS[next] + STAMP_SLACK_S).catch(() => null);
        const whole = sample !== null && Math.abs(sample.timestamp - tS[next]) < 1e-3;
        sample?.close();
        if (whole) done();
        else lost();
        // Behind the damage the decoder itself goes on.
        if (failed && whole) break;
        failed ||= !whole;
      }
    }
  }
  return broken;
}
