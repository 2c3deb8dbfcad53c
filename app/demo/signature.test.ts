import { expect, it } from 'vitest';
import { CATALOGUE } from './catalogue.ts';
import { isSample, signedFor } from './signature.ts';

it('the sample studio signs its own riders’ papers and nobody else’s', () => {
  const sample = CATALOGUE.studio;
  expect(signedFor('maren', sample)).toEqual(sample);
  expect(signedFor('someone', sample)).toMatchObject({
    name: '',
    fitter: '',
    contact: '',
    theme: sample.theme,
  });
  const half = { ...sample, name: 'Mill Lane' };
  expect(signedFor('someone', half)).toMatchObject({ name: 'Mill Lane', fitter: '', contact: '' });
  expect([isSample(sample), isSample(half)]).toEqual([true, true]);
  const own = { ...half, fitter: 'Wim', contact: '' };
  expect(isSample(own)).toBe(false);
  expect(signedFor('someone', own)).toEqual(own);
});
