import { expose } from 'comlink';
import { VideoSample } from 'mediabunny';
import type { TrackedPoint } from '../../core/tracking/tracker.ts';
import { drawLive, type Pens } from './livePicture';

let shown: { canvas: OffscreenCanvas; pens: Pens } | null = null;

const api = {
  /** Draws on a canvas from now on; null: nobody looks. */
  show(canvas: OffscreenCanvas | null, pens: Pens): void {
    shown = canvas && { canvas, pens };
  },
  /** Draws a picture, which is closed then, with the joints that were found on it. */
  draw(picture: VideoFrame, points: Partial<Record<string, TrackedPoint>> | null): void {
    const sample = new VideoSample(picture);
    try {
      if (shown) drawLive(shown.canvas, sample, points, shown.pens);
    } finally {
      sample.close();
    }
  },
};

export type PictureApi = typeof api;
expose(api);
