// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import type { Turn } from '../../../core/kinematics/live/turns.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { liveStore, type LiveNow } from '../../jobs/live';
import { drawn } from '../../ui/drawn.fixture';
import { LiveRamp } from './LiveRamp';
import type { Devices } from './useDevices';

const session = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const off = liveStore.getState();

afterEach(() => {
  cleanup();
  liveStore.setState(off, true);
});

const TURN_S = 0.7;
const TURNS = 270;
const powerAt = (tS: number): number => [150, 225, 300][Math.min(2, Math.floor(tS / 63))];
/** Turns stray. */
const stray = (k: number): number => Math.sin(7.3 * k * k);
/** Slides forward with the load; the knee stays as it is. */
const turns = Array.from({ length: TURNS }, (_, k): Turn => {
  const startS = k * TURN_S;
  return {
    startS,
    endS: startS + TURN_S,
    cadenceRpm: 60 / TURN_S,
    figures: { kneeFlexionMinDeg: 38 + 0.8 * stray(k) },
    hip: {
      forwardMm: -180 + 0.06 * (powerAt(startS) - 150) + stray(k + 0.5),
      upMm: 700 + stray(k + 0.3),
    },
  };
});
const load = Array.from({ length: 4 * TURN_S * TURNS }, (_, k) => ({ tS: k / 4, powerW: powerAt(k / 4) }));

function shown(part: Partial<LiveNow>, devices: Partial<Devices> = {}) {
  const live: LiveNow = { ...off, phase: 'following', nowS: TURN_S * TURNS, turns, load, ...part };
  liveStore.setState(live);
  drawn(
    <LiveRamp
      session={session}
      live={live}
      devices={{ on: false, live: null, targetW: 120, ...devices } as Devices}
    />,
    { at: '/sessions/maren-1/trial?view=live' },
  );
}

it('is begun and ended by a press; what it begins with is the clock’s', async () => {
  shown({});
  await userEvent.click(screen.getByRole('button', { name: 'Begin a ramp' }));
  expect(liveStore.getState().ramp).toEqual({ fromS: TURN_S * TURNS, toS: null });
  cleanup();
  shown({ ramp: { fromS: 0, toS: null } });
  await userEvent.click(screen.getByRole('button', { name: 'End the ramp' }));
  expect(liveStore.getState().ramp).toEqual({ fromS: 0, toS: TURN_S * TURNS });
});

it('says what moved against watts and against minutes, and draws any figure with its ±', async () => {
  shown({ ramp: { fromS: 0, toS: null } });
  expect(screen.getByTestId('ramp-power').textContent).toMatch(
    /^From 150 W to 300 W: sits 9 mm ± 1 further forward\.$/,
  );
  expect(screen.getByTestId('ramp-minutes').textContent).toMatch(
    /^From minute 1 to minute 4: sits (9|10) mm/,
  );
  expect(screen.getByRole('img', { name: 'Knee at its straightest against W' })).toBeTruthy();
  fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Figure' }));
  await userEvent.click(screen.getByRole('option', { name: 'Hip ahead of the bottom bracket' }));
  const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1);
  expect(rows.map((r) => r.firstElementChild!.textContent)).toEqual(['150', '225', '300']);
  fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Against' }));
  await userEvent.click(screen.getByRole('option', { name: 'minutes' }));
  expect(screen.getByRole('img', { name: 'Hip ahead of the bottom bracket against min' })).toBeTruthy();
});

it('a trainer’s own table takes the place of what was read meanwhile', async () => {
  shown({ ramp: { fromS: 0, toS: null }, load: [] });
  expect(screen.queryByTestId('ramp-power')).toBeNull();
  expect(screen.getByTestId('ramp-minutes')).toBeTruthy();
  liveStore.setState({ ramp: { fromS: 20, toS: null } });
  const { loadFromTable } = await import('../../jobs/live');
  loadFromTable([
    { tS: 5, powerW: 100, cadenceRpm: 80, leftPercent: null },
    { tS: 6, powerW: 110, cadenceRpm: 80, leftPercent: null },
  ]);
  expect(liveStore.getState().load).toEqual([
    { tS: 20, powerW: 100 },
    { tS: 21, powerW: 110 },
  ]);
});

it('the simulated trainer is asked for more or less, and says that it is simulated', async () => {
  const ask = vi.fn();
  const live = { tS: 0, powerW: 148.6, cadenceRpm: 85, leftPercent: null };
  shown({ ramp: { fromS: 0, toS: null } }, { on: true, live, targetW: 150, ask });
  expect(screen.getByTestId('ramp-load').textContent).toBe('149 W of 150 W asked, simulated');
  await userEvent.click(screen.getByRole('button', { name: '25 W more' }));
  await userEvent.click(screen.getByRole('button', { name: '25 W less' }));
  expect(ask.mock.calls).toEqual([[175], [125]]);
});
