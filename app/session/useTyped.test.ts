import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { expect, it } from 'vitest';
import { FieldPlace, usePlace } from './useTyped';

const Shown = (): string => usePlace();

it('a place within a place is told apart from the same one within another', () => {
  const left = (of: string): string =>
    renderToStaticMarkup(
      createElement(
        FieldPlace,
        { value: of },
        createElement(FieldPlace, { value: 'left' }, createElement(Shown)),
      ),
    );
  expect(left('found')).toContain('left');
  expect(left('found')).not.toBe(left('now'));
});
