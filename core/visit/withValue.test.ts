import { expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { withValue } from './withValue.ts';

const visit = CATALOGUE.sessions[0];

it('two parts of the report are two values: whoever writes one leaves the other', () => {
  const one = withValue(visit, 'handOver.texts.again', 'In six weeks')!;
  const two = withValue(one, 'handOver.texts.greeting', 'Hello')!;
  expect(two.handOver.texts).toEqual({ ...visit.handOver.texts, again: 'In six weeks', greeting: 'Hello' });
});

it('none in place of words of one’s own lets the proposed ones stand again, and nothing else goes', () => {
  const own = withValue(visit, 'handOver.texts.again', 'In six weeks')!;
  const back = withValue(own, 'handOver.texts.again', null)!;
  expect(back.handOver.texts).toEqual(visit.handOver.texts);
  expect(Object.keys(back.handOver.texts)).not.toContain('again');
  expect(back.handOver.leftOut).toBe(visit.handOver.leftOut);
});

it('takes nothing where nothing is edited so: ids, other parts, lists out of reach', () => {
  expect(withValue(visit, 'riderId', 'x')).toBeNull();
  expect(withValue(visit, 'handOver.other.id', 'x')).toBeNull();
  expect(withValue(visit, 'takes.0.note', 'x')).toBeNull();
  expect(withValue(visit, 'handOver.texts.__proto__', 'x')).toBeNull();
});
