// @vitest-environment happy-dom
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { afterEach, expect, it, vi } from 'vitest';
import { parseTracksCsv } from '../../../core/formats/tracksCsv.ts';
import { readTracks, type Reading } from '../../../core/kinematics/read.ts';
import type { Take } from '../../../core/records/types.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { drawn } from '../../ui/drawn.fixture';
import { CompareWith } from './CompareWith';

function readingOf(film: string): Reading {
  const csv = parseTracksCsv(readFileSync(`public/demo/${film}.tracks.csv`, 'utf8'));
  const read = csv.ok ? readTracks(csv.tracks, { mmPerPx: 2.55 }) : null;
  if (!read?.ok) throw new Error(`${film} reads`);
  return read;
}

const session = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const [take, other] = session.takes;
const reading = readingOf('maren');

/** The take that is read, with others chosen to be compared with it. */
function compared(...takes: { take: Take; reading: Reading }[]) {
  const onChoose = vi.fn();
  drawn(
    <CompareWith
      {...{ session, take, reading, onChoose, compared: takes, chosen: takes.map((t) => t.take.id) }}
      tables={{ tables: [], trouble: null, lay: vi.fn(), takeOff: vi.fn(), forget: vi.fn() }}
      convention="bend"
    />,
  );
  return onChoose;
}

afterEach(cleanup);

it('the same film as another take: no figure differs by more than the noise, and all of them can be seen', async () => {
  compared({ take: other, reading });
  const region = screen.getByRole('region', { name: /^Compare with other takes/ });
  expect(region.textContent).toContain('0 of 24 figures differ by more than the noise');
  const rows = () => within(region).getAllByRole('row');
  expect(rows()).toHaveLength(1);
  await userEvent.click(within(region).getByRole('button', { name: 'All figures' }));
  expect(rows()).toHaveLength(25);
  expect(within(region).getByRole('table').textContent).not.toContain('real');
  expect(region.textContent).toContain('Stickers left on: where they sit cancels.');
  await userEvent.click(within(region).getByLabelText('Stickers reapplied in between'));
  expect(region.textContent).toContain('Other stickers: where they sit counts fully.');
});

it('after six weeks, the saddle 18 mm higher, the knee bends less: that is real', () => {
  compared({ take: other, reading: readingOf('maren-third') });
  const knee = screen.getByText('Knee, least').closest('tr')!;
  expect(knee.textContent).toMatch(/−\d+(\.\d)?°.*real$/);
});

it('the other side wears other stickers, without being asked', () => {
  const left = { ...other, view: take.view === 'drive' ? 'nonDrive' : 'drive' } as Take;
  compared({ take: left, reading });
  expect(screen.getByText(/^Left against right/)).toBeDefined();
  expect(screen.queryByLabelText('Stickers reapplied in between')).toBeNull();
  expect(screen.getByText(/Other stickers: where they sit counts fully/)).toBeDefined();
});

it('a take is chosen and taken off again by its box', async () => {
  const chosen = compared();
  const boxes = screen.getAllByRole('checkbox');
  await userEvent.click(boxes[0]);
  expect(chosen).toHaveBeenCalledWith([other.id]);
  cleanup();
  const left = compared({ take: other, reading });
  await userEvent.click(screen.getAllByRole('checkbox')[0]);
  expect(left).toHaveBeenCalledWith([]);
});
