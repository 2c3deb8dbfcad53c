import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST, FRONTAL_CAST } from '../../sim/cast.ts';
import { frameTruth, openCamera, openFilm, toPlanes } from '../../sim/render/film.ts';
import { frontalAct, frontalStickers } from '../../sim/render/frontalScene.ts';
import { seededRandom } from '../../sim/random.ts';
import { SIDE_LANDMARKS } from './landmarks.ts';
import { findStickers, type Spot } from '../tracking/findStickers.ts';
import { packedFrame } from '../tracking/frame.ts';
import { layOut, proposeMarks } from './layout.ts';
import { nameSpots } from './nameSpots.ts';
import type { MovingSpot } from './relations.ts';
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

describe('nameSpots', () => {
  const KNOWN = { mmPerPx: null, facing: null, pictureWidthPx: 1280 };
  /** A rider's stickers through a turn, and dots of the wall. */
  const spotsOf = (id: string, without: readonly string[] = [], walls = 6): Map<string, MovingSpot> => {
    const m = CAST.find((k) => k.id === id)!;
    const turn = Array.from({ length: 60 }, (_, i) => frameTruth(m.scene, m.film, i).joints);
    const random = seededRandom(9);
    const spots = new Map<string, MovingSpot>();
    for (const key of SIDE_LANDMARKS.filter((k) => !without.includes(k))) {
      const span = (axis: 'x' | 'y'): number => {
        const v = turn.map((j) => j[key][axis]);
        return Math.max(...v) - Math.min(...v);
      };
      spots.set(key, {
        at: [0, 8, 16, 24].map((i) => turn[i][key]),
        sure: 0.95,
        swingPx: { x: span('x'), y: span('y') },
      });
    }
    for (let k = 0; k < walls; k += 1) {
      const at = { x: 1280 * random(), y: 720 * random() };
      spots.set(`wall ${k}`, { at: [at, at, at, at], sure: 0.9, swingPx: { x: 0, y: 0 } });
    }
    return spots;
  };
  it.each(['maren', 'pilar', 'idris', 'juno'])(
    'names every sticker of %s by place and way, none a dot',
    (id) => {
      const spots = spotsOf(id);
      const keys = [...spots.keys()];
      const found = nameSpots([...spots.values()], 'drive', KNOWN)!;
      expect(found.facing).toBe(CAST.find((k) => k.id === id)!.scene.camera.facing);
      for (const key of SIDE_LANDMARKS) {
        expect(keys[found.names[key]!.spot], key).toBe(key);
        expect(found.names[key]!.sure, key).toBeGreaterThan(0.5);
      }
    },
  );
  it('knows a foot from a dot that stands where a foot could be', () => {
    const spots = spotsOf('maren', ['toe'], 0);
    const heel = spots.get('heel')!;
    // Ahead of the heel on one picture, and it never moves.
    const still = { x: heel.at[0].x + 66, y: heel.at[0].y + 20 };
    spots.set('dot', { at: [still, still, still, still], sure: 1, swingPx: { x: 0, y: 0 } });
    const found = nameSpots([...spots.values()], 'drive', KNOWN)!;
    expect(found.names.toe).toBeUndefined();
  });
  it('is never sure of a shoulder without its elbow: it may be the wrist', () => {
    const found = nameSpots([...spotsOf('maren', ['elbow']).values()], 'drive', KNOWN)!;
    for (const key of ['shoulder', 'wrist'] as const)
      expect(found.names[key]?.sure ?? 0, key).toBeLessThanOrEqual(0.5);
    expect(found.names.hip!.sure).toBeGreaterThan(0.5);
  });
  it('says when the spots are no rider', () => {
    const walls = [...spotsOf('maren', SIDE_LANDMARKS, 7).values()];
    expect(nameSpots(walls.slice(0, 3), 'drive', KNOWN)).toBeNull();
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
    const proposal = proposeMarks(frame, 'drive', { mmPerPx: null, facing: null }, null)!;
    expect(right(proposal.points, truth as Record<string, { x: number; y: number }>)).toBe(
      Object.keys(truth).length,
    );
  });
  it('are found from the front', () => {
    const m = FRONTAL_CAST[0];
    const p = toPlanes(openCamera(frontalAct(m.scene), m.film).shoot(30));
    const frame = packedFrame({ width: p.width, height: p.height, y: p.y, u: p.u, v: p.v });
    const truth = frontalStickers(m.scene, 0.5);
    const proposal = proposeMarks(frame, 'front', { mmPerPx: null, facing: null }, null)!;
    expect(right(proposal.points, truth)).toBeGreaterThanOrEqual(Object.keys(truth).length - 2);
  });
  it('are none on a bare wall', () => {
    const grey = new Uint8Array(320 * 240).fill(120);
    const c = new Uint8Array(160 * 120).fill(128);
    const bare = packedFrame({ width: 320, height: 240, y: grey, u: c, v: c });
    expect(proposeMarks(bare, 'drive', { mmPerPx: null, facing: null }, null)).toBeNull();
  });
});
