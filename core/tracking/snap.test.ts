import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { seededRandom } from '../../sim/random.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';
import { distance, type ImagePoint } from '../math/vec.ts';
import { packedFrame } from './frame.ts';
import { snapToSticker } from './snap.ts';

describe('a click beside a sticker', () => {
  it.each([
    ['maren', 7],
    ['juno', 3],
  ] as const)('goes to its middle within half a pixel, up to 1.2 radii beside it: %s', (id, noiseSigma) => {
    const m = CAST.find((k) => k.id === id)!;
    const film = { ...m.film, noiseSigma };
    const frame = packedFrame(toPlanes(openFilm(m.scene, film).shoot(17)));
    const truth = Object.values(frameTruth(m.scene, film, 17).joints) as ImagePoint[];
    const radiusPx = m.scene.look.stickerRadiusMm / m.scene.camera.mmPerPx;
    const random = seededRandom(5);
    let worst = 0;
    for (const p of truth)
      for (let k = 0; k < 10; k += 1) {
        const [a, d] = [2 * Math.PI * random(), 1.2 * radiusPx * Math.sqrt(random())];
        const snapped = snapToSticker(frame, { x: p.x + d * Math.cos(a), y: p.y + d * Math.sin(a) });
        // By eye would be honest; another place would not.
        if (snapped) worst = Math.max(worst, distance(snapped, p));
      }
    expect(worst).toBeLessThan(0.5);
  });
  it('stays where it is on a joint without one', () => {
    const m = CAST[0];
    const bare = {
      ...m.scene,
      look: { ...m.scene.look, stickerOn: { hip: null, shoulder: null, knee: null } },
    };
    const frame = packedFrame(toPlanes(openFilm(bare, m.film).shoot(17)));
    const { hip, shoulder, knee } = frameTruth(m.scene, m.film, 17).joints;
    for (const p of [hip, shoulder, knee]) expect(snapToSticker(frame, p)).toBeNull();
  });
});
