import { expose, transfer } from 'comlink';
import { VideoSampleSink, type VideoSample } from 'mediabunny';
import type { VideoInfo } from '../../core/records/types.ts';
import { halfPicture } from '../../core/camera/shrink.ts';
import type { ClipTrouble } from './clipTrouble';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import { decodeThrough } from './decodeThrough';
import { openClip, type OpenedClip } from './openClip';

export type OpenAnswer =
  { ok: true; info: VideoInfo; tS: Float64Array } | { ok: false; trouble: ClipTrouble };

/** Decoded frames kept for stepping back and forth, by pixels rather than by count. */
const KEEP_PX = 24_000_000;
/** A frame larger than this is handed on and not kept: at 60 a second its copies would fill the memory. */
const LARGE_PX = 1_500_000;

/**
 * Serves single frames of one clip by index. Forward steps go on with the running decoder; backward steps and jumps start it
 * at the key frame before and keep what passes by, so that stepping back is quick too.
 */
class ClipReader {
  private clip: OpenedClip | null = null;
  private sink: VideoSampleSink | null = null;
  private running: AsyncGenerator<VideoSample, void, unknown> | null = null;
  /** Index of the frame that the running decoder gives next. */
  private nextIndex = -1;
  private kept = new Map<number, ImageBitmap>();
  private canvas: OffscreenCanvas | null = null;
  /** A frame's planes while they are made into a picture: one memory for all. */
  private planes = new Uint8Array();
  private busy: Promise<unknown> = Promise.resolve();

  async open(blob: Blob): Promise<OpenAnswer> {
    await this.close();
    const opened = await openClip(blob);
    if (!opened.ok) return opened;
    this.clip = opened.clip;
    this.sink = new VideoSampleSink(opened.clip.track);
    const tS = opened.clip.tS.slice();
    return { ok: true, info: opened.clip.info, tS };
  }

  /**
   * The picture of a frame, upright. Calls are answered one after another.
   * @param passing while playing: it is handed on and not kept for stepping back
   */
  frame(index: number, passing = false): Promise<ImageBitmap | null> {
    const now = this.busy.then(() => this.fetch(index, passing));
    this.busy = now.catch(() => undefined);
    return now;
  }

  private async fetch(index: number, passing: boolean): Promise<ImageBitmap | null> {
    const { clip, sink } = this;
    if (!clip || !sink || index < 0 || index >= clip.tS.length) return null;
    let bitmap = this.kept.get(index) ?? null;
    if (!bitmap) {
      if (!this.running || index < this.nextIndex || index > this.nextIndex + 40) {
        await this.running?.return();
        // A step back is seldom the last one: begin some frames earlier and keep them.
        const from = this.running && index < this.nextIndex ? Math.max(0, index - 12) : index;
        this.running = sink.samples(clip.tS[from] + 1e-6);
        this.nextIndex = from;
      }
      while (this.nextIndex <= index) {
        const { value: sample, done } = await this.running.next();
        if (done || !sample) {
          this.running = null;
          return null;
        }
        const at = this.indexOf(sample.timestamp);
        if (passing && at < index) {
          // Played over: nobody sees it.
          sample.close();
          this.nextIndex = at + 1;
          continue;
        }
        if (at === index && (passing || clip.info.widthPx * clip.info.heightPx > LARGE_PX)) {
          const handed = this.drawn(sample);
          this.nextIndex = at + 1;
          return transfer(handed, [handed]);
        }
        bitmap = this.keep(at, sample);
      }
    }
    if (!bitmap) return null;
    const copy = await createImageBitmap(bitmap);
    return transfer(copy, [copy]);
  }

  /**
   * A frame's bare pixels, for playing: handed on and not kept. Straight from the decoder, which is three times as quick as a picture
   * that a canvas has drawn; turned films go through one all the same.
   * @param half the picture is shown at half the film's size or less: no more pixels than that are made
   */
  pixels(index: number, half: boolean): Promise<ImageData | null> {
    const now = this.busy.then(() => this.bare(index, half));
    this.busy = now.catch(() => undefined);
    return now;
  }

