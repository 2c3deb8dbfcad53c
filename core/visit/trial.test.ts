import { describe, expect, it } from 'vitest';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { MAT_CELL_MM, matAt, trainerAt, type Riding } from '../../sim/devices.ts';
import { filmed } from '../../sim/filmed.ts';
import { crankAngleDeg } from '../../sim/rider.ts';
import { parseMatCsv, parseTrainerCsv, writeMatCsv, writeTrainerCsv } from '../formats/devicesCsv.ts';
import { applyMoves, type Moves } from '../plan/controls/controls.ts';
import { applyEdit } from './edits.ts';
import { differences, setupNow } from './setups.ts';
import type { FitSession } from '../records/types.ts';
import { NOT_RIDDEN } from '../kinematics/ridden.ts';
import type { Change } from '../plan/terms/change.ts';
import type { KeptLine } from '../plan/controls/keptPlan.ts';
import { readTracks } from '../kinematics/read.ts';
import { loadOf, riddenOf, summariseMat, summariseTrainer } from '../kinematics/devices.ts';
import { outlineAt } from '../model/outlines.ts';
import { pairByPhase } from '../kinematics/crankPhase.ts';
import { movesBetween, nextLine, progressOf, souredLines, standings, valuesOf } from './progress.ts';
import { roundNow } from './setups.ts';
import { roundSetup, wantsFilm } from './rounds.ts';
import { measuredOver, sweepOf, sweptPlaces } from '../plan/terms/sweep.ts';

const bike = DOSSIERS.maren.asFound;
const line = (key: string, moves: Moves, today: Moves = moves): KeptLine => ({
  key,
  moves,
  today,
  why: [],
  title: null,
  check: '',
});

