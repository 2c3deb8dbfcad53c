// @vitest-environment happy-dom
import { act, cleanup, fireEvent, renderHook } from '@testing-library/react';
import 'fake-indexeddb/auto';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { Landmark } from '../../../core/landmarks/landmarks.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { keepCorrected, putRight } from '../../jobs/correcting';
import type { Clip } from '../../ui/film/useClip';
import { lastSeen, nearestTo, nextDoubt } from './reviewSteps';
import { useReview } from './useReview';

vi.mock('../../jobs/correcting', () => ({
  correctingJob: (id: string) => `correct:${id}`,
  keepCorrected: vi.fn(() => Promise.resolve()),
  putRight: vi.fn(() => Promise.resolve({ ok: true, value: 'done' })),
}));

const FRAMES = 60;
const session = CATALOGUE.sessions[0];
const take: Take = {
  ...session.takes[0],
  markedFrame: 0,
  trim: null,
  corrections: [],
  hidden: [],
  video: { ...session.takes[0].video, frames: FRAMES },
};

/** Two landmarks that go round; the knee is lost on some frames. */
function tracks(lost: readonly [number, number]): Tracks {
  const path = (r: number, of: readonly [number, number] | null) => {
    const gone = (i: number): boolean => of !== null && i >= of[0] && i <= of[1];
    const at = (i: number, f: (a: number) => number): number => (gone(i) ? NaN : 200 + r * f(i / 6));
    return {
      xPx: Float64Array.from({ length: FRAMES }, (_, i) => at(i, Math.cos)),
      yPx: Float64Array.from({ length: FRAMES }, (_, i) => at(i, Math.sin)),
      confidence: Float32Array.from({ length: FRAMES }, (_, i) => (gone(i) ? 0 : 1)),
    };
  };
  return {
    tS: Float64Array.from({ length: FRAMES }, (_, i) => i / 60),
    landmarks: { knee: path(60, lost), hip: path(20, null) },
  } as unknown as Tracks;
}

const goTo = vi.fn();
const clip = (shown: number): Clip => ({ shown, goTo, blob: new Blob(['film']) }) as unknown as Clip;
const shown = (at = 0, of: Tracks | null = tracks([20, 29])) =>
  renderHook(({ frame, t }) => useReview(session as FitSession, take, t, clip(frame)), {
    initialProps: { frame: at, t: of },
  });

beforeEach(() => vi.clearAllMocks());
afterEach(cleanup);

it('goes from doubt to doubt by a key, round and round, and selects the landmark that it is about', () => {
  const { result } = shown();
  expect(result.current.doubts.length).toBeGreaterThan(0);
  fireEvent.keyDown(window, { key: 'n' });
  const [first] = result.current.doubts;
  expect(result.current.selected).toBe(first.landmark);
  expect(goTo).toHaveBeenLastCalledWith(first.at);
  expect(first.at).toBeGreaterThanOrEqual(20);
  expect(first.at).toBeLessThanOrEqual(30);
  fireEvent.keyDown(window, { key: 'p' });
  expect(goTo).toHaveBeenCalledTimes(2);
});

it('arrows move a draft from where the landmark was seen last, Enter puts it right there', async () => {
  const { result } = shown(24);
  act(() => result.current.select('knee' as Landmark));
  const from = lastSeen(tracks([20, 29]), 'knee' as Landmark, 24)!;
  fireEvent.keyDown(window, { key: 'ArrowRight' });
  fireEvent.keyDown(window, { key: 'ArrowUp', shiftKey: true });
  const by = result.current.draft!.x - from.x;
  expect(by).toBeGreaterThan(0);
  expect(from.y - result.current.draft!.y).toBeCloseTo(10 * by, 9);
  const at = result.current.draft;
  await act(async () => void fireEvent.keyDown(window, { key: 'Enter' }));
  expect(putRight).toHaveBeenCalledTimes(1);
  expect(vi.mocked(putRight).mock.lastCall![2]).toMatchObject({ landmark: 'knee', frame: 24, at });
  expect(result.current.draft).toBeNull();
});

it('a draft belongs to its frame and its landmark', () => {
  const { result, rerender } = shown(24);
  act(() => result.current.select('knee' as Landmark));
  act(() => result.current.setDraft({ x: 1, y: 2 }));
  rerender({ frame: 25, t: tracks([20, 29]) });
  expect(result.current.draft).toBeNull();
  rerender({ frame: 24, t: tracks([20, 29]) });
  act(() => result.current.select('hip' as Landmark));
  expect(result.current.draft).toBeNull();
});

