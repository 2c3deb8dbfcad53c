// @vitest-environment happy-dom
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { CATALOGUE } from '../../demo/catalogue';
import { drawn } from '../../ui/drawn.fixture';
import { AnotherChange } from './AnotherChange';

const bike = CATALOGUE.sessions.find((s) => s.riderId === 'idris')!.asFound;
const height = bike.saddle.heightMm!;

afterEach(cleanup);

async function opened() {
  const make = vi.fn();
  drawn(<AnotherChange bike={bike} onMake={make} />, { at: '/sessions/idris-1/trial' });
  await userEvent.click(screen.getByRole('button', { name: 'Something else…' }));
  const field = screen.getByLabelText('Saddle height, to');
  await userEvent.clear(field);
  return { make, field };
}

it('the click that ends the typing is the one that counts', async () => {
  const { make, field } = await opened();
  await userEvent.type(field, String(height + 4));
  await userEvent.click(screen.getByRole('button', { name: 'On the bike' }));
  expect(make.mock.calls[0][0]).toContainEqual({ at: 'saddle.heightMm', value: height + 4 });
});

it('Enter puts it on the bike; where nothing moves that is said', async () => {
  const { make, field } = await opened();
  await userEvent.type(field, `${height}{Enter}`);
  expect(make).not.toHaveBeenCalled();
  expect((await screen.findByRole('alert')).textContent).toContain('type another value');
  await userEvent.clear(field);
  await userEvent.type(field, `${height - 3}{Enter}`);
  expect(make.mock.calls[0][0]).toContainEqual({ at: 'saddle.heightMm', value: height - 3 });
});
