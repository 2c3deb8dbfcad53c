// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { filmScreen, sizeOnPage } from './filmScreen.ts';

const pens = new Map<HTMLCanvasElement, { drawImage: ReturnType<typeof vi.fn>; putImageData: () => void }>();
let resized: () => void = () => undefined;

beforeEach(() => {
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockImplementation(function (this: HTMLCanvasElement) {
    if (!pens.has(this)) pens.set(this, { drawImage: vi.fn(), putImageData: vi.fn() });
    return pens.get(this) as never;
  });
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(tell: () => void) {
        resized = tell;
      }
      observe = (): void => undefined;
      disconnect = (): void => undefined;
    },
  );
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  pens.clear();
});

const seen = (clientWidth: number): HTMLCanvasElement =>
  Object.defineProperty(document.createElement('canvas'), 'clientWidth', {
    value: clientWidth,
    configurable: true,
  });
const picture = { width: 1280, height: 720 } as ImageBitmap;

it('is drawn as large as it is seen, and no larger than the film', () => {
  expect(sizeOnPage({ width: 1280, height: 720 }, 640)).toEqual({ width: 640, height: 360 });
  expect(sizeOnPage({ width: 1280, height: 720 }, 1250)).toEqual({ width: 1280, height: 720 });
  expect(sizeOnPage({ width: 320, height: 180 }, 900)).toEqual({ width: 320, height: 180 });
  // Not laid out yet.
  expect(sizeOnPage({ width: 320, height: 180 }, 0)).toEqual({ width: 320, height: 180 });
});

it('keeps the whole picture for who looks closer, and draws it anew where the page’s canvas grows', () => {
  const screen = filmScreen();
  expect(screen.show(picture)).toBe(false);
  const page = seen(640);
  screen.attach(page);
  expect(screen.show(picture)).toBe(true);
  expect([screen.film.width, screen.film.height]).toEqual([1280, 720]);
  expect([page.width, page.height]).toEqual([640, 360]);
  expect(pens.get(page)!.drawImage).toHaveBeenCalledWith(screen.film, 0, 0, 640, 360);
  Object.defineProperty(page, 'clientWidth', { value: 900 });
  resized();
  expect([page.width, page.height]).toEqual([900, 506]);
});

it('a picture that is put on the page as it is stays there when the page is resized', () => {
  const screen = filmScreen();
  const page = seen(640);
  screen.attach(page);
  screen.show(picture);
  screen.paint({ width: 320, height: 180 } as ImageData);
  Object.defineProperty(page, 'clientWidth', { value: 900 });
  resized();
  expect([page.width, page.height]).toEqual([320, 180]);
});
