import { afterEach, describe, expect, it, vi } from 'vitest';

type Tab = typeof import('./tabs.ts');

/** A tab of its own: the module anew, with a name and a channel of its own. */
async function openTab(): Promise<Tab> {
  vi.resetModules();
  return import('./tabs.ts');
}
const heard = (): Promise<void> => new Promise((done) => setTimeout(done, 150));

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('tabs of one browser', () => {
  it('hear of each other’s edits of the session they are on, not of another’s', async () => {
    const [one, two] = [await openTab(), await openTab()];
    const written = vi.fn();
    const stop = two.followSession('maren-1', written, () => undefined);
    one.tellWritten('maren-1');
    one.tellWritten('pilar-1');
    await heard();
    expect(written).toHaveBeenCalledTimes(1);
    stop();
    one.tellWritten('maren-1');
    await heard();
    expect(written).toHaveBeenCalledTimes(1);
  });
  it('know of company on a session, and not of themselves', async () => {
    const [one, two] = [await openTab(), await openTab()];
    const [first, second] = [vi.fn(), vi.fn()];
    const stopOne = one.followSession('maren-1', () => undefined, first);
    await heard();
    expect(first).not.toHaveBeenCalledWith(true);
    const stopTwo = two.followSession('maren-1', () => undefined, second);
    await heard();
    expect(first).toHaveBeenCalledWith(true);
    expect(second).toHaveBeenCalledWith(true);
    stopOne();
    stopTwo();
  });
  it('take no write from elsewhere for company: a tab’s last edit may be stored after it has left', async () => {
    const [one, two] = [await openTab(), await openTab()];
    const company = vi.fn();
    const written = vi.fn();
    const stop = one.followSession('maren-1', written, company);
    two.tellWritten('maren-1');
    await heard();
    expect(written).toHaveBeenCalledTimes(1);
    expect(company).not.toHaveBeenCalledWith(true);
    stop();
  });
  it('hear at once that the last of the others has left the session, or was closed', async () => {
    const page = new EventTarget();
    vi.stubGlobal('addEventListener', page.addEventListener.bind(page));
    vi.stubGlobal('removeEventListener', page.removeEventListener.bind(page));
    const tabs = [await openTab(), await openTab(), await openTab()];
    const company = vi.fn();
    const nobody = (): void => undefined;
    const [stopOne, stopTwo] = [
      tabs[0].followSession('maren-1', nobody, company),
      tabs[1].followSession('maren-1', nobody, nobody),
    ];
    const stopThree = tabs[2].followSession('maren-1', nobody, nobody);
    await heard();
    expect(company).toHaveBeenLastCalledWith(true);
    stopTwo();
    await heard();
    expect(company).toHaveBeenLastCalledWith(true);
    page.dispatchEvent(new Event('pagehide'));
    await heard();
    expect(company).toHaveBeenLastCalledWith(false);
    stopOne();
    stopThree();
  });
  it('forget a tab that was killed, once it has not answered for a while', async () => {
    const [one, two] = [await openTab(), await openTab()];
    const company = vi.fn();
    const say = vi.spyOn(BroadcastChannel.prototype, 'postMessage');
    const stopTwo = two.followSession(
      'maren-1',
      () => undefined,
      () => undefined,
    );
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'Date'] });
    const stopOne = one.followSession('maren-1', () => undefined, company);
    await heard();
    expect(company).toHaveBeenLastCalledWith(true);
    // It does not come to say that it leaves.
    say.mockImplementationOnce(() => undefined);
    stopTwo();
    vi.advanceTimersByTime(4000);
    await heard();
    expect(company).toHaveBeenLastCalledWith(true);
    vi.advanceTimersByTime(8000);
    await heard();
    expect(company).toHaveBeenLastCalledWith(false);
    stopOne();
  });
});

describe('work that must be alone', () => {
  it('gives the work’s own result, and its failure, with and without a browser’s locks', async () => {
    const { alone } = await openTab();
    for (const locks of [undefined, { request: (_: string, work: () => Promise<unknown>) => work() }]) {
      vi.stubGlobal('navigator', locks ? { locks } : {});
      expect(await alone('x', () => Promise.resolve(7))).toBe(7);
      await expect(alone('x', () => Promise.reject(new Error('no room')))).rejects.toThrow('no room');
    }
  });
  it('asks for a lock by its own name', async () => {
    const { alone } = await openTab();
    const request = vi.fn((_: string, work: () => Promise<unknown>) => work());
    vi.stubGlobal('navigator', { locks: { request } });
    await alone('maren-1', () => Promise.resolve());
    expect(request.mock.calls[0][0]).toBe('deep-angle:maren-1');
  });
});
