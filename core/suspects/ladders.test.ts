import { describe, expect, it } from 'vitest';
import { REGIONS } from '../intake/intake.ts';
import { LADDERS, LADDER_KEYS, laddersFor, standOf, type RungWord } from './ladders.ts';

describe('guided sequences', () => {
  it('one for each key, each asked for by a region that exists, what is free before what is bought but for the last resort', () => {
    expect(LADDERS.map((l) => l.key)).toEqual([...LADDER_KEYS]);
    const regions = new Set(REGIONS.map((r) => r.key));
    for (const ladder of LADDERS) {
      for (const region of ladder.regions) expect(regions.has(region), region).toBe(true);
      const firstBought = ladder.rungs.findIndex((r) => !r.free);
      expect(
        ladder.rungs.slice(firstBought).every((r) => !r.free),
        ladder.key,
      ).toBe(true);
      expect(ladder.rungs[0].free, ladder.key).toBe(true);
    }
  });

  it('goes on rung by rung, ends with what helped or with the last one', () => {
    for (const ladder of LADDERS) {
      let answers: RungWord[] = [];
      for (let k = 0; k < ladder.rungs.length; k += 1) {
        expect(standOf(ladder, answers)).toMatchObject({ next: k, helped: null });
        const helped = standOf(ladder, [...answers, 'helped']);
        expect(helped).toMatchObject({ next: null, helped: k });
        answers = [...answers, k % 2 ? 'worse' : 'same'];
      }
      expect(standOf(ladder, answers)).toMatchObject({ next: null, helped: null });
    }
  });

  it('are offered for their regions alone', () => {
    expect(laddersFor([])).toEqual([]);
    expect(laddersFor(['forefoot']).map((l) => l.key)).toEqual(['numbFoot']);
    expect(laddersFor(['kneeOutside', 'sitBones']).map((l) => l.key)).toEqual(['stance', 'saddlePressure']);
  });
});