describe('how far a plan is on the bike', () => {
  const plan = [
    line('saddleTilt', { saddleTilt: 2.5 }),
    line('saddleUp', { saddleUp: 23 }, { saddleUp: 10 }),
  ];

  it('asks for one step of the first line that is open, and no more than today allows', () => {
    const p = progressOf(plan, bike, bike);
    expect(nextLine(p)!.next).toEqual({ saddleTilt: 1 });
    const tilted = applyMoves(bike, { saddleTilt: 2.5, saddleUp: 9 });
    const q = progressOf(plan, bike, tilted);
    expect(q.map((l) => l.state)).toEqual(['done', 'begun']);
    // Nine of ten are done: the last step is one millimetre, not three.
    expect(nextLine(q)!.next).toEqual({ saddleUp: 1 });
    const full = progressOf(plan, bike, applyMoves(tilted, { saddleUp: 1 }));
    expect(full[1].state).toBe('today');
    expect(full[1].left).toEqual({ saddleUp: 13 });
    expect(nextLine(full)).toBeNull();
  });
  it('never offers again what was worse, until another word is said of it', () => {
    const change = (lineKey: string, word: 'better' | 'worse' | null, round = 1): Change =>
      ({ lineKey, word, round }) as Change;
    const p = progressOf(plan, bike, bike);
    const next = (...changes: Change[]): string | undefined => nextLine(p, souredLines(changes, 1))?.line.key;
    expect(next(change('saddleTilt', 'better'))).toBe('saddleTilt');
    expect(next(change('saddleTilt', 'better'), change('saddleTilt', 'worse'))).toBe('saddleUp');
    expect(next(change('saddleTilt', 'worse'), change('saddleTilt', 'better'))).toBe('saddleTilt');
    expect(next(change('saddleTilt', 'worse', 2))).toBe('saddleTilt');
  });
  it('steps by halves for the new and the returning, and takes parts whole', () => {
    const lines = [line('saddleUp', { saddleUp: 9 }), line('front', { stemLength: -50, stemFlip: 1 })];
    expect(progressOf(lines, bike, bike, true)[0].next).toEqual({ saddleUp: 1.5 });
    expect(progressOf(lines, bike, bike)[1].next).toEqual({ stemLength: -50, stemFlip: 1 });
  });
  it('gives the earlier of two lines on one control its part first, and counts nothing the other way', () => {
    const lines = [line('a', { saddleUp: 6 }), line('b', { saddleUp: 4 })];
    const p = progressOf(lines, bike, applyMoves(bike, { saddleUp: 8 }));
    expect(p.map((l) => l.done)).toEqual([{ saddleUp: 6 }, { saddleUp: 2 }]);
    const wrong = progressOf(lines, bike, applyMoves(bike, { saddleUp: -3 }));
    expect(wrong[0]).toMatchObject({ done: {}, left: { saddleUp: 6 } });
  });
  it('passes over what was not measured on the bike', () => {
    const open = { ...bike, saddle: { ...bike.saddle, tiltDeg: null } };
    expect(progressOf(plan, open, open)[0].unmeasured).toEqual(['saddleTilt']);
    expect(nextLine(progressOf(plan, open, open))!.line.key).toBe('saddleUp');
    expect(valuesOf(open, { saddleTilt: 1, saddleUp: 3 })).toEqual([
      { at: 'saddle.heightMm', value: 649 },
      // Up along the seat tube is back as well.
      { at: 'saddle.setback80Mm', value: 192.88 },
      { at: 'saddle.postShowingMm', value: 153 },
    ]);
    // Where the height was taken another way too, both go on agreeing.
    const twice = { ...bike, saddle: { ...bike.saddle, heightToSpindleMm: 824.5 } };
    expect(valuesOf(twice, { saddleUp: 3 })).toContainEqual({ at: 'saddle.heightToSpindleMm', value: 827.5 });
  });
  it('shows as found, standing and planned of every place, in working order', () => {
    const now = applyMoves(bike, { saddleTilt: 2.5, stemFlip: 1 });
    const rows = standings(bike, now, progressOf(plan, bike, now));
    expect(rows.map((r) => r.at)).toEqual(['saddle.heightMm', 'saddle.tiltDeg', 'stem.flipped']);
    expect(rows[0]).toMatchObject({ asFound: 646, now: 646, planned: 669 });
    expect(rows[2]).toMatchObject({ asFound: false, now: true, planned: true });
  });
  it('tells what moved between two set-ups as moves that make one out of the other', () => {
    const to = applyMoves(bike, { saddleUp: 9, stemLength: -50, stemFlip: 1, 'cleatBack.left': 3 });
    const moves = movesBetween(bike, to);
    expect(moves).toEqual({ saddleUp: 9, stemLength: -50, stemFlip: 1, 'cleatBack.left': 3 });
    expect(differences(applyMoves(bike, moves), to)).toEqual([]);
    // What the height brought to the setback was no move on the rails.
    expect(movesBetween(bike, applyMoves(bike, { saddleUp: 18, saddleBack: 5 }))).toEqual({
      saddleUp: 18,
      saddleBack: 5,
    });
  });
});

