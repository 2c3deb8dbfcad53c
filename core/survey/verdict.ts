import { TREMBLE_TELLS_PX, type FilmFacts } from './filmFacts.ts';

/** What a film is worth: as it is, with care, or not before it is filmed again. */
export type FilmWorth = 'good' | 'usable' | 'again';

/** Something about a film, and what would mend it; `worth` is what the film is worth with it. */
export interface FilmPoint {
  key: string;
  words: string;
  cure: string;
  worth: FilmWorth;
}

export interface FilmVerdict {
  worth: FilmWorth;
  points: FilmPoint[];
}

/** What was found on the film, beside camera and light. */
export interface Findings {
  /** On what share of a turn's pictures the sticker that was lost most is seen; null where no rider with stickers was found. */
  leastSeen: number | null;
  wheels: boolean;
  /** How the film lies in its file; null where it comes from none. */
  file: FilmFile | null;
}

/** A film's file: its size, and what it holds. */
export interface FilmFile {
  bytes: number;
  widthPx: number;
  heightPx: number;
  frames: number;
  /** As the browser calls it: `avc` is H.264. */
  codec: string;
}

/**
 * Bits of a file for each pixel of each picture. H.264 films rendered with fast, small stickers, at 0.054, 0.025 and 0.011: the worst landmark is
 * lost on 7, 11 and 43 % of the frames (docs/decisions.md). Where all are seen they stand within 0.5 px at 0.055, within 1.2 px at 0.027.
 */
const BITS_PER_PIXEL = { some: 0.06, whereSeen: 0.04, much: 0.015 };
/** A sticker seen on so much of a turn was not blurred away. */
const SEEN_WELL = 0.98;
/** Later codecs that can be opened hold as much in less. */
const THRIFT: Readonly<Record<string, number>> = { vp9: 0.65, av1: 0.5 };
const OF_A_CHAT = 'Copy the original file, not one that a chat or a converter has made.';

