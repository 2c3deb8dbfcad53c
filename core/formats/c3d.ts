import { joined } from './bytes.ts';

/**
 * Markers in the motion-capture laboratories' public binary format C3D (C3D User Guide, c3d.org): blocks of 512 bytes, a header,
 * a parameter section, then frames. Written as 32-bit floats in little-endian order; read as floats or scaled integers, in either
 * byte order.
 */
export interface C3dMarkers {
  rateHz: number;
  units: string;
  labels: string[];
  /** By marker, then frame: x, y, z; NaN where it was not seen. */
  points: Float64Array[];
  frames: number;
  /** Times from the first frame, s. */
  events: { label: string; tS: number }[];
}

export type C3dResult = { ok: true; markers: C3dMarkers } | { ok: false; message: string };

const BLOCK = 512;
const INTEL = 84;
const DEC = 85;
const MIPS = 86;
/** Events that the header has room for; the EVENT group holds all of them. */
const HEADER_EVENTS = 18;
/** And its parameters count them in one byte. */
const MOST_EVENTS = 127;
const MOST_FRAMES = 65_535;

type Value =
  | { type: 'char'; dims: number[]; text: string }
  | { type: 'int' | 'byte' | 'float'; dims: number[]; numbers: number[] };

const pad = (text: string, to: number): string => text.slice(0, to).padEnd(to, ' ');
const strings = (list: readonly string[]): Value => {
  const width = Math.max(1, ...list.map((s) => s.length));
  return { type: 'char', dims: [width, list.length], text: list.map((s) => pad(s, width)).join('') };
};
const int = (...numbers: number[]): Value => ({
  type: 'int',
  dims: numbers.length === 1 ? [] : [numbers.length],
  numbers,
});
const float = (...numbers: number[]): Value => ({
  type: 'float',
  dims: numbers.length === 1 ? [] : [numbers.length],
  numbers,
});

const BYTES = { char: 1, byte: 1, int: 2, float: 4 } as const;
const TYPE_CODE = { char: -1, byte: 1, int: 2, float: 4 } as const;

/** Latin letters only: the format knows no others. */
const plain = (text: string): string => text.replace(/[^\x20-\x7e]/g, '?');

function parameterBytes(
  groups: readonly [name: string, about: string, values: Record<string, Value>][],
): Uint8Array {
  const out: number[] = [];
  const word = (v: number): void => void out.push(v & 255, (v >> 8) & 255);
  const text = (s: string): void => {
    for (const c of plain(s)) out.push(c.charCodeAt(0));
  };
  groups.forEach(([name, about, values], g) => {
    const id = g + 1;
    out.push(name.length, 256 - id);
    text(name);
    word(3 + about.length);
    out.push(about.length);
    text(about);
    for (const [key, v] of Object.entries(values)) {
      const size = v.dims.reduce((n, d) => n * d, 1) * BYTES[v.type];
      out.push(key.length, id);
      text(key);
      word(2 + 1 + 1 + v.dims.length + size + 1);
      out.push(TYPE_CODE[v.type] & 255, v.dims.length, ...v.dims);
      if (v.type === 'char') text(v.text);
      else
        for (const n of v.numbers) {
          if (v.type === 'byte') out.push(n & 255);
          else if (v.type === 'int') word(n);
          else out.push(...new Uint8Array(new Float32Array([n]).buffer));
        }
      out.push(0);
    }
  });
  // A name of no length ends the section.
  out.push(0, 0);
  const blocks = Math.ceil((out.length + 4) / BLOCK);
  const bytes = new Uint8Array(blocks * BLOCK);
  bytes.set([1, 0x50, blocks, INTEL]);
  bytes.set(out, 4);
  return bytes;
}

/** What a C3D file says of itself before its data. @param dataStart block in which the data begin */
function parameters(m: C3dMarkers, dataStart: number): Uint8Array {
  const events = m.events.slice(0, MOST_EVENTS);
  return parameterBytes([
    [
      'POINT',
      'Markers',
      {
        USED: int(m.labels.length),
        SCALE: float(-0.1),
        RATE: float(m.rateHz),
        DATA_START: int(dataStart),
        FRAMES: int(m.frames),
        LABELS: strings(m.labels),
        DESCRIPTIONS: strings(m.labels),
        UNITS: strings([m.units]),
        X_SCREEN: strings(['+X']),
        Y_SCREEN: strings(['+Z']),
      },
    ],
    ['ANALOG', 'None', { USED: int(0), GEN_SCALE: float(1), RATE: float(m.rateHz) }],
    ['FORCE_PLATFORM', 'None', { USED: int(0) }],
    [
      'EVENT',
      'Top dead centres',
      events.length
        ? {
            USED: int(events.length),
            CONTEXTS: strings(events.map(() => 'General')),
            LABELS: strings(events.map((e) => e.label)),
            // Minutes and seconds of each.
            TIMES: {
              type: 'float',
              dims: [2, events.length],
              numbers: events.flatMap((e) => [Math.floor(e.tS / 60), e.tS % 60]),
            },
          }
        : { USED: int(0) },
    ],
  ]);
}

