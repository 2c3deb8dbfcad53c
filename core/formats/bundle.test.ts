import { deflateRawSync } from 'node:zlib';
import CRC32 from 'crc-32';
import { Zip, zipSync, type ZipInputFile, type Zippable } from 'fflate';
import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { seededRandom } from '../../sim/random.ts';
import { emptyTracks } from '../tracking/tracks.ts';
import { joined } from './bytes.ts';
import { clipsOfBundle, inspectBundle, type Inspection } from './inspectBundle.ts';
import { entryOf } from './unpackBundle.ts';
import { planImport } from './planImport.ts';
import { writeBundle, type Bundle } from './bundle.ts';

const [maren, idris] = CATALOGUE.riders;
const idrisVisit = CATALOGUE.sessions.find((s) => s.riderId === 'idris')!;
const marenVisit = CATALOGUE.sessions.find((s) => s.riderId === 'maren')!;
const takeId = idrisVisit.takes[0].id;

const blob = (bytes: Uint8Array): Blob => new Blob([bytes as Uint8Array<ArrayBuffer>]);
const inspect = (bytes: Uint8Array): Promise<Inspection> => inspectBundle(blob(bytes));
const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const json = (v: unknown): Uint8Array => text(JSON.stringify(v));
const film = Uint8Array.from({ length: 300_000 }, (_, i) => (i * 7919) % 251);

async function studio(): Promise<Uint8Array> {
  const tracks = emptyTracks([0, 0.02], ['hip']);
  tracks.landmarks.hip.xPx.set([1.5, NaN]);
  tracks.landmarks.hip.yPx.set([2.5, NaN]);
  const bundle: Bundle = {
    riders: [maren, idris],
    bikes: CATALOGUE.bikes.filter((b) => ['maren', 'idris'].includes(b.riderId)),
    sessions: [marenVisit, idrisVisit],
    studio: CATALOGUE.studio,
    parts: DEMO_PARTS,
    tracks: new Map([[takeId, tracks]]),
    clips: new Map([[takeId, film]]),
  };
  return writeBundle(bundle);
}

describe('a backup', () => {
  it('comes back as it went: records, tracks, film to the byte', async () => {
    const bytes = await studio();
    const back = await inspect(bytes);
    expect(back.faults).toEqual([]);
    expect(back.riders).toEqual([maren, idris]);
    expect(back.sessions).toEqual([marenVisit, idrisVisit]);
    expect(back.bikes.map((b) => b.riderId)).toEqual(['maren', 'idris']);
    expect(back.studio).toEqual(CATALOGUE.studio);
    expect(back.parts).toEqual(DEMO_PARTS);
    expect([...back.tracks.get(takeId)!.landmarks.hip.xPx]).toEqual([1.5, NaN]);
    const clips = new Map<string, Uint8Array>();
    await clipsOfBundle(blob(bytes), new Set([takeId]), (id, b) => clips.set(id, b));
    expect([...clips.keys()]).toEqual([takeId]);
    expect(Buffer.compare(clips.get(takeId)!, film)).toBe(0);
  });
  it('adds what is missing, goes over what is here or comes in beside', async () => {
    const back = await inspect(await studio());
    let n = 0;
    const here = new Map([
      [idrisVisit.id, 'idris'],
      [idrisVisit.bikeId, 'idris'],
    ]);
    const plan = (mode: 'add' | 'over' | 'both', owners = here) =>
      planImport(back, { here: new Set(['idris']), duplicates: mode, newId: () => `new${(n += 1)}`, owners });
    const added = plan('add');
    expect(added.riders.map((r) => r.id)).toEqual(['maren']);
    expect(added.sessions).toEqual([marenVisit]);
    expect(added.bikes.map((b) => b.riderId)).toEqual(['maren']);
    expect([...added.takes.keys()]).not.toContain(takeId);
    // A visit of a rider who is here, erased meanwhile: it comes back under its own id, the rider stays as it is.
    expect(plan('add', new Map()).sessions).toEqual([marenVisit, idrisVisit]);
    expect(plan('add', new Map()).riders.map((r) => r.id)).toEqual(['maren']);
    expect(plan('over')).toMatchObject({
      riders: [{ id: 'maren' }, { id: 'idris' }],
      sessions: [{ id: marenVisit.id }, { id: idrisVisit.id }],
    });
    const both = plan('both');
    const partner = both.sessions.find((s) => s.takes.some((t) => both.takes.get(t.id) === takeId))!;
    expect(partner.riderId).toBe(both.riders[1].id);
    expect([partner.id, partner.riderId, partner.takes[0].id]).not.toContain('idris');
    expect(both.takes.get(partner.takes[0].id)).toBe(takeId);
    expect(partner.asFound).toEqual(idrisVisit.asFound);
    // The visit goes with the bike's copy, not with the bike that was here.
    expect(both.bikes.find((b) => b.riderId === partner.riderId)!.id).toBe(partner.bikeId);
    expect(partner.bikeId).not.toBe(idrisVisit.bikeId);
  });
});

