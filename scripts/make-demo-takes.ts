/**
 * Tracks the demo films of the riders whose sessions come worked through, with the application's own tracker, and writes their
 * takes: public/demo/<rider>.tracks.csv and app/demo/takes.json. Needs ffmpeg to decode; what it makes is committed.
 */
import { spawn } from 'node:child_process';
import { statSync, writeFileSync } from 'node:fs';
import { writeTracksCsv } from '../core/formats/tracksCsv.ts';
import type { Take } from '../core/records/types.ts';
import { SIDE_BONES, SIDE_LANDMARKS } from '../core/stroke/landmarks.ts';
import { NO_WIDTH } from '../core/frontal/scale.ts';
import { emptyTracks } from '../core/stroke/tracks.ts';
import { packedFrame } from '../core/tracking/frame.ts';
import { learnSticker } from '../core/tracking/learn.ts';
import { startTracker, type Tracker } from '../core/tracking/tracker.ts';
import { truthOf, type Truth } from '../e2e/studio.ts';

const WIDTH = 1280;
const HEIGHT = 720;
const LUMA = WIDTH * HEIGHT;

async function* decoded(file: string): AsyncGenerator<Uint8Array> {
  const ffmpeg = spawn('ffmpeg', [
    '-loglevel',
    'error',
    '-i',
    file,
    '-f',
    'rawvideo',
    '-pix_fmt',
    'yuv420p',
    '-',
  ]);
  const size = (LUMA * 3) / 2;
  let rest = Buffer.alloc(0);
  for await (const chunk of ffmpeg.stdout) {
    rest = Buffer.concat([rest, chunk as Buffer]);
    while (rest.length >= size) {
      yield new Uint8Array(rest.subarray(0, size));
      rest = rest.subarray(size);
    }
  }
}

/** The stamps as the file tells them: WebM counts whole milliseconds. */
const stampsOf = (truth: Truth): number[] =>
  truth.thetaDeg.map((_, i) =>
    truth.clip.endsWith('.webm') ? Math.round((1000 * i) / truth.framesPerS) / 1000 : i / truth.framesPerS,
  );

async function takeOf(rider: string): Promise<Take> {
  const truth = truthOf(rider);
  const file = `public/demo/${truth.clip}`;
  const tracks = emptyTracks(stampsOf(truth), SIDE_LANDMARKS);
  const marks: Take['marks'] = {};
  let tracker: Tracker | null = null;
  let i = 0;
  for await (const bytes of decoded(file)) {
    const frame = packedFrame(
      WIDTH,
      HEIGHT,
      bytes.subarray(0, LUMA),
      bytes.subarray(LUMA, 1.25 * LUMA),
      bytes.subarray(1.25 * LUMA),
    );
    if (!tracker) {
      for (const key of SIDE_LANDMARKS) {
        const [x, y] = truth.jointsPx[key][0];
        const found = learnSticker(frame, { x, y });
        marks[key] = { ...(found?.centre ?? { x, y }), onSticker: found !== null };
      }
      tracker = startTracker(frame, 0, marks as Record<string, { x: number; y: number }>, SIDE_BONES);
    }
    const points =
      i === 0
        ? SIDE_LANDMARKS.map((k) => ({ ...marks[k]!, confidence: 1 }))
        : tracker.step(frame, tracks.tS[i]);
    SIDE_LANDMARKS.forEach((key, k) => {
      tracks.landmarks[key].xPx[i] = points[k].x;
      tracks.landmarks[key].yPx[i] = points[k].y;
      tracks.landmarks[key].confidence[i] = points[k].confidence;
    });
    i += 1;
  }
  writeFileSync(`public/demo/${rider}.tracks.csv`, writeTracksCsv(tracks));
  return {
    id: `${rider}-take`,
    ...SAID[rider],
    cadenceRpm: null,
    pairWith: null,
    width: NO_WIDTH,
    note: '',
    trim: null,
    clipName: truth.clip,
    clipBytes: statSync(file).size,
    video: {
      widthPx: WIDTH,
      heightPx: HEIGHT,
      codec: truth.clip.endsWith('.mp4') ? 'avc' : 'vp9',
      frames: truth.frames,
      durationS: truth.frames / truth.framesPerS,
      framesPerS: truth.framesPerS,
      evenlyTimed: true,
      rotationDeg: 0,
    },
    demo: { clipUrl: `/demo/${truth.clip}`, tracksUrl: `/demo/${rider}.tracks.csv` },
    axles: { rear: truth.rearAxlePx, front: truth.frontAxlePx },
    rims: truth.rimsPx,
    markedFrame: 0,
    marks,
    corrections: [],
    hidden: [],
    tracking: { state: 'done', framesDone: truth.frames, revision: 0 },
  };
}

/** How each demo film was ridden. */
const SAID: Record<string, Pick<Take, 'view' | 'position' | 'effort' | 'effortW'>> = {
  idris: { view: 'nonDrive', position: 'grips', effort: 'easy', effortW: 90 },
  pilar: { view: 'drive', position: 'hoods', effort: 'easy', effortW: 95 },
  juno: { view: 'drive', position: 'extensions', effort: 'working', effortW: 210 },
};

const takes: Record<string, Take> = {};
for (const rider of ['idris', 'pilar', 'juno']) {
  takes[`${rider}-1`] = await takeOf(rider);
  console.log(`${rider}: ${takes[`${rider}-1`].tracking.framesDone} frames`);
}
writeFileSync('app/demo/takes.json', `${JSON.stringify(takes, null, 2)}\n`);
