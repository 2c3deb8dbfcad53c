import type { VideoSample } from 'mediabunny';
import { turnFrame, type PlanarFrame, type Region } from '../../core/tracking/frame.ts';

/**
 * A decoded frame as planes, upright, at its display size. 4:2:0 formats are copied as they are; anything else goes through a
 * canvas.
 * @param spare a buffer of an earlier frame of the same clip, to be written over
 * @param region copies only this part (on even pixels), to its own place in the buffer; the rest stays what it was, and the frame
 * says so. Ignored for turned frames.
 */
export async function planesOf(
  sample: VideoSample,
  spare?: Uint8Array,
  region?: Region | null,
): Promise<{ frame: PlanarFrame; buffer: Uint8Array }> {
  const { format } = sample;
  const { left, top, width, height } = sample.visibleRect;
  const square = sample.squarePixelWidth === width && sample.squarePixelHeight === height;
  if ((format !== 'I420' && format !== 'NV12') || !square || sample.flip) {
    return { frame: throughCanvas(sample), buffer: spare ?? new Uint8Array(0) };
  }
  const interleaved = format === 'NV12';
  const chromaStep = interleaved ? 2 : 1;
  const cw = (width + 1) >> 1;
  const ch = (height + 1) >> 1;
  const chromaStride = cw * chromaStep;
  const uAt = width * height;
  const vAt = interleaved ? uAt + 1 : uAt + cw * ch;
  // A part that touches the bottom begins within its first row: the browser asks for room to a whole last row all the same.
  const size = uAt + 2 * cw * ch + width;
  const reuse = spare?.byteLength === size;
  const buffer = reuse ? spare : new Uint8Array(size);
  // One that begins in the first rows takes whole rows: the browser counts each to its full length, into the next plane.
  const wanted = region && region.y < 2 ? { ...region, x: 0, width } : region;
  const part = reuse && wanted && sample.rotation === 0 ? wanted : { x: 0, y: 0, width, height };
  const chromaOffset = (part.y >> 1) * chromaStride + (part.x >> 1) * chromaStep;
  await sample.copyTo(buffer, {
    rect: { x: left + part.x, y: top + part.y, width: part.width, height: part.height },
    layout: [
      { offset: part.y * width + part.x, stride: width },
      { offset: uAt + chromaOffset, stride: chromaStride },
      ...(interleaved ? [] : [{ offset: vAt + chromaOffset, stride: chromaStride }]),
    ],
  });
  const frame: PlanarFrame = {
    width,
    height,
    y: buffer,
    u: buffer.subarray(uAt),
    v: buffer.subarray(vAt),
    yStride: width,
    chromaStride,
    chromaStep,
    ...(part === wanted ? { filled: wanted } : {}),
  };
  return { frame: turnFrame(frame, sample.rotation / 90), buffer };
}

/** The memory of a film's pictures, each part once: what goes with them to another worker. */
export const buffersOf = ({ frames }: { frames: readonly PlanarFrame[] }): ArrayBuffer[] => [
  ...new Set(frames.flatMap((f) => [f.y, f.u, f.v].map((plane) => plane.buffer as ArrayBuffer))),
];

function throughCanvas(sample: VideoSample): PlanarFrame {
  const width = sample.displayWidth;
  const height = sample.displayHeight;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  sample.draw(context, 0, 0, width, height);
  const rgba = context.getImageData(0, 0, width, height).data;
  const cw = (width + 1) >> 1;
  const ch = (height + 1) >> 1;
  const y = new Uint8Array(width * height);
  const u = new Uint8Array(cw * ch);
  const v = new Uint8Array(cw * ch);
  for (let n = 0, k = 0; n < y.length; n += 1, k += 4) {
    y[n] = 16.5 + 0.1826 * rgba[k] + 0.6142 * rgba[k + 1] + 0.062 * rgba[k + 2];
  }
  for (let j = 0; j < ch; j += 1) {
    for (let i = 0; i < cw; i += 1) {
      const k = 4 * (2 * j * width + 2 * i);
      u[j * cw + i] = 128.5 - 0.1006 * rgba[k] - 0.3386 * rgba[k + 1] + 0.4392 * rgba[k + 2];
      v[j * cw + i] = 128.5 + 0.4392 * rgba[k] - 0.3989 * rgba[k + 1] - 0.0403 * rgba[k + 2];
    }
  }
  return { width, height, y, u, v, yStride: width, chromaStride: cw, chromaStep: 1 };
}
