import { VideoSampleSink } from 'mediabunny';
import { isFrontal, type Landmark, type View } from '../../core/landmarks/landmarks.ts';
import { collectFacts, type FilmFacts } from '../../core/survey/filmFacts.ts';
import { HELD_BYTES, holding, type lookAt } from '../../core/survey/lookAt.ts';
import type { FoundPoint, HeldFilm } from '../../core/survey/nameFilm.ts';
import type { FoundWheels } from '../../core/survey/wheels.ts';
import type { PlanarFrame } from '../../core/tracking/frame.ts';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import { eventsFirst } from './eventsFirst';
import type { OpenedClip } from './openClip';
import { planesOf } from './planes';

/** What a film tells by itself, before anybody has pointed anything out. */
export interface Survey {
  facts: FilmFacts;
  /** The stickers with their names, on one frame; null where no rider with stickers was found, or the view is not from the side. */
  named: {
    frame: number;
    points: Partial<Record<Landmark, FoundPoint>>;
    facing: 'left' | 'right';
    mmPerPx: number;
    leastSeen: number;
  } | null;
  wheels: FoundWheels | null;
  /** Every frame of the file was decoded. */
  isWhole: boolean;
}

/** What is found on the pictures that are held. */
export type Looked = ReturnType<typeof lookAt>;

/** Pictures are held no longer once none was for so long, s. */
const HELD_ALL_S = 0.1;
/** A sample further behind a frame's stamp is not that frame. */
const STAMP_SLACK_S = 1e-5;

/** Holds a film's pictures of about a turn, and has them looked at as soon as they are together. */
function holdPictures(
  clip: OpenedClip,
  { from, to }: FilmPart,
  look: (film: HeldFilm) => Looked | Promise<Looked>,
) {
  const { tS } = clip;
  const isHeld = holding(tS[from], tS[to]);
  const indices: number[] = [];
  const frames: PlanarFrame[] = [];
  let bytes = 0;
  let looking: Promise<Looked> | null = null;
  const lookNow = (): Promise<Looked> => {
    looking ??= Promise.resolve(look({ frames: frames.splice(0), tS: indices.map((i) => tS[i]) }));
    // Whoever waits for it in the end hears why it failed.
    looking.catch(() => undefined);
    return looking;
  };
  return {
    wants: (index: number): boolean => !looking && bytes < HELD_BYTES && isHeld(tS[index]),
    hold: (frame: PlanarFrame, index: number): void => {
      frames.push(frame);
      indices.push(index);
      bytes += 1.5 * frame.width * frame.height;
    },
    /** A picture came that is not held: after the last one they are looked at. */
    passed: (index: number): void => {
      const last = indices.at(-1);
      if (last !== undefined && tS[index] - tS[last] > HELD_ALL_S) void lookNow();
    },
    /** What was found on them, with the names' frame; nothing where none were held. */
    found: async (): Promise<Pick<Survey, 'named' | 'wheels'>> => {
      if (indices.length === 0) return { named: null, wheels: null };
      const { named, wheels } = await lookNow();
      if (!named) return { named: null, wheels };
      const { picture, points, facing, mmPerPx, leastSeen } = named;
      return { named: { frame: indices[picture], points, facing, mmPerPx, leastSeen }, wheels };
    },
  };
}

/**
 * Looks at a film as a whole, in one pass: camera and light on every picture; stickers, names and wheels on a turn of the crank.
 * @param tell called with how many pictures have been seen  @param stopped asked before every picture
 * @param look finds stickers and wheels on the pictures that are held, while the rest of the film is decoded
 */
export async function surveyClip(
  clip: OpenedClip,
  {
    view,
    range,
    tell,
    stopped,
    look,
  }: {
    view: View;
    range: FilmPart | null;
    tell: (done: number, of: number) => void;
    stopped: () => boolean;
    look: (film: HeldFilm) => Looked | Promise<Looked>;
  },
): Promise<Survey | null> {
  const { tS } = clip;
  const { from, to } = range ?? { from: 0, to: tS.length - 1 };
  const facts = collectFacts();
  const held = holdPictures(clip, { from, to }, look);
  let spare: Uint8Array | undefined;
  let index = from;
  let passedOver = 0;
  for await (const sample of new VideoSampleSink(clip.track).samples(tS[from] + 1e-6)) {
    // Frames that the decoder passed over without a word keep their stamps to themselves.
    while (index < to && tS[index] < sample.timestamp - STAMP_SLACK_S) {
      index += 1;
      passedOver += 1;
    }
    if (stopped() || index > to) {
      sample.close();
      break;
    }
    const holds = !isFrontal(view) && held.wants(index);
    const { frame, buffer } = await planesOf(sample, holds ? undefined : spare);
    sample.close();
    await eventsFirst();
    facts.see(frame, tS[index]);
    if (holds) held.hold(frame, index);
    else {
      spare = buffer;
      held.passed(index);
    }
    index += 1;
    if (index % 20 === 0) tell(index - from, to - from + 1);
  }
  if (stopped()) return null;
  return {
    facts: facts.facts(),
    ...(await held.found()),
    isWhole: range === null && passedOver === 0 && index === tS.length,
  };
}
