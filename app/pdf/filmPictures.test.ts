// @vitest-environment happy-dom
import { beforeEach, expect, it, vi } from 'vitest';
import type { Take } from '../../core/records/types.ts';
import { CAST } from '../../sim/cast.ts';
import { filmed } from '../../sim/filmed.ts';
import { CATALOGUE } from '../demo/catalogue';
import { filmPictures, type WantedPicture } from './filmPictures';

const camera = vi.hoisted(() => ({
  film: null as Blob | null,
  openings: 0,
  frames: [] as number[],
  damaged: -1,
}));
vi.mock('../storage/sessions', () => ({ clipOf: () => Promise.resolve(camera.film) }));
vi.mock('../workers/spawn', () => ({
  spawnClipReader: () => {
    camera.openings += 1;
    return {
      api: {
        open: () => Promise.resolve({ ok: true }),
        frame: (index: number) => {
          camera.frames.push(index);
          return index === camera.damaged
            ? Promise.reject(new Error('It can’t be decoded.'))
            : Promise.resolve({ width: 1280, height: 720, close: () => undefined });
        },
      },
      end: () => undefined,
    };
  },
}));

/** A canvas that keeps what is written on it, and gives that back for a picture. */
class Canvas {
  words = '';
  constructor(
    readonly width: number,
    readonly height: number,
  ) {}
  getContext(): object {
    const nothing = (): void => undefined;
    return {
      ...{ canvas: this, drawImage: nothing, beginPath: nothing, moveTo: nothing, lineTo: nothing },
      ...{ stroke: nothing, arc: nothing, fillRect: nothing, measureText: () => ({ width: 80 }) },
      fillText: (words: string) => void (this.words = words),
    };
  }
  convertToBlob(): Promise<Blob> {
    return Promise.resolve(new Blob([this.words], { type: 'image/jpeg' }));
  }
}
vi.stubGlobal('OffscreenCanvas', Canvas);

const take: Take = CATALOGUE.sessions[0].takes[0];
const seen = () => filmed({ rider: CAST[1].scene.rider, seconds: 2, rate: 60 });
const knee: WantedPicture = { frame: 70, key: 'kneeFlexionMinDeg', text: '34°' };
const back: WantedPicture = { frame: 12, key: 'backAngleDeg', text: '41°' };
const going = new AbortController().signal;
const wordsIn = (picture: string | null): string =>
  new TextDecoder().decode(Uint8Array.from(atob(picture!.split(',')[1]), (c) => c.charCodeAt(0)));

beforeEach(() => Object.assign(camera, { film: new Blob(['film']), openings: 0, frames: [], damaged: -1 }));

it('a film is opened once for all its pictures, decoded in its own order, and not again for the same ones', async () => {
  const tracks = seen();
  const wanted = [knee, back];
  const first = await filmPictures(take, tracks, { wanted, stop: going });
  expect(first.map(wordsIn)).toEqual(['34°', '41°']);
  expect(camera).toMatchObject({ openings: 1, frames: [12, 70] });
  expect(await filmPictures(take, tracks, { wanted, stop: going })).toEqual(first);
  expect(camera.openings).toBe(1);
  // Another figure is another picture; so is the same frame of a film that was tracked anew.
  await filmPictures(take, tracks, { wanted: [{ ...knee, text: '35°' }, back], stop: going });
  expect(camera.frames).toEqual([12, 70, 70]);
  await filmPictures(take, seen(), { wanted: [back], stop: going });
  expect(camera.frames).toEqual([12, 70, 70, 12]);
});

it('what can’t be decoded keeps no other picture away, and a film that was removed is shown no more', async () => {
  const tracks = seen();
  camera.damaged = 12;
  const made = await filmPictures(take, tracks, { wanted: [back, knee], stop: going });
  expect(made.map((p) => p !== null)).toEqual([false, true]);
  camera.damaged = -1;
  expect((await filmPictures(take, tracks, { wanted: [back, knee], stop: going })).every(Boolean)).toBe(true);
  camera.film = null;
  expect(await filmPictures(take, tracks, { wanted: [back, knee], stop: going })).toEqual([null, null]);
});

it('who has left the page waits for no picture: no film is opened for it', async () => {
  const stop = new AbortController();
  const made = filmPictures(take, seen(), { wanted: [knee], stop: stop.signal });
  stop.abort();
  expect(await made).toEqual([null]);
  expect(camera.openings).toBe(0);
});
