// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import Joi from 'joi';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { ControlField } from './ControlField';
import { DayField } from './DayField';
import { KeyField } from './KeyField';
import { drawn } from '../drawn.fixture';
import { LengthField, MassField, NumberField } from './NumberField';
import { WordsField } from './WordsField';

afterEach(cleanup);

const HEIGHT = Joi.number().min(400).max(900).messages({ 'number.max': 'At most 900 mm.' });

/** A field that is given back what it hands over, as a page does. */
function Kept<V>({
  first,
  heard,
  children,
}: {
  first: V;
  heard: (v: V) => void;
  children: (value: V, put: (v: V) => void) => React.ReactNode;
}) {
  const [value, setValue] = useState(first);
  return children(value, (v) => {
    heard(v);
    setValue(v);
  });
}

const height = (heard: (v: number | null) => void, label = 'Height') => (
  <Kept<number | null> first={700} heard={heard}>
    {(value, put) => <LengthField optional label={label} value={value} schema={HEIGHT} onChange={put} />}
  </Kept>
);

describe('a length', () => {
  it('is handed over a moment after the last key, without the field being left', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height a'));
    const box = screen.getByLabelText('Height a');
    await userEvent.clear(box);
    await userEvent.type(box, '712');
    expect(heard).not.toHaveBeenCalledWith(712);
    await vi.waitFor(() => expect(heard).toHaveBeenLastCalledWith(712), { timeout: 3000 });
    expect(document.activeElement).toBe(box);
  });
  it('understands any unit, in whichever one it is shown, to a tenth of a millimetre', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height b'), { studio: { lengthUnit: 'cm' } });
    const box = screen.getByLabelText<HTMLInputElement>('Height b');
    expect(box.value).toBe('70');
    for (const [typed, mm] of [
      ['28 1/2 in', 723.9],
      ['72,53', 725.3],
      ['801 mm', 801],
    ] as const) {
      await userEvent.clear(box);
      await userEvent.type(box, `${typed}{Enter}`);
      expect(heard).toHaveBeenLastCalledWith(mm);
    }
    expect(box.value).toBe('80.1');
  });
  it('that can’t be is refused in words once it is left, and keeps what was typed', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height c'));
    const box = screen.getByLabelText<HTMLInputElement>('Height c');
    await userEvent.clear(box);
    await userEvent.type(box, '1200');
    await userEvent.tab();
    expect(await screen.findByText('At most 900 mm.')).toBeTruthy();
    expect(box.getAttribute('aria-invalid')).toBe('true');
    expect(box.value).toBe('1200');
    expect(heard.mock.calls.flat()).not.toContain(1200);
  });
  it('taken back with Escape stands as it did, though it was handed over meanwhile', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height d'));
    const box = screen.getByLabelText<HTMLInputElement>('Height d');
    await userEvent.clear(box);
    await userEvent.type(box, '750');
    await vi.waitFor(() => expect(heard).toHaveBeenLastCalledWith(750), { timeout: 3000 });
    await userEvent.keyboard('{Escape}');
    expect(heard).toHaveBeenLastCalledWith(700);
    expect(box.value).toBe('700');
  });
  it('left empty is none where it may be, and asked for where it may not', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height e'));
    await userEvent.clear(screen.getByLabelText('Height e'));
    await userEvent.tab();
    expect(heard).toHaveBeenLastCalledWith(null);
    cleanup();
    const request = vi.fn();
    drawn(<NumberField label="Seat angle" unit="°" value={73} schema={Joi.number()} onChange={request} />);
    await userEvent.clear(screen.getByLabelText('Seat angle'));
    await userEvent.tab();
    expect(await screen.findByText('Type a number in degrees.')).toBeTruthy();
    expect(request).not.toHaveBeenCalled();
  });
});