describe('the step ladder', () => {
  let n = 0;
  const step = (from: number, to: number, word: Change['word'], back = false): Change => ({
    id: `c${(n += 1)}`,
    madeIso: '2026-11-25T09:00:00.000Z',
    round: 1,
    lineKey: null,
    values: [{ at: 'saddle.heightMm', from, to }],
    word,
    felt: [],
    note: '',
    tests: {},
    ridden: NOT_RIDDEN,
    measured: null,
    putBackIso: back ? '2026-11-25T09:10:00.000Z' : null,
  });
  it('holds what the camera measured at each setting', () => {
    const at = (from: number, to: number, before: number, after: number): Change => ({
      ...step(from, to, 'better'),
      measured: {
        figures: [{ key: 'kneeFlexionMinDeg', before, after, uncertainty: 0.8 }],
        turnsBefore: 20,
        turnsAfter: 12,
        satAnew: false,
      },
    });
    const changes = [at(646, 649, 44, 43.1), step(649, 652, 'same'), at(652, 649, 42.2, 43.3)];
    expect(measuredOver(changes, 'saddle.heightMm', 'kneeFlexionMinDeg')).toEqual([
      { setting: 646, value: 44, uncertainty: 0.8 },
      { setting: 649, value: 43.3, uncertainty: 0.8 },
      { setting: 652, value: 42.2, uncertainty: 0.8 },
    ]);
    expect(measuredOver(changes, 'saddle.heightMm', 'backAngleDeg')).toEqual([]);
    expect(measuredOver(changes, 'saddle.tiltDeg', 'kneeFlexionMinDeg')).toEqual([]);
  });
  it('marks the plateau and where it turns, upwards', () => {
    const s = sweepOf(
      bike,
      [
        step(646, 649, 'better'),
        step(649, 652, 'better'),
        step(652, 661, 'same'),
        step(661, 664, 'worse', true),
      ],
      'saddle.heightMm',
    );
    expect(s.points.map((p) => p.felt)).toEqual([0, 1, 2, 2, 1]);
    expect(s.plateau).toEqual({ from: 652, to: 661 });
    expect(s.turnsAt).toBe(664);
  });
  it('works downward too, and has not turned while nothing got worse', () => {
    const s = sweepOf(bike, [step(646, 643, 'better'), step(643, 640, 'better')], 'saddle.heightMm');
    expect(s.plateau).toEqual({ from: 640, to: 640 });
    expect(s.turnsAt).toBeNull();
    const turned = sweepOf(bike, [step(646, 643, 'better'), step(643, 640, 'worse')], 'saddle.heightMm');
    expect(turned).toMatchObject({ plateau: { from: 643, to: 643 }, turnsAt: 640 });
  });
  it('counts each word from the setting it was moved from, not from what was put back', () => {
    const s = sweepOf(
      bike,
      [step(646, 649, 'better'), step(649, 652, 'worse', true), step(649, 651, 'better')],
      'saddle.heightMm',
    );
    expect(s.points.map((p) => [p.setting, p.felt])).toEqual([
      [646, 0],
      [649, 1],
      [652, 0],
      [651, 2],
    ]);
    expect(
      sweptPlaces([
        step(1, 2, null),
        { ...step(1, 2, null), values: [{ at: 'saddle.tiltDeg', from: 0, to: 1 }] },
        step(2, 3, null),
      ]),
    ).toEqual(['saddle.heightMm', 'saddle.tiltDeg']);
  });
});

describe('rounds', () => {
  const whole = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
  const [first, second] = whole.takes;
  const start: FitSession = {
    ...whole,
    current: null,
    final: null,
    changes: [],
    takes: [{ ...first, setup: null }],
    takeId: first.id,
    plan: whole.earlierPlans[0],
    earlierPlans: [],
  };
  const must = (s: FitSession, e: unknown): FitSession => {
    const r = applyEdit(s, e);
    if (!r.ok) throw new Error(r.message);
    return r.session;
  };
  it('the first film of a changed bike begins the next one, and puts the old plan aside', () => {
    expect(wantsFilm(start)).toBe(false);
    const moved = must(start, {
      kind: 'moved',
      id: 'a',
      madeIso: '2026-11-25T09:00:00.000Z',
      values: [{ at: 'saddle.heightMm', value: 652 }],
      lineKey: 'saddleUp',
    });
    expect(wantsFilm(moved)).toBe(true);
    expect(moved.changes[0]).toMatchObject({ round: 1, lineKey: 'saddleUp' });
    const again = must(moved, { kind: 'take-added', take: { ...second, id: 'again' } });
    expect(roundNow(again)).toBe(2);
    expect(again.takes[1].setup!.saddle.heightMm).toBe(652);
    expect(roundSetup(again, 1)).toEqual(whole.asFound);
    expect(again.plan).toBeNull();
    expect(again.earlierPlans).toHaveLength(1);
    // Another film of the same bike stays in the round.
    const third = must(again, { kind: 'take-added', take: { ...second, id: 'third' } });
    expect(roundNow(third)).toBe(2);
  });
  it('every step of a line is an entry of its own, and all of it goes back to as found', () => {
    let s = start;
    for (const [k, value] of [649, 652, 661].entries())
      s = must(s, {
        kind: 'moved',
        id: `s${k}`,
        madeIso: '2026-11-25T09:00:00.000Z',
        values: [{ at: 'saddle.heightMm', value }],
        lineKey: 'saddleUp',
      });
    expect(s.changes).toHaveLength(3);
    s = must(s, { kind: 'put-back', id: 's2', atIso: '2026-11-25T09:30:00.000Z' });
    expect(setupNow(s).saddle.heightMm).toBe(652);
    s = must(s, { kind: 'all-back', id: 'back', madeIso: '2026-11-25T10:00:00.000Z' });
    expect(differences(setupNow(s), whole.asFound)).toEqual([]);
    expect(s.changes).toHaveLength(4);
    expect(
      applyEdit(s, { kind: 'all-back', id: 'again', madeIso: '2026-11-25T10:00:00.000Z' }),
    ).toMatchObject({ ok: false });
  });
});

