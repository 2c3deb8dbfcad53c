import { median } from '../math/statistics.ts';
import { RIGID_BONES, type Landmark } from '../landmarks/landmarks.ts';
import { isLeftOut, type LandmarkTrack, type Tracks } from '../tracking/tracks.ts';

/** A stretch of frames on which a landmark is hidden. */
export interface HiddenStretch {
  landmark: Landmark;
  from: number;
  to: number;
}

export type DoubtKind = 'lost' | 'unsure' | 'length';
/** What probably is behind a limb that changes its length. */
export type LengthCause = 'slid' | 'wrong' | 'plane';

/** A stretch of frames on which a landmark should be looked at. */
export interface Doubt {
  kind: DoubtKind;
  landmark: Landmark;
  from: number;
  to: number;
  /** The frame to look at first. */
  at: number;
  /** For a limb that changes its length: by how much of it (1 = all), and the probable cause. */
  change: number | null;
  cause: LengthCause | null;
}

/** Below this a landmark was seen in part, or not quite as it looks. */
const UNSURE = 0.35;
/** Doubtful frames this close together are one place. */
const JOIN_FRAMES = 4;
/** A limb keeps its length in the picture to this share; a knee that swings 40 mm sideways at 4 m changes a thigh by 1 %. */
const LENGTH_SHARE = 0.05;
const LENGTH_LEAST_PX = 2.5;
/** The trunk bends: it is no limb of one length. */
const LIMBS = RIGID_BONES.filter(([a, b]) => !(a === 'hip' && b === 'shoulder'));
const SMOOTH = 4;

const isHidden = (hidden: readonly HiddenStretch[], landmark: string, i: number): boolean =>
  hidden.some((h) => h.landmark === landmark && i >= h.from && i <= h.to);

/** Tracks with the hidden stretches taken out: nothing is measured there. */
export function withoutHidden(tracks: Tracks, hidden: readonly HiddenStretch[]): Tracks {
  if (hidden.length === 0) return tracks;
  const landmarks = { ...tracks.landmarks };
  for (const key of new Set(hidden.map((h) => h.landmark))) {
    const old = landmarks[key];
    if (!old) continue;
    const track: LandmarkTrack = {
      xPx: old.xPx.slice(),
      yPx: old.yPx.slice(),
      confidence: old.confidence.slice(),
    };
    for (const h of hidden) {
      if (h.landmark !== key) continue;
      track.xPx.fill(NaN, h.from, h.to + 1);
      track.yPx.fill(NaN, h.from, h.to + 1);
      track.confidence.fill(0, h.from, h.to + 1);
    }
    landmarks[key] = track;
  }
  return { tS: tracks.tS, landmarks };
}

/** Runs of frames that fulfil a condition, joined over short breaks. */
function runs(n: number, is: (i: number) => boolean): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (let i = 0; i < n; i += 1) {
    if (!is(i)) continue;
    const last = out.at(-1);
    if (last && i - last.to <= JOIN_FRAMES) last.to = i;
    else out.push({ from: i, to: i });
  }
  return out;
}

/** Lost and unsure places of one landmark within the frames that were followed at all. */
function seenDoubts(
  key: Landmark,
  track: LandmarkTrack,
  hidden: readonly HiddenStretch[],
  shown: (i: number) => boolean,
): Doubt[] {
  const { confidence } = track;
  const bad = (i: number): boolean => shown(i) && confidence[i] < UNSURE && !isHidden(hidden, key, i);
  return runs(confidence.length, bad).map(({ from, to }) => {
    let at = from;
    for (let i = from; i <= to; i += 1) if (confidence[i] < confidence[at]) at = i;
    const lost = confidence[at] === 0;
    return { kind: lost ? 'lost' : 'unsure', landmark: key, from, to, at, change: null, cause: null };
  });
}

interface Range {
  from: number;
  to: number;
}

interface LimbChange extends Range {
  ends: readonly [Landmark, Landmark];
  at: number;
  /** Mean change as a share of the length, signed. */
  change: number;
  /** How steady it is: SD of the change over its mean. */
  unsteady: number;
}

