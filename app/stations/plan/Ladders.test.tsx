// @vitest-environment happy-dom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, expect, it } from 'vitest';
import type { RungWord } from '../../../core/suspects/ladders.ts';
import { Ladders } from './Ladders';

/** The sequences of a rider whose feet hurt at their outer edge, with what was said so far. */
function Sequences({ words }: { words: RungWord[] }) {
  const [answers, setAnswers] = useState({ stance: words });
  return (
    <Ladders
      regions={['footOutside']}
      answers={answers}
      onSay={(key, given) => setAnswers({ ...answers, [key]: given })}
    />
  );
}

const stance = () => within(screen.getByRole('region', { name: 'Sequence: Stance' }));
const rung = (n: number) => stance().getAllByRole('listitem')[n];
const press = (name: string) => userEvent.click(stance().getByRole('button', { name }));

afterEach(cleanup);

it('goes rung by rung, each with what came of it, and ends where one helped', async () => {
  render(<Sequences words={[]} />);
  expect(rung(0).getAttribute('aria-current')).toBe('step');
  await press('The same');
  expect(rung(0).textContent).toContain('made no difference');
  expect(rung(0).getAttribute('aria-current')).toBeNull();
  expect(rung(1).getAttribute('aria-current')).toBe('step');
  await press('Helped');
  expect(screen.getByRole('region').textContent).toContain('Washer helped');
  expect(stance().queryByRole('button', { name: 'Helped' })).toBeNull();
  await press('One back');
  expect(rung(1).getAttribute('aria-current')).toBe('step');
});

it('goes on where it was left; where nothing helped a clinician is named', async () => {
  render(<Sequences words={['same', 'worse', 'left-out', 'same']} />);
  expect(rung(1).textContent).toContain('made it worse: undone');
  expect(rung(2).textContent).toContain('left out');
  await press('Worse');
  expect(screen.getByRole('region').textContent).toContain('Nothing of this helped: refer to a clinician.');
});

it('says whom the sequences are for where none is asked for', () => {
  render(<Ladders regions={['lowBack']} answers={{}} onSay={() => undefined} />);
  expect(screen.getByText(/^No guided sequence is asked for/)).toBeDefined();
});
