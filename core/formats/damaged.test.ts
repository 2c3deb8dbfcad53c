import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { seededRandom } from '../../sim/random.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { RECORD_VERSIONS } from '../records/migrations.ts';
import { checkRecord } from '../records/schemas.ts';
import { readTracks } from '../kinematics/read.ts';
import { parseAnglesCsv, writeAnglesCsv } from './angles.ts';
import { inspectBundle } from './inspectBundle.ts';
import { writeBundle } from './bundle.ts';
import { readC3d, writeC3d } from './c3d.ts';
import { parseMatCsv, parseTrainerCsv } from './devicesCsv.ts';
import { parsePartsCsv, writePartsCsv } from './partsCsv.ts';
import { parsePlanLog, writePlanLog } from './planLog.ts';
import { parseProtocols, writeProtocols } from './protocolsJson.ts';
import { markersOf } from './trackMarkers.ts';
import { parseTracksCsv, writeTracksCsv } from './tracksCsv.ts';

// Files come back from mail, sticks and spreadsheets cut short, swapped and half overwritten. Whatever is done to one of ours, it is either
// read as something that fits, or refused with a sentence; never an exception, never something that no record may hold.

const tracks = filmed({ rider: CAST[0].scene.rider, seconds: 2.4, rate: 40 });
const reading = readTracks(tracks, {
  mmPerPx: FILMED_MM_PER_PX,
  facing: 'right',
  crankMm: CAST[0].scene.rider.crankMm,
});
if (!reading.ok) throw new Error(reading.detail);
const visit = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;

type Answer = { ok: boolean; message?: string };
const TEXTS: [name: string, good: string, read: (text: string) => Answer, fits: (text: string) => void][] = [
  [
    'tracks',
    writeTracksCsv(tracks),
    parseTracksCsv,
    (text) => {
      const r = parseTracksCsv(text);
      if (!r.ok) return;
      const n = r.tracks.tS.length;
      for (const track of Object.values(r.tracks.landmarks)) expect(track.xPx.length).toBe(n);
      // A camera may tell one time twice; none goes back, and every one is a number.
      for (let i = 1; i < n; i += 1) expect(r.tracks.tS[i]).toBeGreaterThanOrEqual(r.tracks.tS[i - 1]);
      expect([...r.tracks.tS].every(Number.isFinite)).toBe(true);
    },
  ],
  [
    'angles',
    writeAnglesCsv(reading),
    parseAnglesCsv,
    (text) => expect(parseAnglesCsv(text)).toHaveProperty('ok'),
  ],
  [
    'parts',
    writePartsCsv(DEMO_PARTS.parts),
    (text) => parsePartsCsv(text, () => 'id'),
    (text) => {
      let k = 0;
      const r = parsePartsCsv(text, () => `p${(k += 1)}`);
      if (r.ok)
        expect(checkRecord('parts', { version: RECORD_VERSIONS.parts, parts: r.parts, removed: [] }).ok).toBe(
          true,
        );
    },
  ],
  [
    'plan and log',
    writePlanLog(visit),
    parsePlanLog,
    (text) => {
      const r = parsePlanLog(text);
      // What was taken in can be written again.
      if (r.ok) expect(r.log.plans.every((p) => Array.isArray(p.lines))).toBe(true);
    },
  ],
  [
    'protocols',
    writeProtocols([{ ...PROTOCOLS[0], id: 'own' }]),
    parseProtocols,
    (text) => {
      const r = parseProtocols(text);
      if (r.ok)
        expect(
          checkRecord('protocols', { version: RECORD_VERSIONS.protocols, protocols: r.protocols }).ok,
        ).toBe(true);
    },
  ],
  ['trainer', 't_s,power_w,cadence_rpm\n0,150,90\n1,151,91\n2,149,90\n', parseTrainerCsv, () => undefined],
  [
    'mat',
    't_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa,r2c2_kpa\n0,15,1,2,3,4\n1,15,1,2,3,4\n',
    parseMatCsv,
    () => undefined,
  ],
];

/** Something done to a text, as accidents do it. */
function damaged(text: string, random: () => number): string {
  const at = (n: number): number => Math.floor(n * random());
  const from = at(text.length);
  const to = Math.min(text.length, from + 1 + at(40));
  const lines = text.split('\n');
  const odd = [
    '',
    '"',
    ',',
    ';',
    'NaN',
    '1e999',
    '-',
    '\u0000',
    '{',
    ']',
    'null',
    '9'.repeat(30),
    '\ufeff',
    '\r',
    '<b>',
  ];
  const cases = [
    () => text.slice(0, from),
    () => text.slice(0, from) + text.slice(to),
    () => text.slice(0, from) + odd[at(odd.length)] + text.slice(to),
    () => text.slice(0, from) + odd[at(odd.length)] + text.slice(from),
    () => lines.filter((_, i) => i !== at(lines.length)).join('\n'),
    () => [...lines.slice(0, 2), ...lines.slice(1)].join('\n'),
    () => text.replaceAll(',', ';'),
    () => text.replaceAll('.', ','),
    () => text.slice(from, to).repeat(3) + text,
    () => [...text].reverse().join(''),
  ];
  return cases[at(cases.length)]();
}