function headerBytes(m: C3dMarkers, dataStart: number): Uint8Array {
  const header = new DataView(new ArrayBuffer(BLOCK));
  const word = (k: number, v: number): void => header.setUint16(2 * (k - 1), v, true);
  header.setUint8(0, 2);
  header.setUint8(1, 0x50);
  word(2, m.labels.length);
  word(3, 0);
  word(4, 1);
  word(5, m.frames);
  word(6, 0);
  header.setFloat32(12, -0.1, true);
  word(9, dataStart);
  word(10, 0);
  header.setFloat32(20, m.rateHz, true);
  // Labels of events have four letters.
  word(150, 12345);
  const shown = m.events.slice(0, HEADER_EVENTS);
  word(151, shown.length);
  shown.forEach((e, i) => {
    header.setFloat32(2 * 152 + 4 * i, e.tS, true);
    // Display flag 0: on.
    header.setUint8(2 * 188 + i, 0);
    for (const [k, c] of [...pad(plain(e.label), 4)].entries())
      header.setUint8(2 * 198 + 4 * i + k, c.charCodeAt(0));
  });
  return new Uint8Array(header.buffer);
}

/** Every marker on every frame; one that was not seen has a residual of −1. */
function dataBytes(m: C3dMarkers): Uint8Array {
  const n = m.labels.length;
  const data = new DataView(new ArrayBuffer(Math.ceil((m.frames * n * 16) / BLOCK) * BLOCK));
  for (let f = 0; f < m.frames; f += 1) {
    for (let p = 0; p < n; p += 1) {
      const at = 16 * (f * n + p);
      const [x, y, z] = m.points[p].subarray(3 * f, 3 * f + 3);
      const seen = Number.isFinite(x) && Number.isFinite(y) && Number.isFinite(z);
      data.setFloat32(at, seen ? x : 0, true);
      data.setFloat32(at + 4, seen ? y : 0, true);
      data.setFloat32(at + 8, seen ? z : 0, true);
      data.setFloat32(at + 12, seen ? 0 : -1, true);
    }
  }
  return new Uint8Array(data.buffer);
}

/**
 * Writes markers with their events as a C3D file.
 * @throws RangeError where there are more frames or markers than the format can count (65 535 and 255)
 */
export function writeC3d(m: C3dMarkers): Uint8Array {
  const n = m.labels.length;
  if (m.frames > MOST_FRAMES || n > 255 || n === 0 || m.frames === 0)
    throw new RangeError(`A C3D file holds 1 to 255 markers and 1 to ${MOST_FRAMES} frames.`);
  // The parameters are as long whatever the place of the data is.
  const dataStart = 2 + parameters(m, 0).length / BLOCK;
  return joined([headerBytes(m, dataStart), parameters(m, dataStart), dataBytes(m)]);
}

/** A file's numbers in its own byte order. */
interface Numbers {
  word: (at: number) => number;
  short: (at: number) => number;
  float: (at: number) => number;
}

function numbersOf(view: DataView, processor: number): Numbers {
  const little = processor !== MIPS;
  return {
    word: (at) => view.getUint16(at, little),
    short: (at) => view.getInt16(at, little),
    float(at) {
      if (processor !== DEC) return view.getFloat32(at, little);
      // DEC's floats: the halves swapped, the exponent two higher.
      const half = new DataView(new ArrayBuffer(4));
      half.setUint16(0, view.getUint16(at, true));
      half.setUint16(2, view.getUint16(at + 2, true));
      return half.getFloat32(0) / 4;
    },
  };
}