/** What a film is worth for how strongly it is compressed; null where that tells nothing against it. */
function worthOfFile(
  { bytes, widthPx, heightPx, frames, codec }: FilmFile,
  leastSeen: number | null,
): FilmWorth | null {
  const bits = (8 * bytes) / (widthPx * heightPx * frames) / (THRIFT[codec] ?? 1);
  if (bits < BITS_PER_PIXEL.much) return 'again';
  // Bits know nothing of the stickers: where each was followed round a whole turn a little less is enough.
  const enough =
    leastSeen !== null && leastSeen >= SEEN_WELL ? BITS_PER_PIXEL.whereSeen : BITS_PER_PIXEL.some;
  return bits < enough ? 'usable' : null;
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;
const at = (list: readonly number[]): string =>
  list
    .slice(0, 3)
    .map((s) => `${s.toFixed(1)} s`)
    .join(', ') + (list.length > 3 ? ' …' : '');

/** Slower films smear the foot; below the second one it is not seen on enough places of its circle. */
const SLOW_PER_S = 45;
const TOO_SLOW_PER_S = 20;
/** Five turns at 60 turns a minute; one turn is the least that can be read. */
const SHORT_S = 4;
const TOO_SHORT_S = 1.2;
const REPEAT_SHARE = { some: 0.005, many: 0.3 };
const FLICKER = { some: 0.02, much: 0.2 };
const DRIFT = { some: 0.12, much: 0.8 };
const BURNT = { some: 0.06, much: 0.25 };
const DARK = { some: 0.25, much: 0.6 };
const TREMBLE_PX = { some: TREMBLE_TELLS_PX, much: 4 };

type Step = { some: number; much: number };
const worthOf = (v: number, s: Step): FilmWorth | null =>
  v >= s.much ? 'again' : v >= s.some ? 'usable' : null;

/**
 * The film's verdict: each thing that its pictures tell against it, with the cure, worst first.
 * Bounds are from films rendered with each fault (docs/accuracy.md): what is “usable” there still reads within half a degree.
 */
// eslint-disable-next-line max-lines-per-function -- one rule after the other, each by itself
export function verdictOf(facts: FilmFacts, found: Findings): FilmVerdict {
  const points: FilmPoint[] = [];
  const say = (key: string, worth: FilmWorth | null, words: string, cure: string): void => {
    if (worth) points.push({ key, worth, words, cure });
  };
  const rate = facts.framesPerS;
  say(
    'rate',
    rate < TOO_SLOW_PER_S ? 'again' : rate < SLOW_PER_S ? 'usable' : null,
    `${rate.toFixed(0)} frames a second.`,
    'Film at 60 or more, with a short shutter: at 30 the foot is smeared.',
  );
  say(
    'length',
    facts.seconds < TOO_SHORT_S ? 'again' : facts.seconds < SHORT_S ? 'usable' : null,
    `${facts.seconds.toFixed(1)} s long.`,
    'Let the rider pedal steadily for six seconds or more.',
  );
  say(
    'cuts',
    facts.cutsS.length > 0 ? 'again' : null,
    `Another scene begins at ${at(facts.cutsS)}.`,
    'Keep the part before it with “Last frame”, or film in one piece.',
  );
  const repeats = facts.repeats / Math.max(1, facts.frames);
  say(
    'repeats',
    worthOf(repeats, { some: REPEAT_SHARE.some, much: REPEAT_SHARE.many }),
    `${facts.repeats} of ${facts.frames} pictures are the one before again: they are left out.`,
    OF_A_CHAT,
  );
  const { file } = found;
  if (file)
    say(
      'packed',
      worthOfFile(file, found.leastSeen),
      `Strongly compressed: ${((8e-6 * file.bytes * rate) / file.frames).toFixed(1)} Mbit a second. Fast stickers are blurred away.`,
      OF_A_CHAT,
    );
  say(
    'missing',
    worthOf(facts.missing / Math.max(1, facts.frames), { some: 0.02, much: 0.5 }),
    `${facts.missing} pictures are missing: each frame’s own time is used.`,
    'Close other apps on the phone, and film with its own camera app.',
  );
  say(
    'knocks',
    facts.knocks.length > 0 ? 'usable' : null,
    `The camera was knocked at ${at(facts.knocks.map((k) => k.atS))}, by ${Math.max(...facts.knocks.map((k) => k.byPx)).toFixed(0)} px: it is taken out.`,
    'Keep away from the tripod, or weigh it down.',
  );
  say(
    'tremble',
    worthOf(facts.tremblePx, TREMBLE_PX),
    `The camera trembles by ${facts.tremblePx.toFixed(1)} px: it is taken out.`,
    'Put the tripod on the floor, not on boards that the trainer shakes.',
  );
  say(
    'flicker',
    worthOf(facts.flicker, FLICKER),
    `The lamps flicker by ${percent(facts.flicker)}: it is taken out.`,
    'A shutter of 1/100 s (1/120 s where the mains has 60 Hz) or lamps that do not flicker.',
  );
  say(
    'drift',
    worthOf(facts.drift, DRIFT),
    `The exposure changes by ${percent(facts.drift)}: it is taken out.`,
    'Lock exposure and white balance before filming.',
  );
  say(
    'white',
    worthOf(facts.white, BURNT),
    `${percent(facts.white)} of the picture is burnt out.`,
    'Draw the blind, or turn the exposure down.',
  );
  say(
    'dark',
    worthOf(facts.black, DARK),
    `${percent(facts.black)} of the picture is black.`,
    'More light from the camera’s side.',
  );
  if (found.leastSeen === null)
    say(
      'stickers',
      'usable',
      'No rider with stickers was found.',
      'Take a first look without them, place the joints on Mark, or film again with stickers of one plain colour.',
    );
  if (!found.wheels)
    say('wheels', 'usable', 'The two wheels were not found.', 'Point out the axles on Scale.');
  const order: FilmWorth[] = ['again', 'usable', 'good'];
  points.sort((a, b) => order.indexOf(a.worth) - order.indexOf(b.worth));
  return { worth: points[0]?.worth ?? 'good', points };
}
