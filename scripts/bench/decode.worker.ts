import { expose } from 'comlink';
import { VideoSampleSink } from 'mediabunny';
import { openClip } from '../../app/workers/openClip';

const api = {
  /** Decodes the whole clip and does nothing with it: the yardstick. */
  async decode(blob: Blob): Promise<{ frames: number; ms: number }> {
    const opened = await openClip(blob);
    if (!opened.ok) throw new Error(opened.trouble.title);
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
export type Decode = typeof api;

expose(api);
