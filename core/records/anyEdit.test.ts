import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { seededRandom } from '../../sim/random.ts';
import { patchesBetween, reversed, withPatches, type Patch } from '../visit/patches.ts';
import { applyEdit, type SessionEdit } from '../visit/edits.ts';
import { checkRecord } from './schemas.ts';
import type { FitSession } from './types.ts';

/** Every place of a record that holds something, as the interface names places: “asFound.saddle.heightMm”. */
function placesOf(value: unknown, at = ''): string[] {
  if (value === null || typeof value !== 'object') return at === '' ? [] : [at];
  const inner = Object.entries(value).flatMap(([key, v]) => {
    const id = Array.isArray(value) ? (v as { id?: unknown } | null)?.id : undefined;
    const name = typeof id === 'string' ? `#${id}` : key;
    return placesOf(v, at === '' ? name : `${at}.${name}`);
  });
  return at === '' ? inner : [at, ...inner];
}

const JUNK: readonly unknown[] = [
  null,
  undefined,
  true,
  '',
  'x',
  '<img src=x>',
  'a'.repeat(6000),
  0,
  -1,
  1.5,
  1e9,
  NaN,
  Infinity,
  [],
  {},
  [null],
  { x: 1 },
  '2026-02-31',
  '2026-11-25T12:00:00.000Z',
  new Date(0),
  () => 1,
];

describe('any place of a visit, set to anything', () => {
  for (const session of CATALOGUE.sessions.filter((s) => ['maren-1', 'juno-1'].includes(s.id)))
    it(
      `${session.id}: is a visit that fits or a sentence, and goes back to what it was`,
      { timeout: 60_000 },
      () => {
        const random = seededRandom(session.id.length + 40);
        const places = placesOf({ ...session, takes: session.takes.slice(0, 1) });
        const before = JSON.stringify(session);
        const pick = <T>(list: readonly T[]): T => list[Math.floor(list.length * random())];
        let [done, refused] = [0, 0];
        for (let n = 0; n < 900; n += 1) {
          // Mostly places that are there; now and then one that is not, or that nobody may name.
          const at =
            random() < 0.9
              ? pick(places)
              : pick(['__proto__.x', 'constructor', 'nowhere', 'asFound..x', 'id', 'version', '']);
          const edit: SessionEdit = { kind: 'set', at, value: pick(JUNK) };
          const result = applyEdit(session, edit);
          // Whatever came of it, the visit given is as it was.
          expect(JSON.stringify(session)).toBe(before);
          if (!result.ok) {
            refused += 1;
            expect(result.message.length, at).toBeGreaterThan(5);
            continue;
          }
          done += 1;
          expect(checkRecord('session', result.session).ok, `${at} ${String(edit.value)}`).toBe(true);
          expect(result.session.id).toBe(session.id);
          expect(result.session.riderId).toBe(session.riderId);
          const undo = reversed(patchesBetween(session, result.session));
          expect(withPatches(result.session, undo), at).toEqual(session);
        }
        // The throw of the dice has to reach both: what can be had, and what can't.
        expect(done).toBeGreaterThan(20);
        expect(refused).toBeGreaterThan(300);
        expect(({} as { x?: unknown }).x).toBeUndefined();
      },
    );
});

describe('edits that are no edits', () => {
  const [session] = CATALOGUE.sessions;
  it('are refused with a sentence, whatever they are', () => {
    const rubbish: unknown[] = [
      ...JUNK,
      { kind: 'unheard-of' },
      { kind: 'set' },
      { kind: 'set', at: 7, value: 1 },
      { kind: 'moved', id: 'x', madeIso: 'yesterday', values: [] },
      { kind: 'restored', part: { id: 'other' } },
      { kind: 'restored', part: { takes: 'all' } },
      { kind: 'take-opened', takeId: 'nobody' },
      { kind: 'put-back', id: 'nobody', atIso: '2026-11-25T12:00:00.000Z' },
    ];
    for (const edit of rubbish) {
      const result = applyEdit(session, edit);
      expect(result.ok, JSON.stringify(edit)).toBe(false);
      expect(!result.ok && result.message.length).toBeGreaterThan(5);
    }
  });
  it('a long row of good ones is undone to the beginning, one by one', () => {
    const random = seededRandom(9);
    const START: FitSession = session;
    let now = START;
    const undos: Patch[][] = [];
    for (let n = 0; n < 120; n += 1) {
      const edits: SessionEdit[] = [
        { kind: 'set', at: 'asFound.stem.lengthMm', value: 60 + Math.floor(60 * random()) },
        { kind: 'set', at: 'intake.event', value: `event ${n}` },
        { kind: 'set', at: 'planning.trying', value: { saddleUp: n % 9 } },
        {
          kind: 'moved',
          id: `m${n}`,
          madeIso: new Date(Date.UTC(2026, 10, 25, 8, n)).toISOString(),
          values: [{ at: 'saddle.heightMm', value: 640 + Math.floor(80 * random()) }],
        },
        { kind: 'all-back', id: `b${n}`, madeIso: new Date(Date.UTC(2026, 10, 25, 12, n)).toISOString() },
      ];
      const edit = edits[Math.floor(edits.length * random())];
      const result = applyEdit(now, edit);
      if (!result.ok) continue;
      undos.push(reversed(patchesBetween(now, result.session)));
      now = result.session;
    }
    expect(undos.length).toBeGreaterThan(60);
    for (const undo of undos.reverse()) {
      const back = withPatches(now, undo);
      if (!back) throw new Error('A step did not find what it had left.');
      now = back;
    }
    expect(now).toEqual(START);
  });
});
