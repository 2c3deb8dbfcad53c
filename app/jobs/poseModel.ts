import type { PosePoint } from '../../core/landmarks/poseJoints.ts';

/** The pose model, opened: it lives in a page of its own until it is closed. */
export interface PoseModel {
  /** All points that the model sees on a picture; null where it sees nobody. The picture is used up. */
  find: (picture: ImageBitmap) => Promise<PosePoint[] | null>;
  close: () => void;
}

type FrameMessage =
  | { from: 'pose'; kind: 'ready' }
  | { from: 'pose'; kind: 'no-webgl' }
  | { from: 'pose'; kind: 'failed'; why: string }
  | { from: 'pose'; kind: 'found'; id: number; points: PosePoint[] | null; why?: string };

const PAGE = '/pose/frame.html';
const NO_NETWORK =
  'The pose model needs the network the first time it is asked for; after that it is kept on this device. The joints can be pointed out without it.';

/** Loading may take a while on a slow device; after this it is given up, ms. */
const PATIENCE_MS = 90_000;

/**
 * Opens the pose model: some 15 MB from this server, the first time it is asked for.
 * @throws with a sentence where there is no WebGL, or it can't be loaded
 */
export async function openPoseModel(): Promise<PoseModel> {
  // Its page answers from this device once it was here; without it nothing would ever be heard.
  const there = await fetch(PAGE).catch(() => null);
  if (!there?.ok) throw new Error(NO_NETWORK);
  return framed();
}

function framed(): Promise<PoseModel> {
  const page = document.createElement('iframe');
  page.src = PAGE;
  page.title = 'Pose model';
  page.setAttribute('aria-hidden', 'true');
  page.tabIndex = -1;
  page.style.cssText = 'position:fixed;width:2px;height:2px;left:-10px;top:-10px;border:0;visibility:hidden';
  const waiting = new Map<number, { done: (p: PosePoint[] | null) => void; failed: (e: Error) => void }>();
  let next = 1;
  return new Promise((resolve, reject) => {
    const close = (): void => {
      window.removeEventListener('message', hear);
      window.clearTimeout(timer);
      page.remove();
      for (const w of waiting.values()) w.failed(new Error('The pose model was closed.'));
      waiting.clear();
    };
    const giveUp = (sentence: string): void => {
      close();
      reject(new Error(sentence));
    };
    const hear = (e: MessageEvent): void => {
      const message = e.data as FrameMessage | undefined;
      if (e.source !== page.contentWindow || message?.from !== 'pose') return;
      if (message.kind === 'no-webgl')
        giveUp('This browser has no WebGL, which the pose model needs. Everything else works without it.');
      else if (message.kind === 'failed') giveUp(`The pose model could not be loaded: ${message.why}`);
      else if (message.kind === 'ready') {
        window.clearTimeout(timer);
        resolve({
          find: (picture) =>
            new Promise((done, failed) => {
              const id = next;
              next += 1;
              waiting.set(id, { done, failed });
              page.contentWindow!.postMessage({ to: 'pose', id, picture }, location.origin, [picture]);
            }),
          close,
        });
      } else {
        const w = waiting.get(message.id);
        waiting.delete(message.id);
        if (message.why) w?.failed(new Error(`The pose model gave up: ${message.why}`));
        else w?.done(message.points);
      }
    };
    const timer = window.setTimeout(
      () => giveUp('The pose model took too long to load. See that the application is still running.'),
      PATIENCE_MS,
    );
    window.addEventListener('message', hear);
    document.body.append(page);
  });
}
