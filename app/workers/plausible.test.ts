import { expect, it } from 'vitest';
import { implausible } from './plausible.ts';

const info = {
  widthPx: 1280,
  heightPx: 720,
  codec: 'avc',
  frames: 600,
  durationS: 10,
  framesPerS: 60,
  evenlyTimed: true,
  rotationDeg: 0,
};

it('films that no camera makes are refused with what is wrong, all others taken', () => {
  for (const ok of [
    info,
    { ...info, widthPx: 7680, heightPx: 4320 },
    { ...info, durationS: 7000 },
    { ...info, widthPx: 240, heightPx: 180 },
  ])
    expect(implausible(ok)).toBeNull();
  expect(implausible({ ...info, widthPx: 16_384, heightPx: 2 })?.title).toContain('16384 × 2 px');
  expect(implausible({ ...info, durationS: 97 * 86_400 })?.title).toContain('97 days');
  expect(implausible({ ...info, durationS: 3 * 3600 })?.title).toContain('3 hours');
  expect(implausible({ ...info, durationS: NaN })).not.toBeNull();
});