  private async bare(index: number, half: boolean): Promise<ImageData | null> {
    const { clip, sink } = this;
    if (!clip || !sink || index < 0 || index >= clip.tS.length) return null;
    if (!this.running || index < this.nextIndex || index > this.nextIndex + 40) {
      await this.running?.return();
      this.running = sink.samples(clip.tS[index] + 1e-6);
      this.nextIndex = index;
    }
    for (;;) {
      const { value: sample, done } = await this.running.next();
      if (done || !sample) {
        this.running = null;
        return null;
      }
      const at = this.indexOf(sample.timestamp);
      this.nextIndex = at + 1;
      if (at >= index) {
        const picture = await this.copied(sample, half);
        return transfer(picture, [picture.data.buffer]);
      }
      sample.close();
    }
  }

  /** The sample's pixels, upright; the sample is used up. */
  private async copied(sample: VideoSample, half: boolean): Promise<ImageData> {
    const { widthPx, heightPx } = this.clip!.info;
    if (sample.rotation !== 0 || sample.codedWidth !== widthPx || sample.codedHeight !== heightPx) {
      const canvas = new OffscreenCanvas(widthPx, heightPx);
      const context = canvas.getContext('2d', { alpha: false })!;
      sample.draw(context, 0, 0, widthPx, heightPx);
      sample.close();
      return context.getImageData(0, 0, widthPx, heightPx);
    }
    const frame = sample.toVideoFrame();
    sample.close();
    try {
      if (!half || frame.format !== 'I420') {
        const bytes = new Uint8ClampedArray(4 * widthPx * heightPx);
        await frame.copyTo(bytes, { format: 'RGBA' });
        return new ImageData(bytes, widthPx, heightPx);
      }
      const size = frame.allocationSize();
      if (this.planes.length !== size) this.planes = new Uint8Array(size);
      const planes = await frame.copyTo(this.planes);
      const rgba = halfPicture(
        this.planes,
        { widthPx, heightPx, planes: planes as [PlaneLayout, PlaneLayout, PlaneLayout] },
        {
          matrix: frame.colorSpace.matrix === 'bt709' ? 'bt709' : 'bt601',
          fullRange: frame.colorSpace.fullRange ?? false,
        },
      );
      return new ImageData(rgba, widthPx >> 1, heightPx >> 1);
    } finally {
      frame.close();
    }
  }

  /** Decodes a film from end to end, in a worker of its own: which frames can't be shown; null where it does not open at all. */
  async lookThrough(
    blob: Blob,
    tell: (done: number, of: number) => void,
  ): Promise<{ frames: number; broken: FilmPart[] } | null> {
    const opened = await openClip(blob);
    if (!opened.ok) return null;
    const frames = opened.clip.tS.length;
    try {
      return { frames, broken: await decodeThrough(opened.clip, (done) => tell(done, frames)) };
    } finally {
      opened.clip.input.dispose();
    }
  }

  private indexOf(timestamp: number): number {
    const tS = this.clip!.tS;
    let low = 0;
    let high = tS.length - 1;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (tS[mid] < timestamp - 1e-5) low = mid + 1;
      else high = mid;
    }
    return low;
  }

  /** The sample's picture, upright; the sample is used up. */
  private drawn(sample: VideoSample): ImageBitmap {
    const { widthPx, heightPx } = this.clip!.info;
    // One canvas for all frames: one each would lie about until the next clean-up, 8 MB apiece at 1080p.
    const canvas = (this.canvas ??= new OffscreenCanvas(widthPx, heightPx));
    sample.draw(canvas.getContext('2d', { alpha: false })!, 0, 0, widthPx, heightPx);
    sample.close();
    return canvas.transferToImageBitmap();
  }

  private keep(index: number, sample: VideoSample): ImageBitmap {
    const { widthPx, heightPx } = this.clip!.info;
    const bitmap = this.drawn(sample);
    this.kept.set(index, bitmap);
    this.nextIndex = index + 1;
    const most = Math.max(4, Math.floor(KEEP_PX / (widthPx * heightPx)));
    for (const [old, picture] of this.kept) {
      if (this.kept.size <= most) break;
      if (old === index) continue;
      picture.close();
      this.kept.delete(old);
    }
    return bitmap;
  }

  async close(): Promise<void> {
    await this.busy;
    await this.running?.return();
    this.running = null;
    this.kept.forEach((b) => b.close());
    this.kept.clear();
    this.clip?.input.dispose();
    this.clip = null;
    this.canvas = null;
    this.sink = null;
    this.nextIndex = -1;
  }
}

export type { ClipReader };
expose(new ClipReader());
