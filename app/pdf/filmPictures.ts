import type { MeasureKey } from '../../core/protocol/protocols.ts';
import type { Take } from '../../core/records/types.ts';
import { isSeen, type Vec2 } from '../../core/math/vec.ts';
import { SIDE_BONES, type SideLandmark } from '../../core/landmarks/landmarks.ts';
import { pointAt, type Tracks } from '../../core/tracking/tracks.ts';
import { clipOf } from '../storage/sessions';
import { spawnClipReader } from '../workers/spawn';

/** The limbs whose angle a measure is; the first and last joint's lines meet at the middle one. */
const SHOWN: Partial<Record<MeasureKey, readonly SideLandmark[]>> = {
  kneeFlexionMinDeg: ['hip', 'knee', 'ankle'],
  kneeFlexionMaxDeg: ['hip', 'knee', 'ankle'],
  hipAngleMinDeg: ['shoulder', 'hip', 'knee'],
  backAngleDeg: ['hip', 'shoulder'],
  shoulderAngleDeg: ['hip', 'shoulder', 'elbow'],
  elbowFlexionDeg: ['shoulder', 'elbow', 'wrist'],
  footPitch90Deg: ['heel', 'toe'],
  footPitch180Deg: ['heel', 'toe'],
  kneeOverSpindleMm: ['hip', 'knee', 'ankle'],
  effectiveSeatAngleDeg: ['hip', 'knee', 'ankle'],
};

/** Whether a measure can be shown on a picture from the side. */
export const isShown = (key: MeasureKey): boolean => SHOWN[key] !== undefined;

const WIDE_PX = 1000;
const PAPER = 'rgba(251,248,241,0.9)';
const INK = '#1d282e';
const ACCENT = '#a3451c';

/** A picture out of a film: its frame, the measure whose angle is drawn in, and what is written beside it. */
export interface WantedPicture {
  frame: number;
  key: MeasureKey;
  text: string;
}

/** Pictures made before of what was tracked, by what was asked for: they are shown again and again while a report is written. */
const made = new WeakMap<Tracks, Map<string, string>>();

/**
 * Frames of the rider's own film with the centre lines along the limbs and one angle drawn in each, cut to the rider, as JPEG data
 * addresses; null for each that can't be had: the film is not on this device, or does not open.
 * @param stop ends it: what was not made by then is null, or the whole is rejected
 */
export async function filmPictures(
  take: Take,
  tracks: Tracks,
  { wanted, stop }: { wanted: readonly WantedPicture[]; stop: AbortSignal },
): Promise<(string | null)[]> {
  const known = made.get(tracks) ?? new Map<string, string>();
  made.set(tracks, known);
  const nameOf = ({ frame, key, text }: WantedPicture): string => [frame, key, text].join();
  const film = await clipOf(take);
  // A film that was removed is shown nowhere any more.
  if (!film || stop.aborted) return wanted.map(() => null);
  // In the film's order: a decoder runs forwards.
  const lacking = wanted.filter((a) => !known.has(nameOf(a))).sort((a, b) => a.frame - b.frame);
  if (lacking.length > 0) {
    const reader = spawnClipReader();
    stop.addEventListener('abort', reader.end);
    try {
      const opened = await reader.api.open(film);
      for (const a of opened.ok ? lacking : []) {
        // One that can't be decoded keeps none of the others away.
        const bitmap = await reader.api.frame(a.frame).catch(() => null);
        const picture = bitmap && (await drawn(bitmap, tracks, a));
        if (picture) known.set(nameOf(a), picture);
      }
    } finally {
      stop.removeEventListener('abort', reader.end);
      reader.end();
    }
  }
  return wanted.map((a) => known.get(nameOf(a)) ?? null);
}

