import { expect, it } from 'vitest';
import { meantBy } from './remoteKeys';

it('a remote’s keys: the usual ones, or those of the studio and no others', () => {
  const usual = { next: '', back: '' };
  expect(['PageDown', 'ArrowRight', 'PageUp', 'ArrowLeft', 'F5', ''].map((k) => meantBy(k, usual))).toEqual([
    'n',
    'n',
    'u',
    'u',
    null,
    null,
  ]);
  const own = { next: 'F5', back: '' };
  expect(meantBy('f5', own)).toBe('n');
  expect(meantBy('PageDown', own)).toBeNull();
  expect(meantBy('PageUp', own)).toBe('u');
  expect(meantBy('.', { next: 'F5', back: '.' })).toBe('u');
});
