import { VideoSampleSink } from 'mediabunny';
import { isFrontal, type Landmark, type View } from '../../core/landmarks/landmarks.ts';
import type { Known } from '../../core/landmarks/layout.ts';
import { collectFacts, type FilmFacts } from '../../core/survey/filmFacts.ts';
import { HELD_BYTES, holding, lookAt } from '../../core/survey/lookAt.ts';
import type { FoundPoint } from '../../core/survey/nameFilm.ts';
import type { FoundWheels } from '../../core/survey/wheels.ts';
import type { PlanarFrame } from '../../core/tracking/frame.ts';
import type { FilmPart } from '../../core/visit/filmParts.ts';
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
  } | null;
  wheels: FoundWheels | null;
}

/**
 * Looks at a film as a whole, in one pass: camera and light on every picture; stickers, names and wheels on a turn of the crank.
 * @param tell called with how many pictures have been seen  @param stopped asked before every picture
 */
export async function surveyClip(
  clip: OpenedClip,
  {
    view,
    known,
    range,
    tell,
    stopped,
  }: {
    view: View;
    known: Known;
    range: FilmPart | null;
    tell: (done: number, of: number) => void;
    stopped: () => boolean;
  },
): Promise<Survey | null> {
  const { tS } = clip;
  const { from, to } = range ?? { from: 0, to: tS.length - 1 };
  const isHeld = holding(tS[from], tS[to]);
  const facts = collectFacts();
  const held: { frame: PlanarFrame; index: number }[] = [];
  const spare: (Uint8Array | undefined)[] = [undefined];
  let bytes = 0;
  let index = from;
  for await (const sample of new VideoSampleSink(clip.track).samples(tS[from] + 1e-6)) {
    if (stopped() || index > to) {
      sample.close();
      break;
    }
    const t = tS[index];
    const holds = !isFrontal(view) && bytes < HELD_BYTES && isHeld(t);
    const { frame, buffer } = await planesOf(sample, holds ? undefined : spare[0]);
    sample.close();
    facts.see(frame, t);
    if (holds) {
      held.push({ frame, index });
      bytes += 1.5 * frame.width * frame.height;
    } else spare[0] = buffer;
    index += 1;
    if (index % 20 === 0) tell(index - from, to - from + 1);
  }
  if (stopped()) return null;
  const film = { frames: held.map((h) => h.frame), tS: held.map((h) => tS[h.index]) };
  const { named, wheels } = lookAt(film, view, known);
  return {
    facts: facts.facts(),
    named: named && {
      frame: held[named.picture].index,
      points: named.points,
      facing: named.facing,
      mmPerPx: named.mmPerPx,
    },
    wheels,
  };
}
