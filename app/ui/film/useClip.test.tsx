// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { Take } from '../../../core/records/types.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { useClip } from './useClip';

const FRAMES = 10;
const info = { widthPx: 320, heightPx: 180, frames: FRAMES } as Take['video'];

/** A film's worker that answers when it is told to. */
class FakeReader {
  ended = false;
  requested: number[] = [];
  private waiting: ((fail?: Error) => void)[] = [];
  api = {
    open: vi.fn(() => Promise.resolve({ ok: true, info, tS: new Float64Array(FRAMES) })),
    frame: vi.fn((index: number) => {
      this.requested.push(index);
      return new Promise((answer, fail) => {
        this.waiting.push((error) =>
          error ? fail(error) : answer({ width: 320, height: 180, close: () => undefined }),
        );
      });
    }),
  };
  end = (): void => void (this.ended = true);
  /** Gives the frame that is requested for, or breaks on it. */
  async answer(error?: Error): Promise<void> {
    await act(async () => {
      this.waiting.shift()?.(error);
      await Promise.resolve();
    });
  }
}

const readers = vi.hoisted(() => [] as unknown[]);
const films = vi.hoisted(() => new Map<string, Blob | null>());
vi.mock('../../workers/spawn', () => ({
  spawnClipReader: () => {
    const made = new FakeReader();
    readers.push(made);
    return made;
  },
}));
vi.mock('../../storage/sessions', () => ({
  clipOf: (take: { id: string }) => Promise.resolve(films.get(take.id) ?? null),
}));

const [first] = CATALOGUE.sessions.flatMap((s) => s.takes);
const take = (id: string): Take => ({ ...first, id });
const canvas = (): HTMLCanvasElement => document.createElement('canvas');
const last = (): FakeReader => readers.at(-1) as FakeReader;

beforeEach(() => {
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({ drawImage: vi.fn() } as never);
  readers.length = 0;
  films.clear();
  films.set('a', new Blob(['a']));
  films.set('b', new Blob(['b']));
});
afterEach(cleanup);

async function opened(id = 'a', at = 3) {
  const hook = renderHook(({ of }) => useClip(of, at), { initialProps: { of: take(id) } });
  act(() => hook.result.current.attach(canvas()));
  await vi.waitFor(() => expect(hook.result.current.state.status).toBe('ready'));
  return hook;
}

it('opens a film at the frame it was requested for, and says when a picture stands', async () => {
  const { result } = await opened();
  expect(last().requested).toEqual([3]);
  expect(result.current.drawn).toBe(false);
  await last().answer();
  expect(result.current).toMatchObject({ drawn: true, shown: 3, broken: null });
});

it('however fast frames are requested for, only the newest wish is decoded next', async () => {
  const { result } = await opened();
  for (const frame of [4, 5, 6, 9, 7]) act(() => result.current.goTo(frame));
  expect(last().requested).toEqual([3]);
  await last().answer();
  expect(last().requested).toEqual([3, 7]);
  await last().answer();
  expect(result.current.shown).toBe(7);
});

it('never leaves the film: before its first frame and behind its last there is none', async () => {
  const { result } = await opened();
  await last().answer();
  act(() => result.current.goTo(99));
  await last().answer();
  expect(result.current.shown).toBe(FRAMES - 1);
  act(() => result.current.step(-99));
  await last().answer();
  expect(result.current.shown).toBe(0);
});

it('a frame that is damaged is named, and the player goes on', async () => {
  const { result } = await opened();
  await last().answer(new Error('no such slice'));
  expect(result.current.broken).toEqual({ frame: 3, why: 'no such slice' });
  act(() => result.current.goTo(5));
  await last().answer();
  expect(result.current).toMatchObject({ shown: 5, drawn: true });
});

it('a jump that takes a while has its sign; while playing it has none', async () => {
  const { result } = await opened();
  await last().answer();
  act(() => result.current.goTo(8));
  await vi.waitFor(() => expect(result.current.seeking).toBe(true));
  await last().answer();
  expect(result.current.seeking).toBe(false);
  act(() => result.current.goTo(2, true));
  await act(() => new Promise((next) => setTimeout(next, 120)));
  expect(result.current.seeking).toBe(false);
});

it('the film of the take before is not this one’s, not for a moment, and its worker ends', async () => {
  const { result, rerender } = await opened();
  await last().answer();
  const before = last();
  const blobs: (Blob | null)[] = [];
  rerender({ of: take('b') });
  blobs.push(result.current.blob);
  expect(result.current).toMatchObject({ drawn: false, blob: null, state: { status: 'loading' } });
  await vi.waitFor(() => expect(result.current.state.status).toBe('ready'));
  expect(before.ended).toBe(true);
  expect(result.current.blob).toBe(films.get('b'));
  // What the worker of the first film still says is over.
  await before.answer(new Error('late'));
  expect(result.current.broken).toBeNull();
});

it('a film that is not on the device, and one that can’t be opened, say so with what to do', async () => {
  films.set('gone', null);
  const gone = renderHook(() => useClip(take('gone')));
  await vi.waitFor(() => expect(gone.result.current.state.status).toBe('trouble'));
  expect(gone.result.current.state).toMatchObject({ trouble: { advice: expect.stringContaining('again') } });
  const hook = renderHook(() => useClip(take('b')));
  last().api.open.mockRejectedValueOnce(new Error('cut off'));
  await vi.waitFor(() => expect(hook.result.current.state.status).toBe('trouble'));
  expect(hook.result.current.state).toMatchObject({ trouble: { advice: 'cut off' } });
});

it('without a take nothing is opened', () => {
  const { result } = renderHook(() => useClip(null));
  expect(readers).toHaveLength(0);
  expect(result.current.state.status).toBe('loading');
});
