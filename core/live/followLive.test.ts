import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { trueFigures } from '../../sim/measured.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';
import type { ReadResult } from '../kinematics/read.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { colourAt, packedFrame, type PlanarFrame } from '../tracking/frame.ts';
import { followLive, type LiveFollower, type LiveWord, type ReadTurns } from './followLive.ts';

const RATE = 30;
const SECONDS = 5.6;
const LAST = SECONDS * RATE - 1;
const CADENCE_RPM = 90;
/** Pedals evenly: after three turns the pictures come again. */
const member = {
  ...CAST[0],
  scene: {
    ...CAST[0].scene,
    rider: { ...CAST[0].scene.rider, cadenceRpm: CADENCE_RPM, unevenness: 0, wanderDeg: 0 },
  },
};
const ROUND = (3 * 60 * RATE) / CADENCE_RPM;
const camera = openFilm(member.scene, { ...member.film, framesPerS: RATE });

/** What is told of a running camera’s pictures. @param picture what arrives at a time; null: it is dropped */
async function run(
  seconds: number,
  wheelbaseMm: number | null,
  picture: (i: number) => PlanarFrame | null,
  readTurns?: ReadTurns,
): Promise<LiveWord[] & { points?: ReturnType<LiveFollower['points']> }> {
  const words: LiveWord[] = [];
  const ask = { wheelbaseMm, crankMm: member.scene.rider.crankMm, protocol: PROTOCOLS[0] };
  const live = followLive(ask, (w) => words.push(w), readTurns);
  for (let i = 0; i < seconds * RATE; i += 1) {
    const frame = picture(i);
    if (frame) live.see(frame, i / RATE);
    // Whoever reads meanwhile has its turn.
    await Promise.resolve();
  }
  return Object.assign(words, { points: live.points() });
}

const UNREAD: ReadResult = { ok: false, reason: 'no-stroke', detail: '' };

/** The rider before the camera, each picture rendered once. */
const shot = new Map<number, PlanarFrame>();
function rider(i: number): PlanarFrame {
  const k = i % ROUND;
  if (!shot.has(k)) shot.set(k, packedFrame(toPlanes(camera.shoot(k))));
  return shot.get(k)!;
}

const TRUTH = frameTruth.bind(null, member.scene, { ...member.film, framesPerS: RATE });

/** The same with a sticker covered by what is beside it. */
const bare = new Map<string, PlanarFrame>();
function without(key: 'elbow' | 'ankle', i: number): PlanarFrame {
  const k = i % ROUND;
  const known = bare.get(`${key} ${k}`);
  if (known) return known;
  const whole = rider(i);
  const frame = { ...whole, y: whole.y.slice(), u: whole.u.slice(), v: whole.v.slice() };
  const { x, y } = TRUTH(k).joints[key];
  const neighbour = colourAt(whole, x, y - COVER_PX - 3);
  for (let py = Math.round(y - COVER_PX); py <= y + COVER_PX; py += 1)
    for (let px = Math.round(x - COVER_PX); px <= x + COVER_PX; px += 1) {
      if (Math.hypot(px - x, py - y) > COVER_PX) continue;
      const c = (py >> 1) * frame.chromaStride + (px >> 1) * frame.chromaStep;
      [frame.y[py * frame.yStride + px], frame.u[c], frame.v[c]] = neighbour;
    }
  bare.set(`${key} ${k}`, frame);
  return frame;
}
const COVER_PX = 12;

const pictures = (words: readonly LiveWord[]) => words.flatMap((w) => (w.kind === 'picture' ? [w] : []));

