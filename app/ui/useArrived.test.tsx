// @vitest-environment happy-dom
import { act, cleanup, render, screen } from '@testing-library/react';
import { Component, useState, type ReactNode } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { arriving, useArrived, type Arriving } from './useArrived';

afterEach(cleanup);

class Caught extends Component<{ children: ReactNode }, { message: string | null }> {
  override state = { message: null };
  static getDerivedStateFromError = (error: Error) => ({ message: error.message });
  override render = (): ReactNode => this.state.message ?? this.props.children;
}

/** A promise that is kept or broken by hand. */
function promised() {
  let resolve!: (value: string) => void;
  let reject!: (error: Error) => void;
  const promise = new Promise<string>((keep, fail) => {
    resolve = keep;
    reject = fail;
  });
  return { promise, resolve, reject };
}

const Shown = ({ promise, now = null }: { promise: Promise<string>; now?: string | null }) => {
  const [of, setOf] = useState<Arriving<string>>({ now, later: promise });
  if (of.later !== promise) setOf({ now, later: promise });
  return <p>{useArrived(of) ?? 'waiting'}</p>;
};

it('what is there within a moment is drawn in the first place, and stays until what comes later is there', async () => {
  const of = await arriving(Promise.resolve('at once'));
  expect(of.now).toBe('at once');
  const { rerender } = render(<Shown promise={of.later} now={of.now} />);
  expect(screen.getByText('at once')).toBeTruthy();
  const late = promised();
  expect((await arriving(late.promise)).now).toBeNull();
  rerender(<Shown promise={late.promise} />);
  expect(screen.getByText('at once')).toBeTruthy();
  await act(async () => late.resolve('later'));
  expect(screen.getByText('later')).toBeTruthy();
});

it('draws what arrives at once, keeps it until the next has come, and hears nothing of one that was replaced', async () => {
  const first = promised();
  const second = promised();
  const { rerender } = render(<Shown promise={first.promise} />);
  expect(screen.getByText('waiting')).toBeTruthy();
  await act(async () => first.resolve('one'));
  expect(screen.getByText('one')).toBeTruthy();
  const late = promised();
  rerender(<Shown promise={late.promise} />);
  rerender(<Shown promise={second.promise} />);
  expect(screen.getByText('one')).toBeTruthy();
  await act(async () => second.resolve('two'));
  await act(async () => late.resolve('late'));
  expect(screen.getByText('two')).toBeTruthy();
});

it('throws what it fails with where the page can catch it', async () => {
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const failing = promised();
  render(
    <Caught>
      <Shown promise={failing.promise} />
    </Caught>,
  );
  await act(async () => failing.reject(new Error('the disk is gone')));
  expect(screen.getByText('the disk is gone')).toBeTruthy();
});
