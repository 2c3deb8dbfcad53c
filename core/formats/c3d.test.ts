import { describe, expect, it } from 'vitest';
import { filmed } from '../../sim/filmed.ts';
import { CAST } from '../../sim/cast.ts';
import { readTracks } from '../kinematics/read.ts';
import { readC3d, writeC3d, type C3dMarkers } from './c3d.ts';
import { markersOf, tracksOfMarkers } from './trackMarkers.ts';

/** Bytes of a C3D file put together by hand from the public specification, without the writer: integers, a scale, analog samples. */
function byHand(processor: 84 | 86): Uint8Array {
  const little = processor === 84;
  const file = new DataView(new ArrayBuffer(512 * 3));
  const word = (at: number, v: number): void => file.setInt16(at, v, little);
  const text = (at: number, s: string): void =>
    [...s].forEach((c, i) => file.setUint8(at + i, c.charCodeAt(0)));
  // Header: parameters in block 2, key 0x50; 2 markers, 2 analog values a frame, frames 11 to 13, scale 0.1, data in block 3.
  file.setUint8(0, 2);
  file.setUint8(1, 0x50);
  word(2, 2);
  word(4, 2);
  word(6, 11);
  word(8, 13);
  file.setFloat32(12, 0.1, little);
  word(16, 3);
  word(18, 1);
  file.setFloat32(20, 50, little);
  // One event: words 150 and 151, its time in words 153 and 154, its label from word 199.
  word(298, 12345);
  word(300, 1);
  file.setFloat32(304, 0.02, little);
  text(396, 'TDC ');
  // Parameters: one block; group 1 POINT with USED, LABELS (4 letters × 2) and UNITS.
  file.setUint8(512, 1);
  file.setUint8(513, 0x50);
  file.setUint8(514, 1);
  file.setUint8(515, processor);
  let at = 516;
  const group = (name: string): void => {
    file.setInt8(at, name.length);
    file.setInt8(at + 1, -1);
    text(at + 2, name);
    word(at + 2 + name.length, 3);
    at += 2 + name.length + 3;
  };
  const chars = (name: string, dims: number[], data: string): void => {
    file.setInt8(at, name.length);
    file.setInt8(at + 1, 1);
    text(at + 2, name);
    const from = at + 2 + name.length;
    const size = 2 + 1 + 1 + dims.length + data.length + 1;
    word(from, size);
    file.setInt8(from + 2, -1);
    file.setUint8(from + 3, dims.length);
    dims.forEach((d, i) => file.setUint8(from + 4 + i, d));
    text(from + 4 + dims.length, data);
    at = from + size;
  };
  group('POINT');
  chars('LABELS', [4, 2], 'HIP KNEE');
  chars('UNITS', [2], 'mm');
  // Frames: x, y, z, quality for each marker as 16-bit integers, then the analog values.
  const frames = [
    [100, 0, -250, 0, 10, 20, 30, 0],
    [110, 0, -260, 0, 0, 0, 0, -1],
    [120, 0, -270, 0, 12, 22, 32, 5],
  ];
  frames.forEach((values, f) => {
    values.forEach((v, i) => word(1024 + 20 * f + 2 * i, v));
    word(1024 + 20 * f + 16, 999);
    word(1024 + 20 * f + 18, 999);
  });
  return new Uint8Array(file.buffer);
}

