// @vitest-environment happy-dom
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { parseTracksCsv } from '../../../core/formats/tracksCsv.ts';
import { readTracks } from '../../../core/kinematics/read.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { drawn } from '../../ui/drawn.fixture';
import { StaticReadings } from './StaticReadings';

const edit = vi.hoisted(() => vi.fn());
vi.mock('../../session/useEdit', () => ({ useEdit: () => ({ edit, refused: null }) }));

const pilar = CATALOGUE.sessions.find((s) => s.id === 'pilar-1')!;

function filmOfPilar() {
  const csv = parseTracksCsv(readFileSync('public/demo/pilar.tracks.csv', 'utf8'));
  const read = csv.ok ? readTracks(csv.tracks, { mmPerPx: 1.7 }) : null;
  if (!read?.ok) throw new Error('her film reads');
  return read;
}
const reading = filmOfPilar();

/** Pilar, whose knee was held by a goniometer on the right. */
const held = (deg: number | null): FitSession => ({
  ...pilar,
  statics: { ...pilar.statics, kneeFlexionDeg: { left: null, right: deg, both: null } },
});

beforeEach(() => edit.mockClear());
afterEach(cleanup);

it('takes what a joint can be and refuses what it can’t, in the convention of the studio', async () => {
  drawn(<StaticReadings session={held(null)} reading={reading} convention="inside" />);
  await userEvent.click(screen.getByRole('button', { name: 'Enter readings' }));
  const field = screen.getByLabelText('Knee, right');
  await userEvent.type(field, '300{Enter}');
  expect(screen.getByText('Degrees, from −20 to 180.')).toBeDefined();
  expect(edit).not.toHaveBeenCalled();
  await userEvent.clear(field);
  await userEvent.type(field, '149{Enter}');
  // 149° inside is a bend of 31°: that is what is kept.
  expect(edit).toHaveBeenCalledWith({ kind: 'set', at: 'statics.kneeFlexionDeg.right', value: 31 });
});

it('what was held stands open beside what the film reads, judged by the rider’s own static band', () => {
  drawn(<StaticReadings session={held(31)} reading={reading} convention="bend" />);
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Knee, right' }).value).toBe('31');
  const line = screen.getByTestId('static-kneeFlexionDeg').textContent;
  const [, film, by] = /^filmed, right ([\d.]+)°: ([\d.]+)° more than held$/.exec(line)!;
  expect(Number(film)).toBeCloseTo(reading.angles.kneeFlexionDeg!.min, 0);
  expect(Number(by)).toBeCloseTo(Number(film) - 31, 5);
  // Her hamstrings are tight: the static band moves as the filmed one does.
  const region = screen.getByRole('region', { name: 'Goniometer readings' }).textContent;
  expect(region).toContain('Static band 29 to 39°, 4° more bend for this rider: at the lower edge');
});

it('without a film what was held is judged alone', () => {
  drawn(<StaticReadings session={held(44)} reading={null} convention="bend" />);
  expect(screen.queryByTestId('static-kneeFlexionDeg')).toBeNull();
  expect(screen.getByText(/^Static band 29 to 39°/).textContent).toMatch(/more bend\.$/);
});
