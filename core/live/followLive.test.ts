import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { trueFigures } from '../../sim/measured.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { packedFrame, type PlanarFrame } from '../tracking/frame.ts';
import { followLive, type LiveFollower, type LiveWord } from './followLive.ts';

const member = CAST[0];
const RATE = 30;
const SECONDS = 5.6;
const LAST = SECONDS * RATE - 1;
const camera = openFilm(member.scene, { ...member.film, framesPerS: RATE });

/** What is told of a running camera’s pictures. @param picture what arrives at a time; null: it is dropped */
function run(
  seconds: number,
  wheelbaseMm: number | null,
  picture: (i: number) => PlanarFrame | null,
): LiveWord[] & { points?: ReturnType<LiveFollower['points']> } {
  const words: LiveWord[] = [];
  const ask = { wheelbaseMm, crankMm: member.scene.rider.crankMm, protocol: PROTOCOLS[0] };
  const live = followLive(ask, (w) => words.push(w));
  for (let i = 0; i < seconds * RATE; i += 1) {
    const frame = picture(i);
    if (frame) live.see(frame, i / RATE);
  }
  return Object.assign(words, { points: live.points() });
}

/** The rider before the camera, each picture rendered once. */
const shot = new Map<number, PlanarFrame>();
function rider(i: number): PlanarFrame {
  if (!shot.has(i)) shot.set(i, packedFrame(toPlanes(camera.shoot(i))));
  return shot.get(i)!;
}

const pictures = (words: readonly LiveWord[]) => words.flatMap((w) => (w.kind === 'picture' ? [w] : []));

describe('a camera that runs', () => {
  const { rearAxle, frontAxle } = member.scene.bike;
  it('finds the stickers by itself, follows them from where they come round again, and reads every turn', () => {
    const words = run(SECONDS, frontAxle.x - rearAxle.x, (i) => (i > 120 && i % 20 === 0 ? null : rider(i)));
    expect(words.find((w) => w.kind === 'following')).toMatchObject({ facing: member.scene.camera.facing });
    const seen = pictures(words);
    const last = seen[seen.length - 1];
    expect(last).toMatchObject({ followed: 8, lost: [] });
    const truth = frameTruth(member.scene, { ...member.film, framesPerS: RATE }, LAST).joints;
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
  it('takes its scale from the crank where nobody has measured the bike, and says so', () => {
    const words = run(SECONDS, null, rider);
    expect(pictures(words).at(-1)!.warnings).toContain('by-crank');
    const turns = words.flatMap((w) => (w.kind === 'turns' ? [w] : []));
    const knee = turns.at(-1)!.measures.find((m) => m.key === 'kneeFlexionMinDeg')!;
    expect(Math.abs(knee.value - trueFigures(member.scene.rider).kneeFlexionMinDeg)).toBeLessThan(2.5);
  });
  it('says that it looks where nobody is, and looks again', () => {
    const whole = rider(0);
    const empty = { ...whole, y: whole.y.slice(), u: whole.u.slice(), v: whole.v.slice() };
    empty.y.fill(120);
    empty.u.fill(128);
    empty.v.fill(128);
    const words = run(3, null, () => empty);
    expect(words.flatMap((w) => (w.kind === 'looking' ? [w.tries] : []))).toEqual([0, 1, 2]);
    expect(words.some((w) => w.kind === 'following')).toBe(false);
  });
});
