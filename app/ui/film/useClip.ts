import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState, type RefObject } from 'react';
import { shallow } from 'zustand/shallow';
import type { Take, VideoInfo } from '../../../core/records/types.ts';
import { clipOf } from '../../storage/sessions';
import { filmScreen } from './filmScreen';
import type { ClipTrouble } from '../../workers/clipTrouble';
import { usePlayback } from './usePlayback';
import { spawnClipReader, type Spawned } from '../../workers/spawn';
import type { ClipReader } from '../../workers/clip.worker';

export type ClipState =
  | { status: 'loading' }
  | { status: 'ready'; info: VideoInfo; tS: Float64Array }
  | { status: 'trouble'; trouble: ClipTrouble };

export interface Clip {
  state: ClipState;
  /** A frame that could not be decoded, and what came of it; null while every one asked for was. */
  broken: { frame: number; why: string } | null;
  /** The film itself, once it is here. */
  blob: Blob | null;
  /** A frame was asked for that takes a while to come. */
  seeking: boolean;
  /** Whether a picture of this film is on the canvas yet: before the first one, nothing is drawn over it. */
  drawn: boolean;
  /** Frame whose picture is on the canvas. */
  shown: number;
  playing: boolean;
  speed: number;
  /** The picture at the film's own size, for who looks closer. */
  canvas: HTMLCanvasElement;
  attach: (canvas: HTMLCanvasElement | null) => void;
  /** `passing`: while playing, so that nothing is kept of it. */
  goTo: (frame: number, passing?: boolean) => void;
  /** The picture of a frame, about as large as it is shown, for whoever plays several films at once; null where there is none. */
  ahead: (frame: number) => Promise<ImageData | null>;
  /** Puts such a picture on the canvas. @param tell the frame’s number is told to the page as well */
  paint: (frame: number, picture: ImageData, tell: boolean) => void;
  step: (by: number) => void;
  togglePlay: () => void;
  setSpeed: (speed: number) => void;
}

export const SPEEDS = [0.1, 0.25, 0.5, 1] as const;

/** A jump that is not there by then is shown as one on its way, ms. */
const SEEKING_AFTER_MS = 50;

const LOST: ClipTrouble = {
  title: 'The film of this take is not on this device.',
  advice: 'Choose the file again on the Film station; marks and tracks stay.',
};

const wordsOf = (error: unknown): string => (error instanceof Error && error.message) || String(error);

/** What is known of a take's film so far. */
type Opened = Pick<Clip, 'state' | 'blob' | 'broken' | 'drawn'>;
const UNOPENED: Opened = { state: { status: 'loading' }, blob: null, broken: null, drawn: false };

/** A take's film opened in a worker, or why it can't be. */
async function openedFilm(take: Take, reader: Spawned<ClipReader>): Promise<Pick<Opened, 'state' | 'blob'>> {
  const unopened = (trouble: ClipTrouble, blob: Blob | null = null) =>
    ({ state: { status: 'trouble', trouble }, blob }) as const;
  try {
    const film = await clipOf(take);
    if (!film) return unopened(LOST);
    const answer = await reader.api.open(film);
    return answer.ok
      ? { state: { status: 'ready', info: answer.info, tS: answer.tS }, blob: film }
      : unopened(answer.trouble, film);
  } catch (error) {
    return unopened({ title: 'The film could not be opened.', advice: wordsOf(error) });
  }
}

/** What a film's frames are drawn with: the worker that reads them, and the canvas. */
interface Screen {
  readerRef: RefObject<Spawned<ClipReader> | null>;
  /** The frame that is wanted on it. */
  wantedRef: RefObject<number>;
  /** Whether a frame is on its way; and whether it is shown only in passing, while the film plays. */
  fetchingRef: RefObject<boolean>;
  passingRef: RefObject<boolean>;
  canvas: HTMLCanvasElement;
  shown: number;
  seeking: boolean;
  /** Draws what is wanted, and again while that changes: only the newest wish is decoded next. */
  pump: () => Promise<void>;
  attach: Clip['attach'];
  ahead: Clip['ahead'];
  paint: Clip['paint'];
}

