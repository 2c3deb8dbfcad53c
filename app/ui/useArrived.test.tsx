// @vitest-environment happy-dom
import { act, cleanup, render, screen } from '@testing-library/react';
import { Component, type ReactNode } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { useArrived } from './useArrived';

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

const Shown = ({ promise }: { promise: Promise<string> }) => <p>{useArrived(promise) ?? 'waiting'}</p>;

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
