import { expose, transfer, wrap, type Remote } from 'comlink';
import { VideoSample } from 'mediabunny';
import {
  followLive,
  type Lately,
  type LiveAsk,
  type LiveFollower,
  type LiveWord,
} from '../../core/live/followLive.ts';
import { filmRing, type FilmRing } from './filmRing';
import { steadyClock } from '../../core/live/steadyClock.ts';
import type { Pens } from './livePicture';
import { planesOf } from './planes';
import type { PictureApi } from './picture.worker';
import type { ReadApi } from './read.worker';

let stopRequested = false;
let paused = false;
export type Kept = Lately & { film: Blob; fromS: number };
/** What can be kept of the past. */
const KEPT_S = 62;
let now: { live: LiveFollower; ring: FilmRing | null } | null = null;
/** Draws the pictures while somebody looks, beside this worker: what is drawn can wait for the screen, a camera’s pictures don’t. */
let painter: { api: Remote<PictureApi>; isBusy: boolean } | null = null;
let isShown = false;
/** Not every picture is shown: the eye has enough of these. */
const DRAW_S = 1 / 32;

/** Pictures that are made when they are asked for. */
const picturesFrom = (port: MessagePort): ReadableStream<VideoFrame> =>
  new ReadableStream({
    pull: (to) =>
      new Promise<void>((next) => {
        port.onmessage = ({ data }: MessageEvent<VideoFrame>) => {
          to.enqueue(data);
          next();
        };
        port.postMessage('next');
      }),
    cancel: () => port.close(),
  });

/** Hands a picture over to be drawn; the next one that comes meanwhile is not. */
async function draw(
  to: NonNullable<typeof painter>,
  picture: VideoFrame,
  points: ReturnType<LiveFollower['points']>,
): Promise<void> {
  to.isBusy = true;
  await to.api.draw(transfer(picture, [picture]), points).catch(() => undefined);
  to.isBusy = false;
}

const api = {
  /** Shows the pictures, with what is found on them, on a canvas from now on; null: nobody looks. */
  show(canvas: OffscreenCanvas | null, pens: Pens): void {
    painter ??= {
      api: wrap<PictureApi>(new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' })),
      isBusy: false,
    };
    void painter.api.show(canvas && transfer(canvas, [canvas]), pens);
    isShown = canvas !== null;
  },
  /** Follows a rider before a camera until it ends or is stopped. @param pictures of a camera, or where to ask for the next one  @param ask what is known before, and whether the last minute can be kept  @param words hears of everything that is found */
  // eslint-disable-next-line max-lines-per-function -- one picture's way, step after step
  async follow(
    pictures: ReadableStream<VideoFrame> | MessagePort,
    { keeps, ...ask }: LiveAsk & { keeps: boolean },
    words: (w: LiveWord, behindMs: number) => void,
  ): Promise<void> {
    stopRequested = false;
    paused = false;
    /** From a picture’s stamp to now, and the least of it there ever was: what is beyond that is waiting and work. */
    let [stampS, leastMs] = [NaN, Infinity];
    const sinceStamp = (): number => performance.now() - 1000 * stampS;
    const readWorker = new Worker(new URL('./read.worker.ts', import.meta.url), { type: 'module' });
    const turns = wrap<ReadApi>(readWorker);
    const live = followLive(
      ask,
      (w) => words(w, Number.isNaN(stampS) ? 0 : sinceStamp() - leastMs),
      // Beside this one: no picture waits for a reading.
      (tracks, options) => turns.readTracks(tracks, options),
    );
    const reader = (pictures instanceof MessagePort ? picturesFrom(pictures) : pictures).getReader();
    const spare: (Uint8Array | undefined)[] = [undefined];
    let drawnS = -Infinity;
    const clock = steadyClock();
    let ring: FilmRing | null | undefined;
    try {
      for (;;) {
        const { value: picture, done } = await reader.read();
        if (done) break;
        if (stopRequested || paused) {
          picture.close();
          live.rest();
          if (stopRequested) break;
          continue;
        }
        const tS = clock(picture.timestamp / 1e6);
        if (tS === null) {
          picture.close();
          continue;
        }
        stampS = tS;
        leastMs = Math.min(leastMs, sinceStamp());
        if (ring === undefined)
          ring = keeps ? await filmRing(picture.displayWidth, picture.displayHeight) : null;
        now = { live, ring };
        const sample = new VideoSample(picture);
        try {
          const { frame, buffer } = await planesOf(sample, spare[0], live.lookingAt(tS));
          spare[0] = live.see(frame, tS) ? undefined : buffer;
          if (live.points()) ring?.add(picture, tS);
          else ring?.clear();
          if (isShown && painter && !painter.isBusy && tS - drawnS >= DRAW_S) {
            drawnS = tS;
            void draw(painter, picture.clone(), live.points());
          }
        } finally {
          sample.close();
        }
      }
    } finally {
      now = null;
      readWorker.terminate();
      ring?.close();
      await reader.cancel().catch(() => undefined);
    }
  },
  /** The last minute as a film, with what was followed on it; null where there is none, or this browser writes no film. */
  async keep(): Promise<Kept | null> {
    const lately = now?.live.lately(KEPT_S);
    const made = await now?.ring?.film();
    return lately && made ? { ...made, ...lately } : null;
  },
  stop(): void {
    stopRequested = true;
  },
  pause(on: boolean): void {
    paused = on;
  },
};

export type LiveApi = typeof api;
expose(api);
