import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { patchesBetween, reversed, withPatches } from '../visit/patches.ts';
import { applyEdit, type SessionEdit } from '../visit/edits.ts';
import { MIGRATIONS, RECORD_VERSIONS, type RecordKind, upToDate } from './migrations.ts';
import { withValue } from '../visit/withValue.ts';
import { checkRecord } from './schemas.ts';
import { openTake, type FitSession, type Take } from './types.ts';
import { moved, setupNow } from '../visit/setups.ts';
import { isDue, nextVisit } from '../visit/visits.ts';

const visit = CATALOGUE.sessions.find((s) => s.riderId === 'idris')!;
/** With the film from the side alone. */
const idris = { ...visit, takes: visit.takes.slice(-1) };
/** Before anything was filmed. */
const maren: FitSession = {
  ...CATALOGUE.sessions.find((s) => s.riderId === 'maren')!,
  takes: [],
  takeId: null,
};

const takeId = idris.takes[0].id;

function mustEdit(session: FitSession, edit: unknown): FitSession {
  const result = applyEdit(session, edit);
  if (!result.ok) throw new Error(result.message);
  return result.session;
}

it('every record of the demo studio fits its schema', () => {
  for (const r of CATALOGUE.riders) expect(checkRecord('rider', r)).toMatchObject({ ok: true });
  for (const s of CATALOGUE.sessions) expect(checkRecord('session', s)).toMatchObject({ ok: true });
  for (const b of CATALOGUE.bikes) expect(checkRecord('bike', b)).toMatchObject({ ok: true });
  expect(checkRecord('studio', CATALOGUE.studio)).toMatchObject({ ok: true });
});

describe('records', () => {
  it('tells a newer record from a broken one', () => {
    expect(
      checkRecord('session', { ...idris, version: RECORD_VERSIONS.session + 1, surprise: true }),
    ).toMatchObject({ ok: false, reason: 'newer' });
    expect(checkRecord('session', { ...idris, protocolId: 7 })).toMatchObject({
      ok: false,
      reason: 'broken',
    });
    for (const rubbish of [null, undefined, 3, 'x', [], {}])
      expect(checkRecord('session', rubbish)).toMatchObject({ ok: false });
  });
  it('takes no NaN, no unit slip and no path in place of a demo film', () => {
    expect(checkRecord('session', withValue(idris, 'asFound.frame.wheelbaseMm', NaN)).ok).toBe(false);
    expect(checkRecord('session', withValue(idris, 'asFound.frame.wheelbaseMm', 103.2)).ok).toBe(false);
    const take = { ...idris.takes[0], demo: { clipUrl: '/demo/../secret.webm', tracksUrl: null } };
    expect(checkRecord('session', { ...idris, takes: [take] }).ok).toBe(false);
  });
});

/** A record without some of its keys. */
const without = (record: object, ...keys: string[]): Record<string, unknown> =>
  Object.fromEntries(Object.entries(record).filter(([key]) => !keys.includes(key)));

/** A session as it was before films from the front, goniometer readings and the studio's own protocols. */
function session6(s: FitSession): Record<string, unknown> {
  const takes = s.takes.map((t) => without(t, 'cadenceRpm', 'pairWith', 'width'));
  return { ...without(s, 'protocol', 'statics'), version: 6, takes };
}

/** A session as it was while it had one take at the most, of which nothing was said. */
function session5(s: FitSession): Record<string, unknown> {
  const news = ['view', 'position', 'effort', 'effortW', 'note', 'trim', 'corrections', 'hidden'];
  const old = session6(s);
  const [first] = old.takes as object[];
  const take = first ? without(first, ...news) : null;
  return { ...without(old, 'takes', 'takeId'), version: 5, take };
}

/** A session as it was before visits held what was moved, planned and agreed. */
function session4(s: FitSession): Record<string, unknown> {
  const levers = without(s.asFound.levers, 'fromEndMm');
  return {
    ...without(session5(s), 'bikeId', 'current', 'final', 'changes', 'plan', 'followUps'),
    version: 4,
    intake: { ...s.intake, complaints: s.intake.complaints.map((c) => without(c, 'goneIso')) },
    asFound: { ...s.asFound, levers },
  };
}

