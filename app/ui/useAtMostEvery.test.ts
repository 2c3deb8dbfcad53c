// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { useAtMostEvery } from './useAtMostEvery.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('passes a value on that often and no more, and the last one always', () => {
  const seen = new Set<number>();
  const hook = renderHook(
    ({ v }) => {
      const passedOn = useAtMostEvery(50, v);
      seen.add(passedOn);
      return passedOn;
    },
    { initialProps: { v: 0 } },
  );
  for (let v = 1; v <= 40; v += 1) {
    hook.rerender({ v });
    act(() => void vi.advanceTimersByTime(10));
  }
  // 400 ms: eight times, and the first at once.
  expect(seen.size).toBeGreaterThan(6);
  expect(seen.size).toBeLessThan(12);
  act(() => void vi.advanceTimersByTime(60));
  expect(hook.result.current).toBe(40);
});
