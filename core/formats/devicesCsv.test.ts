import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import type { MatFrame, TrainerSample } from '../kinematics/devices.ts';
import { parseMatCsv, parseTrainerCsv, writeMatCsv, writeTrainerCsv } from './devicesCsv.ts';

const random = seededRandom(12);
const samples: TrainerSample[] = Array.from({ length: 40 }, (_, i) => ({
  tS: i / 4,
  powerW: Math.round(300 * random()),
  cadenceRpm: Math.round(1000 * random()) / 10,
  leftPercent: i % 5 === 0 ? null : Math.round(1000 * random()) / 10,
}));
const frames: MatFrame[] = Array.from({ length: 6 }, (_, i) => ({
  tS: i / 10,
  gridKPa: Array.from({ length: 4 }, () => Array.from({ length: 3 }, () => Math.round(400 * random()) / 10)),
}));
const trainerFault = (text: string): string => {
  const r = parseTrainerCsv(text);
  return r.ok ? 'read' : r.message;
};
const matFault = (text: string): string => {
  const r = parseMatCsv(text);
  return r.ok ? 'read' : r.message;
};

describe('a trainer’s table', () => {
  it('comes back as it went out', () => {
    expect(parseTrainerCsv(writeTrainerCsv(samples))).toEqual({ ok: true, samples });
  });
  it('is read with its columns in any order, in capitals, with a byte order mark and blank lines', () => {
    const r = parseTrainerCsv('\ufeffCadence_RPM,T_S , power_w\r\n90,0,150\r\n\r\n91,0.25,152\r\n');
    expect(r).toEqual({
      ok: true,
      samples: [
        { tS: 0, powerW: 150, cadenceRpm: 90, leftPercent: null },
        { tS: 0.25, powerW: 152, cadenceRpm: 91, leftPercent: null },
      ],
    });
  });
  it('says in which row what is wrong', () => {
    const head = 't_s,power_w,cadence_rpm,left_percent\n0,150,90,50\n';
    const faults: [string, RegExp][] = [
      ['', /Row 1: there is no column “t_s”/],
      ['t_s,cadence_rpm\n0,90', /no column “power_w”/],
      [`${head}0,150,90,50`, /Row 3: t_s must be a growing/],
      [`${head},150,90,50`, /Row 3: t_s/],
      [`${head}1,-5,90,50`, /Row 3: power_w/],
      [`${head}1,many,90,50`, /Row 3: power_w/],
      [`${head}1,150,301,50`, /Row 3: cadence_rpm/],
      [`${head}1,150,90,101`, /Row 3: left_percent/],
      [head, /fewer than two readings/],
    ];
    for (const [text, words] of faults) expect(trainerFault(text), text).toMatch(words);
  });
});

describe('a mat’s table', () => {
  it('comes back as it went out', () => {
    expect(parseMatCsv(writeMatCsv(frames, 15))).toEqual({ ok: true, frames, cellMm: 15 });
  });
  it('is read with its cells in any order', () => {
    const r = parseMatCsv('r2c2_kpa,r1c1_kpa,t_s,r2c1_kpa,cell_mm,r1c2_kpa\n4,1,0,3,15,2\n');
    expect(r).toEqual({
      ok: true,
      cellMm: 15,
      frames: [
        {
          tS: 0,
          gridKPa: [
            [1, 2],
            [3, 4],
          ],
        },
      ],
    });
  });
  it('says in which row what is wrong', () => {
    const head = 't_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa,r2c2_kpa\n';
    const faults: [string, RegExp][] = [
      ['', /Row 1: a mat’s table has/],
      ['t_s,r1c1_kpa\n0,1', /Row 1: a mat’s table has/],
      ['t_s,cell_mm,r1c1_kpa,r1c2_kpa\n0,15,1,2', /don’t make a grid of 1 rows/],
      ['t_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa\n0,15,1,2,3', /3 cells don’t make a grid of 2 rows and 2/],
      // One cell twice, and one not at all.
      ['t_s,cell_mm,r1c1_kpa,r1c1_kpa,r2c1_kpa,r2c2_kpa\n0,15,1,2,3,4', /don’t make a grid/],
      [`${head}0,15,1,2,3,4\n0,15,1,2,3,4`, /Row 3: t_s/],
      [`${head}0,15,1,2,3,4\n1,16,1,2,3,4`, /Row 3: cell_mm/],
      [`${head}0,0,1,2,3,4`, /Row 2: cell_mm/],
      [`${head}0,15,1,2,3,`, /Row 2: r2c2_kpa/],
      [`${head}0,15,1,2,-3,4`, /Row 2: r2c1_kpa/],
      [`${head}0,15,1,2,3,2001`, /Row 2: r2c2_kpa/],
      [head, /no readings/],
    ];
    for (const [text, words] of faults) expect(matFault(text), text).toMatch(words);
  });
  it('rubbish is refused with a sentence, never with an exception', () => {
    for (let n = 0; n < 60; n += 1) {
      const rubbish = Array.from({ length: 200 }, () => String.fromCharCode(Math.floor(random() * 300))).join(
        '',
      );
      expect(trainerFault(rubbish)).not.toBe('');
      expect(matFault(rubbish)).not.toBe('');
    }
  });
});