describe('C3D', () => {
  it.each([84, 86] as const)(
    'reads a file composed by hand from the specification, processor %i',
    (processor) => {
      const read = readC3d(byHand(processor));
      if (!read.ok) throw new Error(read.message);
      const { markers: m } = read;
      expect(m).toMatchObject({ rateHz: 50, units: 'mm', labels: ['HIP', 'KNEE'], frames: 3 });
      expect(m.events).toHaveLength(1);
      expect(m.events[0].label).toBe('TDC');
      expect(m.events[0].tS).toBeCloseTo(0.02, 6);
      expect([...m.points[0]].map((v) => Math.round(10 * v) / 10)).toEqual([
        10, 0, -25, 11, 0, -26, 12, 0, -27,
      ]);
      expect([...m.points[1].subarray(3, 6)]).toEqual([NaN, NaN, NaN]);
      expect(m.points[1][8]).toBeCloseTo(3.2, 6);
    },
  );

  it('reads DEC floats: the halves swapped, two powers of two higher', () => {
    const own = writeC3d(three());
    const file = new DataView(own.buffer);
    const parameters = 512;
    const dec = (at: number): void => {
      const v = new DataView(new ArrayBuffer(4));
      v.setFloat32(0, 4 * file.getFloat32(at, true));
      file.setUint16(at, v.getUint16(0), true);
      file.setUint16(at + 2, v.getUint16(2), true);
    };
    const data = 512 * (file.getUint16(16, true) - 1);
    file.setUint8(parameters + 3, 85);
    [12, 20, ...Array.from({ length: 24 }, (_, i) => data + 4 * i)].forEach(dec);
    const read = readC3d(own);
    expect(read.ok && read.markers.rateHz).toBe(60);
    expect(read.ok && [...read.markers.points[1]]).toEqual([...three().points[1]]);
  });

  /** Two markers on three frames, one of them unseen once. */
  function three(): C3dMarkers {
    return {
      rateHz: 60,
      units: 'mm',
      labels: ['hip', 'ankle'],
      points: [
        Float64Array.from([1.5, 0, 700.25, 2, 0, 701, 3, 0, 702]),
        Float64Array.from([-100, 0, 80, NaN, NaN, NaN, -90.5, 0, 81]),
      ],
      frames: 3,
      events: [{ label: 'TDC', tS: 0.025 }],
    };
  }

  it('is laid out byte by byte as the specification says', () => {
    const bytes = writeC3d(three());
    const v = new DataView(bytes.buffer);
    expect(bytes.length % 512).toBe(0);
    expect([v.getUint8(0), v.getUint8(1)]).toEqual([2, 0x50]);
    expect([2, 4, 6, 8, 10].map((at) => v.getUint16(at, true))).toEqual([2, 0, 1, 3, 0]);
    // Floats: the scale is negative. Then the data's first block, and the rate.
    expect(v.getFloat32(12, true)).toBeLessThan(0);
    const blocks = v.getUint8(514);
    expect(v.getUint16(16, true)).toBe(2 + blocks);
    expect(v.getFloat32(20, true)).toBe(60);
    expect([v.getUint16(298, true), v.getUint16(300, true)]).toEqual([12345, 1]);
    expect(v.getFloat32(304, true)).toBeCloseTo(0.025, 7);
    expect([...bytes.subarray(396, 400)].map((c) => String.fromCharCode(c)).join('')).toBe('TDC ');
    expect([...bytes.subarray(512, 516)]).toEqual([1, 0x50, blocks, 84]);
    // The first group: 5 letters, −1, its name, and an offset to the first parameter that skips the description.
    expect([v.getInt8(516), v.getInt8(517)]).toEqual([5, -1]);
    expect(String.fromCharCode(...bytes.subarray(518, 523))).toBe('POINT');
    const next = 523 + v.getInt16(523, true);
    expect([v.getInt8(next), v.getInt8(next + 1)]).toEqual([4, 1]);
    expect(String.fromCharCode(...bytes.subarray(next + 2, next + 6))).toBe('USED');
    expect([v.getInt8(next + 8), v.getUint8(next + 9), v.getInt16(next + 10, true)]).toEqual([2, 0, 2]);
    // Data: x, y, z, quality; an unseen marker is −1.
    const data = 512 * (1 + blocks);
    expect([0, 4, 8, 12].map((at) => v.getFloat32(data + at, true))).toEqual([1.5, 0, 700.25, 0]);
    expect(v.getFloat32(data + 16 * 3 + 12, true)).toBe(-1);
  });

  it('comes back as it went out, to the float', () => {
    const read = readC3d(writeC3d(three()));
    if (!read.ok) throw new Error(read.message);
    expect(read.markers).toMatchObject({ labels: ['hip', 'ankle'], rateHz: 60, units: 'mm', frames: 3 });
    read.markers.points.forEach((p, i) =>
      expect([...p]).toEqual([...Float32Array.from(three().points[i])].map(Number)),
    );
    expect(read.markers.events[0].tS).toBeCloseTo(0.025, 7);
  });

  it('carries a rider’s tracks in millimetres about the bottom bracket, with a TDC for each turn, and back to the pixel', () => {
    const { rider } = CAST[0].scene;
    const tracks = filmed({ rider, seconds: 4 });
    const reading = readTracks(tracks, { mmPerPx: 2.75, facing: 'right', crankMm: rider.crankMm });
    if (!reading.ok) throw new Error(reading.detail);
    const markers = markersOf(tracks, reading);
    expect(markers.events).toHaveLength(reading.strokes.length + 1);
    const hip = markers.points[markers.labels.indexOf('hip')];
    expect(hip[0]).toBeGreaterThan(rider.hipMm.x - 8);
    expect(hip[0]).toBeLessThan(rider.hipMm.x + 8);
    expect(hip[2]).toBeGreaterThan(rider.hipMm.y - 10);
    expect(hip[2]).toBeLessThan(rider.hipMm.y + 10);
    const read = readC3d(writeC3d(markers));
    if (!read.ok) throw new Error(read.message);
    const back = tracksOfMarkers(read.markers, reading, tracks.tS);
    if (!back.ok) throw new Error(back.message);
    for (const key of ['hip', 'toe'] as const)
      back.tracks.landmarks[key].xPx.forEach((x, i) =>
        expect(x).toBeCloseTo(tracks.landmarks[key].xPx[i], 3),
      );
    // The same figures come of it.
    const again = readTracks(back.tracks, { mmPerPx: 2.75, facing: 'right', crankMm: rider.crankMm });
    expect(again.ok && again.angles.kneeFlexionDeg!.min).toBeCloseTo(reading.angles.kneeFlexionDeg!.min, 2);
    expect(tracksOfMarkers(read.markers, reading, tracks.tS.slice(1)).ok).toBe(false);
  });

  it('resamples a film with uneven stamps to an even rate', () => {
    const { rider } = CAST[0].scene;
    const stamps = Array.from({ length: 240 }, (_, i) => i / 60 + (i % 3 === 1 ? 0.007 : 0));
    const tracks = filmed({ rider, stamps });
    const even = filmed({ rider, seconds: 4 });
    const options = { mmPerPx: 2.75, facing: 'right', crankMm: rider.crankMm } as const;
    const [a, b] = [readTracks(tracks, options), readTracks(even, options)];
    if (!a.ok || !b.ok) throw new Error('no reading');
    const [p, q] = [markersOf(tracks, a), markersOf(even, b)];
    const k = p.labels.indexOf('ankle');
    // On the even grid the ankle is where it was, to a millimetre, wherever both rates agree.
    expect(p.rateHz).toBeGreaterThan(50);
    const at = (m: C3dMarkers, tS: number): number => m.points[k][3 * Math.round(tS * m.rateHz) + 2];
    for (const t of [1, 1.5, 2]) expect(Math.abs(at(p, t) - at(q, t))).toBeLessThan(12);
  });

  it.each([
    ['a text', new TextEncoder().encode('frame,t_s,hip_x_px'.padEnd(2000)), /no C3D file/],
    ['too short', writeC3d(three()).slice(0, 700), /no C3D file|cut short/],
    ['data missing', byHand(84).slice(0, 1040), /cut short: 3 frames are promised/],
  ])('says what is wrong with %s', (_, bytes, words) => {
    const read = readC3d(bytes);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.message).toMatch(words);
  });
});