describe('other fields', () => {
  it('a number has a true minus, typed either way', async () => {
    const heard = vi.fn();
    drawn(
      <Kept<number> first={-6} heard={heard}>
        {(value, put) => (
          <NumberField label="Angle" unit="°" value={value} schema={Joi.number()} onChange={put} />
        )}
      </Kept>,
    );
    const box = screen.getByLabelText<HTMLInputElement>('Angle');
    expect(box.value).toBe('−6');
    await userEvent.clear(box);
    await userEvent.type(box, '-7.5{Enter}');
    expect(heard).toHaveBeenLastCalledWith(-7.5);
    expect(box.value).toBe('−7.5');
  });
  it('a mass goes in and out in kilograms whatever it is shown in', async () => {
    const heard = vi.fn();
    drawn(<MassField optional label="Mass" value={70} schema={Joi.number()} onChange={heard} />, {
      studio: { massUnit: 'lb' },
    });
    const box = screen.getByLabelText<HTMLInputElement>('Mass');
    expect(Number(box.value)).toBeCloseTo(154.3, 0);
    await userEvent.clear(box);
    await userEvent.type(box, '150{Enter}');
    expect(heard.mock.lastCall![0]).toBeCloseTo(68, 0);
  });
  it('a control is typed as the value it comes to, within what it can be moved by', async () => {
    const heard = vi.fn();
    drawn(
      <Kept<number> first={0} heard={heard}>
        {(by, put) => (
          <ControlField control="saddleUp" label="Saddle height, to" from={700} by={by} onChange={put} />
        )}
      </Kept>,
    );
    const box = screen.getByLabelText<HTMLInputElement>('Saddle height, to');
    await userEvent.clear(box);
    await userEvent.type(box, '712.5{Enter}');
    expect(heard).toHaveBeenLastCalledWith(12.5);
    await userEvent.clear(box);
    await userEvent.type(box, '790{Enter}');
    expect(await screen.findByText('At most 760.')).toBeTruthy();
    expect(heard).toHaveBeenLastCalledWith(12.5);
  });
  it('words are handed over as they are, line breaks and all', async () => {
    const heard = vi.fn();
    drawn(<WordsField label="Note" value="" most={200} lines={2} onChange={heard} />);
    await userEvent.type(screen.getByLabelText('Note'), 'first{Enter}second');
    await userEvent.tab();
    expect(heard).toHaveBeenLastCalledWith('first\nsecond');
  });
  it('what was handed over is not handed over again over what was put there since', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height g'));
    await userEvent.clear(screen.getByLabelText('Height g'));
    await userEvent.type(screen.getByLabelText('Height g'), '712{Enter}');
    expect(heard).toHaveBeenLastCalledWith(712);
    cleanup();
    // Elsewhere it became another value; back on the page within moments.
    const again = vi.fn();
    drawn(<LengthField optional label="Height g" value={720} schema={HEIGHT} onChange={again} />);
    expect(screen.getByLabelText<HTMLInputElement>('Height g').value).toBe('720');
    await userEvent.tab();
    expect(again).not.toHaveBeenCalled();
  });
  it('two fields of one name in one place keep their own drafts by the address they stand at', async () => {
    const heard = vi.fn();
    drawn(height(heard, 'Height f'), { at: '/sessions/one/bike' });
    await userEvent.clear(screen.getByLabelText('Height f'));
    await userEvent.type(screen.getByLabelText('Height f'), '12');
    cleanup();
    drawn(height(heard, 'Height f'), { at: '/sessions/two/bike' });
    expect(screen.getByLabelText<HTMLInputElement>('Height f').value).toBe('700');
    cleanup();
    drawn(height(heard, 'Height f'), { at: '/sessions/one/bike' });
    expect(screen.getByLabelText<HTMLInputElement>('Height f').value).toBe('12');
  });
});

describe('a day', () => {
  it('is shown as every day here is, and handed over whole or not at all', async () => {
    const heard = vi.fn();
    drawn(
      <Kept<string | null> first="2027-11-22" heard={heard}>
        {(value, put) => <DayField label="Event’s date" value={value} onChange={put} />}
      </Kept>,
    );
    const group = screen.getByRole('group', { name: 'Event’s date' });
    expect(group.textContent).toMatch(/22\D*Nov\D*2027/);
    await userEvent.click(screen.getByRole('spinbutton', { name: 'Day' }));
    await userEvent.keyboard('05');
    expect(heard).toHaveBeenLastCalledWith('2027-11-05');
    await userEvent.click(screen.getByRole('spinbutton', { name: 'Year' }));
    await userEvent.keyboard('2031');
    expect(heard).toHaveBeenLastCalledWith('2031-11-05');
    for (const [day] of heard.mock.calls) expect(day).toMatch(/^20\d{2}-\d{2}-\d{2}$/);
  });
  it('is typed into an empty field, and taken out again', async () => {
    const heard = vi.fn();
    drawn(
      <Kept<string | null> first={null} heard={heard}>
        {(value, put) => <DayField label="Another day" value={value} onChange={put} />}
      </Kept>,
    );
    await userEvent.click(screen.getByRole('spinbutton', { name: 'Day' }));
    await userEvent.keyboard('04Mar2031');
    expect(heard.mock.calls).toEqual([['2031-03-04']]);
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(heard).toHaveBeenLastCalledWith(null);
  });
  it('follows a value that comes from elsewhere', () => {
    const { rerender } = render(<DayField label="A day" value="2027-11-22" onChange={() => undefined} />);
    rerender(<DayField label="A day" value="2028-01-05" onChange={() => undefined} />);
    expect(screen.getByRole('group', { name: 'A day' }).textContent).toMatch(/5\D*Jan\D*2028/);
  });
  it('says what is wrong with it', () => {
    drawn(<DayField label="Another day" value={null} onChange={() => undefined} error="Choose the day." />);
    expect(screen.getByText('Choose the day.')).toBeTruthy();
  });
});

describe('a key of a remote', () => {
  it('is chosen by pressing it, whatever that would do elsewhere; Escape leaves it, and the usual ones come back', async () => {
    const heard = vi.fn();
    const elsewhere = vi.fn();
    window.addEventListener('keydown', elsewhere);
    render(
      <Kept first="" heard={heard}>
        {(value, put) => <KeyField label="Next step" usual="Page Down or →" value={value} onChange={put} />}
      </Kept>,
    );
    expect(screen.getByRole('status').textContent).toBe('Page Down or →');
    await userEvent.click(screen.getByRole('button', { name: 'Another key…' }));
    await userEvent.keyboard('{Shift}');
    expect(heard).not.toHaveBeenCalled();
    elsewhere.mockClear();
    await userEvent.keyboard('{ArrowDown}');
    expect(heard).toHaveBeenLastCalledWith('ArrowDown');
    expect(elsewhere).not.toHaveBeenCalled();
    expect(screen.getByRole('status').textContent).toBe('↓');
    await userEvent.click(screen.getByRole('button', { name: 'Another key…' }));
    await userEvent.keyboard('{Escape}');
    expect(heard).toHaveBeenCalledTimes(1);
    await userEvent.click(screen.getByRole('button', { name: 'Usual keys' }));
    expect(heard).toHaveBeenLastCalledWith('');
    window.removeEventListener('keydown', elsewhere);
  });
});