describe('two films by the crank', () => {
  const { rider } = CAST[0].scene;
  const options = { mmPerPx: 2.75, facing: 'right', crankMm: rider.crankMm } as const;
  const read = (more: Partial<typeof rider>, rate: number) => {
    const r = readTracks(filmed({ rider: { ...rider, ...more }, seconds: 5, rate }), options);
    if (!r.ok) throw new Error(r.detail);
    return r;
  };
  it('stand alike at every angle, whatever cadence, rate and start', () => {
    const second = { cadenceRpm: 71, startThetaDeg: 200 };
    const pair = pairByPhase(read({}, 60), read(second, 30))!;
    expect(pair.lengthDeg).toBeGreaterThanOrEqual(4 * 360);
    expect(pair.lengthDeg % 360).toBe(0);
    for (let deg = 0; deg < pair.lengthDeg; deg += 37) {
      const [a, b] = pair.frameAt(deg);
      const off = (r: typeof rider, frame: number, rate: number): number => {
        const d = (((crankAngleDeg(r, frame / rate) - deg) % 360) + 540) % 360;
        return Math.abs(d - 180);
      };
      // Half a frame's turn of the crank, and what the reading may err by.
      expect(off(rider, a, 60)).toBeLessThan(0.5 * ((6 * 84) / 60) + 1.5);
      expect(off({ ...rider, ...second }, b, 30)).toBeLessThan(0.5 * ((6 * 71) / 30) + 1.5);
    }
    expect(pair.degPerS).toBeGreaterThan(6 * 80);
    expect(pair.degPerS).toBeLessThan(6 * 88);
  });
  it('the outline at an angle keeps the rider’s limbs', () => {
    const reading = read({}, 60);
    const d = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
      Math.hypot(a.x - b.x, a.y - b.y);
    for (const theta of [0, 90, 180, 270]) {
      const o = outlineAt(reading, theta);
      expect(d(o.hip, o.knee)).toBeCloseTo(rider.thighMm, -1);
      expect(d(o.knee, o.ankle)).toBeCloseTo(rider.shankMm, -1);
      expect(d(o.spindle, { x: 0, y: 0 })).toBeCloseTo(rider.crankMm, 0);
    }
  });
});