it('a small file that unpacks to very much is given up early, whatever it is split into', async () => {
  const much = new Uint8Array(45_000_000);
  const packed = deflateRawSync(much, { level: 1 });
  const crc = CRC32.buf(much);
  const parts: Uint8Array[] = [];
  const zip = new Zip((_, part) => parts.push(part));
  for (let k = 0; k < 6; k += 1) {
    const file: ZipInputFile = { filename: `takes/t${k}/tracks.csv`, size: much.length, crc, compression: 8 };
    zip.add(file);
    file.ondata!(null, packed, true);
  }
  zip.end();
  const bytes = joined(parts);
  const { faults, tracks } = await inspect(bytes);
  expect(bytes.length).toBeLessThan(1_500_000);
  expect(tracks.size).toBe(0);
  expect(faults.map((f) => f.why)).toContain(
    'It unpacks to far more than any backup does: the rest is left out.',
  );
});

it('what is left out is listed up to a length that a page can show', async () => {
  const many: Zippable = {};
  for (let k = 0; k < 3000; k += 1) many[`n${k}`] = new Uint8Array(0);
  const { faults } = await inspect(zipSync(many, { level: 0 }));
  expect(faults.length).toBe(2000);
});

it('a visit taken in beside keeps its pairs, its baseline, its removed films and the visit it follows, all by their new ids', async () => {
  const [first] = idrisVisit.takes;
  const again = { ...first, id: 'again', baselineOf: first.id, pairWith: 'gone' };
  const gone = { ...first, id: 'gone', pairWith: 'again' };
  const later = {
    ...idrisVisit,
    id: 'later',
    followsId: idrisVisit.id,
    takes: [
      { ...first, id: 'l1' },
      { ...again, id: 'l2', baselineOf: 'l1', pairWith: 'l3' },
    ],
    removedTakes: [{ take: { ...gone, id: 'l3', pairWith: 'l2' }, removedIso: '2027-11-22T10:00:00Z' }],
    takeId: 'l2',
  };
  const bundle: Bundle = {
    riders: [idris],
    bikes: [],
    sessions: [idrisVisit, later],
    tracks: new Map(),
    clips: new Map([['l3', film]]),
  };
  const back = await inspect(await writeBundle(bundle));
  let n = 0;
  const owners = new Map([idrisVisit.id, 'later', 'l1', 'l2', 'l3', first.id].map((id) => [id, 'idris']));
  const plan = planImport(back, {
    here: new Set(['idris']),
    duplicates: 'both',
    newId: () => `new${(n += 1)}`,
    owners,
  });
  const copy = plan.sessions.find((s) => s.removedTakes.length > 0)!;
  const [a, b] = copy.takes;
  const removed = copy.removedTakes[0].take;
  expect(copy.followsId).toBe(plan.sessions.find((s) => s !== copy)!.id);
  expect(b.baselineOf).toBe(a.id);
  expect([b.pairWith, removed.pairWith]).toEqual([removed.id, b.id]);
  expect(copy.takeId).toBe(b.id);
  expect(plan.takes.get(removed.id)).toBe('l3');
  for (const id of [a.id, b.id, removed.id]) expect(owners.has(id)).toBe(false);
});

it('never writes over a visit or a film of another rider that happens to have the same id', async () => {
  const back = await inspect(await studio());
  const owners = new Map([
    [idrisVisit.id, 'somebody'],
    [takeId, 'somebody'],
    [marenVisit.id, 'maren'],
  ]);
  let n = 0;
  const plan = planImport(back, {
    here: new Set(['maren']),
    duplicates: 'over',
    newId: () => `new${(n += 1)}`,
    owners,
  });
  const [ofMaren, ofIdris] = plan.sessions;
  expect(ofMaren.id).toBe(marenVisit.id);
  expect(ofIdris).toMatchObject({ riderId: 'idris', id: expect.stringMatching(/^new/) });
  expect(ofIdris.takes[0].id).toMatch(/^new/);
  expect(plan.takes.get(ofIdris.takes[0].id)).toBe(takeId);
});

/** A good backup with one file broken or added. */
const withFile = (name: string, content: Uint8Array): Uint8Array =>
  zipSync({
    'riders/maren.json': json(maren),
    'sessions/maren-1.json': json(marenVisit),
    [name]: content,
  } as Zippable);

