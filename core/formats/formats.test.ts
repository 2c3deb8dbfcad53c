import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import Papa from 'papaparse';
import { CAST, FRONTAL_CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { filmedFrontal, FRONTAL_BODY } from '../../sim/frontal.ts';
import { readFrontal } from '../kinematics/readFrontal.ts';
import { GRID_DEG } from '../kinematics/curves.ts';
import { readTracks } from '../kinematics/read.ts';
import { parseAnglesCsv, parseFrontalCsv, writeAnglesCsv, writeFrontalCsv } from './angles.ts';
import { ANGLE_KEYS } from '../kinematics/angles.ts';
import { emptyTracks } from '../tracking/tracks.ts';
import { parseTracksCsv, writeTracksCsv } from './tracksCsv.ts';

function someTracks() {
  const random = seededRandom(5);
  const tracks = emptyTracks(
    Array.from({ length: 30 }, (_, i) => i / 60),
    ['hip', 'spindle'],
  );
  for (const key of ['hip', 'spindle']) {
    const t = tracks.landmarks[key];
    for (let i = 0; i < 30; i += 1) {
      if (i % 7 === 3) continue;
      t.xPx[i] = 1280 * random();
      t.yPx[i] = 720 * random();
      t.confidence[i] = random();
    }
  }
  return tracks;
}

describe('the tracks table', () => {
  it('comes back as it was written, unseen frames included', () => {
    const tracks = someTracks();
    const back = parseTracksCsv(writeTracksCsv(tracks));
    if (!back.ok) throw new Error(back.message);
    expect(Object.keys(back.tracks.landmarks)).toEqual(['hip', 'spindle']);
    for (const key of ['hip', 'spindle']) {
      const [a, b] = [tracks.landmarks[key], back.tracks.landmarks[key]];
      for (let i = 0; i < 30; i += 1) {
        expect(Number.isNaN(b.xPx[i])).toBe(Number.isNaN(a.xPx[i]));
        if (Number.isNaN(a.xPx[i])) continue;
        expect(Math.abs(a.xPx[i] - b.xPx[i])).toBeLessThan(0.0006);
        expect(Math.abs(a.yPx[i] - b.yPx[i])).toBeLessThan(0.0006);
        expect(Math.abs(a.confidence[i] - b.confidence[i])).toBeLessThan(0.0006);
      }
    }
  });

  it('takes a byte order mark, Windows line ends, spaces and a missing confidence', () => {
    const parsed = parseTracksCsv('\uFEFFframe, t_s ,hip_x_px,hip_y_px\r\n0,0, 10.5 ,20\r\n1,0.02,,\r\n');
    if (!parsed.ok) throw new Error(parsed.message);
    expect(parsed.tracks.landmarks.hip.xPx[0]).toBe(10.5);
    expect(parsed.tracks.landmarks.hip.confidence[0]).toBe(1);
    expect(parsed.tracks.landmarks.hip.xPx[1]).toBeNaN();
  });

  const HEAD = 'frame,t_s,hip_x_px,hip_y_px,hip_conf\n';
  it.each([
    ['', 'Row 1, column 1'],
    ['frame,hip_x_px,hip_y_px\n0,1,2\n', 'Row 1, column t_s'],
    ['t_s,hip_x_px,hip_y_px\n0,1,2\n', 'Row 1, column frame'],
    ['frame,t_s,hip_x_px\n0,0,1\n', 'Row 1, column hip_y_px'],
    ['frame,t_s,hip_x_px,hip_y_px,hip_x_px\n0,0,1,2,3\n', 'Row 1, column hip_x_px'],
    ['frame,t_s\n0,0\n', 'Row 1, column 3'],
    [HEAD, 'Row 2, column frame'],
    [`${HEAD}0,0,1,2,1\n1,later,1,2,1\n`, 'Row 3, column t_s: “later”'],
    [`${HEAD}0,0.5,1,2,1\n1,0.4,1,2,1\n`, 'Row 3, column t_s: the time goes back'],
    [`${HEAD}zero,0,1,2,1\n`, 'Row 2, column frame'],
    [`${HEAD}0,0,NaN,2,1\n`, 'Row 2, column hip_x_px'],
    [`${HEAD}0,0,1,0x1F,1\n`, 'Row 2, column hip_y_px'],
    [`${HEAD}0,0,1e9,2,1\n`, 'Row 2, column hip_x_px'],
    [`${HEAD}0,0,1,,1\n`, 'Row 2, column hip_y_px: empty'],
    [`${HEAD}0,0,1,2,1.5\n`, 'Row 2, column hip_conf'],
    [`${HEAD}0,0,1,2,1,9\n`, 'Row 2, column 6'],
    [`${HEAD}0,0,"1,2,1\n`, 'Row'],
    ['\u0000\u0001PNG', 'Row 1, column 1: this is not a text file'],
  ])('names row and column of what is wrong: %j', (text, where) => {
    const parsed = parseTracksCsv(text);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.message).toContain(where);
  });

  it('never throws and never lets a wrong number in, whatever is done to a good file', () => {
    const good = writeTracksCsv(someTracks());
    const random = seededRandom(77);
    const junk = ['', ',', '\n', '"', 'é', '-', 'NaN', 'Infinity', '=1+1', '\t', '9'];
    for (let k = 0; k < 400; k += 1) {
      const at = Math.floor(random() * good.length);
      const length = Math.floor(random() * 6);
      const bad = good.slice(0, at) + junk[Math.floor(random() * junk.length)] + good.slice(at + length);
      const parsed = parseTracksCsv(bad);
      if (!parsed.ok) {
        expect(parsed.message).toMatch(/^Row \d+, column /);
        continue;
      }
      expect(
        Array.from(parsed.tracks.tS).every((t, i, all) => Number.isFinite(t) && (i === 0 || t >= all[i - 1])),
      ).toBe(true);
    }
  });
});

