import { simpleLeg } from './legAlone.fixture.ts';
import type { LegModel } from './legModel.ts';

/** The leg of the handbook's sanity table, with the hip at a height of one's choice, for tests. */
export const handbookLeg = (hipYMm = 735): LegModel =>
  simpleLeg({
    crankMm: 172.5,
    thighMm: 430,
    shankMm: 430,
    ankleBehindMm: 125,
    ankleAboveMm: 95,
    seatTubeDeg: 73,
    pitchMeanDeg: 16,
    pitchAmplitudeDeg: 13,
    pitchPhaseDeg: 175,
    hipMm: { x: -215, y: hipYMm },
  });
