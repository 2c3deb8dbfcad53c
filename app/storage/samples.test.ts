import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { expect, it, vi } from 'vitest';
import { UNMEASURED_PART } from '../../core/bike/parts.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { DEMO_PARTS } from '../demo/parts.ts';
import { seedDemo } from './demo.ts';
import { loadParts, saveParts } from './parts.ts';
import { removeSamples, restoreSamples } from './samples.ts';
import { clipOf, saveRider } from './sessions.ts';
import { wholeOf } from './stores.ts';
import { studioIndex } from './studioIndex.ts';

vi.stubGlobal('navigator', { userAgent: 'Chrome/140' });

const there = async (): Promise<string[]> =>
  (await studioIndex()).index.riders.filter((r) => r.deletedIso === null).map((r) => r.id);

it('the samples go and come back as one; a rider and a part of one’s own stay', async () => {
  await seedDemo(CATALOGUE);
  await saveRider({ ...CATALOGUE.riders[0], id: 'mine', name: 'Somebody' });
  const own = { id: 'own', kind: 'stem' as const, name: 'Mine', ...UNMEASURED_PART, count: 1, price: 3 };
  await saveParts([...DEMO_PARTS.parts, own], DEMO_PARTS.parts);
  await removeSamples('2026-11-29T10:00:00.000Z');
  expect(await there()).toEqual(['mine']);
  const left = await loadParts();
  expect(left.ok && left.value.parts.map((p) => p.id)).toEqual(['own']);
  await restoreSamples();
  expect((await there()).sort()).toEqual(['idris', 'juno', 'maren', 'mine', 'pilar']);
  const back = await loadParts();
  expect(back.ok && back.value.parts.map((p) => p.id).sort()).toEqual(
    [...DEMO_PARTS.parts.map((p) => p.id), 'own'].sort(),
  );
});

it('a sample’s film that came whole is known to be whole; one cut short on its way is not', async () => {
  const [take, other] = CATALOGUE.sessions.flatMap((s) => s.takes);
  const bytes = readFileSync(`public/demo/${take.clipName}`);
  // What is shipped is what its record says.
  expect(bytes.length).toBe(take.clipBytes);
  const answer = vi.fn(() => Promise.resolve(new Response(bytes)));
  vi.stubGlobal('fetch', answer);
  expect((await clipOf(take))!.size).toBe(bytes.length);
  expect(await wholeOf(take.id)).toEqual({ bytes: bytes.length, frames: take.video.frames, broken: [] });
  answer.mockImplementation(() => Promise.resolve(new Response(bytes.subarray(0, 1000))));
  await clipOf(other);
  expect(await wholeOf(other.id)).toBeNull();
});
