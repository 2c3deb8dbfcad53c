import { render, type RenderResult } from '@testing-library/react';
import 'fake-indexeddb/auto';
import type { ReactNode } from 'react';
import { createRoutesStub, Outlet } from 'react-router';
import { NEW_STUDIO, type Studio } from '../../core/records/types.ts';
import { StudioTheme } from './theme/StudioTheme';

/** Draws a piece of a page by itself, in a studio and at an address, for tests. */
export function drawn(
  element: ReactNode,
  { studio = {}, at = '/sessions/a-visit/bike' }: { studio?: Partial<Studio>; at?: string } = {},
): RenderResult {
  const loaded = { studio: { ...NEW_STUDIO, ...studio } };
  const Page = createRoutesStub([
    {
      id: 'root',
      path: '/',
      loader: () => loaded,
      Component: () => (
        <StudioTheme studio={loaded.studio}>
          <Outlet />
        </StudioTheme>
      ),
      children: [{ path: '*', Component: () => element, action: () => null }],
    },
  ]);
  return render(<Page initialEntries={[at]} hydrationData={{ loaderData: { root: loaded } }} />);
}
