// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import { useUnfolded } from './useUnfolded';

afterEach(() => {
  cleanup();
  sessionStorage.clear();
});

it('a part stays open on its own page alone, also for the next who asks, until it is folded', () => {
  const bike = renderHook(() => useUnfolded('bike'));
  const body = renderHook(() => useUnfolded('body'));
  act(() => bike.result.current.unfold(['Frame', 'Feet'], true));
  expect(['Frame', 'Feet', 'Saddle'].map(bike.result.current.isOpen)).toEqual([true, true, false]);
  expect(body.result.current.isOpen('Feet')).toBe(false);
  act(() => bike.result.current.unfold(['Frame'], false));
  const later = renderHook(() => useUnfolded('bike'));
  expect(['Frame', 'Feet'].map(later.result.current.isOpen)).toEqual([false, true]);
  expect(sessionStorage.getItem('deep-angle-unfolded')).toContain('bike/Feet');
});
