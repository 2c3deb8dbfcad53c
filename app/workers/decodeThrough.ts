import { VideoSampleSink } from 'mediabunny';
import type { OpenedClip } from './openClip';

/** Frames of a film that can't be decoded, both ends counted in. */
export interface BrokenPart {
  from: number;
  to: number;
}

/** A decoder says so some frames after the one that it broke at: those before it are asked for singly. */
const SINGLY_FRAMES = 24;
/** Asked for a hair after a frame's stamp it is that one, before it the one before. */
const STAMP_SLACK_S = 1e-6;

/**
 * Decodes a whole film and keeps nothing of it: which frames can't be shown. After a damaged place it goes on with the next frame
 * that can be.
 * @param tell called every so often with the frames done
 */
export async function decodeThrough(clip: OpenedClip, tell: (done: number) => void): Promise<BrokenPart[]> {
  const { tS } = clip;
  const sink = new VideoSampleSink(clip.track);
  const broken: BrokenPart[] = [];
  const isBroken = (index: number): void => {
    const last = broken.at(-1);
    if (last?.to === index - 1) last.to = index;
    else broken.push({ from: index, to: index });
  };
  let next = 0;
  let toldAt = performance.now();
  const done = (): void => {
    next += 1;
    if (performance.now() - toldAt < 200) return;
    toldAt = performance.now();
    tell(next);
  };
  while (next < tS.length) {
    try {
      for await (const sample of sink.samples(tS[next] + STAMP_SLACK_S)) {
        const at = sample.timestamp;
        sample.close();
        // Frames that the decoder passed over without a word are missing all the same.
        while (next < tS.length && tS[next] < at - STAMP_SLACK_S) {
          isBroken(next);
          done();
        }
        done();
      }
      // The decoder ended early: what it never gave can't be shown.
      for (; next < tS.length;) {
        isBroken(next);
        done();
      }
    } catch {
      const until = Math.min(tS.length, next + SINGLY_FRAMES);
      let failed = false;
      while (next < until) {
        const sample = await sink.getSample(tS[next] + STAMP_SLACK_S).catch(() => null);
        const whole = sample !== null && Math.abs(sample.timestamp - tS[next]) < 1e-3;
        sample?.close();
        if (!whole) {
          isBroken(next);
          failed = true;
        }
        done();
        // Behind the damage the decoder itself goes on.
        if (failed && whole) break;
      }
    }
  }
  return broken;
}
