import type { FileBytes } from './zipDirectory.ts';

/** The boxes of an MP4 or MOV that lead to a track's tables. */
const LEADS = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl', 'moof', 'traf']);
/** A table is read up to here; an honest one of hours of film is far smaller. */
const MOST_TABLE_BYTES = 64_000_000;
/** Boxes inside boxes, and side by side: more has no file of a camera. */
const [MOST_DEPTH, MOST_BOXES] = [8, 200_000];

interface Box {
  name: string;
  from: number;
  to: number;
}

async function boxesIn(file: FileBytes, from: number, to: number, left: { boxes: number }): Promise<Box[]> {
  const boxes: Box[] = [];
  for (let at = from; at + 8 <= to && left.boxes > 0;) {
    left.boxes -= 1;
    const head = new DataView(await file.slice(at, at + 16).arrayBuffer());
    if (head.byteLength < 8) break;
    const name = String.fromCharCode(...[4, 5, 6, 7].map((k) => head.getUint8(k)));
    const wide = head.getUint32(0) === 1;
    if (wide && head.byteLength < 16) break;
    const size = wide ? Number(head.getBigUint64(8)) : head.getUint32(0) || to - at;
    if (size < 8) break;
    boxes.push({ name, from: at + (wide ? 16 : 8), to: Math.min(to, at + size) });
    at += size;
  }
  return boxes;
}

/** The names of the boxes that stand in an MP4 or MOV one after another, as far as their sizes lead. */
export async function boxNames(file: FileBytes): Promise<string[]> {
  return (await boxesIn(file, 0, file.size, { boxes: MOST_BOXES })).map((b) => b.name);
}

/** Whether a track is one of pictures, by its handler: sound may be stored sample by sample, 48,000 of them a second. */
async function isPicture(file: FileBytes, { from }: Box): Promise<boolean> {
  const type = new Uint8Array(await file.slice(from + 8, from + 12).arrayBuffer());
  return String.fromCharCode(...type) === 'vide';
}

/** How many samples a table says there are. */
async function samplesOf(file: FileBytes, box: Box): Promise<number> {
  const bytes = new DataView(
    await file.slice(box.from, Math.min(box.to, box.from + MOST_TABLE_BYTES)).arrayBuffer(),
  );
  if (bytes.byteLength < 12) return 0;
  if (box.name === 'stsz') return bytes.getUint32(8);
  if (box.name === 'trun') return bytes.getUint32(4);
  // Runs of so many samples that are alike: stts and ctts.
  const runs = Math.min(bytes.getUint32(4), Math.floor((bytes.byteLength - 8) / 8));
  let samples = 0;
  for (let k = 0; k < runs; k += 1) samples += bytes.getUint32(8 + 8 * k);
  return samples;
}

/**
 * The largest number of frames that any table of an MP4’s or MOV’s pictures promises, without anything of it being laid out in memory: a
 * few bytes may promise thousands of millions.
 * @returns 0 for a file of another kind
 */
export async function promisedFrames(file: FileBytes): Promise<number> {
  const left = { boxes: MOST_BOXES };
  const within = async (from: number, to: number, depth: number): Promise<number> => {
    let most = 0;
    const boxes = await boxesIn(file, from, to, left);
    const handler = boxes.find((box) => box.name === 'hdlr');
    if (handler && !(await isPicture(file, handler))) return 0;
    for (const box of boxes) {
      if (LEADS.has(box.name) && depth < MOST_DEPTH)
        most = Math.max(most, await within(box.from, box.to, depth + 1));
      else if (['stts', 'ctts', 'stsz', 'trun'].includes(box.name))
        most = Math.max(most, await samplesOf(file, box));
    }
    return most;
  };
  const start = new DataView(await file.slice(0, 12).arrayBuffer());
  const isMp4 = start.byteLength >= 8 && [0x66747970, 0x6d6f6f76, 0x6d646174].includes(start.getUint32(4));
  return isMp4 ? within(0, file.size, 0) : 0;
}
