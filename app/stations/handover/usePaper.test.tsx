// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { PaperSheet } from '../../pdf/papers';
import { usePaper } from './usePaper';

const printer = vi.hoisted(() => ({ made: [] as string[], broken: false }));
vi.mock('../../pdf/pdfmake', () => ({
  fetchPdfMaker: () => undefined,
  makePdf: (sheet: PaperSheet) => {
    if (printer.broken) return Promise.reject(new Error('no letters'));
    printer.made.push(sheet.title);
    return Promise.resolve(new Blob([String(printer.made.length)]));
  },
}));

const paper = (title: string) => (): PaperSheet => ({ paper: 'A4', title, head: '', foot: '', content: [] });
const pass = (ms: number): Promise<unknown> => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => {
  vi.useFakeTimers();
  Object.assign(printer, { made: [], broken: false });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it('the first paper is made at once, later ones when nothing has changed for a moment, and it says which stands', async () => {
  const { result, rerender } = renderHook(({ compose }) => usePaper(compose), {
    initialProps: { compose: null as ReturnType<typeof paper> | null },
  });
  await pass(1000);
  expect(result.current).toEqual({ blob: null, making: true, trouble: null });
  rerender({ compose: paper('first') });
  await pass(100);
  expect(result.current.making).toBe(false);
  const first = result.current.blob;
  expect(first).not.toBeNull();
  for (const words of ['a', 'ab', 'abc']) {
    rerender({ compose: paper(words) });
    await pass(100);
    // The one before stands until there is a newer one.
    expect(result.current).toEqual({ blob: first, making: true, trouble: null });
  }
  await pass(400);
  expect(result.current.making).toBe(false);
  expect(result.current.blob).not.toBe(first);
  expect(printer.made).toEqual(['first', 'abc']);
});

it('what keeps a paper from being made is said, the one before stays, and the next good one takes the words away', async () => {
  const { result, rerender } = renderHook(({ compose }) => usePaper(compose), {
    initialProps: { compose: paper('good') },
  });
  await pass(100);
  const { blob } = result.current;
  printer.broken = true;
  rerender({ compose: paper('bad') });
  await pass(500);
  expect(result.current).toEqual({
    blob,
    making: false,
    trouble: 'The document could not be made: no letters',
  });
  printer.broken = false;
  rerender({ compose: paper('good again') });
  await pass(500);
  expect(result.current).toMatchObject({ making: false, trouble: null });
});
