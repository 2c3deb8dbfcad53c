interface Size {
  width: number;
  height: number;
}

/** The canvas in a size; left alone, and so not wiped, where it has it. */
function fit(canvas: HTMLCanvasElement, { width, height }: Size): void {
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
}

/** Nearly as wide as the film it is shown as it is. */
const NEARLY = 0.95;

/** How large a film's picture is drawn on the page: no larger than it is, and no larger than it is seen. */
export function sizeOnPage(film: Size, seenPx: number): Size {
  const share = seenPx / film.width;
  return seenPx > 0 && share < NEARLY
    ? { width: Math.round(seenPx), height: Math.round(share * film.height) }
    : film;
}

const penOn = (canvas: HTMLCanvasElement): CanvasRenderingContext2D =>
  canvas.getContext('2d', { alpha: false })!;

/** Where a film's pictures are shown. */
export interface FilmScreen {
  /** The picture in the film's own size, for who looks closer; without width before there is one. */
  film: HTMLCanvasElement;
  /** The canvas on the page from now on; null: none. */
  attach: (canvas: HTMLCanvasElement | null) => void;
  /** Shows a picture of the film's. @returns whether there is a canvas to show it on */
  show: (picture: ImageBitmap) => boolean;
  /** Puts a picture on the page as it is, in place of the film's. */
  paint: (picture: ImageData) => void;
}

/**
 * A film's picture is drawn on the page as large as it is seen there, once for each frame: what is laid over it moves much more often, and
 * without a graphics chip the browser would scale the whole picture every time.
 */
export function filmScreen(): FilmScreen {
  const film = document.createElement('canvas');
  film.width = 0;
  let page: HTMLCanvasElement | null = null;
  let isFilms = false;
  const draw = (): void => {
    if (!page || film.width === 0) return;
    const size = sizeOnPage(film, page.clientWidth * devicePixelRatio);
    fit(page, size);
    penOn(page).drawImage(film, 0, 0, size.width, size.height);
    isFilms = true;
  };
  const resized = new ResizeObserver(() => {
    if (!page || !isFilms) return;
    if (sizeOnPage(film, page.clientWidth * devicePixelRatio).width !== page.width) draw();
  });
  return {
    film,
    attach(canvas) {
      resized.disconnect();
      page = canvas;
      isFilms = false;
      if (canvas) resized.observe(canvas);
    },
    show(picture) {
      if (!page) return false;
      fit(film, picture);
      penOn(film).drawImage(picture, 0, 0);
      draw();
      return true;
    },
    paint(picture) {
      if (!page) return;
      fit(page, picture);
      penOn(page).putImageData(picture, 0, 0);
      isFilms = false;
    },
  };
}