const visit = (change: object): Uint8Array => json({ ...idrisVisit, ...change });
const deep = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);

/** Each a single thing wrong; the rest of the backup is good and must come through. */
const BAD_ENTRIES: [string, string, Uint8Array][] = [
  ['a path upwards', '../riders/evil.json', json(idris)],
  ['a path upwards inside', 'riders/../../evil.json', json(idris)],
  ['an absolute path', '/etc/passwd', text('root')],
  ['a Windows path', 'riders\\evil.json', json(idris)],
  ['a drive', 'C:/evil.json', json(idris)],
  ['a script for a name', 'riders/<script>alert(1)</script>.json', json(idris)],
  ['a null in the name', 'riders/a\u0000.json', json(idris)],
  ['a very long name', `riders/${'a'.repeat(5000)}.json`, json(idris)],
  ['another kind of file', 'riders/idris.exe', json(idris)],
  ['a page', 'index.html', text('<script>alert(1)</script>')],
  ['a film outside a take', 'film', film],
  ['a prototype for an id', 'riders/__proto__ .json', json(idris)],
  ['not JSON', 'riders/idris.json', text('hello')],
  ['JSON cut short', 'riders/idris.json', text('{"version":2,"id":"idr')],
  [
    'NaN for a number',
    'sessions/idris-1.json',
    text(JSON.stringify(idrisVisit).replace(/"stackMm":\d+/, '"stackMm":NaN')),
  ],
  [
    'Infinity',
    'sessions/idris-1.json',
    text(JSON.stringify(idrisVisit).replace(/"stackMm":\d+/, '"stackMm":1e999')),
  ],
  ['an empty file', 'riders/idris.json', new Uint8Array(0)],
  ['binary', 'riders/idris.json', Uint8Array.from([0xff, 0xfe, 0, 1, 2, 3])],
  ['nothing but brackets', 'riders/idris.json', text(deep(200))],
  ['null', 'riders/idris.json', json(null)],
  ['a number', 'riders/idris.json', json(7)],
  ['a string', 'riders/idris.json', json('idris')],
  ['a list', 'riders/idris.json', json([idris])],
  ['an empty object', 'riders/idris.json', json({})],
  ['no version', 'riders/idris.json', json({ ...idris, version: undefined })],
  ['a version in words', 'riders/idris.json', json({ ...idris, version: 'two' })],
  ['version 0', 'riders/idris.json', json({ ...idris, version: 0 })],
  ['a newer version', 'riders/idris.json', json({ ...idris, version: 99 })],
  ['no name', 'riders/idris.json', json({ ...idris, name: undefined })],
  ['an empty name', 'riders/idris.json', json({ ...idris, name: '' })],
  ['a name of a million letters', 'riders/idris.json', json({ ...idris, name: 'x'.repeat(900_000) })],
  ['a name that is an object', 'riders/idris.json', json({ ...idris, name: { first: 'I' } })],
  ['another id inside', 'riders/idris.json', json({ ...idris, id: 'other' })],
  ['an id with a path', 'riders/idris.json', json({ ...idris, id: '../x' })],
  ['a date in words', 'riders/idris.json', json({ ...idris, createdIso: 'yesterday' })],
  ['one key too many', 'riders/idris.json', json({ ...idris, admin: true })],
  [
    'a prototype',
    'riders/idris.json',
    text(JSON.stringify(idris).replace('{', '{"__proto__":{"admin":true},')),
  ],
  ['far too large', 'riders/idris.json', json({ ...idris, note: 'n'.repeat(3_000_000) })],
  ['twenty megabytes of JSON', 'sessions/idris-1.json', text(`{"a":"${'0'.repeat(20_000_000)}"}`)],
  ['a visit of nobody', 'sessions/idris-1.json', json(idrisVisit)],
  ['a visit without intake', 'sessions/idris-1.json', visit({ riderId: 'maren', intake: undefined })],
  [
    'a negative wheelbase',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      asFound: { ...idrisVisit.asFound, frame: { ...idrisVisit.asFound.frame, wheelbaseMm: -5 } },
    }),
  ],
  [
    'a length in words',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      asFound: { ...idrisVisit.asFound, crank: { lengthMm: '175', qFactorMm: null } },
    }),
  ],
  [
    'a test that does not exist',
    'sessions/idris-1.json',
    visit({ riderId: 'maren', body: { results: { magic: {} }, adjustmentsOff: [] } }),
  ],
  [
    'a complaint of a tail',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      intake: {
        ...idrisVisit.intake,
        complaints: [
          {
            id: 'a',
            region: 'tail',
            side: 'both',
            severity: 5,
            onset: 'after',
            since: '',
            eases: '',
            goneIso: null,
          },
        ],
      },
    }),
  ],
  [
    'a pain of 11',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      intake: { ...idrisVisit.intake, complaints: [{ ...idrisVisit.intake.complaints[0], severity: 11 }] },
    }),
  ],
  [
    'marks as a list',
    'sessions/idris-1.json',
    visit({ riderId: 'maren', takes: [{ ...idrisVisit.takes[0], marks: [] }] }),
  ],
  [
    'a film from another place',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      takes: [{ ...idrisVisit.takes[0], demo: { clipUrl: 'https://example.org/a.webm', tracksUrl: null } }],
    }),
  ],
  ['a bike of nobody', 'bikes/b.json', json({ ...CATALOGUE.bikes[1], id: 'b', riderId: 'nobody' })],
  ['a bike of another shape', 'bikes/idris-bike.json', json({ ...CATALOGUE.bikes[1], name: 7 })],
  ['a studio in an unknown unit', 'studio.json', json({ ...CATALOGUE.studio, lengthUnit: 'ell' })],
  ['a parts bin without parts', 'parts.json', json({ version: 1 })],
  [
    'a change of nothing',
    'sessions/idris-1.json',
    visit({
      riderId: 'maren',
      changes: [{ id: 'c', madeIso: '2026-11-01T10:00:00.000Z', values: [], word: null, putBackIso: null }],
    }),
  ],
  [
    'a follow-up on no day',
    'sessions/idris-1.json',
    visit({ riderId: 'maren', followUps: [{ id: 'f', due: 'soon', why: '', doneIso: null }] }),
  ],
  ['tracks without a header', `takes/${takeId}/tracks.csv`, text('1,2,3')],
  ['tracks with words', `takes/${takeId}/tracks.csv`, text('frame,t_s,hip_x_px,hip_y_px\n0,0,here,there')],
  [
    'tracks that go back in time',
    `takes/${takeId}/tracks.csv`,
    text('frame,t_s,hip_x_px,hip_y_px\n0,1,1,1\n1,0,1,1'),
  ],
  ['empty tracks', `takes/${takeId}/tracks.csv`, new Uint8Array(0)],
];

