// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import { useAfterFirst } from './useAfterFirst';

afterEach(cleanup);

it('what is looked at last comes right after the first page, and with every later one', async () => {
  const drawn: boolean[] = [];
  function Page() {
    const afterFirst = useAfterFirst();
    drawn.push(afterFirst);
    return afterFirst ? <button type="button">tools</button> : null;
  }
  const first = render(<Page />);
  expect(drawn[0]).toBe(false);
  await screen.findByRole('button', { name: 'tools' });
  first.unmount();
  drawn.length = 0;
  render(<Page />);
  expect([...new Set(drawn)]).toEqual([true]);
});
