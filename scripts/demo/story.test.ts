import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import story from '../../app/demo/story.json' with { type: 'json' };
import takes from '../../app/demo/takes.json' with { type: 'json' };
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import { resolveBike } from '../../core/bike/resolve.ts';
import { readOptions } from '../../core/visit/readOptions.ts';
import { differences, setupNow } from '../../core/visit/setups.ts';
import type { Take } from '../../core/records/types.ts';
import { readTracks } from '../../core/kinematics/read.ts';
import { movesBetween } from '../../core/visit/progress.ts';
import { roundSetup } from '../../core/visit/rounds.ts';
import { CAST } from '../../sim/cast.ts';
import { hoodMm, poseAt, type VirtualRider } from '../../sim/rider.ts';
import { MAREN_AGAIN, MAREN_BIKE, MAREN_HABIT, MAREN_MOVES } from './rounds.ts';
import { marenStory } from './story.ts';

const [one, two] = ['maren-1', 'maren-2'].map((id) => CATALOGUE.sessions.find((s) => s.id === id)!);

/** What the virtual rider truly does: knee at its straightest and most bent, trunk above the horizontal. */
function truth(rider: VirtualRider): { kneeMin: number; kneeMax: number; back: number } {
  const still = { ...rider, wanderDeg: 0 };
  const deg = (rad: number): number => (rad * 180) / Math.PI;
  const all = Array.from({ length: 720 }, (_, i) => poseAt(still, i / 2, 0).joints).map(
    ({ hip, knee, ankle, shoulder }) => {
      const [u, v] = [
        { x: hip.x - knee.x, y: hip.y - knee.y },
        { x: ankle.x - knee.x, y: ankle.y - knee.y },
      ];
      const inside = deg(Math.atan2(Math.abs(u.x * v.y - u.y * v.x), u.x * v.x + u.y * v.y));
      return { knee: 180 - inside, back: deg(Math.atan2(shoulder.y - hip.y, shoulder.x - hip.x)) };
    },
  );
  return {
    kneeMin: Math.min(...all.map((p) => p.knee)),
    kneeMax: Math.max(...all.map((p) => p.knee)),
    back: all.reduce((s, p) => s + p.back, 0) / all.length,
  };
}

/** As it is written to a file; what comes after the ninth digit is the rounding of one way to work it out. */
const toNineDigits = (of: unknown): unknown =>
  JSON.parse(
    JSON.stringify(of, (_, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(9)) : v)),
  ) as unknown;

describe('Maren’s story', () => {
  it('is what the script writes of the films', () => {
    const made = marenStory(takes as unknown as Record<string, Take[]>);
    expect(toNineDigits(made)).toEqual(toNineDigits(story));
  });
  it.each([
    ['the first film', one, 0, CAST.find((m) => m.id === 'maren')!.scene.rider],
    ['the second round', one, 1, MAREN_AGAIN[0].scene.rider],
    ['after six weeks', two, 0, MAREN_AGAIN[1].scene.rider],
  ] as const)('%s is read as the virtual rider rode', (_, session, k, rider) => {
    const take = session.takes[k];
    const parsed = parseTracksCsv(readFileSync(`public${take.demo!.tracksUrl}`, 'utf8'));
    const reading = parsed.ok && readTracks(parsed.tracks, readOptions(session, take)!);
    if (!reading || !reading.ok) throw new Error('not read');
    const t = truth(rider);
    expect(Math.abs(reading.angles.kneeFlexionDeg!.min - t.kneeMin)).toBeLessThan(1.5);
    expect(Math.abs(reading.angles.kneeFlexionDeg!.max - t.kneeMax)).toBeLessThan(1.5);
    expect(Math.abs(reading.angles.backAngleDeg!.curve.mean - t.back)).toBeLessThan(1.5);
    expect(Math.abs(reading.cadenceRpm - rider.cadenceRpm)).toBeLessThan(1.5);
  });
  it('the bike on record is the bike that was ridden, at every film', () => {
    // Step by step the tenths of a millimetre add up a little otherwise than all at once.
    const apart = (a: typeof one.asFound, b: typeof one.asFound): number =>
      Math.max(0, ...differences(a, b).map((v) => Math.abs(Number(v.to) - Number(v.from))));
    expect(apart(roundSetup(one, 2), MAREN_BIKE.second)).toBeLessThan(0.25);
    const between = movesBetween(one.asFound, roundSetup(one, 2));
    for (const [key, by] of Object.entries(MAREN_MOVES.second))
      expect(between[key as keyof typeof between]).toBeCloseTo(by, 0);
    expect(one.final).toEqual(setupNow(one));
    expect(two.asFound).toEqual(one.final);
    expect(apart(two.asFound, MAREN_BIKE.third)).toBeLessThan(0.35);
    for (const [bike, member] of [
      [MAREN_BIKE.second, MAREN_AGAIN[0]],
      [MAREN_BIKE.third, MAREN_AGAIN[1]],
    ] as const) {
      const { sit, hood } = resolveBike(bike).points;
      const near = (p: { x: number; y: number }, q: { x: number; y: number }): number =>
        Math.hypot(p.x - q.x, p.y - q.y);
      // The tape lies along the seat tube: what sliding on the rails and tilting do to the sit point’s own distance it does not see.
      expect(near(sit!, member.scene.bike.saddleTop)).toBeLessThan(9);
      // The hands rest where they are easy, not to the millimetre where they were.
      expect(near(hood!, hoodMm(member.scene.rider))).toBeLessThan(40);
    }
  });
  it('what the films teach of her is what the simulation hid', () => {
    const { kappa, rho } = story.rider.habits;
    expect(Math.abs(kappa.mean - MAREN_HABIT.kappa)).toBeLessThan(1.96 * kappa.sd);
    expect(Math.abs(rho.mean - MAREN_HABIT.rho)).toBeLessThan(1.96 * rho.sd);
    // One change of nine millimetres, rides apart: it narrows what is usual, and no more.
    expect(kappa.sd).toBeLessThan(0.2);
  });
  it('has every screen filled: rounds, words, tests, devices, plans, hand-over, follow-ups', () => {
    expect(one.takes.map((t) => t.round)).toEqual([1, 2]);
    expect(one.changes.every((c) => c.word !== null)).toBe(true);
    expect(one.changes.filter((c) => c.putBackIso !== null)).toHaveLength(1);
    expect(one.changes.some((c) => c.tests.handsOff === 'holds')).toBe(true);
    expect([...one.takes, ...two.takes].every((t) => t.devices.trainer && t.devices.mat)).toBe(true);
    expect(one.earlierPlans).toHaveLength(1);
    expect(one.handOver.findings.length).toBeGreaterThan(8);
    expect(two.followsId).toBe('maren-1');
    expect(two.followUps.some((f) => f.doneIso === null)).toBe(true);
  });
});
