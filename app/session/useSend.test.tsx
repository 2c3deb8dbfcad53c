// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { createRoutesStub, Link } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { isWriting, saveStore, saving } from '../storage/saveState';
import { useSend } from './useSend';

afterEach(async () => {
  cleanup();
  // What one test left refused is no other's.
  await saving(() => Promise.resolve());
});

const state = () => saveStore.getState();

/** A page that sends a list to its own route, whose action may take its time before it writes. */
function aPage(action: (given: unknown) => Promise<unknown>) {
  const Page = () => {
    const { send, fetcher } = useSend<{ to: string[]; from: string[] }, string>();
    return (
      <button onClick={() => send({ to: ['a stem'], from: [] })}>{String(fetcher.data ?? 'Send')}</button>
    );
  };
  const Routes = createRoutesStub([
    { path: '/', Component: Page, action: async ({ request }) => action(await request.json()) },
  ]);
  render(<Routes />);
}

describe('what is handed to an action', () => {
  it('is on its way from the moment it is given, long before the action begins to write', async () => {
    let write = (): void => {};
    const held = new Promise<void>((go) => (write = go));
    const given = vi.fn();
    aPage(async (what) => {
      given(what);
      await held;
      return saving(async () => 'Stored');
    });
    const button = await screen.findByRole('button');
    expect(state()).toEqual({ state: 'saved' });
    expect(isWriting()).toBe(false);
    fireEvent.click(button);
    expect(state()).toEqual({ state: 'saving' });
    expect(isWriting()).toBe(true);
    await vi.waitFor(() => expect(given).toHaveBeenCalledWith({ to: ['a stem'], from: [] }));
    expect(state()).toEqual({ state: 'saving' });
    write();
    expect(await screen.findByText('Stored')).toBeTruthy();
    await vi.waitFor(() => expect(state()).toEqual({ state: 'saved' }));
    expect(isWriting()).toBe(false);
  });

  it('stays failed when its write failed, though the action answered', async () => {
    aPage(async () => {
      await saving(() => Promise.reject(new Error('no room'))).catch(() => undefined);
      return 'Refused';
    });
    fireEvent.click(await screen.findByRole('button'));
    expect(await screen.findByText('Refused')).toBeTruthy();
    await vi.waitFor(() => expect(state()).toMatchObject({ state: 'failed', why: 'no room' }));
    expect(isWriting()).toBe(false);
  });

  it('goes to the page that it was given on, also when another stands by then', async () => {
    const given: string[] = [];
    let undo = (): void => {};
    const Parts = () => {
      const { send } = useSend<{ back: string }>();
      return (
        <Link
          to="/riders"
          onClick={() => {
            undo = () => send({ back: 'a stem' });
          }}
        >
          Riders
        </Link>
      );
    };
    const action = (page: string) => async () => {
      given.push(page);
      return null;
    };
    const Routes = createRoutesStub([
      { path: '/parts', Component: Parts, action: action('parts') },
      { path: '/riders', Component: () => <h1>Riders</h1>, action: action('riders') },
    ]);
    render(<Routes initialEntries={['/parts']} />);
    fireEvent.click(await screen.findByRole('link'));
    await screen.findByRole('heading');
    undo();
    await vi.waitFor(() => expect(given).toEqual(['parts']));
  });
});
