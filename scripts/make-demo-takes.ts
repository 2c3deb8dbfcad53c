/**
 * Tracks the demo films of the riders whose sessions come worked through, with the application's own tracker, and writes their
 * takes: public/demo/<rider>.tracks.csv and app/demo/takes.json. Needs ffmpeg to decode; what it makes is committed.
 */
import { spawn } from 'node:child_process';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { writeTracksCsv } from '../core/formats/tracksCsv.ts';
import type { BikeSetup } from '../core/bike/setup.ts';
import type { Take } from '../core/records/types.ts';
import { LANDMARKS, RIGID_BONES } from '../core/landmarks/landmarks.ts';
import { NO_DEVICES } from '../core/kinematics/devices.ts';
import { NO_WIDTH } from '../core/camera/frontalScale.ts';
import { emptyTracks } from '../core/tracking/tracks.ts';
import { packedFrame } from '../core/tracking/frame.ts';
import { learnSticker } from '../core/tracking/learn.ts';
import { startTracker, type Tracker } from '../core/tracking/tracker.ts';
import type { Vec2 } from '../core/math/vec.ts';
import type { Truth } from '../e2e/studio.ts';
import { MAREN_BIKE } from './demo/rounds.ts';

async function* decoded(file: string, luma: number): AsyncGenerator<Uint8Array> {
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
  const size = (luma * 3) / 2;
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
const stampsOf = (truth: Pick<Truth, 'clip' | 'frames' | 'framesPerS'>): number[] =>
  Array.from({ length: truth.frames }, (_, i) =>
    truth.clip.endsWith('.webm') ? Math.round((1000 * i) / truth.framesPerS) / 1000 : i / truth.framesPerS,
  );

/** A demo film: whose, how it was ridden, and what is known of it. */
interface DemoFilm {
  id: string;
  session: string;
  /** The round it belongs to and the bike as it stood; the first, and as found, where nothing is stated. */
  round?: number;
  setup?: BikeSetup;
  about: Pick<Take, 'view' | 'position' | 'effort' | 'effortW' | 'cadenceRpm' | 'note'>;
}

type FrontalTruth = Pick<Truth, 'clip' | 'framesPerS' | 'frames' | 'jointsPx'> & {
  barMm: number;
  barPx: { right: Vec2; left: Vec2 };
};

async function takeOf({ id, round = 1, setup, about }: DemoFilm): Promise<Take> {
  const truth = JSON.parse(readFileSync(`public/demo/${id}.truth.json`, 'utf8')) as Truth | FrontalTruth;
  const file = `public/demo/${truth.clip}`;
  const [width, height] = 'barPx' in truth ? [720, 720] : [1280, 720];
  const luma = width * height;
  const keys = LANDMARKS.filter((k) => truth.jointsPx[k]);
  const tracks = emptyTracks(stampsOf(truth), keys);
  const marks: Take['marks'] = {};
  let tracker: Tracker | null = null;
  let i = 0;
  for await (const bytes of decoded(file, luma)) {
    const frame = packedFrame({
      width,
      height,
      y: bytes.subarray(0, luma),
      u: bytes.subarray(luma, 1.25 * luma),
      v: bytes.subarray(1.25 * luma),
    });
    if (!tracker) {
      for (const key of keys) {
        const [x, y] = truth.jointsPx[key][0];
        const found = learnSticker(frame, { x, y });
        marks[key] = { ...(found?.centre ?? { x, y }), onSticker: found !== null };
      }
      tracker = startTracker(frame, 0, marks as Record<string, { x: number; y: number }>, {
        bones: RIGID_BONES,
      });
    }
    const points =
      i === 0 ? keys.map((k) => ({ ...marks[k]!, confidence: 1 })) : tracker.step(frame, tracks.tS[i]);
    keys.forEach((key, k) => {
      tracks.landmarks[key].xPx[i] = points[k].x;
      tracks.landmarks[key].yPx[i] = points[k].y;
      tracks.landmarks[key].confidence[i] = points[k].confidence;
    });
    i += 1;
  }
  writeFileSync(`public/demo/${id}.tracks.csv`, writeTracksCsv(tracks));
  return {
    id: `${id}-take`,
    round,
    setup: setup ?? null,
    devices: NO_DEVICES,
    ...about,
    baselineOf: null,
    pairWith: null,
    width: 'barPx' in truth ? { of: 'bar', mm: truth.barMm, ...truth.barPx } : NO_WIDTH,
    trim: null,
    clipName: truth.clip,
    clipBytes: statSync(file).size,
    video: {
      widthPx: width,
      heightPx: height,
      codec: truth.clip.endsWith('.mp4') ? 'avc' : 'vp9',
      frames: truth.frames,
      durationS: truth.frames / truth.framesPerS,
      framesPerS: truth.framesPerS,
      evenlyTimed: true,
      rotationDeg: 0,
    },
    demo: { clipUrl: `/demo/${truth.clip}`, tracksUrl: `/demo/${id}.tracks.csv` },
    axles:
      'barPx' in truth ? { rear: null, front: null } : { rear: truth.rearAxlePx, front: truth.frontAxlePx },
    rims: 'barPx' in truth ? {} : truth.rimsPx,
    markedFrame: 0,
    marks,
    corrections: [],
    cameraPath: null,
    hidden: [],
    tracking: { state: 'done', framesDone: truth.frames, estimated: false, revision: 0 },
  };
}

const NOTE = { cadenceRpm: null, note: '' };
/** The films that come worked through; the one from the side comes last, so that the stations open on it. */
const FILMS: readonly DemoFilm[] = [
  {
    id: 'maren',
    session: 'maren-1',
    about: { view: 'drive', position: 'hoods', effort: 'easy', effortW: 110, ...NOTE, cadenceRpm: 84 },
  },
  {
    id: 'maren-second',
    session: 'maren-1',
    round: 2,
    setup: MAREN_BIKE.second,
    about: { view: 'drive', position: 'hoods', effort: 'easy', effortW: 110, ...NOTE, cadenceRpm: 84 },
  },
  {
    id: 'maren-third',
    session: 'maren-2',
    about: { view: 'drive', position: 'hoods', effort: 'easy', effortW: 112, ...NOTE, cadenceRpm: 86 },
  },
  {
    id: 'idris-front',
    session: 'idris-1',
    about: { view: 'front', position: 'grips', effort: 'easy', effortW: 90, ...NOTE, cadenceRpm: 78 },
  },
  {
    id: 'idris',
    session: 'idris-1',
    about: { view: 'nonDrive', position: 'grips', effort: 'easy', effortW: 90, ...NOTE, cadenceRpm: 78 },
  },
  {
    id: 'pilar',
    session: 'pilar-1',
    about: { view: 'drive', position: 'hoods', effort: 'easy', effortW: 95, ...NOTE },
  },
  {
    id: 'juno-rear',
    session: 'juno-1',
    about: { view: 'rear', position: 'extensions', effort: 'working', effortW: 210, ...NOTE, cadenceRpm: 97 },
  },
  {
    id: 'juno',
    session: 'juno-1',
    about: {
      view: 'drive',
      position: 'extensions',
      effort: 'working',
      effortW: 210,
      ...NOTE,
      cadenceRpm: 97,
    },
  },
];

const takes: Record<string, Take[]> = {};
for (const film of FILMS) {
  const take = await takeOf(film);
  (takes[film.session] ??= []).push(take);
  console.log(`${film.id}: ${take.tracking.framesDone} frames`);
}
writeFileSync('app/demo/takes.json', `${JSON.stringify(takes, null, 2)}\n`);