/** The parameters as “GROUP:NAME”; what is cut short ends the list. */
function parametersOf(view: DataView, from: number, read: Numbers): Map<string, Value> {
  const out = new Map<string, Value>();
  const names = new Map<number, string>();
  const found: { group: number; name: string; value: Value }[] = [];
  const letters = (at: number, n: number): string =>
    Array.from({ length: n }, (_, i) => String.fromCharCode(view.getUint8(at + i))).join('');
  let at = from + 4;
  while (at + 2 < view.byteLength) {
    const length = Math.abs(view.getInt8(at));
    const id = view.getInt8(at + 1);
    if (length === 0) break;
    const name = letters(at + 2, length).toUpperCase();
    const offsetAt = at + 2 + length;
    const offset = read.short(offsetAt);
    if (id < 0) names.set(-id, name);
    else {
      const type = view.getInt8(offsetAt + 2);
      const count = view.getUint8(offsetAt + 3);
      const dims = Array.from({ length: count }, (_, i) => view.getUint8(offsetAt + 4 + i));
      const size = dims.reduce((n, d) => n * d, 1);
      const dataAt = offsetAt + 4 + count;
      if (type === -1)
        found.push({ group: id, name, value: { type: 'char', dims, text: letters(dataAt, size) } });
      else {
        const one = (i: number): number =>
          type === 1
            ? view.getUint8(dataAt + i)
            : type === 2
              ? read.short(dataAt + 2 * i)
              : read.float(dataAt + 4 * i);
        found.push({
          group: id,
          name,
          value: {
            type: type === 1 ? 'byte' : type === 2 ? 'int' : 'float',
            dims,
            numbers: Array.from({ length: size }, (_, i) => one(i)),
          },
        });
      }
    }
    if (offset <= 0) break;
    at = offsetAt + offset;
  }
  for (const p of found) out.set(`${names.get(p.group) ?? p.group}:${p.name}`, p.value);
  return out;
}

function listOf(v: Value | undefined): string[] {
  if (!v || v.type !== 'char') return [];
  const [width, count = 1] = v.dims;
  return Array.from({ length: count }, (_, i) => v.text.slice(i * width, (i + 1) * width).trim());
}

const numbersIn = (v: Value | undefined): number[] => (v && v.type !== 'char' ? v.numbers : []);

/** Reads a C3D file's markers and events; analog samples are passed over. */
export function readC3d(bytes: Uint8Array): C3dResult {
  const fail = (message: string): C3dResult => ({ ok: false, message });
  if (bytes.length < 2 * BLOCK || bytes[1] !== 0x50)
    return fail('This is no C3D file: its first bytes are others.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parametersAt = (bytes[0] - 1) * BLOCK;
  if (parametersAt + 4 > bytes.length) return fail('This C3D file is cut short: its parameters are missing.');
  const processor = bytes[parametersAt + 3];
  if (![INTEL, DEC, MIPS].includes(processor))
    return fail(`This C3D file was written by an unknown kind of processor (${processor}).`);
  const read = numbersOf(view, processor);
  try {
    const parameters = parametersOf(view, parametersAt, read);
    const used = read.word(2);
    const analog = read.word(4);
    const frames = read.word(8) - read.word(6) + 1;
    const scale = read.float(12);
    const dataAt = (read.word(16) - 1) * BLOCK;
    const rateHz = read.float(20);
    if (used === 0 || frames < 1) return fail('This C3D file holds no markers.');
    const wide = scale < 0 ? 4 : 2;
    const stride = wide * (4 * used + analog);
    if (dataAt + frames * stride > bytes.length)
      return fail(
        `This C3D file is cut short: ${frames} frames are promised, ${Math.max(0, Math.floor((bytes.length - dataAt) / stride))} are there.`,
      );
    const labels = listOf(parameters.get('POINT:LABELS'));
    const points = Array.from({ length: used }, () => new Float64Array(3 * frames).fill(NaN));
    const value = (at: number): number => (wide === 4 ? read.float(at) : read.short(at) * scale);
    for (let f = 0; f < frames; f += 1) {
      for (let p = 0; p < used; p += 1) {
        const at = dataAt + f * stride + wide * 4 * p;
        const quality = wide === 4 ? read.float(at + 12) : read.short(at + 6);
        if (quality < 0) continue;
        for (let k = 0; k < 3; k += 1) points[p][3 * f + k] = value(at + wide * k);
      }
    }
    const times = numbersIn(parameters.get('EVENT:TIMES'));
    const names = listOf(parameters.get('EVENT:LABELS'));
    const events = names.length
      ? names.map((label, i) => ({ label, tS: 60 * (times[2 * i] ?? 0) + (times[2 * i + 1] ?? 0) }))
      : headerEvents(view, read);
    return {
      ok: true,
      markers: {
        rateHz,
        units: listOf(parameters.get('POINT:UNITS'))[0] ?? 'mm',
        labels: points.map((_, i) => labels[i] || `marker${i + 1}`),
        points,
        frames,
        events,
      },
    };
  } catch (error) {
    if (error instanceof RangeError) return fail('This C3D file is cut short or damaged.');
    throw error;
  }
}

function headerEvents(view: DataView, read: Numbers): C3dMarkers['events'] {
  if (read.word(2 * 149) !== 12345) return [];
  const count = Math.min(HEADER_EVENTS, read.word(2 * 150));
  return Array.from({ length: count }, (_, i) => ({
    label: Array.from({ length: 4 }, (_, k) => String.fromCharCode(view.getUint8(2 * 198 + 4 * i + k)))
      .join('')
      .trim(),
    tS: read.float(2 * 152 + 4 * i),
  }));
}
