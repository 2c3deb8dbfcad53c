import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { satAnew } from '../../sim/human.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import type { JointKey, VirtualRider } from '../../sim/rider.ts';
import { USUAL_HABITS } from '../model/bodyModel.ts';
import type { PredictedMeasure } from '../model/forecast.ts';
import { judgeReading, type MeasureReading } from '../protocol/measures.ts';
import { protocolById } from '../protocol/protocols.ts';
import { readTracks, type Reading } from '../kinematics/read.ts';
import { STICKER_SD_MM } from '../kinematics/uncertainty.ts';
import { habitWords, outcomes, refilmed } from './outcome.ts';

const PROTOCOL = protocolById('long-distance');
const JOINTS: readonly JointKey[] = ['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist'];
type Stickers = Partial<Record<JointKey, { x: number; y: number }>>;

const stuck = (random: () => number): Stickers =>
  Object.fromEntries(
    JOINTS.map((j) => [
      j,
      { x: STICKER_SD_MM[j] * gaussian(random), y: STICKER_SD_MM[j] * gaussian(random) },
    ]),
  );

function read(sits: VirtualRider, stickerOffMm: Stickers, seed: number): Reading {
  // Off the bike and on again between any two films.
  const rider = satAnew(sits, seededRandom(seed));
  const tracks = filmed({ rider, seconds: 6, noisePx: 0.15, stickerOffMm, stickersTurn: true, seed });
  const r = readTracks(tracks, { mmPerPx: FILMED_MM_PER_PX, levelDeg: 0, crankMm: rider.crankMm });
  if (!r.ok) throw new Error(r.detail);
  return r;
}

const { rider } = CAST[1].scene;
/** The same rider, seat some millimetres higher. */
const raised = (mm: number): VirtualRider => ({
  ...rider,
  hipMm: { x: rider.hipMm.x, y: rider.hipMm.y + mm },
});
const measures = (r: Reading): MeasureReading[] => judgeReading(r, PROTOCOL);

describe('what a change did', () => {
  it('between two films of one and the same bike hardly ever is more than noise', () => {
    const random = seededRandom(41);
    let [real, all] = [0, 0];
    for (let k = 0; k < 8; k += 1) {
      const stickers = stuck(random);
      const before = measures(read(rider, stickers, 100 + k));
      const left = outcomes(before, measures(read(rider, stickers, 500 + k)), {
        sameStickers: true,
        predicted: null,
      });
      const anew = outcomes(before, measures(read(rider, stuck(random), 900 + k)), {
        sameStickers: false,
        predicted: null,
      });
      for (const o of [...left, ...anew]) {
        all += 1;
        real += Number(o.real);
        expect(o.predicted).toBeNull();
      }
    }
    // 95 % intervals: one in twenty lies outside.
    expect(real / all).toBeLessThan(0.08);
  });
  it('of twenty-two millimetres of saddle is real at the knee with the stickers left on, and by as much as it truly was', () => {
    const random = seededRandom(42);
    for (let k = 0; k < 6; k += 1) {
      const stickers = stuck(random);
      const [a, b] = [read(rider, stickers, 20 + k), read(raised(22), stickers, 60 + k)];
      const knee = outcomes(measures(a), measures(b), { sameStickers: true, predicted: null }).find(
        (o) => o.key === 'kneeFlexionMinDeg',
      )!;
      expect(knee.real).toBe(true);
      expect(knee.by).toBe(knee.after - knee.before);
      const [still, moved] = [read(rider, {}, 1), read(raised(22), {}, 2)];
      const truly = moved.angles.kneeFlexionDeg!.min - still.angles.kneeFlexionDeg!.min;
      expect(Math.abs(knee.by - truly)).toBeLessThan(2 * knee.uncertainty);
      // With other stickers the same change is known less surely.
      const anew = outcomes(measures(a), measures(b), { sameStickers: false, predicted: null }).find(
        (o) => o.key === knee.key,
      )!;
      expect(anew.uncertainty).toBeGreaterThan(1.5 * knee.uncertainty);
    }
  });
  it('is laid beside what was predicted, and held or not', () => {
    const [a, b] = [measures(read(rider, {}, 1)), measures(read(raised(22), {}, 2))];
    const after = b.find((m) => m.key === 'kneeFlexionMinDeg')!.value;
    const predicted = (low: number, high: number): PredictedMeasure[] => [
      {
        key: 'kneeFlexionMinDeg',
        before: 60,
        after: (low + high) / 2,
        low,
        high,
        verdict: 'in',
        verdictBefore: 'in',
      },
    ];
    const of = (f: PredictedMeasure[]) =>
      outcomes(a, b, { sameStickers: true, predicted: f }).find((o) => o.key === 'kneeFlexionMinDeg')!
        .predicted;
    expect(of(predicted(after - 1, after + 2))).toEqual({
      after: after + 0.5,
      low: after - 1,
      high: after + 2,
      held: true,
      counts: true,
    });
    expect(of(predicted(after + 0.1, after + 2))!.held).toBe(false);
    // What only one film has is left out, not guessed.
    expect(outcomes(a, [], { sameStickers: true, predicted: null })).toEqual([]);
    expect(outcomes([], b, { sameStickers: true, predicted: null })).toEqual([]);
    expect(
      outcomes(a, b, { sameStickers: true, predicted: predicted(0, 1) }).filter((o) => o.predicted),
    ).toHaveLength(1);
  });
  it('at the foot and the back is what the rider’s own shares are learned from', () => {
    const tipped: VirtualRider = {
      ...rider,
      footPitchMeanDeg: rider.footPitchMeanDeg + 3,
      backDeg: rider.backDeg - 2,
    };
    const [a, b] = [read(rider, {}, 3), read(tipped, {}, 4)];
    const r = refilmed(a, b, true);
    // Off and on again in between: within what a ride does.
    expect(Math.abs(r.pitchByDeg - 3)).toBeLessThan(r.pitchUncertainty);
    expect(Math.abs(r.backByDeg + 2)).toBeLessThan(r.backUncertainty);
    const anew = refilmed(a, b, false);
    expect(anew.pitchByDeg).toBe(r.pitchByDeg);
    expect(anew.pitchUncertainty).toBeGreaterThan(r.pitchUncertainty);
    expect(anew.backUncertainty).toBeGreaterThan(r.backUncertainty);
  });
});

it('a learned share is put in words against the usual one', () => {
  const words = (mean: number, sd: number): string => habitWords('kappa', { mean, sd }, USUAL_HABITS.kappa);
  expect(words(USUAL_HABITS.kappa.mean + 0.02, 0.1)).toContain('about the usual share');
  expect(words(0.8, 0.05)).toMatch(/^The foot takes 80 % ± 10 %.*more than usual: .*less at the knee/);
  expect(words(0.05, 0.05)).toContain('nearly whole at the knee');
  const back = habitWords('rho', { mean: 0.05, sd: 0.05 }, USUAL_HABITS.rho);
  expect(back).toMatch(/^The back takes 5 %.*less than usual: a bar change is taken by the arms/);
});
