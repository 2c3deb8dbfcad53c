import { useMemo, useState } from 'react';
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
import { nearestTo, nextDoubt, type Review } from './reviewSteps';
import { useReviewKeys } from './useReviewKeys';

/** Looking through what was followed: from doubt to doubt, each put right, hidden or swapped; all of it undoable. */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
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
    const to = nextDoubt(doubts, current, frame, by);
    if (!to) return;
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

  const nearest = useMemo(
    (): readonly Landmark[] =>
      tracks && selected ? nearestTo(tracks, selected, frame, draft ?? pointAt(tracks, selected, frame)) : [],
    [tracks, selected, draft, frame],
  );

  const review: Review = {
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
  useReviewKeys(review, tracks, frame);
  return review;
}
