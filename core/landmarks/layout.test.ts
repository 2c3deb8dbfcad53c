import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST, FRONTAL_CAST } from '../../sim/cast.ts';
import { frameTruth, openCamera, openFilm, toPlanes } from '../../sim/render/film.ts';
import { frontalAct, frontalStickers } from '../../sim/render/frontalScene.ts';
import { seededRandom } from '../../sim/random.ts';
import { SIDE_LANDMARKS } from './landmarks.ts';
import { findStickers, type Spot } from '../tracking/findStickers.ts';
import { packedFrame } from '../tracking/frame.ts';
import { layOut, proposeMarks } from './layout.ts';
import { learnSticker } from '../tracking/learn.ts';

const asSpots = (points: Record<string, { x: number; y: number }>): Spot[] =>
  Object.values(points).map((p) => ({ x: p.x, y: p.y, sure: 1 }));

/** Of the true points, how many a layout calls by their own name. */
const right = (
  points: Partial<Record<string, { x: number; y: number }>>,
  truth: Record<string, { x: number; y: number }>,
) =>
  Object.entries(truth).filter(([key, p]) => {
    const q = points[key];
    return q && Math.hypot(q.x - p.x, q.y - p.y) < 2;
  }).length;

describe('layOut', () => {
  it('names all joints of every rider all round the turn, with stray spots about, without knowing scale or side', () => {
    const random = seededRandom(4);
    let [named, all] = [0, 0];
    for (const m of CAST) {
      for (let i = 3; i < 44; i += 8) {
        const truth = frameTruth({ ...m.scene, look: { ...m.scene.look, extras: [] } }, m.film, i).joints;
        const strays = Array.from({ length: 5 }, () => ({
          x: 1280 * random(),
          y: 720 * random(),
          sure: 0.8,
        }));
        const spots = [...asSpots(truth), ...strays].sort((a, b) => a.x - b.x);
        const found = layOut(spots, 'drive', { mmPerPx: null, facing: null });
        expect(found, `${m.id} ${i}`).not.toBeNull();
        expect(found!.facing).toBe(m.scene.camera.facing);
        // A stray may lie where a joint could as well be: one name at most goes to it.
        const n = right(found!.points, truth);
        expect(n, `${m.id} frame ${i}`).toBeGreaterThanOrEqual(SIDE_LANDMARKS.length - 1);
        named += n;
        all += SIDE_LANDMARKS.length;
      }
    }
    expect(named / all).toBeGreaterThan(0.98);
  });
  it('names knees, feet, hips and shoulders from the front and the rear', () => {
    for (const m of FRONTAL_CAST) {
      for (let i = 3; i < 44; i += 8) {
        const truth = frontalStickers(m.scene, i / 60);
        const found = layOut(asSpots(truth).reverse(), m.scene.view, { mmPerPx: null, facing: null });
        expect(right(found!.points, truth), `${m.id} frame ${i}`).toBe(Object.keys(truth).length);
      }
    }
  });
  it('says when it is no rider', () => {
    expect(layOut([], 'drive', { mmPerPx: 2, facing: 'right' })).toBeNull();
    const row = Array.from({ length: 3 }, (_, k) => ({ x: 40 * k, y: 10, sure: 1 }));
    expect(layOut(row, 'drive', { mmPerPx: 2, facing: 'right' })).toBeNull();
  });
});

describe('stickers on a rendered frame', () => {
  it.each(['maren', 'idris', 'juno'])('are all found by themselves and named: %s', (id) => {
    const m = CAST.find((k) => k.id === id)!;
    const p = toPlanes(openFilm(m.scene, m.film).shoot(7));
    const frame = packedFrame({ width: p.width, height: p.height, y: p.y, u: p.u, v: p.v });
    const truth = frameTruth(m.scene, m.film, 7).joints;
    const spots = findStickers(frame, learnSticker(frame, truth.knee)!.sticker);
    for (const key of SIDE_LANDMARKS)
      expect(
        spots.some((s) => Math.hypot(s.x - truth[key].x, s.y - truth[key].y) < 1),
        key,
      ).toBe(true);
    const laid = proposeMarks(frame, 'drive', { mmPerPx: null, facing: null }, null)!;
    expect(right(laid.points, truth as Record<string, { x: number; y: number }>)).toBe(
      Object.keys(truth).length,
    );
  });
  it('are found from the front', () => {
    const m = FRONTAL_CAST[0];
    const p = toPlanes(openCamera(frontalAct(m.scene), m.film).shoot(30));
    const frame = packedFrame({ width: p.width, height: p.height, y: p.y, u: p.u, v: p.v });
    const truth = frontalStickers(m.scene, 0.5);
    const laid = proposeMarks(frame, 'front', { mmPerPx: null, facing: null }, null)!;
    expect(right(laid.points, truth)).toBeGreaterThanOrEqual(Object.keys(truth).length - 2);
  });
  it('are none on a bare wall', () => {
    const grey = new Uint8Array(320 * 240).fill(120);
    const c = new Uint8Array(160 * 120).fill(128);
    const bare = packedFrame({ width: 320, height: 240, y: grey, u: c, v: c });
    expect(proposeMarks(bare, 'drive', { mmPerPx: null, facing: null }, null)).toBeNull();
  });
});
