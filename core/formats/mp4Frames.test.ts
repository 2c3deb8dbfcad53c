import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { promisedFrames } from './mp4Frames.ts';

const juno = readFileSync('public/demo/juno.mp4');

/** The film with a word of its first such table replaced. */
function with32(name: string, at: number, value: number): Blob {
  const bytes = Buffer.from(juno);
  bytes.writeUInt32BE(value, bytes.indexOf(name) + 4 + at);
  return new Blob([bytes]);
}

it('counts the frames that a film’s tables promise, and never lays them out', async () => {
  expect(await promisedFrames(new Blob([juno]))).toBe(360);
  expect(await promisedFrames(with32('stts', 8, 0x7fffffff))).toBeGreaterThanOrEqual(0x7fffffff);
  expect(await promisedFrames(with32('stsz', 8, 0xffffffff))).toBe(0xffffffff);
  // More runs than the table has room for are not looked for.
  expect(await promisedFrames(with32('stts', 4, 0xffffffff))).toBeLessThan(1e12);
});

it('sound that is stored sample by sample is no frames: a camera’s minute has millions of them', async () => {
  const bytes = Buffer.from(juno);
  bytes.writeUInt32BE(2_880_000, bytes.indexOf('stts') + 12);
  expect(await promisedFrames(new Blob([bytes]))).toBe(2_880_000);
  bytes.write('soun', bytes.indexOf('hdlr') + 12, 'latin1');
  expect(await promisedFrames(new Blob([bytes]))).toBe(0);
});

it('a file of another kind, or a broken one, promises nothing and never hangs', async () => {
  for (const file of [
    'e2e/files/picture.png',
    'e2e/files/letter.mp4',
    'public/demo/maren.webm',
    'e2e/files/no-index.mp4',
  ])
    expect(await promisedFrames(new Blob([readFileSync(file)]))).toBe(0);
  for (let k = 0; k < juno.length; k += 160_000)
    expect(await promisedFrames(new Blob([juno.subarray(0, k)]))).toBeLessThanOrEqual(360);
  const zeros = Buffer.alloc(100_000);
  zeros.write('\0\0\0\0ftyp', 0, 'latin1');
  expect(await promisedFrames(new Blob([zeros]))).toBe(0);
});