/** A session before intake, body and bike were stations. */
const withoutStations = (s: FitSession): object =>
  without(session4(s), 'intake', 'body', 'asFound', 'deletedIso');

describe('migrations', () => {
  it('lead without a gap from the first shape to the present one', () => {
    for (const kind of Object.keys(RECORD_VERSIONS) as RecordKind[])
      expect(MIGRATIONS[kind].map((m) => m.to)).toEqual(
        Array.from({ length: RECORD_VERSIONS[kind] - 1 }, (_, i) => i + 2),
      );
  });
  it('session 3: intake, body, and the bike as found in place of three of its numbers', () => {
    const old = {
      ...withoutStations(idris),
      version: 2,
      bike: { wheelbaseMm: 1076, crankMm: 175, seatTubeDeg: 72 },
    };
    const checked = checkRecord('session', old);
    expect(checked).toMatchObject({
      ok: true,
      value: {
        intake: { complaints: [] },
        body: { results: {} },
        asFound: { frame: { wheelbaseMm: 1076, seatAngleDeg: 72 }, crank: { lengthMm: 175 } },
      },
    });
    expect(Object.keys(checked.ok ? checked.value : {})).not.toContain('bike');
  });
  it('rider 2 and session 4: what is deleted lies in the trash since a day', () => {
    const rider = without(CATALOGUE.riders[0], 'deletedIso');
    expect(checkRecord('rider', { ...rider, version: 1 })).toMatchObject({
      ok: true,
      value: { deletedIso: null },
    });
    expect(checkRecord('session', { ...without(session4(idris), 'deletedIso'), version: 3 })).toMatchObject({
      ok: true,
      value: { deletedIso: null },
    });
  });
  it('studio 2: lengths and masses have a unit; studio 3: a name, a fitter and a way to reach them; studio 4: a glance', () => {
    expect(checkRecord('studio', { version: 1, theme: 'dark', jointConvention: 'bend' })).toMatchObject({
      ok: true,
      value: {
        theme: 'dark',
        lengthUnit: 'mm',
        massUnit: 'kg',
        name: '',
        fitter: '',
        contact: '',
        glance: ['kneeFlexionMinDeg', 'hipAngleMinDeg', 'backAngleDeg', 'footPitch180Deg'],
      },
    });
  });
  it('session 13: red flags count as asked where something came of the visit; complaints stand as asked', () => {
    const intake = without(idris.intake, 'flagsAskedIso');
    const complaints = idris.intake.complaints.map((c) => without(c, 'carried'));
    const old = (more: object, redFlags: unknown[] = []) =>
      upToDate('session', {
        ...idris,
        plan: null,
        final: null,
        version: 12,
        intake: { ...intake, redFlags, complaints },
        ...more,
      }) as unknown as FitSession;
    expect(old({}).intake.flagsAskedIso).toBeNull();
    expect(old({ final: idris.asFound }).intake.flagsAskedIso).toBe(idris.startedIso);
    expect(old({}, [{ key: 'chest', acknowledgedIso: null }]).intake.flagsAskedIso).toBe(idris.startedIso);
    expect(old({}).intake.complaints.every((c) => !c.carried)).toBe(true);
    expect(checkRecord('session', old({}))).toMatchObject({ ok: true });
  });
  it('session 14: how the camera moved is kept with its film, and whether its joints are estimated; in the trash as well', () => {
    const [take, ...rest] = idris.takes;
    const then = (t: Take) => ({
      ...without(t, 'cameraPath'),
      tracking: without(t.tracking, 'estimated'),
    });
    const old = {
      ...idris,
      version: 13,
      takes: rest.map(then),
      removedTakes: [{ take: then(take), removedIso: idris.startedIso }],
      takeId: rest[0]?.id ?? null,
    };
    expect(checkRecord('session', old)).toMatchObject({
      ok: true,
      value: {
        takes: rest.map(() => ({ cameraPath: null })),
        removedTakes: [{ take: { cameraPath: null, tracking: { estimated: false } } }],
      },
    });
    const path = (tS: number[], xPx: number[]) =>
      checkRecord('session', { ...idris, takes: [{ ...take, cameraPath: { tS, xPx, yPx: [0, 1] } }] }).ok;
    expect([path([0, 1], [0, 4]), path([0, 1], [0]), path([1, 1], [0, 4])]).toEqual([true, false, false]);
  });
  it('session 15: a change may have been measured while the camera ran', () => {
    const maren = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
    expect(maren.changes.length).toBeGreaterThan(0);
    const old = { ...maren, version: 14, changes: maren.changes.map((c) => without(c, 'measured')) };
    expect(checkRecord('session', old)).toMatchObject({
      ok: true,
      value: { changes: maren.changes.map(() => ({ measured: null })) },
    });
    const knee = { key: 'kneeFlexionMinDeg', before: 38, after: 37.1, uncertainty: 0.5 };
    const measured = { figures: [knee], turnsBefore: 20, turnsAfter: 12, satAnew: false };
    const kept = (m: object) =>
      checkRecord('session', {
        ...maren,
        changes: maren.changes.map((c, k) => (k === 0 ? { ...c, measured: m } : c)),
      }).ok;
    expect(kept(measured)).toBe(true);
    expect(kept({ ...measured, figures: [{ ...knee, after: NaN }] })).toBe(false);
    expect(kept({ ...measured, figures: [knee, knee] })).toBe(false);
  });
  it('rider 4: a rider can be reached; studio 5: paper, days and the usual protocol', () => {
    const rider = without(CATALOGUE.riders[0], 'email', 'phone');
    expect(checkRecord('rider', { ...rider, version: 3 })).toMatchObject({
      ok: true,
      value: { email: '', phone: '' },
    });
    const studio = without(CATALOGUE.studio, 'paper', 'dayFormat', 'protocolId');
    expect(checkRecord('studio', { ...studio, version: 4 })).toMatchObject({
      ok: true,
      value: { paper: 'A4', dayFormat: 'month-name', protocolId: 'long-distance' },
    });
  });
  it('studio 6: prices have a currency, and one that nobody knows comes in nowhere', () => {
    const studio = without(CATALOGUE.studio, 'currency');
    expect(checkRecord('studio', { ...studio, version: 5 })).toMatchObject({
      ok: true,
      value: { currency: 'EUR' },
    });
    expect(checkRecord('studio', { ...CATALOGUE.studio, currency: 'XXQ' }).ok).toBe(false);
  });
  it('studio 7: a remote has keys of its own, the usual ones where nobody chose any', () => {
    const studio = without(CATALOGUE.studio, 'remote');
    expect(checkRecord('studio', { ...studio, version: 6 })).toMatchObject({
      ok: true,
      value: { remote: { next: '', back: '' } },
    });
    const remote = { next: 'F5', back: 'x'.repeat(41) };
    expect(checkRecord('studio', { ...CATALOGUE.studio, remote }).ok).toBe(false);
  });
  it('session 12: a follow-up on the 31st of February is on the month’s last day, and no new one comes in', () => {
    const followUps = [{ id: 'f', due: '2027-02-31', why: 'call', doneIso: null }];
    const old = { ...idris, version: 11, followUps, intake: { ...idris.intake, eventDate: '2027-06-31' } };
    expect(checkRecord('session', old)).toMatchObject({
      ok: true,
      value: { followUps: [{ due: '2027-02-28' }], intake: { eventDate: '2027-06-30' } },
    });
    expect(checkRecord('session', { ...idris, followUps })).toMatchObject({
      ok: false,
      message: expect.stringContaining('no day of the calendar') as string,
    });
    expect(applyEdit(idris, { kind: 'set', at: 'followUps', value: followUps }).ok).toBe(false);
  });
  it('session 7: takes with room for width, cadence and partner; goniometer readings; the protocol’s own version', () => {
    const old = session6(idris);
    const before = structuredClone(old);
    const checked = checkRecord('session', old);
    expect(checked).toMatchObject({ ok: true, value: { protocol: null } });
    if (!checked.ok) return;
    expect(checked.value.statics.kneeFlexionDeg).toEqual({ left: null, right: null, both: null });
    expect(checked.value.takes).toHaveLength(idris.takes.length);
    for (const t of checked.value.takes)
      expect(t).toMatchObject({
        cadenceRpm: null,
        pairWith: null,
        width: { of: 'bar', mm: null, right: null },
      });
    expect(old).toEqual(before);
  });
  it('session 5: about one of the rider’s bikes, with room for what is moved, planned and agreed', () => {
    const old = session4(idris);
    const before = structuredClone(old);
    const checked = checkRecord('session', old);
    expect(checked).toMatchObject({
      ok: true,
      value: { bikeId: 'of-idris', current: null, final: null, changes: [], plan: null, followUps: [] },
    });
    if (!checked.ok) return;
    expect(checked.value.intake.complaints.map((c) => c.goneIso)).toEqual([null]);
    expect(checked.value.asFound.levers).toEqual({ ...idris.asFound.levers, fromEndMm: null });
    // Two visits of one rider agree on the bike; the longest id still fits.
    expect(checkRecord('session', { ...old, id: 'other', riderId: 'x'.repeat(40) })).toMatchObject({
      ok: true,
    });
    expect(old).toEqual(before);
  });
  it('session 2: a take holds the rims of the wheels beside their axles', () => {
    const { rims, ...take } = session5(idris).take as Record<string, unknown>;
    const bike = { wheelbaseMm: 1076, crankMm: 175, seatTubeDeg: 73 };
    const old = { ...withoutStations(idris), version: 1, bike, take };
    const before = structuredClone(old);
    expect(checkRecord('session', old)).toMatchObject({ ok: true, value: { takes: [{ rims: {} }] } });
    expect(old).toEqual(before);
    expect(rims).toBeDefined();
    expect(checkRecord('session', { ...withoutStations(maren), version: 1, bike })).toMatchObject({
      ok: true,
      value: { takes: [], takeId: null },
    });
  });
});

