import { expose } from 'comlink';
import { practiceCamera, practiceRider, type Moved, type PracticeCamera } from '../../sim/practice.ts';

const FRAMES_PER_S = 60;
let camera: PracticeCamera | null = null;

const api = {
  /** A made-up rider pedals; each picture is drawn when the port asks for it, and never before its time: on a slow computer time goes slower. */
  ride(seed: number, moved: Moved, port: MessagePort): { widthPx: number; heightPx: number } {
    const made = practiceCamera(practiceRider(seed), moved);
    camera = made;
    let [taken, dueMs] = [0, 0];
    const shoot = (): void => {
      const { width, height, data } = made.shoot(taken / FRAMES_PER_S);
      const picture = new VideoFrame(data, {
        format: 'I420',
        ...{ codedWidth: width, codedHeight: height },
        timestamp: Math.round((1e6 * taken) / FRAMES_PER_S),
      });
      taken += 1;
      port.postMessage(picture, [picture]);
    };
    port.onmessage = () => {
      const nowMs = performance.now();
      dueMs = Math.max(dueMs + 1000 / FRAMES_PER_S, nowMs);
      setTimeout(shoot, dueMs - nowMs);
    };
    return { widthPx: made.widthPx, heightPx: made.heightPx };
  },
  move(moved: Moved): void {
    camera?.move(moved);
  },
};

export type PracticeApi = typeof api;
expose(api);
