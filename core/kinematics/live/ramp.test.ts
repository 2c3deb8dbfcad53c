import { describe, expect, it } from 'vitest';
import { nextComfortable } from '../../../sim/human.ts';
import { FILMED_MM_PER_PX } from '../../../sim/filmed.ts';
import { seenLive, type Live } from '../../../sim/live.ts';
import { gaussian, seededRandom } from '../../../sim/random.ts';
import { readTracks } from '../read.ts';
import { asTracks, type LivePoints } from './liveReader.ts';
import { RAMP_KEYS, readRamp, type LoadAt } from './ramp.ts';
import { turnsOf, type Turn } from './turns.ts';

const RATE = 30;
const STAGE_S = 60;
const STAGES_W = [150, 225, 300];
const powerAt = (tS: number): number => STAGES_W[Math.min(STAGES_W.length - 1, Math.floor(tS / STAGE_S))];
/** From nothing at the first stage to all at the last. */
const share = (tS: number): number => (powerAt(tS) - STAGES_W[0]) / (STAGES_W[2] - STAGES_W[0]);

/** The turns of a rider before a camera, three stages long. */
function ridden(live: Live, seed: number): Turn[] {
  const random = seededRandom(seed);
  const tS: number[] = [];
  const points: LivePoints[] = [];
  for (let i = 0; i < STAGES_W.length * STAGE_S * RATE; i += 1) {
    tS.push(i / RATE);
    points.push(seenLive(live, i / RATE, random));
  }
  const reading = readTracks(asTracks({ tS, points }, 0), {
    mmPerPx: FILMED_MM_PER_PX,
    levelDeg: 0,
    facing: live.facing ?? 'right',
    crankMm: live.rider.crankMm,
  });
  if (!reading.ok) throw new Error(reading.detail);
  return turnsOf(reading);
}

const random = seededRandom(11);
const load = Array.from({ length: STAGES_W.length * STAGE_S * 4 }, (_, k): LoadAt => ({
  tS: k / 4,
  powerW: powerAt(k / 4) + 4 * gaussian(random),
}));

describe.each(['right', 'left'] as const)('a ramp, facing %s', (facing) => {
  const rider = nextComfortable(seededRandom(21));
  const drifting: Live = {
    rider,
    facing,
    noisePx: 0.3,
    slidMm: (tS) => 9 * share(tS),
    toesDownDeg: (tS) => 4 * share(tS),
  };
  const turns = ridden(drifting, 5);
  /** Mean height of the hip's sticker over ten turns from a time on, as it would be seen without noise. */
  const stickerUpMm = (fromS: number): number => {
    const still = { ...drifting, noisePx: 0 };
    const spanS = (10 * 60) / rider.cadenceRpm;
    const heights = Array.from(
      { length: 400 },
      (_, k) => -FILMED_MM_PER_PX * seenLive(still, fromS + (k / 400) * spanS, () => 0.5).hip.y,
    );
    return heights.reduce((s, v) => s + v, 0) / heights.length;
  };

  it('tells by how far the rider slides and points the toes, within its own ±', () => {
    const { byPower, byMinutes } = readRamp(turns, load);
    expect(byPower!.from).toBeCloseTo(150, -1);
    expect(byPower!.to).toBeCloseTo(300, -1);
    expect(byMinutes).toMatchObject({ from: 0.5, to: 2.5 });
    for (const way of [byPower!, byMinutes!]) {
      const drift = (key: (typeof RAMP_KEYS)[number]) => way.drifts.find((d) => d.key === key)!;
      for (const [key, truth] of [
        ['hipForwardMm', 9],
        // Its sticker lies on a thigh that leans otherwise by then.
        ['hipUpMm', stickerUpMm(2.5 * STAGE_S) - stickerUpMm(0.5 * STAGE_S)],
        ['footPitch180Deg', -4],
      ] as const) {
        expect(Math.abs(drift(key).by - truth), key).toBeLessThan(drift(key).uncertainty + 0.3);
        expect(drift(key).uncertainty, key).toBeLessThan(4);
      }
      expect(drift('hipForwardMm').real).toBe(true);
      expect(drift('footPitch180Deg').real).toBe(true);
    }
    // The stage between lies between.
    const [easy, working, hard] = byPower!.points.hipForwardMm!;
    expect(Math.abs(working.at - 225)).toBeLessThan(10);
    expect(working.value - easy.value).toBeGreaterThan(2);
    expect(hard.value - working.value).toBeGreaterThan(2);
    expect(easy.turns).toBeGreaterThan(40);
  });
  it('without a trainer it has the minutes alone; over too little there is no way', () => {
    expect(readRamp(turns, []).byPower).toBeNull();
    expect(readRamp(turns, []).byMinutes).not.toBeNull();
    const even = load.map((l) => ({ ...l, powerW: 180 }));
    expect(readRamp(turns, even).byPower).toBeNull();
    expect(readRamp(turns.slice(0, 12), load)).toEqual({ byPower: null, byMinutes: null });
    expect(readRamp([], [])).toEqual({ byPower: null, byMinutes: null });
  });
});

it('of a rider who sits still, figures that really drift are few: about one in twenty', () => {
  const seeds = [31, 32, 33];
  const drifts = seeds.flatMap((seed) => {
    const still = { rider: nextComfortable(seededRandom(seed)), noisePx: 0.3 };
    return readRamp(ridden(still, seed), load).byPower!.drifts;
  });
  expect(drifts.length).toBe(seeds.length * RAMP_KEYS.length);
  expect(drifts.filter((d) => d.real).length).toBeLessThanOrEqual(0.15 * drifts.length);
});
