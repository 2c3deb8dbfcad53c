import { afterEach, describe, expect, it, vi } from 'vitest';
import { applyEdit, type SessionEdit } from '../../core/records/edits.ts';
import type { FitSession } from '../../core/records/types.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { readPending, settlePending, watchPending, whilePending, withPending } from './pendingEdits.ts';

const visit = CATALOGUE.sessions.find((s) => s.id === 'pilar-1')!;
const height = (mm: number): SessionEdit => ({ kind: 'set', at: 'asFound.saddle.heightMm', value: mm });
const stem = (mm: number): SessionEdit => ({ kind: 'set', at: 'asFound.stem.lengthMm', value: mm });
const after = (s: FitSession, ...edits: SessionEdit[]): FitSession =>
  edits.reduce((now, e) => {
    const r = applyEdit(now, e);
    if (!r.ok) throw new Error(r.message);
    return r.session;
  }, s);
/** A write that ends when it is told to. */
function write() {
  let done!: () => void;
  let fail!: (e: Error) => void;
  const promise = new Promise<void>((resolve, reject) => {
    done = resolve;
    fail = reject;
  });
  return { promise, done, fail };
}
const shown = (stored: FitSession): number | null =>
  withPending(stored, readPending()).asFound.saddle.heightMm;

afterEach(() => {
  vi.restoreAllMocks();
  // Whatever a test left is older than the longest wait by then.
  vi.spyOn(performance, 'now').mockReturnValue(1e12);
  settlePending(visit);
  vi.restoreAllMocks();
  expect(readPending()).toEqual([]);
});

describe('edits on their way to the store', () => {
  it('show at once, and until what is read back has them', async () => {
    const heard = vi.fn();
    const stop = watchPending(heard);
    const w = write();
    const ended = whilePending(visit.id, height(701), () => w.promise);
    expect(heard).toHaveBeenCalledTimes(1);
    expect(shown(visit)).toBe(701);
    w.done();
    await ended;
    // Stored, but the page still has the session from before: the edit stays shown.
    settlePending(visit);
    expect(shown(visit)).toBe(701);
    settlePending(after(visit, height(701)));
    expect(readPending()).toEqual([]);
    stop();
    const calls = heard.mock.calls.length;
    void whilePending(visit.id, height(702), () => Promise.resolve());
    expect(heard).toHaveBeenCalledTimes(calls);
  });
  it('that overtake each other go when the last of them is read back, not before', async () => {
    const [a, b] = [write(), write()];
    const all = [
      whilePending(visit.id, height(701), () => a.promise),
      whilePending(visit.id, height(705), () => b.promise),
    ];
    expect(shown(visit)).toBe(705);
    a.done();
    await all[0];
    // The first one alone has been read back: the second is still on its way and goes on showing.
    settlePending(after(visit, height(701)));
    expect(shown(after(visit, height(701)))).toBe(705);
    b.done();
    await all[1];
    settlePending(after(visit, height(705)));
    expect(readPending()).toEqual([]);
  });
  it('of another visit are neither shown here nor taken off by it', async () => {
    const other = CATALOGUE.sessions.find((s) => s.id === 'juno-1')!;
    await whilePending(other.id, height(733), () => Promise.resolve());
    expect(shown(visit)).toBe(visit.asFound.saddle.heightMm);
    settlePending(after(visit, stem(77)));
    expect(readPending()).toHaveLength(1);
    settlePending(after(other, height(733)));
  });
  it('that were refused or lost do not stand for ever: after a while what is stored counts', async () => {
    const w = write();
    const ended = whilePending(visit.id, height(701), () => w.promise);
    w.fail(new Error('no room'));
    await expect(ended).rejects.toThrow('no room');
    settlePending(visit);
    expect(shown(visit)).toBe(701);
    const now = performance.now();
    vi.spyOn(performance, 'now').mockReturnValue(now + 4500);
    settlePending(visit);
    expect(readPending()).toEqual([]);
    // One that can't be applied at all is gone with the next reading.
    vi.restoreAllMocks();
    await whilePending(visit.id, { kind: 'take-removed', takeId: 'nowhere' }, () => Promise.resolve());
    expect(withPending(visit, readPending())).toEqual(visit);
    settlePending(visit);
    expect(readPending()).toEqual([]);
  });
});