/** A table as columns of numbers. */
const columns = (text: string): Record<string, number[]> => {
  const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), { header: true });
  return Object.fromEntries(meta.fields!.map((f) => [f, data.map((row) => Number(row[f]))]));
};

describe('angles and curves as tables', () => {
  it('hold every frame of every stroke, the optional angles too when they were read', () => {
    const read = (extras: boolean) => {
      const r = readTracks(filmed({ rider: CAST[3].scene.rider, extras }), { mmPerPx: FILMED_MM_PER_PX });
      if (!r.ok) throw new Error(r.detail);
      return { r, table: columns(writeAnglesCsv(r)) };
    };
    const { r, table } = read(true);
    expect(Math.max(...table.stroke)).toBe(r.usedStrokes);
    expect(Math.min(...table.knee_flexion_deg)).toBeCloseTo(r.angles.kneeFlexionDeg!.min, 0);
    const pelvis = table.pelvis_angle_deg;
    expect(pelvis.reduce((s, v) => s + v, 0) / pelvis.length).toBeCloseTo(
      r.angles.pelvisAngleDeg!.curve.mean,
      0,
    );
    expect(Object.keys(read(false).table)).not.toContain('pelvis_angle_deg');
  });
  it('hold the curves from the front, outward +, a row every grid angle', () => {
    const tracks = filmedFrontal({
      rider: CAST[1].scene.rider,
      body: FRONTAL_BODY,
      view: 'front',
      camera: FRONTAL_CAST[0].scene.camera,
      seconds: 6,
      rate: 60,
    });
    delete tracks.landmarks.shoulderL;
    const r = readFrontal(tracks, { view: 'front', centrePx: { x: 360, y: 360 }, crankMm: 175 });
    if (!r.ok) throw new Error(r.detail);
    const table = columns(writeFrontalCsv(r));
    expect(table.theta_deg).toEqual([...GRID_DEG]);
    expect(Object.keys(table)).not.toContain('shoulders_deg');
    table.knee_left_mm.forEach((v, i) => expect(v).toBeCloseTo(r.legs.left.kneeLateralMm.meanOnGrid[i], 1));
    expect(Math.min(...table.knee_right_mm)).toBeGreaterThan(80);
    const back = parseFrontalCsv(writeFrontalCsv(r));
    if (!back.ok) throw new Error(back.message);
    expect(Object.keys(back.curves)).toEqual(Object.keys(table).filter((name) => name !== 'theta_deg'));
    expect(back.curves.hip_shift_mm).toEqual(table.hip_shift_mm);
    expect(back.ends.knee_left_mm!.max).toBe(Math.max(...table.knee_left_mm));
  });
  it('come back as the curves they were written from', () => {
    for (const member of [CAST[0], CAST[2]]) {
      const r = readTracks(filmed({ rider: member.scene.rider }), { mmPerPx: FILMED_MM_PER_PX });
      if (!r.ok) throw new Error(r.detail);
      const back = parseAnglesCsv(writeAnglesCsv(r));
      if (!back.ok) throw new Error(back.message);
      expect(back.strokes).toBe(r.usedStrokes);
      for (const key of ANGLE_KEYS) {
        // The table has the smoothed angles of the frames, the reading's curve is made of the unsmoothed ones.
        back.curves[key]!.forEach((v, i) =>
          expect(Math.abs(v - r.angles[key]!.meanOnGrid[i])).toBeLessThan(0.5),
        );
        expect(Math.abs(back.ends[key]!.min - r.angles[key]!.min)).toBeLessThan(0.5);
      }
      expect(back.curves.pelvisAngleDeg).toBeUndefined();
    }
  });
  it('are refused by row and column', () => {
    const head = 'stroke,theta_deg,knee_flexion_deg';
    const rows = Array.from({ length: 40 }, (_, i) => `${1 + Math.floor(i / 20)},${18 * (i % 20)},${40 + i}`);
    const read = (change: (all: string[]) => void): string => {
      const all = [head, ...rows];
      change(all);
      const got = parseAnglesCsv(all.join('\n'));
      return got.ok ? 'read' : got.message;
    };
    expect(read(() => undefined)).toBe('read');
    expect(read((all) => (all[0] = 'stroke,knee_flexion_deg,theta'))).toMatch(/^Row 1, column theta_deg/);
    expect(read((all) => (all[0] = 'stroke,theta_deg,mood'))).toMatch(/no column of an angle/);
    expect(read((all) => (all[5] = '1,400,40'))).toMatch(/^Row 6, column theta_deg: “400”/);
    expect(read((all) => (all[5] = '4,40,40'))).toMatch(/^Row 6, column stroke: 4 follows 1/);
    expect(read((all) => (all[9] = '1,40,0x10'))).toMatch(/^Row 10, column knee_flexion_deg: “0x10”/);
    expect(read((all) => (all[9] = '1,40,1,2'))).toMatch(/^Row 10, column 4: more cells/);
    expect(read((all) => all.splice(12))).toMatch(/11 rows/);
    const turn = (last: string): string =>
      ['theta_deg,pelvis_deg', ...GRID_DEG.map((t, i) => `${t},${i === 143 ? last : '1.5'}`)].join('\n');
    expect(parseFrontalCsv(turn('2')).ok).toBe(true);
    expect(parseFrontalCsv(turn(''))).toMatchObject({
      message: expect.stringMatching(/^Row 145, column pelvis_deg/),
    });
    expect(parseFrontalCsv('theta_deg,pelvis_deg\n0,1')).toMatchObject({ ok: false });
  });
});
