import { createRequire } from 'node:module';
import { SIDE_BONES, SIDE_LANDMARKS } from '../../core/landmarks/landmarks.ts';
import { median } from '../../core/math/statistics.ts';
import { packedFrame, type PlanarFrame } from '../../core/tracking/frame.ts';
import { startTracker } from '../../core/tracking/tracker.ts';
import { CAST } from '../../sim/cast.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';

interface Outcome {
  msPerFrame: number;
  medianPx: number[];
  lost: string[];
}

/** The few calls of OpenCV that the comparison needs. */
interface Mat {
  data32F: Float32Array;
  data: Uint8Array;
  delete: () => void;
}
interface OpenCv {
  Mat: new (...args: unknown[]) => Mat;
  Size: new (w: number, h: number) => unknown;
  TermCriteria: new (type: number, count: number, epsilon: number) => unknown;
  CV_8UC1: number;
  CV_32FC2: number;
  calcOpticalFlowPyrLK: (...args: unknown[]) => void;
  onRuntimeInitialized?: () => void;
}

/** Handed over in a box: the module has a `then` of its own that resolves to itself, so awaiting it would never end. */
async function loadOpenCv(): Promise<{ cv: OpenCv }> {
  const cv = createRequire(import.meta.url)('@techstark/opencv-js') as OpenCv;
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = () => resolve()));
  // It also takes every later error of this process for its own, and prints itself whole.
  process.removeAllListeners('uncaughtException').removeAllListeners('unhandledRejection');
  return { cv };
}

function summarise(ms: number, frames: PlanarFrame[], errors: number[][]): Outcome {
  return {
    msPerFrame: ms / (frames.length - 1),
    medianPx: errors.map((e) => median(e)),
    // Lost: at the film's end it is further than a sticker's radius from where it should be.
    lost: SIDE_LANDMARKS.filter((_, k) => !(errors[k][errors[k].length - 1] < 5)),
  };
}

/** Frames on which knee and toe have no sticker: lost from the first of them on, and looked for on each. */
const HIDDEN = { from: 60, to: 150 };

/** What a frame takes while two landmarks are looked for, ms; the two were lost on so many of them. */
export function whileSearching(): { msPerFrame: number; frames: number; lostFrames: number } {
  const { scene, film } = CAST[0];
  const plain = openFilm(scene, film);
  const stickerOn = { ...scene.look.stickerOn, knee: null, toe: null };
  const bare = openFilm({ ...scene, look: { ...scene.look, stickerOn } }, film);
  const frames = Array.from({ length: HIDDEN.to }, (_, i) =>
    packedFrame(toPlanes((i < HIDDEN.from ? plain : bare).shoot(i))),
  );
  const start = frameTruth(scene, film, 0).joints;
  const marks = Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, start[k]]));
  const run = (): ReturnType<typeof whileSearching> => {
    const tracker = startTracker(frames[0], 0, marks, { bones: SIDE_BONES });
    const searched = ['knee', 'toe'].map((key) => tracker.keys.indexOf(key));
    let [ms, lostFrames] = [0, 0];
    for (let i = 1; i < frames.length; i += 1) {
      const t0 = performance.now();
      const points = tracker.step(frames[i], i / film.framesPerS);
      if (i < HIDDEN.from) continue;
      ms += performance.now() - t0;
      if (searched.every((k) => Number.isNaN(points[k].x))) lostFrames += 1;
    }
    return { msPerFrame: ms / (HIDDEN.to - HIDDEN.from), frames: HIDDEN.to - HIDDEN.from, lostFrames };
  };
  run();
  return run();
}

/** This tracker and OpenCV's pyramidal Lucas–Kanade (21×21, three levels over the base) on the same rendered frames. */
export async function comparePeer(count: number): Promise<{ ours: Outcome; peer: Outcome }> {
  const member = CAST[0];
  const film = openFilm(member.scene, member.film);
  const frames = Array.from({ length: count }, (_, i) => {
    const p = toPlanes(film.shoot(i));
    return packedFrame({ width: p.width, height: p.height, y: p.y, u: p.u, v: p.v });
  });
  const truth = frames.map((_, i) => frameTruth(member.scene, member.film, i).joints);
  const miss = (i: number, k: number, x: number, y: number): number =>
    Math.hypot(x - truth[i][SIDE_LANDMARKS[k]].x, y - truth[i][SIDE_LANDMARKS[k]].y);

  const runOurs = (): Outcome => {
    const errors: number[][] = SIDE_LANDMARKS.map(() => []);
    const marks = Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, truth[0][k]]));
    const tracker = startTracker(frames[0], 0, marks, { bones: SIDE_BONES });
    let ms = 0;
    for (let i = 1; i < count; i += 1) {
      const t0 = performance.now();
      const points = tracker.step(frames[i], i / member.film.framesPerS);
      ms += performance.now() - t0;
      points.forEach((p, k) => errors[k].push(miss(i, k, p.x, p.y)));
    }
    return summarise(ms, frames, errors);
  };
  runOurs();
  const ours = runOurs();

  const { cv } = await loadOpenCv();
  const { width, height } = frames[0];
  const load = (f: PlanarFrame): Mat => {
    const mat = new cv.Mat(height, width, cv.CV_8UC1);
    mat.data.set(f.y);
    return mat;
  };
  const errors: number[][] = SIDE_LANDMARKS.map(() => []);
  let before = load(frames[0]);
  let points = new cv.Mat(SIDE_LANDMARKS.length, 1, cv.CV_32FC2);
  SIDE_LANDMARKS.forEach((key, k) => points.data32F.set([truth[0][key].x, truth[0][key].y], 2 * k));
  const size = new cv.Size(21, 21);
  const stop = new cv.TermCriteria(3, 30, 0.01);
  let ms = 0;
  for (let i = 1; i < count; i += 1) {
    const now = load(frames[i]);
    const next = new cv.Mat();
    const status = new cv.Mat();
    const error = new cv.Mat();
    const t0 = performance.now();
    cv.calcOpticalFlowPyrLK(before, now, points, next, status, error, size, 3, stop);
    ms += performance.now() - t0;
    SIDE_LANDMARKS.forEach((_, k) =>
      errors[k].push(miss(i, k, next.data32F[2 * k], next.data32F[2 * k + 1])),
    );
    [before, points, status, error].forEach((m) => m.delete());
    before = now;
    points = next;
  }
  return { ours, peer: summarise(ms, frames, errors) };
}