/** @param widthPx of the film  @param note told what becomes known of it */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
function useScreen(startFrame: number, widthPx: number, note: (part: Partial<Opened>) => void): Screen {
  const [shown, setShown] = useState(startFrame);
  const [seeking, setSeeking] = useState(false);
  const [screen] = useState(filmScreen);
  const pageRef = useRef<HTMLCanvasElement | null>(null);
  const readerRef = useRef<Spawned<ClipReader> | null>(null);
  const wantedRef = useRef(startFrame);
  const passingRef = useRef(false);
  const fetchingRef = useRef(false);

  const pump = useCallback(async () => {
    if (fetchingRef.current) return;
    fetchingRef.current = true;
    const slow = setTimeout(() => passingRef.current || setSeeking(true), SEEKING_AFTER_MS);
    let done = -1;
    while (done !== wantedRef.current) {
      const index = wantedRef.current;
      const from = readerRef.current;
      const bitmap =
        (await from?.api.frame(index, passingRef.current).catch((error: unknown) => {
          // The next frame may be whole again: the player goes on, and says which one is not.
          if (from === readerRef.current) note({ broken: { frame: index, why: wordsOf(error) } });
          return null;
        })) ?? null;
      if (bitmap && screen.show(bitmap)) {
        setShown(index);
        note({ drawn: true });
      }
      bitmap?.close();
      done = index;
    }
    fetchingRef.current = false;
    clearTimeout(slow);
    setSeeking(false);
  }, [note, screen]);
  const ahead = useCallback(
    async (frame: number) => {
      const wide = (pageRef.current?.clientWidth ?? widthPx) * devicePixelRatio;
      // A little larger than half is taken for half: played, nobody sees it; standing still it is drawn whole.
      const picture = readerRef.current?.api.pixels(frame, wide <= 0.6 * widthPx);
      return (
        (await picture?.catch((error: unknown) => {
          note({ broken: { frame, why: wordsOf(error) } });
          return null;
        })) ?? null
      );
    },
    [widthPx, note],
  );
  const paint = useCallback(
    (frame: number, picture: ImageData, tell: boolean) => {
      wantedRef.current = frame;
      screen.paint(picture);
      if (tell) {
        setShown(frame);
        note({ drawn: true });
      }
    },
    [note, screen],
  );
  const attach = useCallback(
    (element: HTMLCanvasElement | null) => {
      pageRef.current = element;
      screen.attach(element);
      if (element) void pump();
    },
    [pump, screen],
  );
  return {
    readerRef,
    wantedRef,
    fetchingRef,
    passingRef,
    canvas: screen.film,
    shown,
    seeking,
    pump,
    attach,
    ahead,
    paint,
  };
}

/**
 * Opens a take's film in a worker and shows one frame at a time on a canvas. However fast frames are asked for, only the
 * newest wish is decoded next, so scrubbing never queues up.
 */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function useClip(take: Take | null, startFrame = 0): Clip {
  const takeId = take?.id;
  const [opened, setOpened] = useState<Opened & { of: string | undefined }>({ ...UNOPENED, of: takeId });
  // The film of the take before is not this one's, not for a moment.
  const { state, blob, broken, drawn } = opened.of === takeId ? opened : UNOPENED;
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(0.25);
  const takeNow = useEffectEvent(() => take);
  const info = state.status === 'ready' ? state.info : null;

  /** Told of the film that is open now; whatever another one's worker still says is over. */
  const openOf = useRef(takeId);
  const note = useCallback((part: Partial<Opened>) => {
    const of = openOf.current;
    setOpened((was) => {
      const now = { ...(was.of === of ? was : UNOPENED), ...part, of };
      // Many times a second the worker says that a picture stands: nothing is drawn anew for that.
      return shallow(was, now) ? was : now;
    });
  }, []);
  const screen = useScreen(startFrame, info?.widthPx ?? 0, note);
  const {
    readerRef,
    wantedRef,
    fetchingRef,
    passingRef,
    canvas,
    shown,
    seeking,
    pump,
    attach,
    ahead,
    paint,
  } = screen;

  useEffect(() => {
    const current = takeNow();
    if (!current) return undefined;
    const spawned = spawnClipReader();
    readerRef.current = spawned;
    let ended = false;
    openOf.current = takeId;
    void openedFilm(current, spawned).then((part) => {
      if (ended) return;
      note(part);
      if (part.state.status !== 'ready') return;
      wantedRef.current = Math.min(wantedRef.current, part.state.tS.length - 1);
      void pump();
    });
    return () => {
      ended = true;
      fetchingRef.current = false;
      spawned.end();
    };
  }, [takeId, readerRef, wantedRef, fetchingRef, pump, note]);

  const frames = info?.frames ?? 0;
  const goTo = useCallback(
    (frame: number, whilePlaying = false) => {
      passingRef.current = whilePlaying;
      if (frames === 0) {
        // Not open yet: gone to when it is.
        wantedRef.current = Math.max(0, Math.round(frame));
        return;
      }
      wantedRef.current = Math.max(0, Math.min(frames - 1, Math.round(frame)));
      void pump();
    },
    [frames, passingRef, wantedRef, pump],
  );
  const step = useCallback(
    (by: number) => {
      setPlaying(false);
      goTo(wantedRef.current + by);
    },
    [wantedRef, goTo],
  );
  const togglePlay = useCallback(() => setPlaying((p) => !p), []);
  const stop = useCallback(() => setPlaying(false), []);
  usePlayback({
    playing,
    speed,
    tS: state.status === 'ready' ? state.tS : null,
    wanted: wantedRef,
    goTo,
    end: stop,
  });

  return useMemo(
    () => ({
      state,
      broken,
      blob,
      seeking,
      drawn,
      shown,
      playing,
      speed,
      canvas,
      attach,
      goTo,
      ahead,
      paint,
      step,
      togglePlay,
      setSpeed,
    }),
    [
      state,
      broken,
      blob,
      seeking,
      drawn,
      shown,
      playing,
      speed,
      canvas,
      attach,
      goTo,
      ahead,
      paint,
      step,
      togglePlay,
    ],
  );
}
