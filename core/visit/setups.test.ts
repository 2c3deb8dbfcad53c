import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { seededRandom } from '../../sim/random.ts';
import { fieldName, fieldUnit } from '../bike/fields.ts';
import { bikesOf } from './bikes.ts';
import { putValue } from '../bike/path.ts';
import { checkRecord } from '../records/schemas.ts';
import { differences, lastSetup, moved, putBack, setupNow } from './setups.ts';
import type { FitSession } from '../records/types.ts';
import { nextDue } from '../records/followUp.ts';

const pilar = CATALOGUE.sessions.find((s) => s.riderId === 'pilar')!;
const juno = CATALOGUE.sessions.find((s) => s.riderId === 'juno')!;
const iso = (minute: number): string => new Date(Date.UTC(2026, 10, 18, 11, minute)).toISOString();

let count = 0;
function move(s: FitSession, at: string, value: unknown): FitSession {
  count += 1;
  const next = moved(s, { id: `c${count}`, madeIso: iso(count), values: [{ at, value }] });
  if (!next) throw new Error(`nothing moved at ${at}`);
  return next;
}

describe('what is moved', () => {
  it('changes the bike as it stands, never as it was found, and is logged from where to where', () => {
    const found = structuredClone(pilar.asFound);
    const after = move(move(pilar, 'saddle.heightMm', 700), 'stem.lengthMm', 80);
    expect(after.asFound).toEqual(found);
    expect(setupNow(after).saddle.heightMm).toBe(700);
    expect(after.changes.map((c) => c.values)).toEqual([
      [{ at: 'saddle.heightMm', from: found.saddle.heightMm, to: 700 }],
      [{ at: 'stem.lengthMm', from: found.stem.lengthMm, to: 80 }],
    ]);
    expect(checkRecord('session', after)).toMatchObject({ ok: true });
  });
  it('goes on with the same change until the rider has spoken, and vanishes when it is back where it began', () => {
    const from = pilar.asFound.saddle.heightMm!;
    const steps = move(move(pilar, 'saddle.heightMm', from - 3), 'saddle.heightMm', from - 6);
    expect(steps.changes).toHaveLength(1);
    expect(steps.changes[0].values[0]).toEqual({ at: 'saddle.heightMm', from, to: from - 6 });
    const spoken = { ...steps, changes: [{ ...steps.changes[0], word: 'better' as const }] };
    expect(move(spoken, 'saddle.heightMm', from - 9).changes).toHaveLength(2);
    expect(move(steps, 'saddle.heightMm', from).changes).toEqual([]);
  });
  it('is put back to what it was, and stays on record as tried', () => {
    const after = move(move(pilar, 'saddle.tiltDeg', -2), 'stem.spacersMm', 10);
    const back = putBack(after, after.changes[0].id, iso(59))!;
    expect(setupNow(back)).toEqual({ ...pilar.asFound, stem: { ...pilar.asFound.stem, spacersMm: 10 } });
    expect(back.changes[0].putBackIso).toBe(iso(59));
    expect(putBack(back, after.changes[0].id, iso(60))).toBeNull();
    expect(putBack(back, 'nobody', iso(60))).toBeNull();
  });
  it('takes extensions off and puts them on again', () => {
    const off = move(juno, 'extensions', null);
    expect(setupNow(off).extensions).toBeNull();
    expect(checkRecord('session', off)).toMatchObject({ ok: true });
    expect(differences(juno.asFound, setupNow(off)).map((v) => v.at)).toContain('extensions.padRiseMm');
  });
  it('refuses places that a bike does not have, and moves by nothing', () => {
    const given = (at: string, value: unknown) =>
      moved(pilar, { id: 'c', madeIso: iso(1), values: [{ at, value }] });
    expect(given('saddle.colour', 'red')).toBeNull();
    expect(given('__proto__.x', 1)).toBeNull();
    expect(given('saddle.heightMm', pilar.asFound.saddle.heightMm)).toBeNull();
  });
});

it('differences of two set-ups, applied to the one, make the other: 200 random pairs', () => {
  const random = seededRandom(11);
  const places = [
    'saddle.heightMm',
    'saddle.tiltDeg',
    'saddle.model',
    'feet.left.cleatBehindMm',
    'feet.right.shimMm',
    'stem.flipped',
    'bar.rotationDeg',
    'levers.fromEndMm',
  ];
  for (let k = 0; k < 200; k += 1) {
    let to = pilar.asFound;
    for (const at of places) {
      if (random() < 0.5) continue;
      const value = at === 'saddle.model' ? `model ${k}` : at === 'stem.flipped' ? random() < 0.5 : k;
      to = putValue(to, at, value)!;
    }
    const list = differences(pilar.asFound, to);
    const rebuilt = list.reduce((bike, v) => putValue(bike, v.at, v.to)!, pilar.asFound);
    expect(rebuilt).toEqual(to);
    for (const v of list) expect(v.from).not.toBe(v.to);
  }
});

describe('bikes of a rider', () => {
  it('are those on record and those that only visits know of, the one seen last first', () => {
    const old = { ...pilar, id: 'p0', bikeId: 'of-pilar', startedIso: '2025-03-01T10:00:00.000Z' };
    const stored = CATALOGUE.bikes;
    const spare = { ...stored[0], id: 'spare', riderId: 'pilar', createdIso: '2024-01-01T10:00:00.000Z' };
    const list = bikesOf('pilar', [...stored, spare], [pilar, old]);
    expect(list.map((b) => [b.bike.id, b.visits.length])).toEqual([
      ['pilar-bike', 1],
      ['of-pilar', 1],
      ['spare', 0],
    ]);
    expect(list[1].bike.name).toBe(lastSetup(old).name);
    expect(checkRecord('bike', list[1].bike)).toMatchObject({ ok: true });
  });
});

it('the next follow-up is the earliest that is still open', () => {
  const f = (due: string, doneIso: string | null) => ({ id: due, due, why: '', doneIso });
  expect(nextDue([])).toBeNull();
  expect(nextDue([f('2027-03-01', null), f('2026-12-07', iso(1)), f('2027-01-11', null)])).toBe('2027-01-11');
  expect(nextDue([f('2026-12-07', iso(1))])).toBeNull();
});

it('every plain value of a set-up has a name and, if it is a number, a unit that it is written with', () => {
  const blank = Object.fromEntries(Object.keys(juno.asFound).map((k) => [k, null]));
  for (const { at } of differences(blank as never, juno.asFound)) {
    if (/capMm|clampHeightMm/.test(at)) continue;
    expect(fieldName(at), at).not.toBe(at);
    expect(fieldName(at)).not.toMatch(/Mm|Deg/);
  }
  expect(fieldUnit('saddle.tiltDeg')).toBe('°');
  expect(fieldName('feet.left.heelOutDeg')).toBe('Heel rests out, left');
});
