// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { afterEach, expect, it, vi } from 'vitest';
import { PageDialog } from './PageDialog';

afterEach(cleanup);

/** A dialog over the second page of two. */
function open(unsaved: boolean) {
  const onClose = vi.fn();
  const router = createMemoryRouter(
    [
      { path: '/before', element: <p>before</p> },
      {
        path: '/page',
        element: (
          <PageDialog open onClose={onClose} unsaved={unsaved}>
            <p>inside</p>
          </PageDialog>
        ),
      },
    ],
    { initialEntries: ['/before', '/page'], initialIndex: 1 },
  );
  render(<RouterProvider router={router} />);
  return { onClose, router };
}

it('Back closes it, and the page stays', async () => {
  const { onClose, router } = open(false);
  await act(() => router.navigate(-1));
  await waitFor(() => expect(onClose).toHaveBeenCalledTimes(1));
  expect(router.state.location.pathname).toBe('/page');
});

it('what was typed is not thrown away unasked: by Back or Escape it asks, and goes on or discards', async () => {
  const { onClose, router } = open(true);
  await act(() => router.navigate(-1));
  await screen.findByText('What you typed is not stored yet.');
  expect(onClose).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole('button', { name: 'Go on' }));
  expect(screen.queryByText('What you typed is not stored yet.')).toBeNull();
  fireEvent.keyDown(screen.getByText('inside'), { key: 'Escape' });
  fireEvent.click(await screen.findByRole('button', { name: 'Discard it' }));
  expect(onClose).toHaveBeenCalledTimes(1);
  expect(router.state.location.pathname).toBe('/page');
});