describe('a damaged text', () => {
  for (const [name, good, read, fits] of TEXTS)
    it(`of ${name} is read as something that fits, or refused with a sentence`, () => {
      expect(read(good).ok, 'whole').toBe(true);
      const random = seededRandom(77);
      let refused = 0;
      for (let n = 0; n < 250; n += 1) {
        let text = damaged(good, random);
        if (random() < 0.4) text = damaged(text, random);
        const answer = read(text);
        fits(text);
        if (answer.ok) continue;
        refused += 1;
        expect(answer.message!.length, text.slice(0, 200)).toBeGreaterThan(10);
      }
      // The damage is real: much of it has to be refused.
      expect(refused).toBeGreaterThan(40);
    });
});

describe('damaged bytes', () => {
  const random = seededRandom(5);
  const harmed = (bytes: Uint8Array): Uint8Array => {
    const out = bytes.slice(0, random() < 0.3 ? Math.floor(bytes.length * random()) : bytes.length);
    for (let k = 0; k < 1 + 12 * random(); k += 1)
      // Headers matter most: half of the hits go there.
      if (out.length)
        out[Math.floor((random() < 0.5 ? Math.min(1200, out.length) : out.length) * random())] = Math.floor(
          256 * random(),
        );
    return out;
  };
  it('of C3D markers are read with as many places as frames, or refused with a sentence', () => {
    const good = writeC3d(markersOf(tracks, reading));
    expect(readC3d(good).ok).toBe(true);
    for (let n = 0; n < 400; n += 1) {
      const r = readC3d(harmed(good));
      if (r.ok) {
        const { frames, points, labels } = r.markers;
        expect(points.length).toBe(labels.length);
        for (const p of points) expect(p.length).toBe(3 * frames);
      } else expect(r.message.length).toBeGreaterThan(10);
    }
  });
  it(
    'of a backup give only records that fit, and a line for what does not',
    { timeout: 60_000 },
    async () => {
      const good = await writeBundle({
        riders: CATALOGUE.riders.slice(0, 1),
        bikes: CATALOGUE.bikes.filter((b) => b.riderId === CATALOGUE.riders[0].id),
        sessions: CATALOGUE.sessions.filter((s) => s.riderId === CATALOGUE.riders[0].id),
        studio: CATALOGUE.studio,
        tracks: new Map([['t1', tracks]]),
        clips: new Map(),
      });
      const blob = (bytes: Uint8Array): Blob => new Blob([bytes as Uint8Array<ArrayBuffer>]);
      const whole = await inspectBundle(blob(good));
      expect(whole.faults).toEqual([]);
      let faulty = 0;
      for (let n = 0; n < 60; n += 1) {
        const found = await inspectBundle(blob(harmed(good)));
        for (const r of found.riders) expect(checkRecord('rider', r).ok).toBe(true);
        for (const s of found.sessions) expect(checkRecord('session', s).ok).toBe(true);
        for (const s of found.sessions) expect(found.riders.map((r) => r.id)).toContain(s.riderId);
        faulty += Number(found.faults.length > 0);
        for (const f of found.faults) expect(f.why.length).toBeGreaterThan(5);
      }
      expect(faulty).toBeGreaterThan(20);
      // One bit anywhere: what comes back is what was packed, or is listed as damaged.
      const [random, losses] = [seededRandom(77), { listed: 0, same: 0 }];
      for (let n = 0; n < 120; n += 1) {
        const flipped = good.slice();
        flipped[Math.floor(random() * flipped.length)] ^= 1 << Math.floor(8 * random());
        const found = await inspectBundle(blob(flipped));
        for (const r of found.riders) expect(r).toEqual(whole.riders[0]);
        for (const s of found.sessions) expect(s).toEqual(whole.sessions.find((q) => q.id === s.id));
        for (const t of found.tracks.values()) expect(t).toEqual(whole.tracks.get('t1'));
        losses[found.faults.length > 0 ? 'listed' : 'same'] += 1;
        if (found.faults.length === 0) expect(found).toEqual(whole);
      }
      expect(losses.listed).toBeGreaterThan(40);
    },
  );
});