describe('hostile and broken backups do no harm', () => {
  it.each(BAD_ENTRIES)('%s', async (_, name, content) => {
    const back = await inspect(withFile(name, content));
    expect(back.faults).toHaveLength(1);
    expect(back.faults[0].why.length).toBeGreaterThan(10);
    expect(back.faults[0].name.length).toBeLessThanOrEqual(200);
    expect(back.riders).toEqual([maren]);
    expect(back.sessions).toEqual([marenVisit]);
    expect(back.tracks.size).toBe(0);
    expect(({} as { admin?: boolean }).admin).toBeUndefined();
  });

  const good = zipSync({ 'riders/maren.json': json(maren), 'riders/idris.json': json(idris) });
  it.each([
    ['an empty file', new Uint8Array(0), 'empty'],
    ['a text', text('Dear fitter,'), 'not a zip'],
    ['a picture', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]), 'not a zip'],
    ['an empty zip', zipSync({}), 'no riders'],
    ['a zip of something else', zipSync({ 'a.txt': text('a') }), 'no part of a backup'],
    ['a zip cut in the middle of a record', good.subarray(0, 120), 'cut short'],
    ['a zip of zips', zipSync({ 'riders.zip': good }), 'no part of a backup'],
    ['only folders', zipSync({ riders: {} }), 'no riders'],
  ])('%s', async (_, bytes, why) => {
    const back = await inspect(bytes);
    expect(back.faults.map((f) => f.why).join()).toContain(why);
    expect(back.riders.length + back.sessions.length).toBe(0);
  });

  it('garbled bytes never throw, and never let a broken record through', async () => {
    const random = seededRandom(5);
    for (let k = 0; k < 60; k += 1) {
      const bytes = good.slice();
      for (let n = 0; n < 12; n += 1)
        bytes[4 + Math.floor(random() * (bytes.length - 4))] = Math.floor(random() * 256);
      const back = await inspect(bytes);
      for (const r of back.riders) expect(Object.keys(r).sort()).toEqual(Object.keys(maren).sort());
    }
  });

  it('knows its own names and no others', () => {
    expect(entryOf('riders/maren.json')).toEqual({ kind: 'rider', id: 'maren' });
    expect(entryOf('takes/a-b_C9/film')).toEqual({ kind: 'clip', id: 'a-b_C9' });
    for (const name of [
      'riders/.json',
      'riders/a.json/',
      'riders/a.json\n',
      'takes//film',
      'Riders/a.json',
      'takes/a/b/film',
    ])
      expect(entryOf(name), name).toBeNull();
  });
});