describe('a camera that runs', () => {
  const { rearAxle, frontAxle } = member.scene.bike;
  it('finds the stickers by itself, follows them from where they come round again, and reads every turn', async () => {
    const words = await run(SECONDS, frontAxle.x - rearAxle.x, (i) =>
      i > 120 && i % 20 === 0 ? null : rider(i),
    );
    expect(words.find((w) => w.kind === 'following')).toMatchObject({ facing: member.scene.camera.facing });
    const seen = pictures(words);
    const last = seen[seen.length - 1];
    expect(last).toMatchObject({ followed: 8, lost: [] });
    const truth = TRUTH(LAST % ROUND).joints;
    for (const [key, p] of Object.entries(words.points!))
      expect(Math.hypot(p!.x - truth[key as 'hip'].x, p!.y - truth[key as 'hip'].y), key).toBeLessThan(1.5);
    expect(last.dropped).toBeGreaterThanOrEqual(2);
    expect(last.dropped).toBeLessThanOrEqual(3);
    expect(last.handled).toBeGreaterThan(60);
    expect(last.framesPerS).toBeCloseTo(RATE, 0);
    expect(last.warnings).toEqual(['slow']);
    const turns = words.flatMap((w) => (w.kind === 'turns' ? [w] : []));
    expect(turns.length).toBeGreaterThan(1);
    const { measures } = turns[turns.length - 1];
    const figures = trueFigures(member.scene.rider);
    for (const key of ['kneeFlexionMinDeg', 'backAngleDeg'] as const) {
      const m = measures.find((q) => q.key === key)!;
      expect(Math.abs(m.value - figures[key]), key).toBeLessThan(2.5);
      expect(m.uncertainty).toBeGreaterThan(0.5);
    }
  });
  it('takes its scale from the crank where nobody has measured the bike, and says so', async () => {
    const words = await run(SECONDS, null, rider);
    expect(pictures(words).at(-1)!.warnings).toContain('by-crank');
    const turns = words.flatMap((w) => (w.kind === 'turns' ? [w] : []));
    const knee = turns.at(-1)!.measures.find((m) => m.key === 'kneeFlexionMinDeg')!;
    expect(Math.abs(knee.value - trueFigures(member.scene.rider).kneeFlexionMinDeg)).toBeLessThan(2.5);
  });
  it('says that no turn can be read of what it follows, and looks for the rider anew', async () => {
    let calls = 0;
    const words = await run(15, null, rider, () => {
      calls += 1;
      // Whoever reads may also break down.
      return calls % 2 ? Promise.reject(new Error('out of memory')) : UNREAD;
    });
    expect(calls).toBeGreaterThan(4);
    expect(pictures(words).some((w) => w.warnings.includes('unread'))).toBe(true);
    expect(pictures(words)[0].warnings).not.toContain('unread');
    const at = words.map((w) => w.kind);
    expect(at.lastIndexOf('looking')).toBeGreaterThan(at.indexOf('following'));
    expect(at.lastIndexOf('following')).toBeGreaterThan(at.lastIndexOf('looking'));
    expect(words.flatMap((w) => (w.kind === 'looking' ? [w.tries] : []))).toEqual([0, 1]);
  });
  it('looks once more where a name is missing, and then makes do', async () => {
    const late = await run(4, null, (i) => (i < 1.3 * RATE ? without('elbow', i) : rider(i)));
    expect(pictures(late).at(-1)).toMatchObject({ followed: 8, lost: [] });
    const never = await run(4, null, (i) => without('elbow', i));
    // Without the elbow nobody can say which of the others is the shoulder.
    expect(Object.keys(never.points!)).toEqual(['hip', 'knee', 'ankle', 'heel', 'toe']);
  });
  it('looks for the rider anew when a part of the leg is never seen again', async () => {
    const words = await run(10, null, (i) => (i < 3 * RATE ? rider(i) : without('ankle', i)));
    expect(words.flatMap((w) => (w.kind === 'looking' ? [w.tries] : []))).toEqual([0, 0]);
    expect(pictures(words).at(-1)!.lost).toEqual(['ankle']);
  });
  it('says that it looks where nobody is, and looks again', async () => {
    const whole = rider(0);
    const empty = { ...whole, y: whole.y.slice(), u: whole.u.slice(), v: whole.v.slice() };
    empty.y.fill(120);
    empty.u.fill(128);
    empty.v.fill(128);
    const words = await run(3, null, () => empty);
    expect(words.flatMap((w) => (w.kind === 'looking' ? [w.tries] : []))).toEqual([0, 1, 2]);
    expect(words.some((w) => w.kind === 'following')).toBe(false);
  });
});