/** A frame cut to the rider, with its lines and its angle; null where no joint is seen on it. The frame is used up. */
async function drawn(
  bitmap: ImageBitmap,
  tracks: Tracks,
  { frame, key, text }: WantedPicture,
): Promise<string | null> {
  const joints = (Object.keys(tracks.landmarks) as SideLandmark[])
    .map((k) => pointAt(tracks, k, frame))
    .filter(isSeen);
  if (joints.length === 0) {
    bitmap.close();
    return null;
  }
  // The rider with some air round, as wide as it is tall by four to three.
  const [xs, ys] = [joints.map((p) => p.x), joints.map((p) => p.y)];
  const middle = { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 };
  const tall = Math.min(bitmap.height, 1.5 * (Math.max(...ys) - Math.min(...ys)));
  const wide = Math.min(bitmap.width, (4 / 3) * tall);
  const left = Math.min(bitmap.width - wide, Math.max(0, middle.x - wide / 2));
  const top = Math.min(bitmap.height - tall, Math.max(0, middle.y - 0.55 * tall));
  const k = WIDE_PX / wide;
  const canvas = new OffscreenCanvas(WIDE_PX, Math.round(tall * k));
  const c = canvas.getContext('2d', { alpha: false })!;
  c.drawImage(bitmap, left, top, wide, tall, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  const at = (p: Vec2): Vec2 => ({ x: (p.x + 0.5 - left) * k, y: (p.y + 0.5 - top) * k });
  const stroke = (points: readonly Vec2[], colour: string, width: number): void => {
    c.strokeStyle = colour;
    c.lineWidth = width;
    c.lineCap = 'round';
    c.beginPath();
    points.forEach((p, i) => (i === 0 ? c.moveTo(p.x, p.y) : c.lineTo(p.x, p.y)));
    c.stroke();
  };
  for (const [a, b] of SIDE_BONES) {
    const [p, q] = [pointAt(tracks, a, frame), pointAt(tracks, b, frame)];
    if (!isSeen(p) || !isSeen(q)) continue;
    stroke([at(p), at(q)], PAPER, 7);
    stroke([at(p), at(q)], INK, 2);
  }
  drawAngle(
    c,
    stroke,
    (SHOWN[key] ?? []).map((j) => at(pointAt(tracks, j, frame))),
    text,
  );
  return dataUrlOf(await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.88 }));
}

/** The limbs of the angle in the accent, its arc or its level, and the figure on a plate beside it. */
function drawAngle(
  c: OffscreenCanvasRenderingContext2D,
  stroke: (points: readonly Vec2[], colour: string, width: number) => void,
  points: readonly Vec2[],
  text: string,
): void {
  if (points.length < 2 || !points.every(isSeen)) return;
  stroke(points, PAPER, 11);
  stroke(points, ACCENT, 5);
  const vertex = points.length === 3 ? points[1] : points[0];
  const ends = points.length === 3 ? [points[0], points[2]] : [points[1], { x: points[1].x, y: points[0].y }];
  if (points.length === 2) stroke([vertex, ends[1]], ACCENT, 2);
  const [a, b] = ends.map((p) => Math.atan2(p.y - vertex.y, p.x - vertex.x));
  const turn = Math.atan2(Math.sin(b - a), Math.cos(b - a));
  const r = 70;
  for (const [colour, width] of [
    [PAPER, 8],
    [ACCENT, 3.5],
  ] as const) {
    c.strokeStyle = colour;
    c.lineWidth = width;
    c.beginPath();
    c.arc(vertex.x, vertex.y, r, a, a + turn, turn < 0);
    c.stroke();
  }
  c.font = '600 34px "Archivo Variable", Arial, sans-serif';
  const w = c.measureText(text).width + 22;
  const mid = a + turn / 2;
  const centre = { x: vertex.x + (r + 20 + w / 2) * Math.cos(mid), y: vertex.y + (r + 34) * Math.sin(mid) };
  const x = Math.min(c.canvas.width - w - 6, Math.max(6, centre.x - w / 2));
  const y = Math.min(c.canvas.height - 50, Math.max(6, centre.y - 24));
  c.fillStyle = PAPER;
  c.fillRect(x, y, w, 46);
  c.fillStyle = INK;
  c.fillText(text, x + 11, y + 35);
}

const dataUrlOf = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(blob);
  });
