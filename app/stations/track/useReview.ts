import { useEffect, useMemo, useEffectEvent, useState } from 'react';
import { useStore } from 'zustand';
import type { ImagePoint } from '../../../core/math/vec.ts';
import type { Correction, FitSession, Hidden, Take } from '../../../core/records/types.ts';
import { plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import { swapTracks } from '../../../core/tracking/mend.ts';
import { doubtsOf, type Doubt } from '../../../core/kinematics/review.ts';
import { pointAt, type Tracks } from '../../../core/tracking/tracks.ts';
import { correctingJob, keepCorrected, putRight as putLandmarkRight } from '../../jobs/correcting';
import { jobStore } from '../../jobs/jobs';
import type { Clip } from '../../ui/film/useClip';

const NUDGE_PX = 0.5;

export interface Review {
  doubts: readonly Doubt[];
  /** The doubt that was gone to. */
  current: Doubt | null;
  selected: Landmark | null;
  select: (key: Landmark | null) => void;
  /** Where the selected landmark is to be put on this frame; null while it stands as it was followed. */
  draft: ImagePoint | null;
  setDraft: (at: ImagePoint | null) => void;
  next: (by: 1 | -1) => void;
  putRight: (at?: ImagePoint) => Promise<void>;
  hide: () => Promise<void>;
  show: () => Promise<void>;
  /** From here to the doubt's end (or the film's). */
  swap: (other: Landmark) => Promise<void>;
  /** The other landmarks, the nearest to the selected one on this frame first. */
  nearest: readonly Landmark[];
  busy: boolean;
  message: string | null;
}

/** Looking through what was followed: from doubt to doubt, each put right, hidden or swapped; all of it undoable. */
export function useReview(session: FitSession, take: Take, tracks: Tracks | null, clip: Clip): Review {
  const [selected, setSelected] = useState<Landmark | null>(null);
  const [drafted, setDrafted] = useState<{ at: ImagePoint; frame: number; of: Landmark | null } | null>(null);
  const [current, setCurrent] = useState<Doubt | null>(null);
  const busy = useStore(jobStore, ({ jobs }) => Boolean(jobs[correctingJob(take.id)]));
  const outcome = useStore(jobStore, (s) => s.outcomes[correctingJob(take.id)] ?? null);
  const [words, setWords] = useState<string | null>(null);
  const doubts = useMemo(
    () => (tracks ? doubtsOf(tracks, take.markedFrame, take.hidden) : []),
    [tracks, take.markedFrame, take.hidden],
  );
  const frame = clip.shown;
  // A draft belongs to its frame and landmark.
  const draft = drafted && drafted.frame === frame && drafted.of === selected ? drafted.at : null;
  const setDraft = (at: ImagePoint | null): void => setDrafted(at && { at, frame, of: selected });

  const store = (made: Tracks | null, corrections: Correction[], hidden: Hidden[]): Promise<void> =>
    keepCorrected(session.id, take, { made, corrections, hidden });

  const next = (by: 1 | -1): void => {
    if (doubts.length === 0) return;
    const order = by === 1 ? doubts : [...doubts].reverse();
    const ahead = (d: Doubt): boolean => (by === 1 ? d.at > frame : d.at < frame);
    // Several doubts on one frame come one after another.
    const k = current ? doubts.findIndex((d) => d.at === current.at && d.landmark === current.landmark) : -1;
    const adjacent = k >= 0 && current!.at === frame ? doubts[k + by] : undefined;
    const to = adjacent ?? order.find(ahead) ?? order[0];
    setCurrent(to);
    setSelected(to.landmark);
    clip.goTo(to.at);
  };

  const putRight = async (at: ImagePoint | null = draft): Promise<void> => {
    if (!selected || !tracks || !clip.blob || busy) return;
    const given = at ?? pointAt(tracks, selected, frame);
    if (!Number.isFinite(given.x)) {
      setWords('Point it out first: click on the film.');
      return;
    }
    setWords(null);
    const end = await putLandmarkRight(session, take, {
      landmark: selected,
      frame,
      at: given,
      tracks,
      film: clip.blob,
    });
    if (end.ok) setDraft(null);
    else if (!end.stopped) setWords(`It could not be followed again: ${end.why}`);
  };

  const stretch = (): { from: number; to: number } =>
    current && current.landmark === selected && frame >= current.from && frame <= current.to
      ? { from: current.from, to: current.to }
      : { from: frame, to: frame };

  const hide = async (): Promise<void> => {
    if (!selected) return;
    await store(null, take.corrections, [...take.hidden, { landmark: selected, ...stretch() }]);
    setWords(`${plainName(selected)} is taken for hidden on frames ${stretch().from} to ${stretch().to}.`);
  };
  const show = async (): Promise<void> => {
    const rest = take.hidden.filter((h) => h.landmark !== selected || frame < h.from || frame > h.to);
    await store(null, take.corrections, rest);
  };
  const swap = async (other: Landmark): Promise<void> => {
    if (!selected || !tracks) return;
    const last = take.trim?.to ?? take.video.frames - 1;
    const { to } = stretch();
    const end = to > frame ? to : last;
    const [a, b] = swapTracks(tracks.landmarks[selected], tracks.landmarks[other], frame, end);
    await store(
      { tS: tracks.tS, landmarks: { ...tracks.landmarks, [selected]: a, [other]: b } },
      take.corrections,
      take.hidden,
    );
    setWords(`${plainName(selected)} and ${plainName(other)} swapped from frame ${frame} to ${end}.`);
  };

  const nearest = useMemo((): readonly Landmark[] => {
    if (!tracks || !selected) return [];
    const here = draft ?? pointAt(tracks, selected, frame);
    const far = (key: Landmark): number => {
      const p = pointAt(tracks, key, frame);
      const gap = Math.hypot(p.x - here.x, p.y - here.y);
      return Number.isFinite(gap) ? gap : Infinity;
    };
    return (Object.keys(tracks.landmarks) as Landmark[])
      .filter((k) => k !== selected)
      .sort((a, b) => far(a) - far(b));
  }, [tracks, selected, draft, frame]);

  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    const typing = e.target instanceof HTMLInputElement && e.target.type !== 'range';
    if (typing || e.ctrlKey || e.metaKey || e.altKey || !tracks) return;
    const take_ = (run: () => void): void => {
      e.preventDefault();
      e.stopPropagation();
      run();
    };
    if (e.key === 'n') return take_(() => next(1));
    if (e.key === 'p') return take_(() => next(-1));
    if (!selected) return undefined;
    const by = NUDGE_PX * (e.shiftKey ? 10 : 1);
    const move: Record<string, ImagePoint> = {
      ArrowLeft: { x: -by, y: 0 },
      ArrowRight: { x: by, y: 0 },
      ArrowUp: { x: 0, y: -by },
      ArrowDown: { x: 0, y: by },
    };
    if (move[e.key]) {
      const from = draft ?? lastSeen(tracks, selected, frame);
      if (!from) return undefined;
      return take_(() => setDraft({ x: from.x + move[e.key].x, y: from.y + move[e.key].y }));
    }
    // With a place at hand, Enter means it, wherever the focus was left.
    const pressing = e.target instanceof HTMLButtonElement || e.target instanceof HTMLAnchorElement;
    if (e.key === 'Enter' && (draft || !pressing)) return take_(() => void putRight());
    // While a stretch is followed again nothing else is begun.
    if (busy) return undefined;
    if (e.key === 'h') return take_(() => void hide());
    if (e.key === 'x') return take_(() => void swap(nearest[0]));
    if (e.key === 'Escape') return take_(() => (draft ? setDraft(null) : setSelected(null)));
    return undefined;
  });
  useEffect(() => {
    const listen = (e: KeyboardEvent): void => onKey(e);
    window.addEventListener('keydown', listen, { capture: true });
    return () => window.removeEventListener('keydown', listen, { capture: true });
  }, []);

  return {
    doubts,
    current,
    selected,
    select: setSelected,
    draft,
    setDraft,
    next,
    putRight: (at) => putRight(at),
    hide,
    show,
    swap,
    nearest,
    busy,
    message: words ?? outcome,
  };
}

/** Where a landmark is on a frame, or was seen last before it (else first after it). */
export function lastSeen(tracks: Tracks, key: Landmark, frame: number): ImagePoint | null {
  for (let i = frame; i >= 0; i -= 1) {
    const p = pointAt(tracks, key, i);
    if (Number.isFinite(p.x)) return p;
  }
  for (let i = frame + 1; i < tracks.tS.length; i += 1) {
    const p = pointAt(tracks, key, i);
    if (Number.isFinite(p.x)) return p;
  }
  return null;
}