describe('visits and the trash', () => {
  it('the next visit starts from the last, without film, consent or anything shared', () => {
    const before = structuredClone(idris);
    const next = nextVisit(idris, 'idris-2', '2027-01-11T09:00:00.000Z');
    expect(checkRecord('session', next)).toMatchObject({ ok: true });
    expect(next).toMatchObject({
      id: 'idris-2',
      riderId: 'idris',
      takes: [],
      takeId: null,
      intake: { filmConsent: null },
    });
    expect(next.asFound).toEqual(idris.asFound);
    expect(next.bikeId).toBe(idris.bikeId);
    // They are asked about anew.
    expect(next.intake.complaints).toEqual(idris.intake.complaints.map((c) => ({ ...c, carried: true })));
    expect(next.intake.flagsAskedIso).toBeNull();
    next.asFound.saddle.heightMm = 1;
    expect(idris).toEqual(before);
  });
  it('the next visit starts from the bike as it was left, and from what still hurts', () => {
    const left = moved(idris, {
      id: 'c1',
      madeIso: '2026-11-20T14:00:00.000Z',
      values: [{ at: 'saddle.heightMm', value: 751 }],
    })!;
    const gone = mustEdit(left, {
      kind: 'set',
      at: `intake.complaints.#${left.intake.complaints[0].id}.goneIso`,
      value: '2026-11-20T15:00:00.000Z',
    });
    const next = nextVisit(gone, 'idris-2', '2027-01-11T09:00:00.000Z');
    expect(next.asFound.saddle.heightMm).toBe(751);
    expect(next).toMatchObject({ current: null, final: null, changes: [], plan: null, followUps: [] });
    expect(next.intake.complaints).toEqual([]);
    const handedOver = { ...gone, final: { ...setupNow(gone), name: 'as handed over' } };
    expect(nextVisit(handedOver, 'idris-3', '2027-01-11T09:00:00.000Z').asFound.name).toBe('as handed over');
  });
  it('thirty days, not a day less', () => {
    expect(isDue('2026-11-01T10:00:00.000Z', '2026-12-01T09:59:00.000Z')).toBe(false);
    expect(isDue('2026-11-01T10:00:00.000Z', '2026-12-01T10:01:00.000Z')).toBe(true);
    expect(isDue(null, '2030-01-01T00:00:00.000Z')).toBe(false);
  });
});