it('where it is not seen anybody is asked to point it out, and nothing is followed', async () => {
  const { result } = shown(24);
  act(() => result.current.select('knee' as Landmark));
  await act(() => result.current.putRight());
  expect(putRight).not.toHaveBeenCalled();
  expect(result.current.message).toMatch(/Point it out first/);
});

it('what could not be followed again says why; what was stopped says nothing', async () => {
  const { result } = shown(24);
  act(() => result.current.select('knee' as Landmark));
  vi.mocked(putRight).mockResolvedValueOnce({ ok: false, stopped: false, why: 'no film', error: null });
  await act(() => result.current.putRight({ x: 5, y: 5 }));
  expect(result.current.message).toContain('no film');
  vi.mocked(putRight).mockResolvedValueOnce({ ok: false, stopped: true, why: 'Stopped.', error: null });
  await act(() => result.current.putRight({ x: 5, y: 5 }));
  expect(result.current.message).toBeNull();
});

it('hidden by a key: the doubt’s whole stretch, told with its frames; shown again by itself', async () => {
  const { result, rerender } = shown();
  fireEvent.keyDown(window, { key: 'n' });
  const { from, to, at } = result.current.current!;
  rerender({ frame: at, t: tracks([20, 29]) });
  await act(async () => void fireEvent.keyDown(window, { key: 'h' }));
  const kept = vi.mocked(keepCorrected).mock.lastCall![2];
  expect(kept).toMatchObject({ made: null, hidden: [{ landmark: result.current.selected, from, to }] });
  expect(result.current.message).toContain(`frames ${from} to ${to}`);
});

it('swapped by a key with the nearest, from here to the end, and nothing of it lost', async () => {
  const { result } = shown(40);
  act(() => result.current.select('knee' as Landmark));
  expect(result.current.nearest).toEqual(['hip']);
  await act(async () => void fireEvent.keyDown(window, { key: 'x' }));
  const { made } = vi.mocked(keepCorrected).mock.lastCall![2];
  const before = tracks([20, 29]).landmarks;
  expect(made!.landmarks.knee.xPx[50]).toBe(before.hip.xPx[50]);
  expect(made!.landmarks.hip.yPx[50]).toBe(before.knee.yPx[50]);
  expect(made!.landmarks.knee.xPx[10]).toBe(before.knee.xPx[10]);
});

it('keys that are typed into a field, or meant for the browser, do nothing here', () => {
  const { result } = shown();
  const field = document.body.appendChild(document.createElement('input'));
  fireEvent.keyDown(field, { key: 'n' });
  fireEvent.keyDown(window, { key: 'n', ctrlKey: true });
  expect(result.current.selected).toBeNull();
  expect(goTo).not.toHaveBeenCalled();
  field.remove();
});

it('without tracks there is nothing to go through', () => {
  const { result } = shown(0, null);
  fireEvent.keyDown(window, { key: 'n' });
  expect(result.current.doubts).toEqual([]);
  expect(goTo).not.toHaveBeenCalled();
});

it('of several doubts on one frame each is gone to in turn; after the last comes the first, both ways', () => {
  const doubt = (landmark: string, at: number) => ({
    kind: 'lost' as const,
    landmark: landmark as Landmark,
    from: at,
    to: at,
    at,
    change: null,
    cause: null,
  });
  const list = [doubt('knee', 10), doubt('toe', 10), doubt('hip', 30)];
  expect(nextDoubt([], null, 5, 1)).toBeNull();
  expect(nextDoubt(list, null, 0, 1)).toBe(list[0]);
  expect(nextDoubt(list, list[0], 10, 1)).toBe(list[1]);
  expect(nextDoubt(list, list[1], 10, 1)).toBe(list[2]);
  expect(nextDoubt(list, list[2], 30, 1)).toBe(list[0]);
  expect(nextDoubt(list, list[2], 30, -1)).toBe(list[1]);
  expect(nextDoubt(list, list[0], 10, -1)).toBe(list[2]);
});

it('the landmarks to swap with stand by distance, what is not seen last', () => {
  const t = tracks([20, 29]);
  const more = {
    ...t,
    landmarks: { ...t.landmarks, toe: t.landmarks['hip' as Landmark] },
  } as Tracks;
  const at = (i: number) => ({
    x: t.landmarks['hip' as Landmark].xPx[i],
    y: t.landmarks['hip' as Landmark].yPx[i],
  });
  expect(nearestTo(more, 'hip' as Landmark, 5, at(5))).toEqual(['toe', 'knee']);
  expect(nearestTo(more, 'hip' as Landmark, 25, at(25))).toEqual(['toe', 'knee']);
  expect(lastSeen(t, 'knee' as Landmark, 25)).toEqual({
    x: t.landmarks['knee' as Landmark].xPx[19],
    y: t.landmarks['knee' as Landmark].yPx[19],
  });
});
