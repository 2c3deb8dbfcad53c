// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { BodyMap } from './BodyMap';

afterEach(cleanup);

it('a tap near a place means it, the nearest of them; one far from all means none', () => {
  const tap = vi.fn();
  render(<BodyMap complaints={[]} selected={null} onTap={tap} />);
  // Laid out by hand: the knee at 100, 100, the calf 40 px under it, the others far away.
  const at = (x: number, y: number) => () => new DOMRect(x - 5, y - 5, 10, 10);
  for (const place of screen.getAllByRole('button')) place.getBoundingClientRect = at(900, 900);
  const knee = screen.getByRole('button', { name: 'front of knee, right' });
  const ankle = screen.getByRole('button', { name: 'front of hip, left' });
  knee.getBoundingClientRect = at(100, 100);
  ankle.getBoundingClientRect = at(100, 140);
  const map = screen.getByLabelText('Where it hurts');
  fireEvent.click(map, { clientX: 112, clientY: 105 });
  fireEvent.click(map, { clientX: 100, clientY: 126 });
  fireEvent.click(map, { clientX: 160, clientY: 100 });
  fireEvent.click(knee, { clientX: 100, clientY: 100 });
  expect(tap.mock.calls).toEqual([
    ['kneeFront', 'right'],
    ['hipFront', 'left'],
    ['kneeFront', 'right'],
  ]);
});

it('is looked at up to three times as large, and as a whole again', () => {
  render(<BodyMap complaints={[]} selected={null} onTap={() => undefined} />);
  const map = screen.getByLabelText('Where it hurts');
  const [larger, smaller] = ['Larger', 'Smaller'].map((name) =>
    screen.getByRole<HTMLButtonElement>('button', { name }),
  );
  expect(smaller.disabled).toBe(true);
  for (let k = 0; k < 4; k += 1) fireEvent.click(larger);
  expect(map.getAttribute('width')).toBe('300%');
  expect(larger.disabled).toBe(true);
  for (let k = 0; k < 4; k += 1) fireEvent.click(smaller);
  expect(map.getAttribute('width')).toBe('100%');
});
