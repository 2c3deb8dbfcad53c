import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { UNMEASURED_BIKE } from '../bike/setup.ts';
import { UNTESTED_BODY } from '../body/bodyTests.ts';
import { BLANK_INTAKE } from '../intake/intake.ts';
import { frontalOptions, readOptions, scaleOf } from './readOptions.ts';
import { stationsOf, type Station } from './stations.ts';
import { openTake, type FitSession, type Take } from '../records/types.ts';
import { NOTHING_DONE } from './visits.ts';

const whole = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const blank: FitSession = {
  ...whole,
  ...NOTHING_DONE,
  intake: BLANK_INTAKE,
  body: UNTESTED_BODY,
  asFound: UNMEASURED_BIKE,
};
const at = (session: FitSession, path: string): Station => stationsOf(session).find((s) => s.path === path)!;
const withTake = (by: Partial<Take>, session = whole): FitSession => {
  const open = openTake(session)!;
  return { ...session, takes: session.takes.map((t) => (t.id === open.id ? { ...t, ...by } : t)) };
};
const consent = { givenIso: '2026-11-20T09:00:00.000Z', by: 'rider' };

describe('stations', () => {
  it('stand in working order, all open on a new visit, all ready on one that is handed over', () => {
    expect(stationsOf(blank).map((s) => s.path)).toEqual([
      'intake',
      'body',
      'bike',
      'film',
      'scale',
      'mark',
      'track',
      'read',
      'plan',
      'trial',
      'handover',
    ]);
    expect(stationsOf(blank).some((s) => s.ready)).toBe(false);
    expect(stationsOf(whole).filter((s) => !s.ready)).toEqual([]);
  });
  it('each that is not ready says in one sentence what is missing, each that is ready says nothing', () => {
    for (const visit of [blank, whole])
      for (const s of stationsOf(visit)) {
        if (s.ready) expect(s.lacks).toBeNull();
        else expect(s.lacks).toMatch(/^[A-Z][^.]*[^ ]\.$/);
      }
    const { heel } = openTake(whole)!.marks;
    expect(at(withTake({ marks: { heel } }), 'mark').lacks).toContain('knee');
    expect(at({ ...whole, plan: null }, 'plan').lacks).toBe('The plan is not kept yet.');
    expect(stationsOf(whole, false).find((s) => s.path === 'read')!.lacks).toBe('The tracks give no stroke.');
  });
  it('Read and Plan have figures only where the tracks gave some', () => {
    const open = { ...whole, plan: null };
    const ofRead = (reads: boolean | null): Station[] =>
      stationsOf(open, reads).filter((s) => s.path === 'read' || s.path === 'plan');
    expect(ofRead(null).map((s) => [s.note, s.ready])).toEqual([
      ['figures', true],
      ['proposed', true],
    ]);
    expect(ofRead(true)).toEqual(ofRead(null));
    expect(ofRead(false).map((s) => [s.note, s.ready])).toEqual([
      ['no stroke', false],
      ['waits for figures', false],
    ]);
  });
  it('Intake is ready once consent is given and no red flag is open', () => {
    expect(at(blank, 'intake').note).toBe('no consent');
    const consented = { ...BLANK_INTAKE, filmConsent: consent };
    expect(at({ ...blank, intake: consented }, 'intake')).toMatchObject({
      ready: false,
      lacks: 'Red flags were not asked about yet.',
    });
    const answered = { ...blank, intake: { ...consented, flagsAskedIso: '2026-11-20T09:00:00.000Z' } };
    expect(at(answered, 'intake')).toMatchObject({ note: 'nothing hurts', ready: true });
    const flag = (acknowledgedIso: string | null): Station =>
      at(
        { ...answered, intake: { ...answered.intake, redFlags: [{ key: 'chest', acknowledgedIso }] } },
        'intake',
      );
    expect(flag(null)).toMatchObject({ note: 'stop: refer', ready: false });
    expect(flag('2026-11-20T09:10:00.000Z').ready).toBe(true);
    const complaints = whole.intake.complaints.filter((c) => c.goneIso === null).length;
    expect(at(whole, 'intake').note).toContain(`${complaints} complaint`);
  });
  it('Body counts what was answered or left out, and waits for the inseam', () => {
    const none = { left: null, right: null, both: null, skipped: null };
    const body = {
      ...UNTESTED_BODY,
      results: { height: { ...none, both: 1700 }, hinge: { ...none, skipped: 'sore' }, mass: none },
    };
    expect(at({ ...blank, body }, 'body')).toMatchObject({
      note: expect.stringMatching(/^2 of/),
      ready: false,
    });
    const tall = { ...body, results: { ...body.results, inseam: { ...none, both: 800 } } };
    expect(at({ ...blank, body: tall }, 'body').ready).toBe(true);
  });
  it('Bike waits for a saddle height of either kind, and says when it was moved', () => {
    const saddle = (by: object): FitSession => ({
      ...blank,
      asFound: { ...UNMEASURED_BIKE, saddle: { ...UNMEASURED_BIKE.saddle, ...by } },
    });
    expect(at(saddle({ heightMm: 700 }), 'bike')).toMatchObject({ note: 'as found', ready: true });
    expect(at(saddle({ heightToSpindleMm: 870 }), 'bike').ready).toBe(true);
    expect(at({ ...blank, current: UNMEASURED_BIKE }, 'bike').note).toBe('moved');
  });
  it('Mark counts what the view asks for, and Track tells a part from the whole', () => {
    const [first, ...rest] = Object.entries(openTake(whole)!.marks);
    expect(first).toBeDefined();
    // One of hip, knee and ankle may be missing; not two of them.
    expect(at(withTake({ marks: Object.fromEntries(rest) }), 'mark').ready).toBe(true);
    expect(at(withTake({ marks: Object.fromEntries(rest.slice(1)) }), 'mark').ready).toBe(false);
    expect(
      at(
        withTake({ tracking: { state: 'stopped', framesDone: 40, estimated: false, revision: 1 } }),
        'track',
      ),
    ).toMatchObject({
      note: 'a part',
      ready: true,
    });
    const open = withTake({ tracking: { state: 'none', framesDone: 0, estimated: false, revision: 0 } });
    expect(at(open, 'track').ready).toBe(false);
    expect(at(open, 'read')).toMatchObject({ note: 'waits for tracks', ready: false });
    expect(at(withTake({ axles: { rear: null, front: null } }), 'read').note).toBe('waits for scale');
  });
  it('from ahead the crank alone gives a scale, or a width', () => {
    const take: Partial<Take> = { view: 'front' };
    expect(at(withTake(take), 'scale')).toMatchObject({ note: 'by the crank', ready: true });
    const noCrank: FitSession = {
      ...whole,
      asFound: { ...whole.asFound, crank: { ...whole.asFound.crank, lengthMm: null } },
    };
    expect(at(withTake(take, noCrank), 'scale').ready).toBe(false);
    const wide = { ...openTake(whole)!.width, right: { x: 400, y: 300 }, left: { x: 900, y: 300 }, mm: 420 };
    expect(at(withTake({ ...take, width: wide }, noCrank), 'scale')).toMatchObject({
      note: 'width set',
      ready: true,
    });
  });
  it('a plan that moves nothing has nothing to try', () => {
    const planned = { ...whole, changes: [], plan: { ...whole.plan!, lines: [] } };
    expect(at(planned, 'trial')).toMatchObject({ note: 'nothing to move', ready: true });
    expect(at({ ...planned, plan: whole.plan }, 'trial')).toMatchObject({
      note: 'to be ridden',
      ready: false,
    });
    expect(at({ ...whole, changes: whole.changes.slice(0, 1) }, 'trial').note).toBe('1 change');
  });
});