describe('takes', () => {
  const second = { ...idris.takes[0], id: 'second' };
  it('are added and opened; the one before takes the place of one that is removed', () => {
    const two = mustEdit(idris, { kind: 'take-added', take: second });
    expect(openTake(two)?.id).toBe('second');
    expect(openTake(mustEdit(two, { kind: 'take-opened', takeId }))?.id).toBe(takeId);
    expect(
      openTake(
        mustEdit(two, { kind: 'take-removed', takeId: 'second', removedIso: '2026-11-20T14:00:00.000Z' }),
      )?.id,
    ).toBe(takeId);
    const none = mustEdit(idris, { kind: 'take-removed', takeId, removedIso: '2026-11-20T14:00:00.000Z' });
    expect(mustEdit(none, { kind: 'take-returned', takeId })).toEqual(idris);
    expect(mustEdit(none, { kind: 'take-erased', takeId }).removedTakes).toEqual([]);
    expect(applyEdit(idris, { kind: 'take-returned', takeId }).ok).toBe(false);
    expect(openTake(none)).toBeNull();
  });
  it('session 6: the one take of before, on the side that its axles tell', () => {
    expect(checkRecord('session', session5(idris))).toMatchObject({
      ok: true,
      value: { takeId, takes: [{ id: takeId, view: 'nonDrive', corrections: [], hidden: [], trim: null }] },
    });
    const pilar = CATALOGUE.sessions.find((s) => s.riderId === 'pilar')!;
    expect(checkRecord('session', session5(pilar))).toMatchObject({ value: { takes: [{ view: 'drive' }] } });
  });
});

