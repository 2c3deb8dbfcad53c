import type { VideoSample } from 'mediabunny';
import { SIDE_BONES } from '../../core/landmarks/landmarks.ts';
import { isSeen } from '../../core/math/vec.ts';
import type { TrackedPoint } from '../../core/tracking/tracker.ts';

/** What the joints are drawn with. */
export interface Pens {
  plate: string;
  line: string;
  joint: string;
}

const DOUBTFUL = 0.5;

/** Draws a picture with the joints that were found on it: both belong together, however long finding them took. */
export function drawLive(
  canvas: OffscreenCanvas,
  sample: VideoSample,
  points: Partial<Record<string, TrackedPoint>> | null,
  pens: Pens,
): void {
  const context = canvas.getContext('2d', { alpha: false })!;
  sample.draw(context, 0, 0, canvas.width, canvas.height);
  if (!points) return;
  const k = canvas.width / sample.displayWidth;
  const at = (p: TrackedPoint): [number, number] => [(p.x + 0.5) * k, (p.y + 0.5) * k];
  for (const [a, b] of SIDE_BONES) {
    const [p, q] = [points[a], points[b]];
    if (!p || !q || !isSeen(p) || !isSeen(q)) continue;
    const sure = p.confidence >= DOUBTFUL && q.confidence >= DOUBTFUL;
    for (const [stroke, width] of [
      [pens.plate, 4.5],
      [pens.line, 1.6],
    ] as const) {
      context.beginPath();
      context.moveTo(...at(p));
      context.lineTo(...at(q));
      context.strokeStyle = stroke;
      context.lineWidth = width;
      context.setLineDash(sure ? [] : [4, 5]);
      context.stroke();
    }
  }
  context.setLineDash([]);
  for (const p of Object.values(points)) {
    if (!p || !isSeen(p)) continue;
    const [x, y] = at(p);
    context.fillStyle = pens.plate;
    context.fillRect(x - 4, y - 4, 8, 8);
    context.strokeStyle = pens.joint;
    context.lineWidth = 1.6;
    context.strokeRect(x - 4, y - 4, 8, 8);
  }
}
