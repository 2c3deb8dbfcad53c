// @vitest-environment happy-dom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import { drawn } from '../ui/drawn.fixture';
import { KeysHelp } from './KeysHelp';

afterEach(cleanup);

it('“?” shows the keys of the open station, but not while somebody types', () => {
  drawn(
    <>
      <input aria-label="words" />
      <KeysHelp />
    </>,
    { at: '/sessions/a/track' },
  );
  fireEvent.keyDown(screen.getByLabelText('words'), { key: '?' });
  expect(screen.queryByRole('dialog')).toBeNull();
  fireEvent.keyDown(document.body, { key: '?' });
  const keys = screen.getByRole('table', { name: 'Keys of this station' }).textContent;
  expect(keys).toContain('next, previous doubtful place');
  expect(keys).toContain('undo');
  expect(keys).not.toContain('compensate');
});

it('Trial has its own: the step, the rider’s word, the way back', () => {
  drawn(<KeysHelp />, { at: '/sessions/a/trial' });
  fireEvent.keyDown(document.body, { key: '?' });
  const keys = screen.getByRole('table', { name: 'Keys of this station' }).textContent;
  for (const what of ['next step', 'better, the same, worse', 'undo the last step'])
    expect(keys).toContain(what);
});
