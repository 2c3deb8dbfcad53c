import { expose } from 'comlink';
import { expect, it } from 'vitest';
import { spawned } from './spawn.ts';

/** A worker as far as it is asked for here: a port to talk through, and what may go wrong with its file. */
function worker(): { given: Worker; breaks: (message: string) => void } {
  const { port1, port2 } = new MessageChannel();
  const api = { add: (a: number, b: number) => a + b, never: () => new Promise(() => undefined) };
  expose(api, port2 as unknown as Parameters<typeof expose>[1]);
  const given = Object.assign(port1, {
    terminate: () => {
      port1.close();
      port2.close();
    },
  }) as unknown as Worker;
  return { given, breaks: (message) => given.dispatchEvent(Object.assign(new Event('error'), { message })) };
}

interface Api {
  add: (a: number, b: number) => number;
  never: () => Promise<void>;
}

it('a worker answers; one that breaks down or never came answers too, every call, with what happened', async () => {
  const { given, breaks } = worker();
  const { api, isBroken, end } = spawned<Api>(given);
  expect(await api.add(2, 3)).toBe(5);
  expect(isBroken()).toBe(false);
  const waits = api.never();
  breaks('');
  await expect(waits).rejects.toThrow('could not be loaded');
  expect(isBroken()).toBe(true);
  await expect(api.add(2, 3)).rejects.toThrow('could not be loaded');
  end();
  await expect(api.add(2, 3)).rejects.toThrow();
  const ended = spawned<Api>(worker().given);
  const left = ended.api.never();
  ended.end();
  await expect(left).rejects.toThrow('stopped before');
  expect(ended.isBroken()).toBe(true);
  const other = worker();
  const client = spawned<Api>(other.given);
  const never = client.api.never();
  other.breaks('the reader broke');
  await expect(never).rejects.toThrow('the reader broke');
  client.end();
});
