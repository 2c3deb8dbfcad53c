import { afterEach, expect, it, vi } from 'vitest';
import { isRunning, jobStore, runJob, stopJob } from './jobs';

afterEach(() => vi.useRealTimers());

it('a job has one owner: asked for twice it runs once, tells how far it is, and is gone when it is done', async () => {
  let runs = 0;
  let finish!: (n: number) => void;
  const work = ({ tell }: { tell: (done: number, of: number) => void }): Promise<number> => {
    runs += 1;
    tell(3, 8);
    return new Promise((resolve) => (finish = resolve));
  };
  const [a, b] = [runJob('one', { label: 'One', work }), runJob('one', { label: 'One', work })];
  await Promise.resolve();
  expect(jobStore.getState().jobs.one).toMatchObject({ label: 'One', done: 3, of: 8 });
  finish(7);
  expect(await a).toEqual({ ok: true, value: 7 });
  expect(await b).toEqual({ ok: true, value: 7 });
  expect(runs).toBe(1);
  expect(isRunning('one')).toBe(false);
  expect(jobStore.getState().jobs).toEqual({});
});

it('a job ends in every case: thrown, stopped, or deaf to being stopped', async () => {
  const thrown = await runJob('two', { label: 'Two', work: () => Promise.reject(new Error('no room')) });
  expect(thrown).toMatchObject({ ok: false, stopped: false, why: 'no room' });
  const atOnce = await runJob('three', {
    label: 'Three',
    work: () => {
      throw new Error('broke');
    },
  });
  expect(atOnce).toMatchObject({ ok: false, why: 'broke' });
  vi.useFakeTimers();
  const heard: boolean[] = [];
  const deaf = runJob('four', {
    label: 'Four',
    graceMs: 500,
    work: ({ signal }) => {
      signal.addEventListener('abort', () => heard.push(true));
      return new Promise<never>(() => undefined);
    },
  });
  stopJob('four');
  await vi.advanceTimersByTimeAsync(400);
  expect(isRunning('four')).toBe(true);
  await vi.advanceTimersByTimeAsync(200);
  expect(await deaf).toMatchObject({ ok: false, stopped: true });
  expect(heard).toEqual([true]);
  expect(jobStore.getState().jobs).toEqual({});
});

it('one that ends by itself when it is stopped keeps what it has', async () => {
  const end = runJob('five', {
    label: 'Five',
    graceMs: 10_000,
    work: ({ signal }) => new Promise<string>((done) => signal.addEventListener('abort', () => done('half'))),
  });
  stopJob('five');
  expect(await end).toEqual({ ok: true, value: 'half' });
});