/** Where a limb's length departs from what it was about the marked frame, by more than its noise and than a limb may. */
function limbChanges(tracks: Tracks, ends: readonly [Landmark, Landmark], markedFrame: number): LimbChange[] {
  const a = tracks.landmarks[ends[0]];
  const b = tracks.landmarks[ends[1]];
  if (!a || !b) return [];
  const n = tracks.tS.length;
  const length = Float64Array.from({ length: n }, (_, i) =>
    Math.hypot(a.xPx[i] - b.xPx[i], a.yPx[i] - b.yPx[i]),
  );
  const window = (i: number, half: number): Float64Array =>
    length.subarray(Math.max(0, i - half), Math.min(n, i + half + 1));
  const own = median(window(markedFrame, 10));
  if (!Number.isFinite(own)) return [];
  const smooth = length.map((v, i) => (Number.isFinite(v) ? median(window(i, SMOOTH)) : NaN));
  const noise = 1.4826 * median(length.map((v, i) => Math.abs(v - smooth[i])));
  const most = Math.max(LENGTH_LEAST_PX, LENGTH_SHARE * own, 4 * noise);
  return runs(n, (i) => Math.abs(smooth[i] - own) > most)
    .filter((r) => r.to - r.from >= 2)
    .map(({ from, to }) => {
      const off = Array.from(smooth.subarray(from, to + 1), (v) => v - own).filter(Number.isFinite);
      const mean = off.reduce((s, v) => s + v, 0) / off.length;
      const sd = Math.sqrt(off.reduce((s, v) => s + (v - mean) ** 2, 0) / off.length);
      let at = from;
      for (let i = from; i <= to; i += 1) if (Math.abs(smooth[i] - own) > Math.abs(smooth[at] - own)) at = i;
      return { ends, from, to, at, change: mean / own, unsteady: sd / Math.max(1e-9, Math.abs(mean)) };
    });
}

/** The landmark behind a change: the one whose limbs are changed most completely just there. */
function blamed(change: LimbChange, all: readonly LimbChange[], there: (key: Landmark) => boolean): Landmark {
  const limbsOf = (key: Landmark) => LIMBS.filter((l) => l.includes(key) && l.every(there));
  const share = (key: Landmark): number => {
    const limbs = limbsOf(key);
    const changed = limbs.filter((l) =>
      all.some((c) => c.ends === l && c.from <= change.to && c.to >= change.from),
    );
    return changed.length / limbs.length;
  };
  const [p, q] = change.ends;
  const [sp, sq] = [share(p), share(q)];
  // Equal shares: the end with more limbs is the better witness against itself.
  if (sp === sq) return limbsOf(p).length >= limbsOf(q).length ? p : q;
  return sp > sq ? p : q;
}

/** What is probably behind it: a steady change to the film's end, one that comes again each turn, or a short one. */
function causeOf(change: LimbChange, all: readonly LimbChange[], last: number): LengthCause {
  if (last - change.to <= JOIN_FRAMES && change.to - change.from > 20 && change.unsteady < 0.5) return 'slid';
  const again = all.filter((c) => c.ends === change.ends && Math.sign(c.change) === Math.sign(change.change));
  return again.length >= 3 ? 'plane' : 'wrong';
}

/**
 * Everything in a film's tracks that should be looked at, in the order of the film: landmarks lost or only partly seen, and limbs
 * that change their length by more than their noise and than limbs do.
 * @param markedFrame there the marks are the fitter's own, so limbs have their true length
 */
export function doubtsOf(
  tracks: Tracks,
  markedFrame: number,
  hidden: readonly HiddenStretch[] = [],
): Doubt[] {
  const n = tracks.tS.length;
  const all = Object.keys(tracks.landmarks) as Landmark[];
  const followed = (i: number): boolean => all.some((k) => tracks.landmarks[k].confidence[i] > 0);
  const range = { from: 0, to: n - 1 };
  while (range.from < n && !followed(range.from)) range.from += 1;
  while (range.to > 0 && !followed(range.to)) range.to -= 1;
  // A picture that the film has twice is left out, not lost.
  const leftOut = tracks.tS.map((_, i) => Number(isLeftOut(tracks, i)));
  const shownAt = (i: number): boolean => i >= range.from && i <= range.to && leftOut[i] === 0;
  const seen = all.flatMap((key) => {
    const track = tracks.landmarks[key];
    return track ? seenDoubts(key, track, hidden, shownAt) : [];
  });
  const shown = withoutHidden(tracks, hidden);
  const changes = LIMBS.flatMap((ends) => limbChanges(shown, ends, markedFrame));
  const lengths = new Map<string, Doubt>();
  for (const c of changes) {
    const landmark = blamed(c, changes, (key) => key in tracks.landmarks);
    const doubt: Doubt = {
      kind: 'length',
      landmark,
      from: c.from,
      to: c.to,
      at: c.at,
      change: c.change,
      cause: causeOf(c, changes, range.to),
    };
    // Two limbs of one landmark that change together are one place to look at.
    const key = [...lengths.keys()].find((k) => {
      const held = lengths.get(k)!;
      return held.landmark === landmark && held.from <= c.to && held.to >= c.from;
    });
    const held = key ? lengths.get(key)! : null;
    if (!held) lengths.set(`${landmark}${c.from}`, doubt);
    else if (Math.abs(c.change) > Math.abs(held.change!))
      lengths.set(key!, { ...doubt, from: Math.min(held.from, c.from), to: Math.max(held.to, c.to) });
  }
  return [...seen, ...lengths.values()].sort((a, b) => a.at - b.at || a.landmark.localeCompare(b.landmark));
}
