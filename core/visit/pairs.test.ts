import { expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { couldPair, partnerOf } from './pairs.ts';
import type { Take } from '../records/types.ts';

const base = CATALOGUE.sessions.find((s) => s.id === 'juno-1')!.takes.at(-1)!;
const take = (id: string, by: Partial<Take>): Take => ({ ...base, id, ...by });

it('takes of both sides that were ridden alike belong together, until it is said otherwise', () => {
  const right = take('r', { view: 'drive' });
  const hard = take('h', { view: 'nonDrive', effort: 'hard' });
  const left = take('l', { view: 'nonDrive' });
  const front = take('f', { view: 'front' });
  const s = { takes: [right, hard, left, front] };
  expect(couldPair(s, right).map((t) => t.id)).toEqual(['h', 'l']);
  expect(couldPair(s, front)).toEqual([]);
  expect(partnerOf(s, right)?.id).toBe('l');
  expect(partnerOf(s, left)?.id).toBe('r');
  expect(partnerOf(s, hard)).toBeNull();
  // Paired by hand with the other one: both know it, and the third goes without.
  const chosen = { ...right, pairWith: 'h' };
  const by = { takes: [chosen, hard, left, front] };
  expect(partnerOf(by, chosen)?.id).toBe('h');
  expect(partnerOf(by, hard)?.id).toBe('r');
  expect(partnerOf(by, left)).toBeNull();
  // A partner that was removed is no partner.
  expect(partnerOf({ takes: [chosen, left] }, chosen)?.id).toBe('l');
});