describe('trainer and mat', () => {
  const riding: Riding = {
    rider: CAST[0].scene.rider,
    powerW: 150,
    leftPercent: 47,
    massKg: 70,
    tiltDeg: 0,
    widthMm: 150,
    sitBonesMm: 118,
    leftByMm: 0,
    seed: 5,
  };
  const samples = Array.from({ length: 80 }, (_, i) => trainerAt(riding, i / 4));
  const frames = Array.from({ length: 60 }, (_, i) => matAt(riding, i / 10));

  it('the stand-ins tell what the virtual rider does', () => {
    const t = summariseTrainer(samples, 'x')!;
    expect(Math.abs(t.powerW - 150)).toBeLessThan(3);
    expect(Math.abs(t.cadenceRpm - 84)).toBeLessThan(1);
    expect(Math.abs(t.leftPercent! - 47)).toBeLessThan(0.3);
    const m = summariseMat(frames, MAT_CELL_MM, 'x')!;
    expect(Math.abs(m.leftPercent - 50)).toBeLessThan(1.5);
    // The cells together bear what the saddle bears of the rider, in newtons.
    const newtons = m.gridKPa.flat().reduce((s, v) => s + v, 0) * 1000 * (MAT_CELL_MM / 1000) ** 2;
    expect(newtons).toBeGreaterThan(0.35 * 70 * 9.81);
    expect(newtons).toBeLessThan(0.55 * 70 * 9.81);
    const down = summariseMat(
      frames.map((f) => matAt({ ...riding, tiltDeg: -4 }, f.tS)),
      MAT_CELL_MM,
      'x',
    )!;
    expect(down.frontPercent).toBeGreaterThan(m.frontPercent + 5);
    const left = summariseMat(
      frames.map((f) => matAt({ ...riding, leftByMm: 8 }, f.tS)),
      MAT_CELL_MM,
      'x',
    )!;
    expect(left.leftPercent).toBeGreaterThan(m.leftPercent + 8);
  });
  it('a coasting second says nothing of the legs, and nothing comes of nothing', () => {
    const t = summariseTrainer(
      [
        { tS: 0, powerW: 200, cadenceRpm: 90, leftPercent: 40 },
        { tS: 1, powerW: 0, cadenceRpm: 0, leftPercent: 100 },
        { tS: 2, powerW: 100, cadenceRpm: 80, leftPercent: 55 },
      ],
      'x',
    )!;
    expect(t.leftPercent).toBeCloseTo((40 * 200 + 55 * 100) / 300, 9);
    expect(summariseTrainer([], 'x')).toBeNull();
    expect(
      summariseMat(
        [
          {
            tS: 0,
            gridKPa: [
              [0, 0],
              [0, 0],
            ],
          },
        ],
        15,
        'x',
      ),
    ).toBeNull();
    expect(riddenOf({ trainer: t, mat: null })).toMatchObject({ powerW: 100, saddlePeakKPa: null });
  });
  it('halves a middle row and column between both sides', () => {
    expect(
      loadOf([
        [0, 0, 0],
        [0, 4, 0],
        [0, 0, 0],
      ]),
    ).toEqual({ leftPercent: 50, frontPercent: 50, peakKPa: 4 });
    expect(
      loadOf([
        [3, 1],
        [0, 0],
      ]),
    ).toMatchObject({ leftPercent: 75, frontPercent: 100 });
  });
  it('their tables come back as they went out', () => {
    const t = parseTrainerCsv(writeTrainerCsv(samples));
    expect(t).toEqual({ ok: true, samples });
    const m = parseMatCsv(writeMatCsv(frames, MAT_CELL_MM));
    expect(m).toEqual({ ok: true, frames, cellMm: MAT_CELL_MM });
    // A trainer that can't tell the legs apart, columns in another order, a byte-order mark.
    const bare = parseTrainerCsv('\ufeffcadence_rpm,t_s,power_w\n80,0,100\n81,1,102\n');
    expect(bare.ok && bare.samples[1]).toEqual({ tS: 1, powerW: 102, cadenceRpm: 81, leftPercent: null });
  });
  it.each([
    ['t_s,power_w\n0,1\n', /Row 1: there is no column “cadence_rpm”/],
    ['t_s,power_w,cadence_rpm\n0,100,80\n0,100,80\n', /Row 3: t_s must be a growing/],
    ['t_s,power_w,cadence_rpm\n0,abc,80\n', /Row 2: power_w/],
    ['t_s,power_w,cadence_rpm,left_percent\n0,100,80,130\n', /Row 2: left_percent/],
    ['t_s,power_w,cadence_rpm\n0,100,80\n', /fewer than two/],
  ])('a trainer’s table that is wrong is told where: %j', (text, words) => {
    const read = parseTrainerCsv(text);
    expect(!read.ok && read.message).toMatch(words);
  });
  it.each([
    ['t_s,r1c1_kpa\n', /Row 1: a mat’s table has/],
    [
      't_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa\n0,15,1,2,3\n',
      /3 cells don’t make a grid of 2 rows and 2 columns/,
    ],
    ['t_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa,r2c2_kpa\n0,15,1,2,3,-4\n', /Row 2: r2c2_kpa must be 0 to 2000/],
    ['t_s,cell_mm,r1c1_kpa,r1c2_kpa,r2c1_kpa,r2c2_kpa\n0,15,1,2,3,4\n1,16,1,2,3,4\n', /Row 3: cell_mm/],
  ])('a mat’s table that is wrong is told where: %j', (text, words) => {
    const read = parseMatCsv(text);
    expect(!read.ok && read.message).toMatch(words);
  });
});