describe('edits', () => {
  it('change what they name and leave the session given as it was', () => {
    const before = structuredClone(idris);
    const after = mustEdit(idris, { kind: 'set', at: 'asFound.crank.lengthMm', value: 165 });
    expect(after.asFound).toEqual({ ...idris.asFound, crank: { ...idris.asFound.crank, lengthMm: 165 } });
    expect(idris).toEqual(before);
  });
  it('new marks make the tracks void', () => {
    const after = mustEdit(idris, {
      kind: 'marks',
      takeId,
      frame: 3,
      marks: { hip: { x: 1, y: 2, onSticker: false } },
    });
    const [take] = after.takes;
    expect(take.tracking).toMatchObject({ state: 'none', framesDone: 0 });
    expect(take.tracking.revision).toBeGreaterThan(idris.takes[0].tracking.revision);
  });
  it('are taken back by their patches, and done again by them', () => {
    for (const edit of [
      { kind: 'set', at: 'asFound.saddle.heightMm', value: 700 },
      { kind: 'set', at: 'body.results.inseam.both', value: 850 },
      {
        kind: 'set',
        at: 'body.results.fingertips',
        value: { left: null, right: null, both: 20, skipped: null },
      },
      { kind: 'set', at: 'intake.complaints', value: [] },
      { kind: 'protocol', protocolId: 'road-race', protocol: null },
      { kind: 'set', at: 'planning.trying', value: { saddleUp: 6, 'cleatBack.left': 2 } },
      { kind: 'set', at: 'planning.ladders.numbFoot', value: ['same', 'helped'] },
      { kind: 'set', at: 'statics.kneeFlexionDeg.right', value: 31 },
      { kind: 'take-added', take: { ...idris.takes[0], id: 'second', view: 'drive' } },
      { kind: 'take-removed', takeId, removedIso: '2026-11-20T14:00:00.000Z' },
      { kind: 'set', at: `takes.#${takeId}.effortW`, value: 180 },
      {
        kind: 'corrected',
        takeId,
        corrections: [{ landmark: 'heel', frame: 40, x: 500, y: 400 }],
        hidden: [{ landmark: 'hip', from: 3, to: 9 }],
        tracking: { ...idris.takes[0].tracking, revision: 77 },
      },
      { kind: 'wheels', takeId, rear: { x: 1, y: 2 }, front: null, rims: {} },
      { kind: 'marks', takeId, frame: 3, marks: { hip: { x: 1, y: 2, onSticker: false } } },
      { kind: 'camera-path', takeId, path: { tS: [0, 1], xPx: [0, 9], yPx: [0, 2] } },
      {
        kind: 'moved',
        id: 'c',
        madeIso: '2026-11-20T14:00:00.000Z',
        values: [{ at: 'saddle.heightMm', value: 750 }],
      },
      { kind: 'set', at: 'followUps', value: [{ id: 'f', due: '2027-01-11', why: 'call', doneIso: null }] },
      { kind: 'set', at: 'final', value: idris.asFound },
    ] as SessionEdit[]) {
      const after = mustEdit(idris, edit);
      const patches = patchesBetween(idris, after);
      const back = withPatches(after, reversed(patches))!;
      expect(back, JSON.stringify(edit)).toEqual(idris);
      expect(withPatches(back, patches)).toEqual(after);
    }
  });
  it('refuses what does not fit, in words, and never half-applies', () => {
    for (const edit of [
      { kind: 'set', at: 'asFound.frame.wheelbaseMm', value: 40 },
      { kind: 'set', at: 'asFound.crank.lengthMm', value: 'long' },
      { kind: 'set', at: 'asFound.crank.colour', value: 'red' },
      { kind: 'set', at: 'id', value: 'other' },
      { kind: 'set', at: 'changes', value: [] },
      { kind: 'set', at: 'changes.#none.word', value: 'better' },
      { kind: 'set', at: 'followUps', value: [{ id: 'f', due: 'soon', why: '', doneIso: null }] },
      { kind: 'moved', id: 'c', madeIso: '2026-11-20T14:00:00.000Z', values: [] },
      {
        kind: 'moved',
        id: 'c',
        madeIso: '2026-11-20T14:00:00.000Z',
        values: [{ at: 'saddle.colour', value: 1 }],
      },
      {
        kind: 'moved',
        id: 'c',
        madeIso: '2026-11-20T14:00:00.000Z',
        values: [{ at: 'saddle.heightMm', value: 9000 }],
      },
      { kind: 'put-back', id: 'none', atIso: '2026-11-20T14:00:00.000Z' },
      { kind: 'restored', part: { id: 'other' } },
      { kind: 'restored', part: { takes: [{ id: 'half a take' }] } },
      { kind: 'set', at: `takes.#${takeId}.marks`, value: {} },
      { kind: 'set', at: 'takes.0.note', value: 'by its place' },
      { kind: 'set', at: 'takes.#none.note', value: 'of nothing' },
      { kind: 'take-added', take: idris.takes[0] },
      { kind: 'take-opened', takeId: 'none' },
      {
        kind: 'corrected',
        takeId,
        corrections: [],
        hidden: [{ landmark: 'hip', from: 9, to: 3 }],
        tracking: idris.takes[0].tracking,
      },
      { kind: 'set', at: 'asFound.__proto__.polluted', value: 1 },
      { kind: 'set', at: 'body.results.inseam.left', value: 800 },
      { kind: 'set', at: 'intake.complaints', value: [{ region: 'nose' }] },
      { kind: 'marks', takeId, frame: -1, marks: {} },
      { kind: 'marks', takeId, frame: 0, marks: { nose: { x: 1, y: 1, onSticker: false } } },
      { kind: 'set', at: 'planning.trying', value: { saddleUp: 500 } },
      { kind: 'set', at: 'planning.trying', value: { saddleSideways: 5 } },
      { kind: 'elsewhere' },
      {},
      null,
    ]) {
      const result = applyEdit(idris, edit);
      expect(result.ok, JSON.stringify(edit)).toBe(false);
      if (!result.ok) expect(result.message.length).toBeGreaterThan(5);
    }
    expect(applyEdit(maren, { kind: 'wheels', takeId, rear: null, front: null, rims: {} })).toMatchObject({
      ok: false,
    });
  });
});
