// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, renderHook, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { PlanCase, Prescription } from '../../../core/plan/terms/plan.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { TakeResult } from '../../jobs/readings';
import { CATALOGUE } from '../../demo/catalogue';
import { planOf } from '../../jobs/plans';
import { readingOf } from '../../jobs/readings';
import { KeepPlan } from './KeepPlan';
import { usePrescription, useVisitCase } from './usePlan';

const set = vi.hoisted(() => vi.fn());
vi.mock('../../session/useSet', () => ({ useSet: () => ({ set }) }));
vi.mock('../../session/useStudio', () => ({ useStudio: () => CATALOGUE.studio }));
// The bar at the foot of the page, which it is drawn into.
vi.mock('../../ui/NextAction', () => ({ NextAction: ({ children }: { children: ReactNode }) => children }));
vi.mock('../../jobs/plans', () => ({ planOf: vi.fn() }));
vi.mock('../../jobs/readings', async (whole) => ({
  ...(await whole<object>()),
  readingOf: vi.fn(),
}));

/** Idris was filmed from the side and from the front; whose readings come when the test says so. */
const session = CATALOGUE.sessions.find((s) => s.id === 'idris-1')!;
const front = session.takes.find((t) => t.view === 'front')!;
const pending = new Map<string, (r: TakeResult) => void>();
const comes = (take: Take): Promise<void> =>
  act(async () => {
    pending.get(take.id)!({ kind: 'missing', take, what: 'tracks' });
    await Promise.resolve();
  });

const planned = (key: string): Prescription =>
  ({ now: [{ key, moves: {}, title: null, why: [], check: '' }], try: [] }) as unknown as Prescription;

beforeEach(() => {
  vi.mocked(readingOf).mockImplementation(
    (_: FitSession, take: Take) => new Promise((give) => pending.set(take.id, give)),
  );
  vi.mocked(planOf).mockResolvedValue(planned('all of it'));
});

afterEach(() => {
  cleanup();
  vi.clearAllMocks();
  pending.clear();
});

it('no prescription is made before every film of the round is read', async () => {
  const { result } = renderHook(() => {
    const { case: c, waits } = useVisitCase(session, null, [], null);
    return { waits, plan: usePrescription(c, waits) };
  });
  await act(async () => {
    await Promise.resolve();
  });
  expect(result.current).toEqual({ waits: true, plan: null });
  expect(planOf).not.toHaveBeenCalled();
  await comes(front);
  await waitFor(() => expect(result.current).toEqual({ waits: false, plan: planned('all of it') }));
});

it('where no film from the front was taken none is waited for', async () => {
  const alone = { ...session, takes: session.takes.filter((t) => t.id !== front.id) };
  const { result } = renderHook(() => {
    const { case: c, waits } = useVisitCase(alone, null, [], null);
    return usePrescription(c, waits);
  });
  await waitFor(() => expect(result.current).toEqual(planned('all of it')));
});

it('what is kept is the plan of what stands now, not the one that was still in sight', async () => {
  const now = {} as PlanCase;
  vi.mocked(planOf).mockImplementation((c) =>
    Promise.resolve(planned(c === now ? 'the new one' : 'an old one')),
  );
  render(<KeepPlan session={{ ...session, plan: null }} visitCase={{ case: now, measures: [] } as never} />);
  fireEvent.click(screen.getByRole('button', { name: 'Keep this plan' }));
  await waitFor(() => expect(set).toHaveBeenCalled());
  expect(JSON.stringify(set.mock.lastCall)).toContain('the new one');
});

it('a plan that could not be made keeps nothing', async () => {
  vi.mocked(planOf).mockRejectedValue(new Error('broken'));
  render(<KeepPlan session={{ ...session, plan: null }} visitCase={{ case: {}, measures: [] } as never} />);
  fireEvent.click(screen.getByRole('button', { name: 'Keep this plan' }));
  await act(async () => {
    await Promise.resolve();
  });
  expect(set).not.toHaveBeenCalled();
});