describe('what a reading needs beside the tracks', () => {
  const take = openTake(whole)!;
  it('is the scale from the axles and the crank of the bike that was filmed', () => {
    const options = readOptions(whole, take)!;
    const { rear, front } = take.axles;
    const px = Math.hypot(front!.x - rear!.x, front!.y - rear!.y);
    // Seen square the wheelbase spans the axles; a turned camera makes it a little shorter.
    expect(options.mmPerPx * px).toBeGreaterThan(0.98 * whole.asFound.frame.wheelbaseMm!);
    expect(options.mmPerPx * px).toBeLessThan(1.05 * whole.asFound.frame.wheelbaseMm!);
    expect(options.crankMm).toBe(whole.asFound.crank.lengthMm);
    const moved = { ...take, setup: { ...whole.asFound, crank: { ...whole.asFound.crank, lengthMm: 160 } } };
    expect(readOptions(whole, moved)!.crankMm).toBe(160);
  });
  it('without axles there is none, and a crank that was not measured is left out', () => {
    const open = { ...take, axles: { rear: null, front: null } };
    expect(scaleOf(whole, open)).toBeNull();
    expect(readOptions(whole, open)).toBeNull();
    const bare = {
      ...whole,
      asFound: { ...whole.asFound, crank: { ...whole.asFound.crank, lengthMm: null } },
    };
    expect(readOptions(bare, { ...take, setup: null })!.crankMm).toBeUndefined();
  });
  it('from ahead it needs a width or the crank, and from the side it has none', () => {
    const ahead: Take = { ...take, view: 'front' };
    expect(frontalOptions(whole, take)).toBeNull();
    expect(frontalOptions(whole, ahead)).toMatchObject({ view: 'front', width: null });
    const bare = {
      ...whole,
      asFound: { ...whole.asFound, crank: { ...whole.asFound.crank, lengthMm: null } },
    };
    expect(frontalOptions(bare, { ...ahead, setup: null })).toBeNull();
    const width = { ...take.width, right: { x: 400, y: 300 }, left: { x: 900, y: 302 }, mm: 420 };
    expect(frontalOptions(bare, { ...ahead, setup: null, width })!.width!.mmPerPx).toBeCloseTo(420 / 500, 3);
  });
});
